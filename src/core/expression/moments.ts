import { Temporal } from "temporal-polyfill";
import { DAY, type DaysTime } from "./durations";

/** A time of day that stands in a zone or at an offset; a time without one is a Temporal.PlainTime. */
export class ZonedTime {
  /** @param offset seconds ahead of UTC, where it was a moment's own before it became a time of day */
  constructor(
    readonly time: Temporal.PlainTime,
    readonly zone: string,
    readonly offset?: number,
  ) {}
  toString(): string {
    return `${this.time.toString()}${zoneText(this.zone)}`;
  }
}
export type Time = Temporal.PlainTime | ZonedTime;
/** With a zone or offset, or local: without either. */
export type DateTime = Temporal.ZonedDateTime | Temporal.PlainDateTime;

export const isDate = (v: unknown): v is Temporal.PlainDate => v instanceof Temporal.PlainDate;
export const isTime = (v: unknown): v is Time => v instanceof Temporal.PlainTime || v instanceof ZonedTime;
export const isDateTime = (v: unknown): v is DateTime =>
  v instanceof Temporal.ZonedDateTime || v instanceof Temporal.PlainDateTime;
export const isZoned = (v: unknown): v is Temporal.ZonedDateTime => v instanceof Temporal.ZonedDateTime;

/** Temporal says RangeError for a text that is no date or a moment beyond the calendar; anything else is a bug of ours. */
export function attempt<T>(f: () => T): T | null {
  try {
    return f();
  } catch (e) {
    if (e instanceof RangeError) return null;
    throw e;
  }
}

const zoneText = (zone: string): string => {
  if (zone === "UTC") return "Z";
  if (/^[+-]/.test(zone)) return zone;
  return `@${zone}`;
};
/** XML Schema part 2, 3.2.7.1: years have four digits or more, no plus sign and no zeros before them; Temporal has six. */
const plainYear = (iso: string): string =>
  iso.replace(/^([+-])0*(\d{4,6})-/, (_, sign: string, year: string) => `${sign === "-" ? "-" : ""}${year}-`);
export const dateText = (v: Temporal.PlainDate): string => plainYear(v.toString());
export const dateTimeText = (v: DateTime): string =>
  isZoned(v)
    ? `${plainYear(v.toPlainDateTime().toString())}${zoneText(v.timeZoneId)}`
    : plainYear(v.toString());

const DATE = /^-?\d{4,9}-\d\d-\d\d$/;
const YEAR = /^-?(\d{4}|[1-9]\d{4,8})-/;
const CLOCK = String.raw`(\d\d:\d\d:\d\d(?:\.\d+)?)`;
const ZONE = String.raw`(?:([Zz]|[+-]\d\d:\d\d)|@([A-Za-z][\w+-]*(?:\/[\w+-]+)*))?`;
const TIME = new RegExp(`^T?${CLOCK}${ZONE}$`);
const DATETIME = new RegExp(`^(-?\\d{4,9}-\\d\\d-\\d\\d)T${CLOCK}${ZONE}$`);

/** Temporal wants six digits and a sign for years beyond four digits. */
const isoYear = (text: string): string =>
  text.replace(/^(-?)(\d{4,9})-/, (_, sign: string, y: string) =>
    sign === "" && y.length === 4 ? `${y}-` : `${sign || "+"}${y.padStart(6, "0")}-`,
  );
/** Nanoseconds are the finest a moment has. */
const clock = (text: string): string => text.replace(/(\.\d{9})\d+/, "$1");

export const dateFrom = (text: string): Temporal.PlainDate | null =>
  DATE.test(text) && YEAR.test(text)
    ? attempt(() => Temporal.PlainDate.from(isoYear(text), { overflow: "reject" }))
    : null;

/** The name a zone is kept under, or null when there is no such zone. Offsets of zero are UTC. */
export function zoneFrom(text: string): string | null {
  if (text === "Z" || text === "z" || text === "+00:00" || text === "-00:00") return "UTC";
  if (/^[+-]/.test(text)) return Number(text.slice(1, 3)) <= 14 && Number(text.slice(4)) < 60 ? text : null;
  return attempt(() => Temporal.Instant.fromEpochMilliseconds(0).toZonedDateTimeISO(text).timeZoneId);
}

