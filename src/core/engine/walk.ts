import { isContext, type Names, type Value } from "../expression";
import { flatFields, stored } from "../form";
import { branchesAround, following, type Step, type StepOf } from "../process";
import { candidatesOf, peopleOf, ruleInWords, withCover } from "./assign";
import { calendarFor, ladderDates, lengthFor, limitOf, timersOf } from "./ladder";
import type { WriteEffect } from "./effects";
import { isEnded, isOpen, type Candidate, type StuckReason, type Task } from "./state";
import type { Turn } from "./turn";
import { neededFor } from "./vote";

/** Puts a token on a step and lets it do what it does; goes on until everything waits or has ended. */
export function enter(turn: Turn, token: string, step: Step): void {
  // A loop instead of recursion along the list: a long route must not exhaust the stack.
  let next: Step | null = step;
  while (next && !isEnded(turn.state)) {
    if (--turn.moves < 0)
      return stuck(turn, token, next.id, { code: "runaway", data: { step: next.name, limit: 2000 } });
    if (turn.state.tokens[token]?.step !== next.id) turn.raise({ type: "token moved", token, step: next.id });
    next = perform(turn, token, next);
  }
}

/** Goes on behind a step. */
export function proceed(turn: Turn, token: string, stepId: string): void {
  const next = after(turn, token, stepId);
  if (next) enter(turn, token, next);
}

function after(turn: Turn, token: string, stepId: string): Step | null {
  const next = following(turn.release.places, stepId);
  if (next === "branch end") {
    endBranch(turn, token, stepId);
    return null;
  }
  if (next === null) finish(turn, stepId, "Done", "plain");
  return next;
}

/** Does one step. Gives the step to go on with, or null when the token waits, has gone or is stuck. */
function perform(turn: Turn, token: string, step: Step): Step | null {
  switch (step.kind) {
    case "decide":
    case "complete":
      ask(turn, token, step);
      return null;
    case "choose": {
      for (const way of step.ways) {
        const { yes, why } = way.when
          ? turn.holds(step.id, `way ${way.id}`, way.when)
          : { yes: true, why: [] };
        if (!yes) continue;
        turn.raise({ type: "way chosen", step: step.id, way: way.id, name: way.name, why });
        return way.steps[0] ?? after(turn, token, step.id);
      }
      stuck(turn, token, step.id, { code: "no-way", data: { step: step.name } });
      return null;
    }
    case "together":
      openBranches(turn, token, step);
      return null;
    case "write": {
      const asked = askWrite(turn, token, step);
      return asked ? null : isStuck(turn, token) ? null : after(turn, token, step.id);
    }
    case "work out": {
      const data = Object.fromEntries(
        step.set.map((v) => [v.field, stored(turn.value(step.id, `set ${v.field}`, v.value))]),
      );
      turn.raise({ type: "values set", step: step.id, data });
      return after(turn, token, step.id);
    }
    case "tell": {
      const people = peopleOf(turn, step.id, "who", step.who);
      tell(
        turn,
        step.id,
        people,
        turn.text(step.id, "subject", step.subject),
        turn.text(step.id, "text", step.text),
      );
      return after(turn, token, step.id);
    }
    case "jump": {
      const target = turn.release.places.get(step.to);
      const here = turn.release.places.get(step.id);
      if (!target || !here || branchesAround(target).join() !== branchesAround(here).join()) {
        stuck(turn, token, step.id, { code: "bad-jump", data: { step: step.name, to: step.to } });
        return null;
      }
      return target.step;
    }
    case "finish":
      finish(turn, step.id, step.result, step.tone);
      return null;
  }
}

export function tell(turn: Turn, step: string, people: string[], subject: string, text: string) {
  if (people.length === 0) return;
  const effect = { kind: "tell" as const, id: turn.newId("e"), step, people, subject, text };
  turn.raise({ type: "tell asked", effect }, null);
  turn.effects.push(effect);
}

export function stuck(turn: Turn, token: string, step: string, reason: StuckReason) {
  turn.raise({ type: "got stuck", token, step, reason }, null);
}
const isStuck = (turn: Turn, token: string) => turn.state.stuck.some((s) => s.token === token);

/** Asks people: opens a visit with its tasks and the timers of its ladder. */
function ask(turn: Turn, token: string, step: StepOf<"decide"> | StepOf<"complete">) {
  const people = candidatesOf(turn, step.id, step.who);
  if (people.length === 0)
    return stuck(turn, token, step.id, {
      code: "nobody",
      data: { step: step.name, rule: ruleInWords(step.who.rule) },
    });
  openVisit(turn, token, step, step.kind, people);
}

/** Asks the requester for changes; the step is entered anew once they are sent. */
export function askForChanges(turn: Turn, token: string, step: Step) {
  openVisit(turn, token, step, "changes", withCover(turn, [turn.state.requester]));
}

