import type { StepBase } from "@/core/route/stepBase";

/** Sets values of the form: fields first, then rows of line items, one after the other; keeps values of its own. */
export interface WorkOut extends StepBase {
  kind: "work out";
  /** By field id, each with its formula; each reads what was there before any of them is set. */
  set: { field: string; value: string }[];
  /** What is done to line items, in order; each reads what those before it left. */
  rows?: RowsDeed[];
  /** Values that stand on no form, read by the name of the step: "Sums.Deposit". */
  own?: { name: string; value: string }[];
}

/** Something done to line items. `id` tells it from the others of its step; `lines` is the id of the field. */
export type RowsDeed = { id: string; lines: string } & (
  | {
      do: "set";
      column: string;
      /** Formula over a row. */
      value: string;
      /** Only in rows for which this holds. */
      where?: string;
    }
  | {
      do: "add";
      /** One row for each of this list; absent for one row. */
      from?: string;
      /** What formulas of the columns call each of them. */
      as?: string;
      /** By column id. */
      values: { column: string; value: string }[];
    }
  | { do: "remove"; where: string }
  | {
      do: "sort";
      /** Formula over a row; those alike stay in their order, those with nothing go last. */
      by: string;
      descending?: true;
    }
);
export type WorkOutReason =
  /** `limit` is how many rows line items may have. */
  | { code: "too-many-rows"; data: { step: string; lines: string; limit: number } }
  | { code: "no-order"; data: { step: string; lines: string; formula: string } };
