import type Holidays from "date-holidays";
import type { PublicHolidays, WorkingCalendar } from "@/core/calendar";

/** A holiday of a country or region, by the package that is kept with it. */
export interface HolidayOf {
  /** "2026-12-25" */
  date: string;
  name: string;
  /** Offices may well be open: banks are closed, and schools. */
  often: boolean;
}
const DAY = 86_400_000;
/** Of which years they are known: limits reach no further in working days than these, by and by. */
const YEARS = { before: 1, after: 8 };

/** It is large, and only needed where a calendar goes by it. */
const known = async (): Promise<typeof Holidays> => (await import("date-holidays")).default;

const cached = new Map<string, readonly HolidayOf[]>();
/** Whole closed days of some years, in order; nothing for a country or region nobody knows. */
export async function holidaysOf(
  { country, region }: Pick<PublicHolidays, "country" | "region">,
  years: { from: number; to: number },
): Promise<readonly HolidayOf[]> {
  const key = [country, region ?? "", years.from, years.to].join(" ");
  const kept = cached.get(key);
  if (kept) return kept;
  const Known = await known();
  const of = region === undefined ? new Known(country) : new Known(country, region);
  const out: HolidayOf[] = [];
  for (let year = years.from; year <= years.to; year++)
    for (const h of of.getHolidays(year, "en") || []) {
      if (h.type !== "public" && h.type !== "bank") continue;
      // One that begins in the afternoon closes no day.
      if (!h.date.includes(" 00:00:00")) continue;
      const first = Date.parse(`${h.date.slice(0, 10)}T00:00:00Z`);
      // A day has 23 hours where clocks are put forward.
      const days = Math.max(1, Math.round((h.end.getTime() - h.start.getTime()) / DAY));
      for (let i = 0; i < days; i++) {
        const date = new Date(first + i * DAY).toISOString().slice(0, 10);
        out.push({ date, name: h.name, often: h.type === "bank" });
      }
    }
  out.sort((a, b) => (a.date < b.date ? -1 : 1));
  cached.set(key, out);
  return out;
}

/** A calendar as it is worked with: closed on the public holidays it names as well. @param now epoch milliseconds */
export async function withPublicHolidays(c: WorkingCalendar, now: number): Promise<WorkingCalendar> {
  if (!c.publicHolidays) return c;
  const year = new Date(now).getUTCFullYear();
  const years = { from: year - YEARS.before, to: year + YEARS.after };
  const works = new Set(c.publicHolidays.works);
  const closed = (await holidaysOf(c.publicHolidays, years)).filter((h) => !works.has(h.name));
  return { ...c, holidays: [...new Set([...c.holidays, ...closed.map((h) => h.date)])].sort() };
}

/** Whether there is such a country, and such a region of it. */
export async function isPlaceOfHolidays({ country, region }: PublicHolidays): Promise<boolean> {
  const all = new (await known())();
  if (!Object.hasOwn(all.getCountries("en"), country)) return false;
  return region === undefined || Object.hasOwn(all.getStates(country, "en") ?? {}, region);
}

const named = (of: Record<string, string> | undefined) =>
  Object.entries(of ?? {})
    .map(([code, name]) => ({ code, name }))
    .sort((a, b) => a.name.localeCompare(b.name, "en"));

/** The countries holidays are known of, or the regions of one of them, by their English names. */
export const countriesKnown = async () => named(new (await known())().getCountries("en"));
export const regionsKnown = async (country: string) => named(new (await known())().getStates(country, "en"));
