import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import type { Length } from "../calendar";
import type { Limit } from "../route";
import { isOpen, type Task } from ".";
import { OFFICE_HOURS } from "./testOffice";
import { ans, decideBy, definitionOf, fin, harness, T0 } from "./testRequest";

/**
 * Limits that stand still, against a reference that goes by one half-hour after the other and counts those in which nobody
 * is asked for whom the limit stands still.
 */
const STEP = 1_800_000;
const { zone } = OFFICE_HOURS;

const worked = new Map<number, boolean>();
function isWork(ms: number): boolean {
  const known = worked.get(ms);
  if (known !== undefined) return known;
  const z = Temporal.Instant.fromEpochMilliseconds(ms).toZonedDateTimeISO(zone);
  const spans = OFFICE_HOURS.week[String(z.dayOfWeek)] ?? [];
  const wall = z.toPlainTime().toString({ smallestUnit: "minute" });
  const open =
    !OFFICE_HOURS.holidays.includes(z.toPlainDate().toString()) &&
    spans.some(([a, b]) => wall >= a && wall < b);
  worked.set(ms, open);
  return open;
}

const length: fc.Arbitrary<Length> = fc.record({
  amount: fc.integer({ min: 1, max: 30 }),
  unit: fc.constantFrom("working days", "working hours", "hours", "days"),
});
const deed = fc.record({
  after: fc.integer({ min: 0, max: 40 }),
  do: fc.constantFrom("ask asker", "ask colleague", "say", "say"),
  which: fc.nat(9),
});

it("a limit stands still exactly while somebody is asked for whom it does, and goes on with what was left", () => {
  const seen = { stopped: 0, reached: 0, clock: 0 };
  fc.assert(
    fc.property(
      length,
      fc.constantFrom<NonNullable<Limit["still"]>>("asker", "anybody"),
      fc.array(deed, { maxLength: 12 }),
      (otherwise, still, deeds) => {
        const rungs: Limit["rungs"] = [
          { id: "at", when: "at", action: { do: "remind" } },
          { id: "later", when: "after", length: { amount: 1, unit: "hours" }, action: { do: "remind" } },
        ];
        const limit = { otherwise, still, rungs };
        const rule = { by: "person" as const, person: "carmel" };
        const h = harness(
          definitionOf([decideBy("check", rule, [ans("yes", "agree", [fin("end", "done")])], { limit })]),
        );
        h.start();
        const visit = () => Object.values(h.state.visits).find((v) => v.purpose === "decide")!;
        const clock = otherwise.unit === "hours" || otherwise.unit === "days";
        const counts = (ms: number) => clock || isWork(ms);
        let left = 0;
        for (let ms = T0; ms < visit().due!; ms += STEP) left += counts(ms) ? 1 : 0;
        const asked = () => h.open().filter((t) => t.question);
        const held = () => asked().some((t) => still === "anybody" || t.purpose === "question");
        let now = T0;
        let over: number | null = null;
        /** Goes on until a moment; the ladder fires as its moments come. */
        const until = (end: number) => {
          for (; now < end && over === null; now += STEP) {
            if (left === 0) over = now;
            else if (!held() && counts(now)) left--;
          }
          if (left === 0 && over === null && !held()) over = end;
        };
        const own = h.open()[0]!.id;
        for (const d of deeds) {
          until(now + d.after * STEP);
          if (over !== null) break;
          h.at(now);
          const open: Task[] = asked();
          const q = open[d.which % Math.max(open.length, 1)];
          if (d.do === "ask asker")
            h.send({ type: "ask", actor: "carmel", task: own, to: null, note: "Which?" });
          if (d.do === "ask colleague")
            h.send({ type: "ask", actor: "carmel", task: own, to: "declan", note: "Well?" });
          if (d.do === "say" && q) {
            const actor = q.candidates[0]!.person;
            h.send({ type: "answer", actor, task: q.id, answer: "said", note: "So.", data: {} });
          }
          expect([visit().stopped !== undefined, visit().due === null]).toEqual([held(), held()]);
          const timers = Object.values(h.state.timers);
          expect(timers.map((t) => t.rung).sort()).toEqual(held() ? [] : ["at", "later"]);
          if (held()) seen.stopped++;
        }
        if (held()) {
          // It never is reached as long as nobody says anything.
          expect([h.state.timers, h.open().find((t) => t.id === own)!.due]).toEqual([{}, null]);
          return;
        }
        until(Infinity);
        const due = visit().due!;
        // By working time it is the end of the last half-hour that counts, and not the beginning of the next.
        let end = over!;
        while (end > T0 && !counts(end - STEP)) end -= STEP;
        expect(due).toBe(end);
        expect(h.open().filter((t) => isOpen(t) && t.id === own)[0]!.due).toBe(due);
        const at = Object.values(h.state.timers).find((t) => t.rung === "at")!;
        const later = Object.values(h.state.timers).find((t) => t.rung === "later")!;
        expect([at.at, later.at]).toEqual([due, due + 3_600_000]);
        seen.reached++;
        if (clock && h.events.some((e) => e.type === "limit goes on")) seen.clock++;
      },
    ),
    { seed: 1712, numRuns: 600, endOnFailure: true },
  );
  expect([seen.stopped > 300, seen.reached > 200, seen.clock > 40]).toEqual([true, true, true]);
}, 120_000);
