import type { PublicHolidays, WorkingCalendar } from "@/core/calendar";

export const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"] as const;

type Week = WorkingCalendar["week"];

/** "09:00-13:00, 14:00-17:30" */
export const hoursText = (spans: Week[string] | undefined): string =>
  (spans ?? []).map(([from, to]) => `${from}-${to}`).join(", ");

const clock = (text: string): string | null => {
  const m = /^(\d{1,2})(?:[:.](\d{2}))?$/.exec(text.trim());
  return m ? `${m[1]!.padStart(2, "0")}:${m[2] ?? "00"}` : null;
};

/** Reads what `hoursText` writes, and "9-13, 14-17.30"; null where it is not to be read. */
export function readHours(text: string): [string, string][] | null {
  const spans: [string, string][] = [];
  for (const part of text.split(/[,;]/)) {
    if (part.trim() === "") continue;
    const [from, to, more] = part.split(/[-–]|\bto\b/);
    const [a, b] = [clock(from ?? ""), clock(to ?? "")];
    if (a === null || b === null || more !== undefined) return null;
    spans.push([a, b]);
  }
  return spans;
}

/** The first text that is no date, of dates one a line or with commas; or all of them. */
export function readHolidays(text: string): { dates: string[] } | { wrong: string } {
  const dates: string[] = [];
  for (const said of text.split(/[\s,;]+/)) {
    if (said === "") continue;
    const real = /^\d{4}-\d{2}-\d{2}$/.test(said) && !Number.isNaN(Date.parse(`${said}T00:00:00Z`));
    if (!real) return { wrong: said };
    dates.push(said);
  }
  return { dates };
}

/** A country by its English name, with the code of its region. */
export function placeName({ country, region }: PublicHolidays): string {
  const name = new Intl.DisplayNames("en", { type: "region" }).of(country) ?? country;
  return region === undefined ? name : `${name} (${region})`;
}
