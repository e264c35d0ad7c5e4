import { isNum } from "./numbers";
import { isDate, isDateTime, isZoned } from "./moments";
import type { Value } from "./values";

const MAX_PATTERN = 100;

/**
 * Numbers by a pattern of `#`, `0`, `,` and `.` ("#,##0.00"), dates and times by the letters of Unicode TR 35
 * ("EEEE d MMMM yyyy", "HH:mm"); marks between thousands, decimals and names of days follow the locale.
 */
export function formatted(v: Value, pattern: string, locale: string): string | { wrong: string } {
  if (pattern.length > MAX_PATTERN) return { wrong: `A pattern may have ${MAX_PATTERN} characters.` };
  try {
    if (isNum(v)) return number(v.toFixed(), pattern, locale);
    if (isDate(v) || isDateTime(v)) return moment(v, pattern, locale);
  } catch (e) {
    if (e instanceof RangeError)
      return { wrong: `"${locale}" is no language and country; an example: en-IE.` };
    throw e;
  }
  return { wrong: "Only numbers and dates have patterns." };
}

function number(text: string, pattern: string, locale: string): string | { wrong: string } {
  const m = /^([^#0,.]*)([#0,]*)(?:\.(0*)(#*))?([^#0,.]*)$/.exec(pattern);
  if (!m || (m[2] === "" && m[3] === undefined))
    return { wrong: `"${pattern}" is no pattern for a number; an example: #,##0.00.` };
  const percent = m[5]!.includes("%");
  const least = m[3]?.length ?? 0;
  const most = least + (m[4]?.length ?? 0);
  // Decimals go as text, so that 34 digits stay 34 digits.
  const shown = new Intl.NumberFormat(locale, {
    useGrouping: m[2]!.includes(","),
    minimumIntegerDigits: Math.min(21, Math.max(1, m[2]!.replace(/[^0]/g, "").length)),
    minimumFractionDigits: least,
    maximumFractionDigits: most,
    roundingMode: "halfExpand",
    ...(percent ? { style: "percent" as const } : {}),
  } as Intl.NumberFormatOptions).format(text as unknown as number);
  return percent ? m[1]! + shown : m[1]! + shown + m[5]!;
}

function moment(
  v: Extract<Value, { year: number }>,
  pattern: string,
  locale: string,
): string | { wrong: string } {
  const day = isDate(v) ? v : v.toPlainDate();
  const at = Date.UTC(day.year, day.month - 1, day.day, 12);
  const named = (o: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat(locale, { ...o, timeZone: "UTC" })
      .formatToParts(at)
      .find((p) => p.type === (o.weekday ? "weekday" : "month"))!.value;
  const two = (n: number) => String(n).padStart(2, "0");
  const clock = isDate(v) ? null : v;
  let wrong = "";
  const out = pattern.replace(
    /'([^']*)'|([A-Za-z])\2*/g,
    (part: string, quoted: string | undefined, letter: string | undefined) => {
      if (letter === undefined) return quoted === "" ? "'" : quoted!;
      switch (part) {
        case "yyyy":
        case "y":
          return String(day.year).padStart(part.length, "0");
        case "yy":
          return two(day.year % 100);
        case "M":
          return String(day.month);
        case "MM":
          return two(day.month);
        case "MMM":
          return named({ month: "short", day: "numeric" });
        case "MMMM":
          return named({ month: "long", day: "numeric" });
        case "d":
          return String(day.day);
        case "dd":
          return two(day.day);
        case "E":
        case "EE":
        case "EEE":
          return named({ weekday: "short" });
        case "EEEE":
          return named({ weekday: "long" });
      }
      if (clock) {
        if (part === "H" || part === "HH") return part === "H" ? String(clock.hour) : two(clock.hour);
        if (part === "h" || part === "hh") {
          const h = clock.hour % 12 || 12;
          return part === "h" ? String(h) : two(h);
        }
        if (part === "m" || part === "mm") return part === "m" ? String(clock.minute) : two(clock.minute);
        if (part === "s" || part === "ss") return part === "s" ? String(clock.second) : two(clock.second);
        if (part === "a") return clock.hour < 12 ? "am" : "pm";
        if (part === "VV" && isZoned(clock)) return clock.timeZoneId;
      }
      wrong ||= `"${part}" means nothing in a pattern for ${isDate(v) ? "a date" : "a date and time"}; an example: EEEE d MMMM yyyy.`;
      return "";
    },
  );
  return wrong ? { wrong } : out;
}
