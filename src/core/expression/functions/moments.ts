import { Temporal } from "temporal-polyfill";
import { DaysTime, durationFrom, yearsMonths } from "../durations";
import {
  attempt,
  clockOf,
  dateFrom,
  dateTimeFrom,
  isDate,
  isZoned,
  timeFrom,
  ZonedTime,
  type DateTime,
  type Time,
} from "../moments";
import { Num, type Num as N } from "../numbers";
import { equalValues, isDateTime, isTime, type Value } from "../values";
import { overload, type Overload } from "./define";

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
];
const int = (n: N): number => (n.isInteger() ? n.toNumber() : NaN);
const dayOf = (d: Temporal.PlainDate | DateTime): Temporal.PlainDate => (isDate(d) ? d : d.toPlainDate());
const onDate = (f: (d: Temporal.PlainDate) => Value, result: string): Overload[] => [
  overload(`date: date -> ${result}`, ([d]: [Temporal.PlainDate]) => f(d)),
  overload(`date: datetime -> ${result}`, ([d]: [DateTime]) => f(dayOf(d))),
];

function joined(d: Temporal.PlainDate, t: Time): DateTime | null {
  const local = d.toPlainDateTime(clockOf(t));
  return t instanceof ZonedTime ? attempt(() => local.toZonedDateTime(t.zone)) : local;
}
/** Seconds with a fraction to the parts of a time; null when out of range. */
function timeOf(h: N, m: N, s: N): Temporal.PlainTime | null {
  const ns = s.times(Num.of(1e9)).round(0, "down").toNumber();
  if (!(ns >= 0 && ns < 60e9)) return null;
  return attempt(() =>
    Temporal.PlainTime.from(
      {
        hour: int(h),
        minute: int(m),
        second: Math.floor(ns / 1e9),
        millisecond: Math.floor(ns / 1e6) % 1000,
        microsecond: Math.floor(ns / 1e3) % 1000,
        nanosecond: ns % 1000,
      },
      { overflow: "reject" },
    ),
  );
}
const offsetText = (d: DaysTime): string | null => {
  const minutes = Number(d.ns / 60_000_000_000n);
  if (d.ns % 60_000_000_000n !== 0n || Math.abs(minutes) > 14 * 60) return null;
  if (minutes === 0) return "UTC";
  const abs = Math.abs(minutes);
  return `${minutes < 0 ? "-" : "+"}${String(Math.floor(abs / 60)).padStart(2, "0")}:${String(abs % 60).padStart(2, "0")}`;
};
const zoneOf = (v: Value): string | null | undefined => {
  if (isZoned(v)) return v.timeZoneId;
  return v instanceof ZonedTime ? v.zone : undefined;
};

