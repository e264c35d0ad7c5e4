/**
 * Opening spans of one weekday as wall times, "09:00" to "17:30"; several spans leave out a lunch break. They may stand
 * in any order and overlap. One that ends before it begins, "22:00" to "06:00", runs into the next morning, and belongs
 * to the day on which it began.
 */
export type Span = readonly [from: string, to: string];

/** When work is done. `week` is keyed by ISO weekday, 1 Monday to 7 Sunday; a missing day is closed. */
export interface WorkingCalendar {
  key: string;
  name: string;
  zone: string;
  week: Readonly<Record<string, readonly Span[]>>;
  /** Closed dates, "2026-12-25"; with those of public holidays, where it is read to be worked with. */
  holidays: readonly string[];
  /** Public holidays on which it is closed as well; absent for none. */
  publicHolidays?: PublicHolidays;
}

/** Those of a country, or a region of it, by their codes (ISO 3166); on those of these names work goes on. */
export interface PublicHolidays {
  country: string;
  region?: string;
  works: readonly string[];
}

export type LengthUnit = "working days" | "working hours" | "days" | "hours" | "minutes";

/** How long: in working time of a calendar, or by the clock. */
export interface Length {
  amount: number;
  unit: LengthUnit;
}

export function lengthInWords(l: Length): string {
  const one = l.unit.replace(/s$/, "");
  return `${l.amount} ${l.amount === 1 ? one : l.unit}`;
}
