/** A DOCX of the word processor whose tags are formulas, kept with a process. */
export interface DocumentTemplate {
  id: string;
  name: string;
  /** The file as it was uploaded; its formulas may have been written anew since, and stand in `tags`. */
  file: TemplateFile;
  /** Every tag of it, in the order in which they are read. */
  tags: DocumentTag[];
  /** Which template kept for all it was taken from, as which version. */
  from?: { template: string; version: number };
}
export interface TemplateFile {
  /** Of its contents, in hexadecimal: they are kept by it. */
  sha256: string;
  name: string;
  /** In bytes. */
  size: number;
}

/** Where in the file something stands; what is repeated or left out stands in one piece of it. */
export interface TagSpot {
  /** Which piece of the file, counted from 0. */
  piece: number;
  in: Piece;
  /** The text around it, for a reader. */
  near: string;
  /** What it ends, or is the other part of, began where it does not reach: in another table, or in or out of one. */
  apart?: true;
}
export type Piece = "text" | "header" | "footer";

/** What a tag says. A formula is written as everywhere. */
export type TagSaid =
  | { tag: "value"; of: string }
  /** What follows, up to its end, stands there once for each thing of a list. */
  | { tag: "each"; of: string }
  /** What follows, up to its end, stands there where a condition holds. */
  | { tag: "if"; of: string }
  /** What follows stands there where it does not. */
  | { tag: "otherwise" }
  | { tag: "end" }
  /** A file that is a picture, so many millimetres wide; as wide as it is where that is not said. */
  | { tag: "picture"; of: string; mm?: number };
export type DocumentTag = TagSaid & TagSpot;

/** By this name the formulas of what is repeated read the thing itself, as filters of FEEL do (DMN 1.5, 10.3.2.5). */
export const ITEM = "item";
/** And by this one which of them it is, from 1. */
export const ITEM_NUMBER = "number";

/** How much a template may hold: the schema of what is stored asks the same. */
export const MOST_OF_TEMPLATE = { tags: 1000, formula: 2000, near: 120, deep: 6, bytes: 10_000_000 } as const;
/** How much one document may come to. */
export const MOST_OF_DOCUMENT = { rows: 5000, characters: 600_000 } as const;
/** The widest a picture may be, in millimetres: a page laid across. */
export const MOST_MM = 400;
