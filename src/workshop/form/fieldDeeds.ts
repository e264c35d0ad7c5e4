import type { KeyboardEvent } from "react";
import type { FieldKind } from "@/core/form";
import type { AccessCell } from "./accessEdits";

/** What can be done with a row; one object for all rows, so that a row is drawn anew only for its own sake. */
export interface FieldDeeds {
  choose(id: string): void;
  open(id: string): void;
  fold(id: string): void;
  /** Makes it another kind, asking first where values of samples change with it. */
  toKind(id: string, kind: FieldKind): void;
  addBelow(id: string): void;
  up(id: string): void;
  down(id: string): void;
  nest(id: string): void;
  unnest(id: string): void;
  /** Takes a row away, or all that are marked where it is one of them. */
  remove(id: string): void;
  /** Puts rows of text, or copied fields, below a row. */
  paste(id: string, from: DataTransfer): void;
  /**
   * Copies a row, or all that are marked; whether it did.
   * @param part a part of the row's name is marked, which is what is copied of one row
   */
  copy(id: string, to: DataTransfer, part: boolean): boolean;
  focus(id: string, by: number): void;
  /** Marks from the row at which marking began to the one above or below the last. */
  mark(by: -1 | 1): void;
  /** Marks from the chosen row to this one. */
  markTo(id: string): void;
  unmark(): void;
  /** A key pressed, a click, or the focus in a cell of who sees what. */
  cellKey(e: KeyboardEvent, cell: AccessCell): void;
  cellClick(cell: AccessCell, extend: boolean): void;
  cellFocus(cell: AccessCell): void;
}
