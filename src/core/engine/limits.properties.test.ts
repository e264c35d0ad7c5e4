import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { KINDS } from "@/kinds";
import { addLength, type Length } from "../calendar";
import { personParty, type Field, type FormData } from "../form";
import type { Limit, LimitFrom, LimitRule, RuleLength, Step } from "../route";
import { compileRelease, decide, NEW_REQUEST } from ".";
import { OFFICE_HOURS, officeFacts } from "./testOffice";
import { definitionOf, fin, T0 } from "./testRequest";

/** Limits of any shape against a reference that goes by one thing after the other, and finds the end of work minute by minute. */
const MINUTE = 60_000;
const { zone } = OFFICE_HOURS;
const FIELDS: Field[] = [
  { id: "d1", name: "First", kind: "date" },
  { id: "d2", name: "Second", kind: "date" },
  { id: "n1", name: "Many", kind: "number" },
  { id: "yes", name: "Urgent", kind: "yes or no" },
];
const startOf = (day: string) => Temporal.PlainDate.from(day).toZonedDateTime(zone).epochMilliseconds;

const isOpen = (ms: number): boolean => {
  const z = Temporal.Instant.fromEpochMilliseconds(ms).toZonedDateTimeISO(zone);
  if (OFFICE_HOURS.holidays.includes(z.toPlainDate().toString())) return false;
  const wall = z.toPlainTime().toString({ smallestUnit: "minute" });
  return (OFFICE_HOURS.week[String(z.dayOfWeek)] ?? []).some(([a, b]) => wall >= a && wall < b);
};
function slowEnd(day: string): number {
  let at = startOf(Temporal.PlainDate.from(day).add({ days: 1 }).toString());
  while (!isOpen(at - MINUTE)) at -= MINUTE;
  return at;
}

const length: fc.Arbitrary<Length> = fc.record({
  amount: fc.integer({ min: 1, max: 12 }),
  unit: fc.constantFrom("working days", "working hours", "days", "hours", "minutes"),
});
const most = fc.option(length, { nil: undefined });
const dateName = fc.constantFrom("First", "Second");
const ruleLength: fc.Arbitrary<RuleLength> = fc.oneof(
  length,
  fc
    .tuple(length, most)
    .map(([l, m]) => ({ by: "count" as const, formula: "Many", unit: l.unit, ...(m ? { most: m } : {}) })),
  fc
    .tuple(dateName, most)
    .map(([formula, m]) => ({ by: "day" as const, formula, ...(m ? { most: m } : {}) })),
);
const rule: fc.Arbitrary<LimitRule> = fc.record({
  when: fc.constantFrom("true", "Urgent", "Many > 3"),
  length: ruleLength,
});
const from: fc.Arbitrary<LimitFrom | undefined> = fc.oneof(
  fc.constant(undefined),
  dateName.map((formula) => ({ by: "day" as const, formula })),
);
const day = fc
  .integer({ min: -20, max: 40 })
  .map((n) => Temporal.PlainDate.from("2026-03-03").add({ days: n }).toString());
const optional = <T>(a: fc.Arbitrary<T>) => fc.option(a, { nil: undefined });
const data = fc.record({
  d1: optional(day),
  d2: optional(day),
  n1: optional(fc.integer({ min: -5, max: 20 }).map(String)),
  yes: optional(fc.boolean()),
});

function slowly(limit: Limit, v: { d1?: string; d2?: string; n1?: string; yes?: boolean }): number {
  const date = (name: string) => (name === "First" ? v.d1 : v.d2);
  const start = limit.from && "formula" in limit.from ? date(limit.from.formula) : undefined;
  const base = start === undefined ? T0 : startOf(start);
  const holds = (when: string) =>
    when === "true" || (when === "Urgent" ? v.yes === true : Number(v.n1 ?? 0) > 3);
  for (const { when, length: l } of limit.rules ?? []) {
    if (!holds(when)) continue;
    if ("amount" in l) return Math.max(T0, addLength(OFFICE_HOURS, base, l)!);
    const said = l.by === "count" ? v.n1 : date(l.formula);
    if (said === undefined) continue;
    const reached =
      l.by === "count"
        ? addLength(OFFICE_HOURS, base, { amount: Number(said), unit: l.unit })!
        : slowEnd(said);
    const end = l.most ? addLength(OFFICE_HOURS, base, l.most)! : reached;
    return Math.max(T0, Math.min(reached, end));
  }
  return Math.max(T0, addLength(OFFICE_HOURS, base, limit.otherwise)!);
}

it("a limit falls where one thing after the other says (500 limits), and its timers not before it is asked", () => {
  fc.assert(
    fc.property(fc.array(rule, { maxLength: 4 }), length, from, data, (rules, otherwise, counted, values) => {
      const limit: Limit = {
        ...(counted ? { from: counted } : {}),
        ...(rules.length > 0 ? { rules } : {}),
        otherwise,
        rungs: [
          { id: "before", when: "before", length: { amount: 2, unit: "hours" }, action: { do: "remind" } },
          { id: "at", when: "at", action: { do: "remind" } },
        ],
      };
      const step: Step = {
        id: "d",
        name: "Check",
        kind: "decide",
        who: { rule: { by: "group", group: "registry" }, how: "all" },
        limit,
        answers: [{ id: "yes", label: "Yes", tone: "agree", steps: [] }],
      };
      const release = compileRelease(definitionOf([step, fin("end", "done")], { fields: FIELDS }), {}, KINDS);
      const filled = Object.fromEntries(
        Object.entries(values).filter(([, x]) => x !== undefined),
      ) as FormData;
      const d = decide(
        release,
        NEW_REQUEST,
        { type: "start", actor: "una", requester: personParty("una"), number: "T-1", data: filled },
        officeFacts(T0),
      );
      if (!d.ok) throw new Error(JSON.stringify(d.refusal));
      const want = slowly(limit, filled as never);
      expect(d.state.stuck).toEqual([]);
      expect(Object.values(d.state.visits).map((x) => x.due)).toEqual([want]);
      const timers = Object.values(d.state.timers).map((t) => [t.rung, t.at]);
      const early = want - 2 * 3_600_000;
      expect(timers.sort()).toEqual([["at", want], ...(early > T0 ? [["before", early]] : [])].sort());
    }),
    { seed: 171, numRuns: 500, endOnFailure: true },
  );
});
