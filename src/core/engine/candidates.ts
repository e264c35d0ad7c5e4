import { colleagueOf, followerOf } from "../form";
import type { Assignment, Rule } from "../route";
import { lineAbove, peopleOf, withCover, type Bar } from "./assign";
import { barAt } from "./bar";
import type { Candidate } from "./state";
import type { At, Turn } from "./turn";
import { whoseTurn } from "./whoseTurn";

/** What became of somebody a rule found. */
export interface Tried {
  person: string;
  /** Who is asked: they, their cover, or their manager in their place; null for nobody. */
  asked: Candidate | null;
  /** Why it is not they themselves: they may not be asked, or somebody else is chosen of those who may. */
  barred: "own-request" | "kept-apart" | "passed-over" | null;
}
/** A rule that was tried, and whom it found. */
export interface RuleTried {
  place: "who" | "fallback";
  rule: Rule;
  people: Tried[];
}

/** The rules of a step, as far as they are tried, with what became of each whom they found. */
export function rulesTried(turn: Turn, at: At, who: Assignment): RuleTried[] {
  const bar = barAt(turn, at, who);
  const out: RuleTried[] = [];
  for (const [place, rule] of [
    ["who", who.rule],
    ["fallback", who.fallback],
  ] as const) {
    if (!rule) continue;
    const duties = new Map<string, string>();
    const people = peopleOf(turn, at, place, rule, { bar, duties }).map((person): Tried => {
      const c = withCover(turn, [person], duties)[0]!;
      const barred = bar(c.person);
      if (barred === null) return { person, asked: c, barred };
      return { person, asked: who.instead === "manager" ? managerOf(turn, c.person, bar) : null, barred };
    });
    out.push({ place, rule, people });
    if (!people.some((p) => p.asked)) continue;
    chooseOne(turn, at, who, people);
    break;
  }
  return out;
}

/** Where one of several is chosen: whoever is not is asked no more. */
function chooseOne(turn: Turn, at: At, { turns }: Assignment, people: Tried[]): void {
  const all = [...new Set(people.flatMap((p) => (p.asked ? [p.asked.person] : [])))];
  if (turns === undefined || all.length < 2) return;
  const chosen = whoseTurn(turn, at.step, turns, all);
  if (chosen === null) return;
  for (const p of people)
    if (p.asked && p.asked.person !== chosen) Object.assign(p, { asked: null, barred: "passed-over" });
}

/** The first above somebody who may be asked, or their cover. */
function managerOf(turn: Turn, person: string, bar: Bar): Candidate | null {
  for (const at of lineAbove(turn, person)) {
    if (!turn.facts.isActive(at)) continue;
    const c = withCover(turn, [at])[0]!;
    if (turn.facts.isActive(c.person) && bar(c.person) === null) return c;
  }
  return null;
}

/** Who is asked at a step: the rule, else its fallback, never whoever may not be asked. */
export function candidatesOf(turn: Turn, at: At, who: Assignment): Candidate[] {
  const out = new Map<string, Candidate>();
  for (const { asked } of rulesTried(turn, at, who).at(-1)?.people ?? [])
    if (asked && !out.has(asked.person)) out.set(asked.person, asked);
  return [...out.values()];
}

/**
 * Changes are asked of the requester; once they have left, of the first manager above them who is there. Of somebody
 * outside who follows their request by its link, by their account. Of nobody where another program, somebody else outside
 * or a process asked: then it is the owners' to name somebody.
 */
export function whoMakesChanges(turn: Turn): Candidate[] {
  const follower = followerOf(turn.state.requester);
  if (follower !== null) return [{ person: follower }];
  const requester = colleagueOf(turn.state.requester);
  if (requester === null) return [];
  for (const at of [requester, ...lineAbove(turn, requester)]) {
    const found = withCover(turn, [at]).filter((c) => turn.facts.isActive(c.person));
    if (found.length > 0) return found;
  }
  return [];
}
