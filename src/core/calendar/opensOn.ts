import type { Temporal } from "temporal-polyfill";
import type { WorkingCalendar } from "./workingCalendar";

/** Ten years of days; a calendar that is closed longer counts as closed for good. */
export const MAX_CLOSED = 3660;

/** Whether work begins on a date: a night shift of the day before does not make it a working day. */
export const opensOn = (calendar: WorkingCalendar, date: Temporal.PlainDate): boolean =>
  (calendar.week[String(date.dayOfWeek)] ?? []).length > 0 && !calendar.holidays.includes(date.toString());
