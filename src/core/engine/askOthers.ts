import { followerOf } from "../form";
import { stepKind } from "../kinds";
import { settle } from "./answer";
import { withCover, type Bar } from "./assign";
import { barFor } from "./bar";
import { candidatesOf, whoMakesChanges } from "./candidates";
import { moveTask } from "./handOver";
import { giveUpQuestion } from "./questions";
import { dutiesAt } from "./dutiesAt";
import { isOfStep, isOpen, isQuestion, type Candidate, type Task } from "./state";
import type { Turn } from "./turn";
import { clearly } from "./unclear";
import { closeVisit, ruleSaid } from "./visit";
import { enter, goThrough, stuck } from "./walk";

/**
 * People who were asked have left, or have gone away since: their cover is asked, as when the task was opened. Where
 * there is none, whoever the step's rules find now. Somebody away without a cover keeps the task until they are back.
 * Does nothing where all who are asked are there, so that it may come often and twice.
 */
export function askOthers(turn: Turn): void {
  for (const { id } of Object.values(turn.whole().tasks)) {
    const t = turn.state.tasks[id]!;
    if (!isOpen(t)) continue;
    // Whoever holds a task answers it; that one of the others is gone matters when it is put back.
    const asked = t.holder === null ? t.candidates.map((c) => c.person) : [t.holder];
    const bar = barOf(turn, t);
    const duties = dutiesOf(turn, t);
    if (asked.some((p) => isGone(turn, p, duties) || bar(p) === "kept-apart"))
      findOthers(turn, t, bar, duties);
  }
}

/**
 * The same where somebody has come to be kept apart by what was just done: they were asked before they answered another
 * step. Not waited for until the next look, or their task would stand there for nobody to answer.
 */
export function askInstead(turn: Turn): null {
  if (!turn.release.keepsApart) return null;
  for (const { id } of Object.values(turn.whole().tasks)) {
    const t = turn.state.tasks[id]!;
    if (!isOpen(t)) continue;
    const bar = barOf(turn, t);
    const asked = t.holder === null ? t.candidates.map((c) => c.person) : [t.holder];
    if (asked.some((p) => bar(p) === "kept-apart")) findOthers(turn, t, bar, dutiesOf(turn, t));
  }
  goThrough(turn);
  return null;
}

/** Whether somebody is there to be asked: whoever follows from outside always is. */
const isHere = ({ facts, state }: Turn, person: string): boolean =>
  facts.isActive(person) || person === followerOf(state.requester);

/** Whether somebody else is to be asked in their place; whoever keeps what was open when they went does it later. */
const isGone = (turn: Turn, person: string, duties: Duties): boolean =>
  passesOn(turn, person, duties) && !(isHere(turn, person) && turn.facts.keepsOpen(person));

/** Whether somebody answers for them, or they are not here any more. */
const passesOn = (turn: Turn, person: string, duties: Duties): boolean =>
  !isHere(turn, person) || turn.facts.coverFor(person, duties.get(person)) !== null;

type Duties = ReadonlyMap<string, string>;
/** By which duties the people of a task were asked; worked out only where somebody is away or has left. */
function dutiesOf(turn: Turn, t: Task): Duties {
  const { facts } = turn;
  const step = isOfStep(t) ? turn.release.places.get(t.step)?.step : undefined;
  const away = (p: string) => facts.isAway(p);
  if (!step || !t.candidates.some((c) => away(c.person))) return NONE;
  return dutiesAt(turn, turn.at(t.token, t.step), step);
}
const NONE: Duties = new Map();

/** Where it cannot be told who may be asked whoever has a task keeps it: what they answer is refused with that. */
function barOf(turn: Turn, t: Task): Bar {
  const told = clearly(() => barFor(turn, t));
  return "go" in told ? () => null : told;
}

/**
 * Those who can be asked in place of some people, by their covers. Covers may run in a circle: where the last of them is
 * away too, whoever is there keeps the task, or it would go round for ever.
 */
function standIns(turn: Turn, t: Task, bar: Bar, duties: Duties): Candidate[] {
  const out = new Map<string, Candidate>();
  for (const c of t.candidates) {
    const cover = withCover(turn, [c.person], duties)[0]!;
    const nobodyElse = cover.person === c.person || passesOn(turn, cover.person, duties);
    const stays = isHere(turn, c.person) && (turn.facts.keepsOpen(c.person) || nobodyElse);
    const now = stays ? c : { person: cover.person, for: c.for ?? c.person };
    if (!isHere(turn, now.person) || bar(now.person) !== null) continue;
    if (!out.has(now.person)) out.set(now.person, now);
  }
  return [...out.values()];
}

const names = (people: readonly Candidate[]) => people.map((c) => c.person).join();

function findOthers(turn: Turn, t: Task, bar: Bar, duties: Duties): void {
  // Whoever has come to be kept apart may not answer any more, and is as good as gone.
  const mayAnswer = (p: string) => isHere(turn, p) && bar(p) !== "kept-apart";
  const here = t.candidates.some((c) => mayAnswer(c.person));
  const apart = t.candidates.some((c) => bar(c.person) === "kept-apart");
  const left = t.candidates.some((c) => !isHere(turn, c.person)) ? "left" : "away";
  const gone = apart ? "apart" : left;
  const move = (to: readonly Candidate[]) => moveTask(turn, t, to, { note: "", gone, back: t.back ?? [] });
  const others = standIns(turn, t, bar, duties);
  if (others.length > 0) {
    if (names(others) !== names(t.candidates)) move(others);
    return;
  }
  if (t.purpose === "changes") {
    const found = whoMakesChanges(turn);
    if (found.length > 0) move(found);
    return;
  }
  // Whoever is only away answers when they are back.
  if (isQuestion(t)) return here ? undefined : giveUpQuestion(turn, t);
  const step = turn.release.places.get(t.step)?.step;
  const who = step && stepKind(turn.release.kinds, step).asks?.who(step);
  if (!step || !who) return;
  const beside =
    turn.state.visits[t.visit]?.rest !== undefined ||
    Object.values(turn.state.tasks).some(
      (x) => x.visit === t.visit && x.id !== t.id && (isOpen(x) || x.status === "answered"),
    );
  // The others decide among themselves.
  if (who.how !== "one" && beside) return here ? undefined : leaveToOthers(turn, t);
  const found = clearly(() => candidatesOf(turn, turn.at(t.token, step.id), who));
  if (!("go" in found) && found.length > 0) {
    if (who.how === "one") return move(found);
    // Each of them has a task and a vote of their own: all are asked anew.
    giveUp(turn, t);
    return enter(turn, t.token, step);
  }
  // Whoever is only away answers when they are back; whom a ladder has asked besides is there still.
  if (here) return;
  if (beside) return leaveToOthers(turn, t);
  giveUp(turn, t);
  const nobody = {
    code: "nobody" as const,
    data: { step: step.name, rule: ruleSaid(turn, who.rule) },
  };
  stuck(turn, t.token, step.id, "go" in found ? found.reason : nobody);
}

/** One fewer is asked, which may settle it. */
function leaveToOthers(turn: Turn, t: Task): void {
  turn.raise({ type: "task closed", task: t.id, reason: "left" }, null);
  settle(turn, t.visit, "");
}

function giveUp(turn: Turn, t: Task): void {
  closeVisit(turn, t.visit, "left");
  turn.raise({ type: "visit given up", visit: t.visit, step: t.step }, null);
}
