import type { OnClosed, Timetable } from "@/core/calendar";

/** A day comes: every working day, certain days of the week, one day of each month. */
export interface TimetableStart {
  id: string;
  kind: "timetable";
  days: Timetable;
  /** Where the process's calendar is closed on the day. */
  closed: OnClosed;
  /** When on that day, by the calendar's zone: "08:00". */
  at: string;
  /** One request for each record that is found then, instead of one. */
  each?: {
    register: string;
    /** Which of them; absent for all. */
    when?: string;
    /** Id of a look-up field that keeps the record. */
    into?: string;
    values: { field: string; value: string }[];
  };
}
