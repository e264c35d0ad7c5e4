import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { quietUntil } from ".";

/** Held against going minute by minute through somebody's clock. */
const ZONES = ["Europe/Dublin", "America/Halifax", "Australia/Lord_Howe", "Asia/Kathmandu"];
const wallOf = (ms: number, zone: string): string =>
  Temporal.Instant.fromEpochMilliseconds(ms).toZonedDateTimeISO(zone).toPlainTime().toString().slice(0, 5);
const isQuiet = (wall: string, from: string, until: string): boolean => {
  if (from === until) return false;
  return until < from ? wall >= from || wall < until : wall >= from && wall < until;
};
function slow(from: string, until: string, now: number, zone: string): number | null {
  if (!isQuiet(wallOf(now, zone), from, until)) return null;
  let at = now;
  while (isQuiet(wallOf(at, zone), from, until)) at = Math.floor(at / 60_000) * 60_000 + 60_000;
  return at;
}
const time = fc
  .tuple(fc.integer({ min: 0, max: 23 }), fc.constantFrom(0, 1, 15, 30, 59))
  .map(([h, m]) => `${String(h).padStart(2, "0")}:${String(m).padStart(2, "0")}`);

it("ends when a clock that is looked at every minute says so, where clocks do not change meanwhile", () => {
  fc.assert(
    fc.property(
      time,
      time,
      fc.integer({ min: Date.UTC(2026, 0, 1), max: Date.UTC(2026, 11, 31) }),
      fc.constantFrom(...ZONES),
      (from, until, now, zone) => {
        const end = quietUntil({ from, until }, now, zone);
        const offset = (ms: number) =>
          Temporal.Instant.fromEpochMilliseconds(ms).toZonedDateTimeISO(zone).offsetNanoseconds;
        // An hour that a clock shows twice is quiet once.
        if (offset(now - 3_600_000) === offset(now))
          expect(end === null).toBe(slow(from, until, now, zone) === null);
        if (end === null) return;
        expect(end).toBeGreaterThan(now);
        if (offset(now) === offset(end)) expect(end).toBe(slow(from, until, now, zone));
        // Over a change of clocks it is still over by then, and not a day later.
        else expect(end - now).toBeLessThan(25.5 * 3_600_000);
      },
    ),
    { numRuns: 300, endOnFailure: true },
  );
});

it("knows the hours of a night and of a noon, and that equal ones are none", () => {
  const at = (h: number, m = 0) => Date.UTC(2026, 0, 15, h, m);
  const night = { from: "22:00", until: "07:30" };
  expect(quietUntil(night, at(21, 59), "Europe/Dublin")).toBeNull();
  expect(quietUntil(night, at(22), "Europe/Dublin")).toBe(Date.UTC(2026, 0, 16, 7, 30));
  expect(quietUntil(night, at(3), "Europe/Dublin")).toBe(at(7, 30));
  expect(quietUntil(night, at(7, 30), "Europe/Dublin")).toBeNull();
  expect(quietUntil({ from: "12:00", until: "13:00" }, at(12, 30), "Europe/Dublin")).toBe(at(13));
  const twice = Date.UTC(2026, 9, 25, 1, 10);
  expect(quietUntil({ from: "01:00", until: "01:30" }, twice - 3_600_000, "Europe/Dublin")).toBe(
    twice - 2_400_000,
  );
  expect(quietUntil({ from: "01:00", until: "01:30" }, twice, "Europe/Dublin")).toBeNull();
  expect(quietUntil({ from: "12:00", until: "12:00" }, at(12), "Europe/Dublin")).toBeNull();
});
