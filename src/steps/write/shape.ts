import type { StepBase } from "@/core/route/stepBase";

/** Adds, changes or removes records of a register. */
export interface Write extends StepBase {
  kind: "write";
  /** `put`: changes the record with the same in its key column, or adds one where there is none. */
  op: "add" | "change" | "remove" | "put";
  register: string;
  /** Formula for the record to change or remove, or a list of them. */
  record?: string;
  /** Of `put`: the column by which a record is found again. */
  key?: string;
  /** Id of line items: once per line, with the line's columns in scope. */
  each?: string;
  values: { column: string; value: string }[];
  /**
   * Values are worked out over each record's own columns, as it is once it is locked; the names of the route stand
   * behind them.
   */
  own?: true;
  /** Links to a record that is removed are emptied; else one that something points at stays, and the step stops. */
  clears?: true;
  /** Condition over the record's own columns that must hold, read inside the transaction. */
  must?: string;
  /** What happens to a record for which `must` does not hold. */
  otherwise?: "stop" | "leave";
  /** What is written starts no requests. */
  quietly?: true;
  /** A look-up field that keeps the record added. */
  into?: string;
  /** What was written is read by the name of the step: one record, or a list where it writes any number. */
  keeps?: true;
}

/** Records to be written, inside the transaction of the command that asked for it. */
export interface WriteWork {
  kind: "write";
  register: string;
  op: Write["op"];
  rows: { record: string | null; values: Readonly<Record<string, string | boolean | null>> }[];
  /** Formulas over each record's own columns. */
  own?: Write["values"];
  key?: string;
  clears?: true;
  must: string | null;
  otherwise: "stop" | "leave";
  quietly?: true;
  /** It is over any number of records. */
  many?: true;
}
export interface WrittenRecord {
  register: string;
  id: string;
  title: string;
  did: "added" | "changed" | "removed" | "left alone";
}
export interface WriteResult {
  records: WrittenRecord[];
  many?: true;
}
export type WriteReason =
  | { code: "must-not"; data: { step: string; record: string; condition: string } }
  | { code: "no-record"; data: { step: string; formula: string } }
  | { code: "write-refused"; data: { step: string; message: string } };
