import type { StepBase } from "@/core/route/stepBase";

/** Adds, changes or removes records of a register. */
export interface Write extends StepBase {
  kind: "write";
  op: "add" | "change" | "remove";
  register: string;
  /** Formula for the record to change or remove. */
  record?: string;
  /** Id of line items: once per line, with the line's columns in scope. */
  each?: string;
  values: { column: string; value: string }[];
  /** Condition over the record's own columns that must hold, read inside the transaction. */
  must?: string;
  /** What happens to a record for which `must` does not hold. */
  otherwise?: "stop" | "leave";
  /** What is written starts no requests. */
  quietly?: true;
  /** A look-up field that keeps the record added. */
  into?: string;
}

/** Records to be written, inside the transaction of the command that asked for it. */
export interface WriteWork {
  kind: "write";
  register: string;
  op: Write["op"];
  rows: { record: string | null; values: Readonly<Record<string, string | boolean | null>> }[];
  must: string | null;
  otherwise: "stop" | "leave";
  quietly?: true;
}
export interface WrittenRecord {
  register: string;
  id: string;
  title: string;
  did: "added" | "changed" | "removed" | "left alone";
}
export interface WriteResult {
  records: WrittenRecord[];
}
export type WriteReason =
  | { code: "must-not"; data: { step: string; record: string; condition: string } }
  | { code: "no-record"; data: { step: string; formula: string } }
  | { code: "write-refused"; data: { step: string; message: string } };
