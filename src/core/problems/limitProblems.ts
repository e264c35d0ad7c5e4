import type { Length } from "../calendar";
import { rungKind, type Kinds, type Say } from "../kinds";
import {
  laddersUsed,
  LIMIT_PLACES,
  rungPlaces,
  type AnswerChoice,
  type Ladder,
  type Limit,
  type ProcessDefinition,
  type RuleLength,
  type Rung,
} from "../route";

interface Around {
  d: ProcessDefinition;
  kinds: Kinds;
}
/** Where problems of a limit stand that are of no formula. */
const AT = "limit";

const lasts = (l: Length | undefined): l is Length => l !== undefined && l.amount > 0;

/** Id of the answer a rung gives on behalf of people; null for rungs that answer nothing. */
export const answersWith = (kinds: Kinds, r: Rung): string | null =>
  rungKind(kinds, r.action).answers?.(r.action) ?? null;

/** What is wrong with a limit and the rungs around it, besides mistakes in formulas. */
export function limitProblems(
  l: Limit,
  { d, kinds, answers }: Around & { answers: readonly AnswerChoice[] },
  say: Say,
) {
  if (!lasts(l.otherwise)) tooShort(say);
  (l.rules ?? []).forEach((r, i) => lengthProblems(r.length, i, say));
  if (l.from && l.from.by !== "start" && !l.from.formula.trim())
    say("error", "no-from", "Say from which day or moment the limit counts.", LIMIT_PLACES.from);
  const ladder = d.ladders?.find((x) => x.id === l.ladder);
  if (l.ladder !== undefined && !ladder)
    say("error", "no-ladder", "The ladder it goes by is not there any more. Choose another.", AT);
  if (l.ladder !== undefined && l.rungs.length > 0)
    say(
      "error",
      "two-ladders",
      "It goes by a ladder kept by name, and has rungs of its own which nothing goes by. Take one of both away.",
      AT,
    );
  const rungs = ladder?.rungs ?? l.rungs;
  if (!ladder) for (const r of rungs) rungProblems(r, say);
  for (const r of rungs) {
    rungKind(kinds, r.action).problems(r.action, answers, say);
    if (
      r.when === "before" &&
      !l.rules?.length &&
      !l.from &&
      r.length?.unit === l.otherwise.unit &&
      r.length.amount >= l.otherwise.amount
    )
      say(
        "warning",
        "rung-never",
        `What is to happen ${r.length.amount} ${r.length.unit} before the limit never does: the limit is ${l.otherwise.amount} ${l.otherwise.unit} long.`,
        AT,
      );
  }
}

/** What is wrong with a ladder kept by name. */
export function ladderProblems(l: Ladder, { d, kinds }: Around, say: Say) {
  if (!l.name.trim())
    say("error", "no-name", "A ladder needs a name, for example: Remind, then the manager.");
  const twice = d.ladders?.find(
    (x) => x !== l && x.name.trim().toLowerCase() === l.name.trim().toLowerCase(),
  );
  if (twice && l.name.trim())
    say("warning", "name-twice", `Two ladders are called “${l.name}”; nobody can tell them apart.`);
  for (const r of l.rungs) rungProblems(r, say);
  if (!laddersUsed(d, kinds).has(l.id))
    say(
      "warning",
      "ladder-unused",
      `No limit goes by the ladder “${l.name}”. Choose it at one, or take it away.`,
    );
}

function rungProblems(r: Rung, say: Say) {
  if (r.when !== "at" && !lasts(r.length))
    say("error", "rung-length", `Say how long ${r.when} the limit, for example: 4 working hours.`, AT);
  if (r.every && !lasts(r.every))
    say("error", "bad-every", "A rung repeats after some time, for example: 1 working day.", AT);
  if (r.if !== undefined && !r.if.trim())
    say(
      "error",
      "no-condition",
      "Say what must hold for the rung, or take the condition away.",
      rungPlaces.if(r.id),
    );
}

function lengthProblems(l: RuleLength, rule: number, say: Say) {
  if ("amount" in l) {
    if (!lasts(l)) tooShort(say);
    return;
  }
  if (l.most && !lasts(l.most)) tooShort(say);
  const at = LIMIT_PLACES.length(rule);
  if (l.formula.trim()) return;
  if (l.by === "count") say("error", "no-length", `Say how many ${l.unit} the limit is long.`, at);
  else if (l.by === "lasting") say("error", "no-length", "Say how long the limit is.", at);
  else say("error", "no-length", "Say until when the limit goes, for example: Needed by.", at);
}

const tooShort = (say: Say) =>
  say("error", "bad-limit", "A time limit is longer than nothing, for example: 2 working days.", AT);
