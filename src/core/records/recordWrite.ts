import type { FormProblem, StoredRecord } from "../form";

/** Values of a record by column id, as they are stored. */
export type RecordValues = Readonly<Record<string, string | boolean | null>>;

/** One record to be written. `seen`: the version its writer saw; where it is another by now nothing is written. */
export type RecordWrite =
  | { op: "add"; values: RecordValues }
  | { op: "change"; id: string; values: RecordValues; seen?: string }
  /** `clears`: links that point at it are emptied; else it is refused where there are any. */
  | { op: "remove"; id: string; seen?: string; clears?: boolean };

export interface RecordChange {
  did: "added" | "changed" | "removed";
  id: string;
  before: StoredRecord | null;
  after: StoredRecord | null;
  /** The version it has now. */
  version: string;
}

/** Records whose link points at one record. */
export interface Pointing {
  register: string;
  column: string;
  /** Their ids. */
  records: string[];
}

/** Why a record was not written. */
export type WriteRefusal =
  | { code: "form"; problems: FormProblem[] }
  | { code: "gone"; id: string }
  | { code: "changed-since"; id: string; now: StoredRecord; version: string }
  /** No two records may have the same in a column, and another has it. */
  | { code: "taken"; column: string; value: string; by: { id: string; title: string } | null }
  | { code: "pointed-at"; by: Pointing[] }
  /** The table will not have it. */
  | { code: "unfit"; message: string }
  /** A condition of the writer does not hold, or cannot be worked out. */
  | { code: "must-not"; record: StoredRecord }
  | { code: "unclear"; record: StoredRecord; why: string };

/**
 * What came of one. `change` is null where everything is as it was; `record` is as it is kept now, or was where it went.
 */
export type Wrote =
  { ok: true; change: RecordChange | null; record: StoredRecord } | { ok: false; why: WriteRefusal };

/** Whether a record may be written as it is now, locked; a text says why that cannot be told. */
export type Must = (record: StoredRecord) => Promise<boolean | string>;

/** What is written of a record over its own columns as they are now, locked; a text says why that cannot be told. */
export type Fill = (record: StoredRecord) => Promise<RecordValues | string>;
