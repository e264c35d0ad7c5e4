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
}