function openVisit(turn: Turn, token: string, step: Step, purpose: Task["purpose"], people: Candidate[]) {
  const { at } = turn.facts;
  const visit = turn.newId("v");
  const who = purpose !== "changes" && (step.kind === "decide" || step.kind === "complete") ? step.who : null;
  const limit = purpose === "changes" ? undefined : limitOf(step);
  const chosen = limit ? lengthFor(turn, step.id, limit) : null;
  const dates =
    limit && chosen
      ? ladderDates(
          calendarFor(
            turn,
            people.map((p) => p.person),
          ),
          at,
          chosen.length,
          limit.rungs,
        )
      : { due: null, rungs: [] };
  const groups = who && who.how !== "one" ? people.map((p) => [p]) : [people];
  turn.raise(
    {
      type: "visit opened",
      visit: {
        id: visit,
        step: step.id,
        token,
        purpose,
        due: dates.due,
        openedAt: at,
        needed: who ? neededFor(who, groups.length) : 1,
        asked: groups.length,
      },
      ...(chosen && chosen.why.length > 0 ? { why: chosen.why } : {}),
    },
    null,
  );
  for (const candidates of groups)
    turn.raise(
      { type: "task opened", task: newTask(turn, visit, step.id, token, purpose, candidates, dates.due) },
      null,
    );
  for (const timer of timersOf(visit, dates)) turn.raise({ type: "timer set", timer }, null);
}

export function newTask(
  turn: Turn,
  visit: string,
  step: string,
  token: string,
  purpose: Task["purpose"],
  candidates: Candidate[],
  due: number | null,
): Task {
  return {
    id: turn.newId("t"),
    visit,
    step,
    token,
    purpose,
    candidates,
    due,
    holder: candidates.length === 1 ? candidates[0]!.person : null,
    status: "open",
    openedAt: turn.facts.at,
  };
}

/** Closes what is left of a visit: its open tasks and its timers. */
export function closeVisit(turn: Turn, visit: string, reason: "decided" | "ended" | "returned") {
  for (const t of Object.values(turn.state.tasks))
    if (t.visit === visit && isOpen(t)) turn.raise({ type: "task closed", task: t.id, reason }, null);
  for (const timer of Object.values(turn.state.timers))
    if (timer.visit === visit) turn.raise({ type: "timer cleared", timer: timer.id }, null);
}

/** Ends a request; nothing may stay open behind it. */
export function closeAll(turn: Turn) {
  for (const v of Object.keys(turn.state.visits)) closeVisit(turn, v, "ended");
}

function finish(turn: Turn, step: string, result: string, tone: "agree" | "refuse" | "plain") {
  closeAll(turn);
  turn.raise({ type: "request finished", step, result, tone }, null);
}

function openBranches(turn: Turn, token: string, step: StepOf<"together">) {
  const opened: StepOf<"together">["branches"] = [];
  const left: { branch: string; name: string; why: ReturnType<Turn["holds"]>["why"] }[] = [];
  for (const b of step.branches) {
    const { yes, why } = b.when ? turn.holds(step.id, `branch ${b.id}`, b.when) : { yes: true, why: [] };
    if (yes) opened.push(b);
    else left.push({ branch: b.id, name: b.name, why });
  }
  turn.raise({ type: "branches opened", step: step.id, opened: opened.map((b) => b.id), left }, null);
  const placed = opened.map((b) => {
    const child = turn.newId("k");
    turn.raise(
      { type: "token placed", token: child, step: b.steps[0]?.id ?? step.id, parent: token, branch: b.id },
      null,
    );
    return [child, b] as const;
  });
  if (placed.length === 0) return proceed(turn, token, step.id);
  // All branches stand before any of them goes on, so that a quick one cannot find itself alone and join early.
  for (const [child, b] of placed) {
    if (isEnded(turn.state)) return;
    if (b.steps[0]) enter(turn, child, b.steps[0]);
    else endBranch(turn, child, step.id);
  }
}

function endBranch(turn: Turn, token: string, step: string) {
  const parent = turn.state.tokens[token]?.parent;
  turn.raise({ type: "branch ended", token, step }, null);
  if (!parent) return;
  const others = Object.values(turn.state.tokens).some((t) => t.parent === parent);
  const at = turn.state.tokens[parent];
  if (!others && at) proceed(turn, parent, at.step);
}

/** Works out what a Write step writes. False when there is nothing to write (no lines). */
function askWrite(turn: Turn, token: string, step: StepOf<"write">): boolean {
  const rows: { record: string | null; values: Record<string, string | boolean | null> }[] = [];
  for (const names of writeNames(turn, step)) {
    const record = step.op === "add" ? null : recordId(turn.value(step.id, "record", step.record, names));
    if (step.op !== "add" && record === null) {
      stuck(turn, token, step.id, {
        code: "no-record",
        data: { step: step.name, formula: step.record ?? "" },
      });
      return false;
    }
    rows.push({
      record,
      values: Object.fromEntries(
        step.values.map((v) => [v.column, stored(turn.value(step.id, `value ${v.column}`, v.value, names))]),
      ),
    });
  }
  if (rows.length === 0) return false;
  const effect: WriteEffect = {
    kind: "write",
    id: turn.newId("e"),
    step: step.id,
    register: step.register,
    op: step.op,
    rows,
    must: step.must ?? null,
    otherwise: step.otherwise ?? "stop",
  };
  turn.raise({ type: "write asked", token, effect }, null);
  turn.effects.push(effect);
  return true;
}

function writeNames(turn: Turn, step: StepOf<"write">): Names[] {
  const names = turn.names();
  if (!step.each) return [names];
  const lines = flatFields(turn.release.definition.fields).find(
    (f) => f.kind === "lines" && f.name === step.each,
  );
  const rows = lines ? names.get(lines.name) : null;
  return (Array.isArray(rows) ? (rows as Value[]) : []).map((row) => ({
    get: (n) => (isContext(row) && row.has(n) ? row.get(n) : names.get(n)),
  }));
}

function recordId(v: Value): string | null {
  if (typeof v === "string") return v;
  const id = isContext(v) ? v.get("id") : null;
  return typeof id === "string" ? id : null;
}