export const MOMENTS: Record<string, Overload[]> = {
  date: [
    overload(
      "from: text -> date",
      ([s]: [string], at) => dateFrom(s) ?? at.say(`"${s.slice(0, 40)}" is no date; write it as 2026-03-01.`),
    ),
    overload("from: date -> date", ([d]: [Temporal.PlainDate]) => d),
    overload("from: datetime -> date", ([d]: [DateTime]) => dayOf(d)),
    overload(
      "year: number, month: number, day: number -> date",
      ([y, m, d]: [N, N, N], at) =>
        (Number.isNaN(int(y)) || Number.isNaN(int(m)) || Number.isNaN(int(d))
          ? null
          : attempt(() =>
              Temporal.PlainDate.from({ year: int(y), month: int(m), day: int(d) }, { overflow: "reject" }),
            )) ?? at.say(`There is no day ${d.toFixed()} in month ${m.toFixed()} of ${y.toFixed()}.`),
    ),
  ],
  "date and time": [
    overload("from: text -> datetime", ([s]: [string], at) => {
      const d = dateTimeFrom(s) ?? dateFrom(s)?.toPlainDateTime();
      return d ?? at.say(`"${s.slice(0, 40)}" is no date and time; write it as 2026-03-01T09:30:00.`);
    }),
    overload("from: datetime -> datetime", ([d]: [DateTime]) => d),
    overload("date: date, time: time -> datetime", ([d, t]: [Temporal.PlainDate, Time]) => joined(d, t)),
    overload("date: datetime, time: time -> datetime", ([d, t]: [DateTime, Time]) => joined(dayOf(d), t)),
    // DMN 1.5, table 68: the same moment read in another zone.
    overload(
      "date: datetime, timezone: text -> datetime",
      ([d, z]: [DateTime, string], at) =>
        attempt(() => (isZoned(d) ? d.withTimeZone(z) : d.toZonedDateTime(z))) ??
        at.say(`"${z.slice(0, 40)}" is no time zone; an example: Europe/Dublin.`),
    ),
  ],
  time: [
    overload(
      "from: text -> time",
      ([s]: [string], at) =>
        timeFrom(s) ?? at.say(`"${s.slice(0, 40)}" is no time of day; write it as 09:30:00.`),
    ),
    overload("from: time -> time", ([t]: [Time]) => t),
    // A date has its midnight in UTC (DMN 1.5, table 68).
    overload("from: date -> time", () => new ZonedTime(Temporal.PlainTime.from("00:00"), "UTC")),
    overload("from: datetime -> time", ([d]: [DateTime]) =>
      isZoned(d) ? new ZonedTime(d.toPlainTime(), d.timeZoneId, d.offsetNanoseconds / 1e9) : d.toPlainTime(),
    ),
    overload(
      "hour: number, minute: number, second: number, offset?: days? -> time",
      ([h, m, s, o]: [N, N, N, DaysTime | null | undefined], at) => {
        const t = [h, m].some((x) => Number.isNaN(int(x))) ? null : timeOf(h, m, s);
        if (!t) return at.say(`${h.toFixed()}:${m.toFixed()}:${s.toFixed()} is no time of day.`);
        if (!o) return t;
        const zone = offsetText(o);
        return zone === null ? at.say("An offset is whole minutes, up to 14 hours.") : new ZonedTime(t, zone);
      },
    ),
  ],
  duration: [
    overload(
      "from: text -> duration",
      ([s]: [string], at) =>
        durationFrom(s) ?? at.say(`"${s.slice(0, 40)}" is no length of time; examples: P3D, PT4H30M, P1Y2M.`),
    ),
    overload(
      "from: duration -> duration",
      ([d]: [Value]) => d,
      (a) => a[0]!,
    ),
  ],
  "years and months duration": (["date", "datetime"] as const).flatMap((a) =>
    (["date", "datetime"] as const).map((b) =>
      overload(
        `from: ${a}, to: ${b} -> months`,
        ([from, to]: [Temporal.PlainDate | DateTime, Temporal.PlainDate | DateTime]) => {
          // Counted from the earlier day, so that both directions give the same length.
          const [x, y] = [dayOf(from), dayOf(to)];
          const forward = Temporal.PlainDate.compare(x, y) <= 0;
          const { months } = forward
            ? x.until(y, { largestUnit: "months" })
            : y.until(x, { largestUnit: "months" });
          return yearsMonths(forward ? months : -months);
        },
      ),
    ),
  ),
  now: [overload(" -> datetime", (_, at) => at.now)],
  today: [overload(" -> date", (_, at) => at.now.toPlainDate())],
  "day of year": onDate((d) => Num.of(d.dayOfYear), "number"),
  "day of week": onDate((d) => DAYS[d.dayOfWeek - 1]!, "text"),
  "month of year": onDate((d) => MONTHS[d.month - 1]!, "text"),
  "week of year": onDate((d) => Num.of(d.weekOfYear!), "number"),
  // Ours.
  "last day of month": onDate((d) => d.with({ day: d.daysInMonth }), "date"),
  is: [
    overload("value1: any, value2: any -> yesno", ([a, b]: [Value, Value]) => {
      if (a === null || b === null) return a === b;
      // The same element of the same kind (DMN 1.5, 10.3.4.6): a moment with a zone is not one without.
      if ((isDateTime(a) && isDateTime(b)) || (isTime(a) && isTime(b)))
        return zoneOf(a) === zoneOf(b) && equalValues(a, b) === true;
      return equalValues(a, b) === true;
    }),
  ],
};
