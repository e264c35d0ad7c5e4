import { ruleMistake, ruleWords } from "@/core/calendar";
import { fillsProblems, formulasOverRecord, sayNoRegister, type StartBehaviour } from "@/core/kinds";
import type { TimetableStart } from "./shape";

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const NTH: Readonly<Record<number, string>> = { [-1]: "last", 1: "first", 2: "second", 3: "third" };

const nthText = (n: number): string => NTH[n] ?? `${n}th`;

function daysText({ days: t }: TimetableStart): string {
  switch (t.every) {
    case "working day":
      return "every working day";
    case "week":
      if (t.days.length === WEEKDAYS.length) return "every day";
      return t.days.length === 0 ? "on no day yet" : `every ${t.days.map((d) => WEEKDAYS[d - 1]).join(", ")}`;
    case "month": {
      const of = typeof t.of === "number" ? WEEKDAYS[t.of - 1] : t.of;
      return `on the ${nthText(t.nth)} ${of} of each month`;
    }
    case "rule":
      return ruleWords(t);
  }
}

const fillsOf = ({ each }: TimetableStart) =>
  each ? { register: each.register, into: each.into ?? null, values: each.values } : null;

/** A day of a timetable comes. */
export const timetable: StartBehaviour<"timetable"> = {
  says: "a day of a timetable comes",
  offer: "it start by a timetable",
  several: true,
  blank: (id) => ({ id, kind: "timetable", days: { every: "working day" }, closed: "skip", at: "08:00" }),
  mayStart: () => false,
  formulas: (s, walk) =>
    s.each ? { ...s, each: formulasOverRecord(s.each, walk, { recordOf: s.each.register }) } : s,
  problems(s, { registers, definition, say }) {
    if (s.each)
      sayNoRegister(s.each.register, registers, "Say of which register each record starts one.", say);
    const fills = fillsOf(s);
    if (fills) fillsProblems(fills, definition.fields, say);
    if (s.days.every === "week" && s.days.days.length === 0)
      say("error", "no-day", "Say on which days of the week it starts.", "days");
    const mistake = s.days.every === "rule" ? ruleMistake(s.days) : null;
    if (mistake !== null) say("error", "bad-rule", mistake, "days");
    if (s.days.every === "month" && typeof s.days.of === "number" && s.days.nth > 5)
      say("error", "no-such-day", "A month has no weekday more than five times.", "days");
    if (s.days.every === "month" && s.days.nth > 28 && s.days.of === "day")
      say(
        "warning",
        "not-each-month",
        `Not every month has a day ${s.days.nth}. The last day is chosen as such.`,
        "days",
      );
  },
  words(s) {
    const which = s.each?.when ? ` where ${s.each.when}` : "";
    const each = s.each ? `, once for each record of ${s.each.register || "a register"}${which}` : "";
    return `${daysText(s)}, at ${s.at}${each}`;
  },
  ofDays: (s) => ({ days: s.days, closed: s.closed, at: s.at }),
  ofEach: (s) => (s.each ? { register: s.each.register, when: s.each.when ?? null } : null),
  fills: fillsOf,
};
