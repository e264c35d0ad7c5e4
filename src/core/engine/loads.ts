import type { Turns } from "../route";

/** What is asked of all other requests, to choose one of several people. */
export interface LoadsAsked {
  by: Turns;
  /** The process or procedure and its step, whose turns are meant. */
  process: string;
  step: string;
  people: readonly string[];
}
/** Of one of them, all other requests together. */
export interface Load {
  /** Open tasks on their desk. */
  open: number;
  /** When they were last given this step because it was their turn: a number that grows; null for never. */
  last: number | null;
}
export type Loads = Readonly<Record<string, Load>>;
export const loadsKey = ({ by, process, step, people }: LoadsAsked): string =>
  [by, process, step, ...people].join("\n");

/** It is to be decided again once this is known. */
export class NeedsLoads extends Error {
  constructor(readonly asked: LoadsAsked) {
    super("loads");
  }
}
