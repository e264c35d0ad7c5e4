import type { RuleOccasion } from "../form";

/** The records whose writing starts a request. */
export interface OfRecords {
  register: string;
  on: RuleOccasion;
  /** Condition over the record, with the record as it was; null for always. */
  when: string | null;
  /** Only where the condition did not hold before. */
  newly: boolean;
  /** Ids of columns one of which must have changed; null for any. */
  columns: readonly string[] | null;
}

/** What of a record fills in a form. */
export interface FilledByRecord {
  register: string;
  /** Id of the look-up field that keeps it. */
  into: string | null;
  values: readonly { field: string; value: string }[];
}
