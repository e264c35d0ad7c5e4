import type { RuleOccasion } from "@/core/form";

/** Something becomes of a record: one is added, changed or removed, and a condition over it holds. */
export interface RecordStart {
  id: string;
  kind: "record";
  register: string;
  on: RuleOccasion;
  /** Condition over the record, with `Before` for the record as it was; absent for always. */
  when?: string;
  /** Each time the condition holds, instead of only where it did not hold before. */
  each?: true;
  /** Ids of columns: only where one of these is another than before. */
  columns?: string[];
  /** Id of a look-up field that keeps the record. */
  into?: string;
  /** What else fields of the form begin with, over the record's columns. */
  values: { field: string; value: string }[];
}
