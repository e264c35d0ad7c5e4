import { colleagueOf, emailKey, hearerOf } from "../form";
import { distinctReceivers, ruleKind, type Receiver, type RuleTurn } from "../kinds";
import type { Rule } from "../route";
import { answerersOf } from "./answerers";
import { outsiderOf } from "./outsiders";
import { peopleMeeting } from "./peopleMeeting";
import type { Candidate } from "./state";
import { atAddress } from "./atAddress";
import type { At, Turn } from "./turn";

/** Whether somebody may be asked at a step: null, or why they are not. */
export type Bar = (person: string) => "own-request" | "kept-apart" | null;
export const NOBODY_BARRED: Bar = () => null;

/** How a rule is worked out. */
interface Finding {
  /** Who has the task, for rules that start from them ("the manager" of a rung). */
  holder?: string | null;
  /** Who may not be asked; absent where nobody is asked. */
  bar?: Bar;
  /** Noted by which duty each was found. */
  duties?: Map<string, string>;
  /** They are only written to: nobody outside is given an account by that. */
  writes?: true;
}

/**
 * The people a rule finds, without doubles, inactive ones left out.
 * @param place where the rule stands in its step: "who", "fallback", "rung 1"
 */
export function peopleOf(turn: Turn, at: At, place: string, rule: Rule, how: Finding = {}): string[] {
  const found = ruleKind(turn.release.kinds, rule).people(rule, ruleTurn(turn, at, place, how));
  return [...new Set(found)].filter((p) => turn.facts.isActive(p));
}

/** Whom a rule finds to be written to: the same people, and whom it means outside. */
export function receiversOf(turn: Turn, at: At, place: string, rule: Rule): Receiver[] {
  const writes = { writes: true } as const;
  const outside = ruleKind(turn.release.kinds, rule).outside?.(rule, ruleTurn(turn, at, place, writes)) ?? [];
  const people = peopleOf(turn, at, place, rule, writes);
  const here = outside.filter((o) => !people.includes(turn.facts.personAt(o.email) ?? ""));
  // Who was asked outside is written to at their address.
  return distinctReceivers([
    ...people.map((person) => outsiderOf(turn.state, person) ?? { person }).map(plainReceiver),
    ...here,
  ]);
}

const plainReceiver = (r: Receiver): Receiver => ("person" in r ? r : { name: r.name, email: r.email });

/** Of those a rule finds whoever follows the request from outside and is written to of it. */
export function hearersOf(turn: Turn, at: At, place: string, rule: Rule): Receiver[] {
  const hears = hearerOf(turn.state.requester);
  if (hears === null) return [];
  return receiversOf(turn, at, place, rule).filter(
    (r) => "email" in r && emailKey(r.email) === emailKey(hears.email),
  );
}

function ruleTurn(turn: Turn, at: At, place: string, how: Finding): RuleTurn {
  const { facts, state } = turn;
  const { requester: asker } = state;
  const within = (part: string) => (part ? `${place} ${part}` : place);
  const said = (person: string, entry: string) => {
    const v = facts.person(person).get(entry);
    return typeof v === "string" ? v : "";
  };
  const bar = how.bar ?? NOBODY_BARRED;
  return {
    requester: colleagueOf(asker),
    outsider:
      asker.kind === "outside" && asker.email !== "" ? { name: asker.name, email: asker.email } : null,
    holder: how.holder ?? null,
    membersOf: (g) => facts.membersOf(g),
    dutyHolders(duty, where) {
      const held = facts.dutyHolders(duty, where);
      for (const p of held) if (how.duties && !how.duties.has(p)) how.duties.set(p, duty);
      return held;
    },
    managerId: (p) => facts.managerId(p),
    jobTitleOf: (p) => said(p, "job title"),
    departmentOf: (p) => said(p, "department"),
    answerersOf: (step) => answerersOf(turn, at, step),
    peopleMeeting: (part, where) => peopleMeeting(turn, at, within(part), where),
    mayBeAsked: (p) =>
      facts.isActive(p) && withCover(turn, [p], how.duties).some((c) => bar(c.person) === null),
    people: (part, rule) => peopleOf(turn, at, within(part), rule, how),
    outside: (part, rule) =>
      ruleKind(turn.release.kinds, rule).outside?.(rule, ruleTurn(turn, at, within(part), how)) ?? [],
    atAddress: (who, from) =>
      atAddress(turn, at, who, {
        formulas: from.map(({ part, text }) => ({ place: within(part), text })),
        writes: how.writes === true,
      }),
    value: (part, text) => turn.value(at, within(part), text),
  };
}

const NO_DUTIES: ReadonlyMap<string, string> = new Map();

/** Longest chain of covers that is followed. */
const MAX_COVERS = 5;

/**
 * Someone away is replaced by their cover, and the cover's cover, as long as that does not run in a circle or end with
 * somebody who has left.
 * @param duties by which duty each was found, where they were: another may answer for them in that
 */
export function withCover(
  turn: Turn,
  people: readonly string[],
  duties: ReadonlyMap<string, string> = NO_DUTIES,
): Candidate[] {
  const out = new Map<string, Candidate>();
  for (const person of people) {
    let now = person;
    const duty = duties.get(person);
    const seen = new Set([now]);
    for (
      let cover = turn.facts.coverFor(now, duty);
      cover && turn.facts.isActive(cover) && !seen.has(cover) && seen.size <= MAX_COVERS;
      cover = turn.facts.coverFor(now, duty)
    ) {
      seen.add(cover);
      now = cover;
    }
    if (!out.has(now)) out.set(now, now === person ? { person } : { person: now, for: person });
  }
  return [...out.values()];
}

/** Longest line of managers that is gone up. */
const MAX_LEVELS = 20;

/** Those above somebody, the nearest first, as far as that does not run in a circle. */
export function lineAbove(turn: Turn, person: string): string[] {
  const line: string[] = [];
  for (let at = turn.facts.managerId(person); at !== null; at = turn.facts.managerId(at)) {
    if (at === person || line.includes(at) || line.length === MAX_LEVELS) break;
    line.push(at);
  }
  return line;
}
