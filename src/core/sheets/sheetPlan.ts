import type { SheetCell, SheetReading } from "../form";

/** A row of a sheet below its headings; `line` counts as spreadsheets do, the headings being line 1. */
export interface SheetRow {
  line: number;
  cells: readonly SheetCell[];
}

/** How a sheet becomes records, as whoever brings it in has it. */
export interface SheetPlan {
  /** By the sheet's columns, the column of the register each goes to; null for those left aside. */
  matches: readonly (string | null)[];
  /** The column by which records are found again; null where every row is a new record. */
  key: string | null;
  reading: SheetReading;
  /** What becomes of records that are there already, and of rows that are no record yet. */
  there: "change" | "leave";
  absent: "add" | "leave";
  /** Whether an empty cell empties its column, or leaves what stands there. */
  empty: "empty" | "leave";
  /** Of the requests it starts so many begin in a minute; null where all begin at once. */
  aMinute: number | null;
  /** It starts no requests. */
  quietly: boolean;
}

/** What becomes of a row. */
export type RowOutcome = "added" | "changed" | "same" | "left" | "refused";
export const ROW_OUTCOMES: readonly RowOutcome[] = ["added", "changed", "same", "left", "refused"];
