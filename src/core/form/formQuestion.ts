import type { RecordsAnswer } from "./recordsAsked";
import type { StoredRecord } from "./registerShape";

/** What a form asks of the server while it is filled in. */
export type FormQuestion =
  /** What can be picked in a field, or in a column of a row. */
  | { ask: "offered"; field: string; row: string | null; search: string }
  /** Whether there are the records that its checks ask for. */
  | { ask: "records" };

/** One thing that can be picked; of a register with what of it may be seen, so that formulas follow at once. */
export interface Offered {
  id: string;
  title: string;
  record?: StoredRecord;
}

export interface FormAnswer {
  offered: Offered[];
  /** Why nothing can be picked, where that is not because nothing meets the condition. */
  none: string | null;
  records: Readonly<Record<string, RecordsAnswer>>;
}
