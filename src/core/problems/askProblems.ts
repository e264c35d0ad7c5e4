import {
  ruleKind,
  rungKind,
  stepKind,
  type FormulaWalk,
  type Kinds,
  type OfficeFacts,
  type Say,
} from "../kinds";
import type { Assignment, Limit, Rule, StepPlace } from "../route";
import { place, type Problem } from "./problem";

/** What is wrong with whom steps ask, until when, and with every other rule that finds people. */
export function askProblems(
  places: ReadonlyMap<string, StepPlace>,
  kinds: Kinds,
  office: OfficeFacts | undefined,
  out: Problem[],
) {
  for (const { step } of places.values()) {
    const say: Say = (severity, code, message, at, mend) =>
      out.push({ severity, code, where: place("step", step.id, at), message, ...(mend ? { mend } : {}) });
    const kind = stepKind(kinds, step);
    const who = kind.asks?.who(step);
    if (who) whoProblems(who, kinds, say);
    const limit = kind.asks?.limit(step);
    if (kind.asks && limit) limitProblems(limit, kind.asks.answers(step), kinds, say);
    if (!office) continue;
    const check = (at: string, r: Rule) =>
      ruleKind(kinds, r).problems(r, {
        office,
        // Only who must answer has to be somebody; being told nothing stops nobody.
        saved: at !== "who" || !who || who.fallback !== undefined,
        say: (severity, code, message) => say(severity, code, message, at),
      });
    kind.formulas(step, rulesOnly(check));
  }
}

/** A walk that only looks at the rules. */
function rulesOnly(check: (place: string, r: Rule) => void): FormulaWalk {
  const walk: FormulaWalk = {
    formula: (_, text) => text,
    template: (_, text) => text,
    rule: (at, _, r) => {
      if (r) check(at, r);
      return r;
    },
    // Who a ladder turns to depends on who has it by then.
    limit: (l) => l,
    asks: (s) => {
      walk.rule("who", "", s.who.rule);
      walk.rule("fallback", "", s.who.fallback);
      return s;
    },
  };
  return walk;
}

function whoProblems(who: Assignment, kinds: Kinds, say: Say) {
  if (who.how === "share" && (who.share ?? 50) > 100)
    say("error", "bad-share", `${who.share}% of the people cannot agree.`, "who");
  if (who.rule.by === "formula" && ruleKind(kinds, who.rule).empty(who.rule))
    say("error", "no-who", "Say who is asked.", "who");
}

function limitProblems(
  l: Limit,
  answers: Parameters<ReturnType<typeof rungKind>["problems"]>[1],
  kinds: Kinds,
  say: Say,
) {
  if (!(l.otherwise.amount > 0))
    say("error", "bad-limit", "A time limit is longer than nothing, for example: 2 working days.", "limit");
  for (const r of l.rungs) {
    rungKind(kinds, r.action).problems(r.action, answers, say);
    if (r.every && !(r.every.amount > 0))
      say("error", "bad-every", "A rung repeats after some time, for example: 1 working day.", "limit");
  }
}
