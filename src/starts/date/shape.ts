/** A date of a record comes near, or lies some days back. */
export interface DateStart {
  id: string;
  kind: "date";
  register: string;
  /** Id of a column that holds a date; a date and time where it is counted by the clock. */
  column: string;
  /** Days before it (less than none) or after it. */
  days: number;
  /** Counted in working days of the process's calendar. */
  working?: true;
  /** `days` are hours or minutes, by the clock: it is looked every minute, and there is no time of day. */
  clock?: "hours" | "minutes";
  /** When on that day, by the calendar's zone: "02:00". */
  at: string;
  /** Condition over the record, as it is then. */
  when?: string;
  /** Again where the same date is set once more. */
  again?: true;
  /** What becomes of a date that is set when its day has passed: at once, unless this is said. */
  late?: "never";
  /** Id of a look-up field that keeps the record. */
  into?: string;
  /** What else fields of the form begin with, over the record's columns. */
  values: { field: string; value: string }[];
}
