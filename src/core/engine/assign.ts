import { isContext, isList, type Value } from "../expression";
import type { Assignment, Rule } from "../process";
import type { Candidate } from "./state";
import type { Turn } from "./turn";

/**
 * The people a rule finds, without doubles, inactive ones left out.
 * @param holder who has the task, for rules that start from them ("the manager" of a rung)
 */
export function peopleOf(
  turn: Turn,
  step: string,
  place: string,
  rule: Rule,
  holder?: string | null,
): string[] {
  const { facts, state } = turn;
  const found = ((): string[] => {
    switch (rule.by) {
      case "requester":
        return [state.requester];
      case "person":
        return [rule.person];
      case "group":
        return facts.membersOf(rule.group);
      case "duty": {
        const at = rule.place ? turn.value(step, `${place} place`, rule.place) : null;
        return facts.dutyHolders(rule.duty, typeof at === "string" ? at : placeName(at));
      }
      case "manager": {
        let person: string | null = rule.of
          ? (ids(turn.value(step, `${place} of`, rule.of))[0] ?? null)
          : (holder ?? state.requester);
        for (let i = 0; i < Math.min(rule.levels ?? 1, 20) && person; i++) person = facts.managerId(person);
        return person ? [person] : [];
      }
      case "formula":
        return ids(turn.value(step, place, rule.formula));
    }
  })();
  return [...new Set(found)].filter((p) => facts.isActive(p));
}

const placeName = (v: Value): string | null => {
  const name = isContext(v) ? v.get("name") : null;
  return typeof name === "string" ? name : null;
};

function ids(v: Value): string[] {
  if (typeof v === "string") return [v];
  if (isList(v)) return v.flatMap(ids);
  const id = isContext(v) ? v.get("id") : null;
  return typeof id === "string" ? [id] : [];
}

/** Someone away is replaced by their cover, and the cover's cover, as long as that does not run in a circle. */
export function withCover(turn: Turn, people: readonly string[]): Candidate[] {
  const out = new Map<string, Candidate>();
  for (const person of people) {
    let now = person;
    const seen = new Set([now]);
    for (
      let cover = turn.facts.coverFor(now);
      cover && !seen.has(cover) && seen.size < 6;
      cover = turn.facts.coverFor(now)
    ) {
      seen.add(cover);
      now = cover;
    }
    if (!out.has(now)) out.set(now, now === person ? { person } : { person: now, for: person });
  }
  return [...out.values()];
}

/** Who is asked at a step: the rule, else its fallback, never the requester unless the step says so. */
export function candidatesOf(turn: Turn, step: string, who: Assignment): Candidate[] {
  for (const [place, rule] of [
    ["who", who.rule],
    ["fallback", who.fallback],
  ] as const) {
    if (!rule) continue;
    const fit = withCover(turn, peopleOf(turn, step, place, rule)).filter(
      (c) => who.requesterToo || c.person !== turn.state.requester,
    );
    if (fit.length > 0) return fit;
  }
  return [];
}

export function ruleInWords(rule: Rule): string {
  switch (rule.by) {
    case "requester":
      return "the requester";
    case "person":
      return rule.person;
    case "group":
      return `group ${rule.group}`;
    case "duty":
      return rule.place ? `${rule.duty} for ${rule.place}` : rule.duty;
    case "manager":
      return `manager of ${rule.of ?? "Requester"}${(rule.levels ?? 1) > 1 ? `, ${rule.levels} levels up` : ""}`;
    case "formula":
      return rule.formula;
  }
}
