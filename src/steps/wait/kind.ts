import {
  asksClock,
  checkFormula,
  context,
  DATE,
  DATETIME,
  nameMistake,
  YESNO,
  type Scope,
} from "@/core/expression";
import { flatFields, type Field } from "@/core/form";
import type { Next, StepBehaviour, StepTurn } from "@/core/kinds";
import type { StepOf } from "@/core/route";

type Step = StepOf<"wait">;

/** Whether what it waited for came, by the name of the step. */
const CAME = "came";

/** Sleeps until the first of several moments, or until a condition holds. */
export const wait: StepBehaviour<"wait"> = {
  verb: "Wait",
  says: "for a length of time, until a date, or until something is so",
  blank: (id) => ({
    id,
    name: "Pause",
    kind: "wait",
    for: [{ id: `${id}-1`, length: { amount: 1, unit: "working days" } }],
    ways: [],
  }),
  lists: {
    in: "ways",
    one: "way when it does not come",
    name: () => "it does not come",
    back: () => false,
    blank: (id) => ({ id, steps: [] }),
    at: () => 0,
    most: 1,
    sideBySide: false,
    passedBy: true,
  },
  asks: null,
  formulas: (s, walk) => ({
    ...s,
    for: s.for.map((a) => {
      if ("date" in a)
        return {
          ...a,
          date: walk.formula({ place: `date ${a.id}`, says: "the date it waits for", wants: DATE }, a.date),
        };
      if ("moment" in a)
        return {
          ...a,
          moment: walk.formula(
            { place: `moment ${a.id}`, says: "the moment it waits for", wants: DATETIME },
            a.moment,
          ),
        };
      if ("holds" in a)
        return {
          ...a,
          holds: walk.formula(
            { place: `holds ${a.id}`, says: "the condition it waits for", wants: YESNO },
            a.holds,
          ),
        };
      return a;
    }),
  }),
  steps: (s) => s,
  sets: () => [],
  gives: () => context({ [CAME]: YESNO }),
  problems(s, { definition, say, scope }) {
    if (s.for.length === 0) say("error", "waits-for-nothing", `"${s.name}" waits for nothing.`, "for");
    for (const a of s.for)
      if (("date" in a && !a.date.trim()) || ("moment" in a && !a.moment.trim()))
        say("error", "no-moment", `Say until when "${s.name}" waits.`, "for");
      else if ("holds" in a && !a.holds.trim())
        say("error", "no-condition", `Say which condition "${s.name}" waits for.`, `holds ${a.id}`);
      else if ("holds" in a && readsClock(a.holds, scope, flatFields(definition.fields)))
        say(
          "error",
          "clock-in-condition",
          "Nothing tells when a condition over the clock comes true. Wait until a date, or a date and time, instead.",
          `holds ${a.id}`,
        );
    const conditions = s.for.filter((a) => "holds" in a).length;
    if (conditions > 0 && conditions === s.for.length)
      say(
        "warning",
        "may-never-come",
        `"${s.name}" waits for as long as this does not hold. Give it a limit too, and ask by ${s.name}.${CAME} whether it came.`,
        "for",
      );
    if (s.ways.length > 0 && (conditions === 0 || conditions === s.for.length))
      say(
        "error",
        "way-never-taken",
        conditions === 0
          ? `"${s.name}" has a way for when what it waits for does not come, but a time always comes. Give it a condition, or remove the way.`
          : `"${s.name}" has a way for when what it waits for does not come, but waits for as long as that takes. Give it a length or a date too, or remove the way.`,
        "for",
      );
    const mistake = conditions > 0 ? nameMistake(s.name) : null;
    if (mistake !== null)
      say("error", "bad-name", `Whether it came is read by the name of the step. ${mistake}`, "name");
  },
  exit: () => null,
  goesOn: () => true,
  awaitsOnly(s) {
    const [only] = s.for;
    return s.for.length === 1 && only && "holds" in only ? `holds ${only.id}` : null;
  },
  passes: false,
  enter(turn, s) {
    const conditions = s.for.some((a) => "holds" in a);
    // What an earlier time came to must not be taken for what this one does.
    if (conditions) keep(turn, false);
    if (comes(turn, s)) {
      keep(turn, true);
      turn.did({ kind: "wait", passed: true, held: true });
      return { go: "on" };
    }
    const moments = s.for.flatMap((a): number[] => {
      if ("holds" in a) return [];
      const at = "length" in a ? turn.after(a.length) : turn.momentOf(turn.value(...placeOf(a)));
      return at === null ? [] : [at];
    });
    // Of several those that are empty do not come; where all are, nothing ever would.
    if (moments.length === 0)
      return conditions
        ? { go: "sleeps", until: null, awaits: true }
        : { go: "stuck", reason: { code: "no-moment", data: { step: s.name } } };
    const until = moments.reduce((a, b) => Math.min(a, b));
    if (until > turn.now()) return { go: "sleeps", until, ...(conditions ? { awaits: true } : {}) };
    turn.did({ kind: "wait", passed: true });
    return notCome(s);
  },
  came: (turn, s) => comes(turn, s),
  woken(turn, s, by) {
    if (by === "time") return notCome(s);
    keep(turn, true);
    return { go: "on" };
  },
  news: {
    line: (n, step) => ({
      text: `${step}: ${n.held ? "what it waits for was so already" : "the moment had come already"}`,
      quiet: true,
    }),
    outcome: (n) => (n.held ? "was so already" : "had come already"),
    lists: () => [],
  },
  reasons: {
    "no-moment": (d) => `"${d.step}" does not know until when it waits: what it waits for is empty.`,
  },
};

const placeOf = (a: { id: string } & ({ date: string } | { moment: string })): [string, string] =>
  "date" in a ? [`date ${a.id}`, a.date] : [`moment ${a.id}`, a.moment];

/** Whether one of its conditions holds; over something empty none does. */
const comes = (turn: StepTurn<"wait">, s: Step): boolean =>
  s.for.some((a) => "holds" in a && turn.holds(`holds ${a.id}`, a.holds).yes);

/** The time is over: its way, where it waited for something else besides. */
const notCome = (s: Step): Next<"wait"> => {
  const way = s.for.some((a) => "holds" in a) ? s.ways[0] : undefined;
  return way ? { go: "into", list: way.id } : { go: "on" };
};

const keep = (turn: StepTurn<"wait">, came: boolean) => turn.keep({ value: { entries: [[CAME, came]] } });

/** Whether a formula asks what time it is, however deep, also by a field that is worked out so. */
function readsClock(
  formula: string,
  scope: Scope,
  fields: readonly Field[],
  seen: ReadonlySet<string> = new Set(),
): boolean {
  const { ast, reads } = checkFormula(formula, scope);
  if (ast && asksClock(ast)) return true;
  return fields.some((f) => {
    if (!f.worked || seen.has(f.id) || !reads.references.some((r) => r.name === f.name)) return false;
    return readsClock(f.worked, scope, fields, new Set([...seen, f.id]));
  });
}
