import { writtenText } from "../letter";
import { stepKind } from "../kinds";
import { ASK_MAIL_PLACES, type Rule, type Step } from "../route";
import { inside } from "./calls";
import { candidatesOf, whoMakesChanges } from "./candidates";
import { clockOf, dueFor } from "./dueFor";
import { calendarFor, ladderDates, limitOf, rungsOf, timersOf } from "./ladder";
import { offersAt } from "./offers";
import { TASKS_IN_PART } from "./parts";
import { emptySignature, paperToSign } from "./paperToSign";
import { isOfStep, isOpen, type Candidate, type StuckReason, type Task, type Visit } from "./state";
import { stepTurn } from "./stepTurn";
import { closeSpans } from "./spans";
import type { Turn } from "./turn";
import { neededFor } from "./vote";
import { roundText } from "./roundText";
import { ruleWords } from "./ruleWords";

/** People one step asks at once: each has a task, a vote and a notice of their own. */
export const MOST_ASKED = 2000;

/** A rule of a step in words, other steps by their names. */
export const ruleSaid = ({ release }: Turn, rule: Rule): string =>
  ruleWords(release.kinds, rule, { step: (id) => release.places.get(id)?.step.name ?? id });

/** Asks the people of a step: opens a visit with its tasks and the timers of its ladder; says why it cannot. */
export function askPeople(turn: Turn, token: string, step: Step): StuckReason | null {
  const { asks } = stepKind(turn.release.kinds, step);
  // A kind that answers "asks" has the part that says whom.
  if (!asks) throw new Error(`a ${step.kind} step asks nobody`);
  const who = asks.who(step);
  const people = candidatesOf(turn, turn.at(token, step.id), who);
  if (people.length === 0)
    return { code: "nobody", data: { step: step.name, rule: ruleSaid(turn, who.rule) } };
  if (people.length > MOST_ASKED) {
    const found = { found: people.length, most: MOST_ASKED };
    return { code: "too-many-asked", data: { step: step.name, rule: ruleSaid(turn, who.rule), ...found } };
  }
  return openVisit(turn, token, step, asks.purpose, people);
}

/** Asks the requester for changes; the step is entered anew once they are sent. */
export function askForChanges(turn: Turn, token: string, step: Step): StuckReason | null {
  const people = whoMakesChanges(turn);
  if (people.length === 0) return { code: "nobody", data: { step: step.name, rule: "the requester" } };
  return openVisit(turn, token, step, "changes", people);
}

/**
 * Opens a visit with its tasks and the timers of its ladder, for people who may be asked; says why it cannot.
 * @throws Unclear where its limit, or what it offers, cannot be worked out: nothing is opened then
 */
export function openVisit(
  turn: Turn,
  token: string,
  step: Step,
  purpose: Task["purpose"],
  people: Candidate[],
): StuckReason | null {
  const { at } = turn.facts;
  const offered = !isOfStep({ purpose }) ? {} : offersAt(turn, turn.at(token, step.id), step);
  if ("code" in offered) return offered;
  const signs = !isOfStep({ purpose }) ? {} : paperToSign(turn, turn.at(token, step.id), step);
  if ("code" in signs) return signs;
  const visit = turn.newId("v");
  const asks = isOfStep({ purpose }) ? stepKind(turn.release.kinds, step).asks : null;
  const who = asks?.who(step) ?? null;
  const groups = who && who.how !== "one" ? people.map((p) => [p]) : [people];
  // One after another: the others are asked as they were found, and their covers looked for by then.
  const rest = who?.how === "order" ? groups.splice(1).map(([p]) => p!.for ?? p!.person) : [];
  const limit = asks ? limitOf(turn, step) : undefined;
  const asked = groups.flat().map((p) => p.person);
  const calendar = calendarFor(turn, asked);
  const reached = limit ? dueFor(turn, turn.at(token, step.id), limit, calendar) : null;
  const dates = ladderDates(calendar, at, reached?.due ?? null, limit ? rungsOf(turn, limit) : []);
  const wide = groups.length > TASKS_IN_PART ? { wide: true as const } : {};
  emptySignature(turn, turn.at(token, step.id), signs.paper);
  turn.raise(
    {
      type: "visit opened",
      visit: {
        id: visit,
        step: step.id,
        token,
        purpose,
        ...scopeOf(turn, token),
        due: dates.due,
        openedAt: at,
        needed: who ? neededFor(who, groups.length + rest.length) : 1,
        asked: groups.length + rest.length,
        ...(rest.length > 0 ? { rest } : {}),
        ...offered,
        ...signs,
        ...letterAt(turn, token, step, purpose),
        ...clockOf(limit, reached),
        ...wide,
      },
      ...(reached && reached.why.length > 0 ? { why: reached.why } : {}),
    },
    null,
  );
  const of = { visit, step: step.id, token, purpose, due: dates.due, ...wide };
  turn.raiseAll(
    groups.map((candidates, i) => {
      const task = newTask(turn, of, candidates, i);
      // Also where only one could be asked: that counts for whose turn it is next.
      const given = who?.turns !== undefined && candidates.length === 1 && groups.length === 1;
      return { type: "task opened", task: given ? { ...task, turn: candidates[0]!.person } : task };
    }),
    null,
  );
  for (const timer of timersOf(visit, dates)) turn.raise({ type: "timer set", timer }, null);
  return null;
}

