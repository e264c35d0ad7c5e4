"use client";
import { createContext, useContext } from "react";

/** Where files of a form are sent and read: somebody outside has a place of their own for them. */
export interface FilesAt {
  /** The address they are sent to; each is read below it by its id. */
  to: string;
  /** What says who it is that sends or reads, where no cookie does. */
  visit?: string;
}
export const OF_THE_OFFICE: FilesAt = { to: "/api/files" };

const FilesContext = createContext(OF_THE_OFFICE);
export const FilesAtProvider = FilesContext.Provider;
export const useFilesAt = (): FilesAt => useContext(FilesContext);

const query = (of: Record<string, string | undefined>): string => {
  const said = Object.entries(of).flatMap(([k, v]) => (v === undefined ? [] : [[k, v]]));
  return said.length > 0 ? `?${new URLSearchParams(said).toString()}` : "";
};
/** Where a file of this name is sent. */
export const sentTo = ({ to, visit }: FilesAt, name: string): string => `${to}${query({ name, visit })}`;
/** Where a file is read. */
export const readAt = ({ to, visit }: FilesAt, file: string): string => `${to}/${file}${query({ visit })}`;
/** Where a picture is read as a small one. */
export const readSmallAt = ({ to, visit }: FilesAt, file: string): string =>
  `${to}/${file}${query({ visit, small: "" })}`;
