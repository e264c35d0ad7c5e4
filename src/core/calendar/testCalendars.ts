import { Temporal } from "temporal-polyfill";
import type { WorkingCalendar } from ".";

export const week = (spans: [string, string][], days = ["1", "2", "3", "4", "5"]) =>
  Object.fromEntries(days.map((d) => [d, spans]));
export const DUBLIN: WorkingCalendar = {
  key: "d",
  name: "d",
  zone: "Europe/Dublin",
  week: week([
    ["09:00", "13:00"],
    ["14:00", "17:30"],
  ]),
  holidays: ["2026-03-17", "2026-12-25"],
};
export const HALIFAX: WorkingCalendar = {
  key: "h",
  name: "h",
  zone: "America/Halifax",
  week: week([["08:30", "16:30"]]),
  holidays: ["2026-07-01"],
};
/** Open over the night in which the clocks change. */
export const NIGHTS: WorkingCalendar = {
  key: "n",
  name: "n",
  zone: "Europe/Dublin",
  week: week([["00:00", "06:00"]], ["1", "2", "3", "4", "5", "6", "7"]),
  holidays: [],
};

export const at = (text: string, zone = "Europe/Dublin") =>
  Temporal.PlainDateTime.from(text).toZonedDateTime(zone).epochMilliseconds;