/**
 * What those asked are written. Nothing of a text that cannot be worked out stops anybody from being asked; a condition of
 * a letter does, since what was left out might be what they decide by.
 */
function letterAt(turn: Turn, token: string, step: Step, purpose: Task["purpose"]): Pick<Visit, "letter"> {
  const mail = isOfStep({ purpose }) ? stepKind(turn.release.kinds, step).asks?.byMail(step) : undefined;
  if (!mail) return {};
  const by = mail.by === undefined ? {} : { by: mail.by };
  const at = stepTurn(turn, turn.at(token, step.id));
  if (mail.letter !== undefined) {
    const { subject, hidden, letter } = at.letter(mail.letter);
    const text = writtenText(letter.parts);
    return { letter: { subject, text, letter, ...(hidden ? { hidden: true as const } : {}), ...by } };
  }
  const { subject, text } = ASK_MAIL_PLACES;
  const hidden = at.tellsHidden(subject, mail.subject) || at.tellsHidden(text, mail.text);
  const letter = { subject: at.text(subject, mail.subject), text: at.text(text, mail.text) };
  return { letter: { ...letter, ...(hidden ? { hidden: true as const } : {}), ...by } };
}

export function newTask(
  turn: Turn,
  of: Pick<Task, "visit" | "step" | "token" | "purpose" | "due" | "wide">,
  candidates: Candidate[],
  /** How many are opened with it, before it. */
  after = 0,
): Task {
  return {
    id: turn.newId("t", after),
    visit: of.visit,
    step: of.step,
    token: of.token,
    purpose: of.purpose,
    ...scopeOf(turn, of.token),
    ...(of.wide ? { wide: true } : {}),
    ...aboutOf(turn, of.token),
    candidates,
    due: of.due,
    holder: candidates.length === 1 ? candidates[0]!.person : null,
    status: "open",
    openedAt: turn.facts.at,
  };
}

function scopeOf(turn: Turn, token: string): { scope?: string } {
  const scope = turn.state.tokens[token]?.scope;
  return scope === undefined ? {} : { scope };
}
function aboutOf(turn: Turn, token: string): { about?: string } {
  const scope = turn.state.tokens[token]?.scope;
  const about = scope === undefined ? "" : roundText(turn.state.scopes, scope);
  return about ? { about } : {};
}

/** Closes what is left of a visit: its open tasks and its timers. */
export function closeVisit(turn: Turn, visit: string, reason: "decided" | "ended" | "returned" | "left") {
  const left = Object.values(turn.state.tasks).filter((t) => t.visit === visit && isOpen(t));
  turn.raiseAll(
    left.map((t) => ({ type: "task closed", task: t.id, reason })),
    null,
  );
  for (const timer of Object.values(turn.state.timers))
    if (timer.visit === visit) turn.raise({ type: "timer cleared", timer: timer.id }, null);
}

/**
 * Closes everything open of a request that ends.
 * @param all also what would stay: somebody ended it before its time
 */
export function closeAll(turn: Turn, all: boolean) {
  const { visits, tokens, calls } = turn.whole();
  closeSpans(turn);
  for (const v of Object.values(visits))
    if (all || tokens[v.token]?.errand !== "stays") closeVisit(turn, v.id, "ended");
  for (const c of Object.values(calls)) if (all || !c.over) closeCall(turn, c.id, all);
}

/** Ends a procedure from outside. @param all also what would stay */
export function closeCall(turn: Turn, id: string, all: boolean): void {
  const call = turn.state.calls[id]!;
  inside(turn, id, (inner) => closeAll(inner, all));
  if (!call.over) turn.raise({ type: "call called off", call: id, step: call.step }, null);
}
