import { colleagueOf, emailKey, followerOf, hearerOf, isOwnRequest } from "../form";
import { ruleKind, type Receiver, type RuleTurn } from "../kinds";
import type { Assignment, Rule } from "../route";
import type { Candidate } from "./state";
import type { At, Turn } from "./turn";

/**
 * The people a rule finds, without doubles, inactive ones left out.
 * @param place where the rule stands in its step: "who", "fallback", "rung 1"
 * @param holder who has the task, for rules that start from them ("the manager" of a rung)
 */
export function peopleOf(turn: Turn, at: At, place: string, rule: Rule, holder?: string | null): string[] {
  const found = ruleKind(turn.release.kinds, rule).people(rule, ruleTurn(turn, at, place, holder));
  return [...new Set(found)].filter((p) => turn.facts.isActive(p));
}

/** Whom a rule finds to be written to: the same people, and whom it means outside. */
export function receiversOf(turn: Turn, at: At, place: string, rule: Rule): Receiver[] {
  const outside = ruleKind(turn.release.kinds, rule).outside?.(rule, ruleTurn(turn, at, place)) ?? [];
  return [...peopleOf(turn, at, place, rule).map((person) => ({ person })), ...outside];
}

/** Of those a rule finds whoever follows the request from outside and is written to of it. */
export function hearersOf(turn: Turn, at: At, place: string, rule: Rule): Receiver[] {
  const hears = hearerOf(turn.state.requester);
  if (hears === null) return [];
  return receiversOf(turn, at, place, rule).filter(
    (r) => "email" in r && emailKey(r.email) === emailKey(hears.email),
  );
}

function ruleTurn(turn: Turn, at: At, place: string, holder?: string | null): RuleTurn {
  const { facts, state } = turn;
  const { requester: asker } = state;
  return {
    requester: colleagueOf(asker),
    outsider:
      asker.kind === "outside" && asker.email !== "" ? { name: asker.name, email: asker.email } : null,
    holder: holder ?? null,
    membersOf: (g) => facts.membersOf(g),
    dutyHolders: (duty, where) => facts.dutyHolders(duty, where),
    managerId: (p) => facts.managerId(p),
    value: (part, text) => turn.value(at, part ? `${place} ${part}` : place, text),
  };
}

/** Longest chain of covers that is followed. */
const MAX_COVERS = 5;

/**
 * Someone away is replaced by their cover, and the cover's cover, as long as that does not run in a circle or end with
 * somebody who has left.
 */
export function withCover(turn: Turn, people: readonly string[]): Candidate[] {
  const out = new Map<string, Candidate>();
  for (const person of people) {
    let now = person;
    const seen = new Set([now]);
    for (
      let cover = turn.facts.coverFor(now);
      cover && turn.facts.isActive(cover) && !seen.has(cover) && seen.size <= MAX_COVERS;
      cover = turn.facts.coverFor(now)
    ) {
      seen.add(cover);
      now = cover;
    }
    if (!out.has(now)) out.set(now, now === person ? { person } : { person: now, for: person });
  }
  return [...out.values()];
}

/** Whether somebody would decide their own request: see `isOwnRequest`. */
export const isRequester = ({ state, facts }: Pick<Turn, "state" | "facts">, person: string): boolean =>
  isOwnRequest(state.requester, { id: person, email: facts.emailOf(person) });

/** Who is asked at a step: the rule, else its fallback, never the requester unless the step says so. */
export function candidatesOf(turn: Turn, at: At, who: Assignment): Candidate[] {
  for (const [place, rule] of [
    ["who", who.rule],
    ["fallback", who.fallback],
  ] as const) {
    if (!rule) continue;
    const fit = withCover(turn, peopleOf(turn, at, place, rule)).filter(
      (c) => who.requesterToo || !isRequester(turn, c.person),
    );
    if (fit.length > 0) return fit;
  }
  return [];
}

/** Longest line of managers that is gone up. */
const MAX_LEVELS = 20;

/**
 * Changes are asked of the requester; once they have left, of the first manager above them who is there. Of somebody
 * outside who follows their request by its link, by their account. Of nobody where another program, somebody else outside
 * or a process asked: then it is the owners' to name somebody.
 */
export function whoMakesChanges(turn: Turn): Candidate[] {
  const follower = followerOf(turn.state.requester);
  if (follower !== null) return [{ person: follower }];
  const seen = new Set<string>();
  for (
    let at: string | null = colleagueOf(turn.state.requester);
    at && !seen.has(at) && seen.size < MAX_LEVELS;
    at = turn.facts.managerId(at)
  ) {
    seen.add(at);
    const found = withCover(turn, [at]).filter((c) => turn.facts.isActive(c.person));
    if (found.length > 0) return found;
  }
  return [];
}