export function timeFrom(text: string): Time | null {
  const m = TIME.exec(text);
  if (!m) return null;
  const time = attempt(() => Temporal.PlainTime.from(clock(m[1]!), { overflow: "reject" }));
  const zone = m[2] ?? m[3];
  if (!time || Number(m[1]!.slice(6, 8)) > 59) return null;
  if (!zone) return time;
  const known = zoneFrom(zone);
  return known === null ? null : new ZonedTime(time, known);
}

export function dateTimeFrom(text: string): DateTime | null {
  const m = DATETIME.exec(text);
  if (!m) return null;
  const date = dateFrom(m[1]!);
  const time = timeFrom(m[2]!);
  const zone = m[3] ?? m[4];
  if (!date || !(time instanceof Temporal.PlainTime)) return null;
  const local = date.toPlainDateTime(time);
  if (!zone) return local;
  const known = zoneFrom(zone);
  return known === null ? null : attempt(() => local.toZonedDateTime(known));
}

/** The offset a time of day has: of its zone on 1 January 1970, since a time alone has no date (docs/formulas.md). */
export const offsetOf = (t: ZonedTime): number => t.offset ?? offsetOfZone(t);
const offsetOfZone = (t: ZonedTime): number =>
  /^[+-]/.test(t.zone)
    ? (t.zone[0] === "-" ? -1 : 1) * (Number(t.zone.slice(1, 3)) * 3600 + Number(t.zone.slice(4, 6)) * 60)
    : Temporal.Instant.fromEpochMilliseconds(0).toZonedDateTimeISO(t.zone).offsetNanoseconds / 1e9;

const MIDNIGHT = Temporal.PlainTime.from("00:00");
/** Nanoseconds since midnight of a time without its zone. */
export const nsOfDay = (t: Temporal.PlainTime): bigint => BigInt(MIDNIGHT.until(t).total("nanoseconds"));
export const clockOf = (t: Time): Temporal.PlainTime => (t instanceof ZonedTime ? t.time : t);
/** Seconds since midnight UTC as nanoseconds; `beside` gives the zone for a local time. */
export const nsOfTime = (t: Time, beside: Time): bigint => {
  let zoned = t instanceof ZonedTime ? t : null;
  if (!(t instanceof ZonedTime) && beside instanceof ZonedTime) zoned = new ZonedTime(t, beside.zone);
  return nsOfDay(clockOf(t)) - (zoned ? BigInt(offsetOf(zoned)) * 1_000_000_000n : 0n);
};

/** Nanoseconds on the time line; a local date and time stands in the zone of what it is held against. */
export function nsOfMoment(v: DateTime, beside: DateTime): bigint {
  if (isZoned(v)) return v.epochNanoseconds;
  return (isZoned(beside) ? v.toZonedDateTime(beside.timeZoneId) : v.toZonedDateTime("UTC")).epochNanoseconds;
}

export function shiftTime(t: Time, ns: bigint): Time {
  const total = (((nsOfDay(clockOf(t)) + ns) % DAY) + DAY) % DAY;
  const time = MIDNIGHT.add({
    seconds: Number(total / 1_000_000_000n),
    nanoseconds: Number(total % 1_000_000_000n),
  });
  return t instanceof ZonedTime ? new ZonedTime(time, t.zone, t.offset) : time;
}
/** Days and hours: exact on the time line for a zoned moment, on the calendar for a local one. */
export function shiftMoment(v: DateTime, d: DaysTime): DateTime | null {
  const length = { seconds: Number(d.ns / 1_000_000_000n), nanoseconds: Number(d.ns % 1_000_000_000n) };
  return attempt(() => v.add(length));
}

/** The moment somebody asks at, in their zone; null when it is no moment or no zone. A text without offset is local there. */
export function instantFrom(
  now: Temporal.ZonedDateTime | Date | string | number,
  zone: string,
): Temporal.ZonedDateTime | null {
  if (now instanceof Temporal.ZonedDateTime) return now;
  return attempt(() => {
    if (typeof now === "number" || now instanceof Date)
      return Temporal.Instant.fromEpochMilliseconds(Number(now)).toZonedDateTimeISO(zone);
    return /(Z|[+-]\d\d:?\d\d)(\[|$)/i.test(now)
      ? Temporal.Instant.from(now).toZonedDateTimeISO(zone)
      : Temporal.PlainDateTime.from(now).toZonedDateTime(zone);
  });
}

/** The moment of a date and time, in epoch milliseconds. @param zone where one without a zone is meant */
export const epochOf = (v: DateTime, zone: string): number =>
  (isZoned(v) ? v : v.toZonedDateTime(zone)).epochMilliseconds;
