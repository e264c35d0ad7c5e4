import type { RuleOccasion } from "../form";
import type { NearDate } from "./dateStart";

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

/** The dates of records that start a request as they come near. */
export interface OfDates extends NearDate {
  register: string;
  /** Id of the column. */
  column: string;
  /** When on its day: "02:00". */
  at: string;
  /** Condition over the record; null for always. */
  when: string | null;
  /** Again for the same date of a record. */
  again: boolean;
  /** Whether a date that is set when its day has passed starts one at once. */
  late: boolean;
}

/** The records on whose pages a start is offered. */
export interface OfPress {
  register: string;
  /** What its button says. */
  says: string;
  /** Condition over the record; null for always. */
  when: string | null;
  /** Begins without anybody seeing the form first. */
  atOnce: boolean;
}

/** The records each of which gets a request of its own. */
export interface OfEach {
  register: string;
  /** Condition over the record; null for all. */
  when: string | null;
}

/** What of a record fills in a form. */
export interface FilledByRecord {
  register: string;
  /** Id of the look-up field that keeps it. */
  into: string | null;
  values: readonly { field: string; value: string }[];
}
