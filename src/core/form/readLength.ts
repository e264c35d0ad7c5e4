import { durationFrom, isDaysTime, readText } from "../expression";

const UNITS: readonly (readonly [RegExp, number])[] = [
  [/^(d|days?)$/i, 24 * 60],
  [/^(h|hrs?|hours?)$/i, 60],
  [/^(m|mins?|minutes?)$/i, 1],
];
const PART = /(\d{1,7}(?:[.,]\d{1,2})?)\s*(\p{L}+)/gu;
/** About a thousand years; what is longer is a slip of the hand. */
const MOST_MINUTES = 1000 * 366 * 24 * 60;

/** Whole minutes as ISO 8601: 1530 is P1DT1H30M, none PT0S. */
function iso(minutes: number): string {
  const [d, h, m] = [Math.floor(minutes / 1440), Math.floor(minutes / 60) % 24, minutes % 60];
  const time = `${h ? `${h}H` : ""}${m ? `${m}M` : ""}`;
  if (!d && !time) return "PT0S";
  return `P${d ? `${d}D` : ""}${time ? `T${time}` : ""}`;
}

/**
 * A length of time as somebody writes it ("1 h 30 min", "1:30", "2 days 4 hours", "1.5 h") as ISO 8601 (5.5.2), to the
 * minute; null for what is none, and for a number without a unit: nobody can tell what it counts.
 */
export function readLength(text: string): string | null {
  const t = text.trim();
  const clock = /^(\d{1,4}):([0-5]\d)$/.exec(t);
  if (clock) return iso(Number(clock[1]) * 60 + Number(clock[2]));
  const written = durationFrom(t.toUpperCase());
  if (/^P/i.test(t)) return isDaysTime(written) ? written.toString() : null;
  let minutes = 0;
  const rest = t.replace(PART, (_, count: string, unit: string) => {
    const known = UNITS.find(([name]) => name.test(unit));
    minutes += known ? Number(count.replace(",", ".")) * known[1] : NaN;
    return "";
  });
  if (t === "" || !/^(\s|,|and)*$/i.test(rest)) return null;
  // An hour and a third is no whole number of minutes, and is not rounded to one behind anybody's back.
  return Number.isInteger(Math.round(minutes * 1e6) / 1e6) && minutes <= MOST_MINUTES
    ? iso(Math.round(minutes))
    : null;
}

/** "P1DT3H" as "1 day 3 hours"; anything else as it stands. */
export function lengthText(iso: string): string {
  const read = durationFrom(iso);
  if (read === null) return iso;
  return isDaysTime(read) && read.ns === 0n ? "0 minutes" : readText(read);
}
