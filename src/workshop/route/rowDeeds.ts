import type { KeyboardEvent } from "react";
import type { StepKind } from "@/core/route";
import type { SheetRow } from "./rows";

/** What can be done with a row; one object for all rows, so that a row is drawn anew only for its own sake. */
export interface RowDeeds {
  /** Shows or hides what stands under a heading. */
  fold(row: SheetRow, away: boolean): void;
  choose(row: SheetRow): void;
  key(e: KeyboardEvent, row: SheetRow): void;
  picking(row: SheetRow, open: boolean): void;
  pick(row: SheetRow, kind: StepKind): void;
  addList(row: SheetRow): void;
  /** Begins or ends writing the note of a step, or the stage that begins with it. */
  noting(row: SheetRow, what: "note" | "stage" | null): void;
  up(row: SheetRow): void;
  down(row: SheetRow): void;
  /** Into a list of the step above; the last where none is said. */
  nest(row: SheetRow, list?: string): void;
  unnest(row: SheetRow): void;
  remove(row: SheetRow): void;
  /** Where the row could go, for its menu. */
  places(row: SheetRow): { list: string; name: string }[];
}
