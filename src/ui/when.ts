/** Times in words, in the reader's zone. Deadlines always carry the weekday. */
const formatter = (zone: string, options: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat("en-IE", { timeZone: zone, hourCycle: "h23", ...options });
const cache = new Map<string, Intl.DateTimeFormat>();
function using(zone: string, key: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const k = `${zone}|${key}`;
  let f = cache.get(k);
  if (!f) cache.set(k, (f = formatter(zone, options)));
  return f;
}

export const whenText = (ms: number, zone: string): string =>
  using(zone, "when", {
    weekday: "short",
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  }).format(ms);
export const dayText = (ms: number, zone: string): string =>
  using(zone, "day", { weekday: "short", day: "numeric", month: "short", year: "numeric" }).format(ms);
/** A moment with its year, for what is read long after. */
export const dayTimeText = (ms: number, zone: string): string =>
  using(zone, "day and time", {
    weekday: "short",
    day: "numeric",
    month: "short",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
  }).format(ms);

/** "2026-11-30" as "Mon 30 Nov 2026". */
export function dateText(iso: string): string {
  const ms = Date.parse(`${iso}T12:00:00Z`);
  return Number.isNaN(ms) ? iso : dayText(ms, "UTC");
}

/** "2027-08-06T14:30" as "Fri 6 Aug 2027, 14:30". */
export const momentText = (local: string): string => {
  const [day = "", time = ""] = local.split("T");
  return `${dateText(day)}, ${time}`;
};

/** "612.4" as "612.40"; thousands kept apart by thin spaces. */
export function moneyText(decimal: string): string {
  const [whole = "0", part = ""] = decimal.split(".");
  return `${grouped(whole)}.${part.padEnd(2, "0")}`;
}
export const numberText = (decimal: string): string => {
  const [whole = "0", part] = decimal.split(".");
  return part ? `${grouped(whole)}.${part}` : grouped(whole);
};
const grouped = (whole: string): string => whole.replace(/\B(?=(\d{3})+$)/g, "\u202f");
