/**
 * What a document that is made of data says, block by block; how it is laid out is its printer's. Texts are as people read
 * them: nothing in them is marked up.
 */
export interface Paper {
  title: string;
  /** What it is of, in a line above the title. */
  above: string;
  /** At the foot of each page, beside its number. */
  foot: string;
  /** BCP 47, for whoever has it read aloud. */
  language: string;
  blocks: readonly PaperBlock[];
}

export type PaperBlock =
  | { is: "heading"; text: string; level: 2 | 3 }
  | { is: "text"; text: string; quiet?: true }
  /** Entries of a list. */
  | { is: "list"; items: readonly string[] }
  /** Something named, and what it is. */
  | { is: "facts"; facts: readonly PaperFact[] }
  | PaperTable;

export interface PaperFact {
  name: string;
  value: string;
  /** A small picture above it: a PNG as a data URL. */
  picture?: string;
}

/** Its head stands on each page it goes over. */
export interface PaperTable {
  is: "table";
  head: readonly { name: string; figures: boolean }[];
  rows: readonly (readonly string[])[];
  /** Below the rows; null for none. */
  sums: readonly string[] | null;
}

/** Cells and paragraphs a paper has at most: a printer's time and memory are bounded. */
export const MOST_OF_A_PAPER = 60_000;

/** How many cells and paragraphs it has. */
export function lengthOf({ blocks }: Paper): number {
  return blocks.reduce((n, b) => {
    switch (b.is) {
      case "table":
        return n + b.rows.length * b.head.length;
      case "facts":
        return n + b.facts.length * 2;
      case "list":
        return n + b.items.length;
      case "heading":
      case "text":
        return n + 1;
    }
  }, 0);
}
