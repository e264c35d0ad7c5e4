import { Num } from "./numbers";

/** A length in days, hours, minutes, seconds (DMN 1.5, 10.3.2.3.6); kept in nanoseconds. */
export class DaysTime {
  constructor(readonly ns: bigint) {}
  toString(): string {
    const abs = this.ns < 0n ? -this.ns : this.ns;
    const [d, h, m] = [abs / DAY, (abs / HOUR) % 24n, (abs / MINUTE) % 60n];
    const s = abs % MINUTE;
    const part =
      s % SECOND === 0n
        ? ""
        : `.${String(s % SECOND)
            .padStart(9, "0")
            .replace(/0+$/, "")}`;
    const time = `${h ? `${h}H` : ""}${m ? `${m}M` : ""}${s ? `${s / SECOND}${part}S` : ""}`;
    if (!d && !time) return "PT0S";
    return `${this.ns < 0n ? "-" : ""}P${d ? `${d}D` : ""}${time ? `T${time}` : ""}`;
  }
}
/** A length in years and months (DMN 1.5, 10.3.2.3.8). */
export class YearsMonths {
  constructor(readonly months: number) {}
  toString(): string {
    const abs = Math.abs(this.months);
    if (abs === 0) return "P0M";
    const [y, m] = [Math.floor(abs / 12), abs % 12];
    return `${this.months < 0 ? "-" : ""}P${y ? `${y}Y` : ""}${m ? `${m}M` : ""}`;
  }
}
export const SECOND = 1_000_000_000n;
export const MINUTE = 60n * SECOND;
export const HOUR = 60n * MINUTE;
export const DAY = 24n * HOUR;
/** Longer lengths than a million years help nobody and would run out of the calendar anyway. */
const MAX_NS = 366n * 1_000_000n * DAY;
const MAX_MONTHS = 12_000_000;

export const isDaysTime = (v: unknown): v is DaysTime => v instanceof DaysTime;
export const isYearsMonths = (v: unknown): v is YearsMonths => v instanceof YearsMonths;

export const daysTime = (ns: bigint): DaysTime | null =>
  ns > MAX_NS || ns < -MAX_NS ? null : new DaysTime(ns);
export const yearsMonths = (months: number): YearsMonths | null =>
  Number.isSafeInteger(months) && Math.abs(months) <= MAX_MONTHS
    ? new YearsMonths(months === 0 ? 0 : months)
    : null;

const LENGTH =
  /^(-?)P(?=.)(?:(\d{1,12})Y)?(?:(\d{1,12})M)?(?:(\d{1,12})D)?(?:T(?=.)(?:(\d{1,12})H)?(?:(\d{1,12})M)?(?:(\d{1,12})(?:\.(\d{1,9}))?S)?)?$/;

/** ISO 8601 text; the two kinds are never mixed: P1Y2M or P3DT4H, not P1Y3D. */
export function durationFrom(text: string): DaysTime | YearsMonths | null {
  const m = LENGTH.exec(text);
  if (!m) return null;
  const sign = m[1] ? -1 : 1;
  const [, , y, mo, d, h, mi, s, f] = m;
  if (y !== undefined || mo !== undefined)
    return (d ?? h ?? mi ?? s) ? null : yearsMonths(sign * (Number(y ?? 0) * 12 + Number(mo ?? 0)));
  const big = (x: string | undefined) => BigInt(x ?? 0);
  return daysTime(
    BigInt(sign) *
      (big(d) * DAY + big(h) * HOUR + big(mi) * MINUTE + big(s) * SECOND + BigInt((f ?? "").padEnd(9, "0"))),
  );
}

/** Nanoseconds as an exact decimal of seconds. */
export const secondsOf = (d: DaysTime): Num => Num.of(String(d.ns)).div(Num.of(1e9));

/** A decimal of seconds to whole nanoseconds, half to even; null beyond the limit. */
export function fromSeconds(n: Num): DaysTime | null {
  const ns = n.times(Num.of(1e9)).round(0, "half even");
  return ns.isFinite() && ns.abs().comparedTo(Num.of("1e24")) < 0 ? daysTime(BigInt(ns.toFixed())) : null;
}
