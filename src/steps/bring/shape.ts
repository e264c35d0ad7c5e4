import type { StepBase } from "@/core/route/stepBase";

/** Brings documents out of the house: onto the file shelf, or to the print room. */
export interface Bring extends StepBase {
  kind: "bring";
  /** Formula for a file, or for several. */
  what: string;
  to: BringTo;
}
export type BringTo =
  /** A text with {formulas}: folders within one another, parted by strokes; empty for none. */
  | { outlet: "shelf"; folder: string }
  /** A formula for how many of each. */
  | { outlet: "print room"; copies: string };

/** Files to be brought; with the effect's id what was brought already is known again. */
export interface BringWork {
  kind: "bring";
  /** By their ids. */
  files: string[];
  to: { outlet: "shelf"; folder: string } | { outlet: "print room"; copies: number };
  /** When it was asked for, in epoch milliseconds: it is not tried for ever. */
  since: number;
}
export interface BringResult {
  /** How many; none where a sample is followed. */
  brought: number;
  /** Of the print room, by which numbers it knows them. Where something lies on the shelf may tell of what is hidden. */
  jobs: string[];
}
export type BringReason = { code: "not-brought"; data: { step: string; message: string } };
