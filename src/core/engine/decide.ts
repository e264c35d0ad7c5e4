import { evaluateForm, mergeEdits } from "../form";
import type { StepOf } from "../process";
import { peopleOf, withCover } from "./assign";
import type { Command, Refusal } from "./commands";
import type { Effect } from "./effects";
import type { RequestEvent } from "./events";
import type { EngineFacts } from "./facts";
import { limitOf } from "./ladder";
import { START, type CompiledRelease } from "./release";
import { isEnded, isOpen, NEW_REQUEST, type RequestState, type Task } from "./state";
import { Turn } from "./turn";
import { outcomeOf } from "./vote";
import { askForChanges, closeAll, closeVisit, enter, newTask, proceed, stuck, tell } from "./walk";

export type Decision =
  | { ok: true; state: RequestState; events: RequestEvent[]; effects: Effect[] }
  | { ok: false; refusal: Refusal };

/**
 * One request's whole behaviour: a command against the present state gives events and effects, or a
 * refusal. Pure and total; the clock, the office and all records come in through `facts`.
 */
export function decide(
  release: CompiledRelease,
  state: RequestState,
  command: Command,
  facts: EngineFacts,
): Decision {
  const turn = new Turn(release, state, facts, "actor" in command ? command.actor : null);
  const refusal = carryOut(turn, command);
  if (refusal) return { ok: false, refusal };
  return {
    ok: true,
    state: turn.state,
    events: turn.events,
    effects: [...turn.effects, ...projections(state, turn.state)],
  };
}

/** Tasks and timers that came, changed or went: data for whoever keeps lists of them. */
function projections(before: RequestState, after: RequestState): Effect[] {
  const out: Effect[] = [];
  for (const [id, task] of Object.entries(after.tasks))
    if (before.tasks[id] !== task) out.push({ kind: "task", task });
  for (const [id, timer] of Object.entries(after.timers))
    if (!before.timers[id]) out.push({ kind: "set timer", timer });
  for (const id of Object.keys(before.timers))
    if (!after.timers[id]) out.push({ kind: "clear timer", timer: id });
  return out;
}

function carryOut(turn: Turn, c: Command): Refusal | null {
  const s = turn.state;
  if (c.type === "start") return start(turn, c);
  if (isEnded(s) && c.type !== "time reached" && c.type !== "effect done" && c.type !== "effect failed") {
    if ("task" in c && s.tasks[c.task]) return taskOver(s.tasks[c.task]!);
    return { code: "ended", data: { status: s.status } };
  }
  switch (c.type) {
    case "answer":
      return answer(turn, c);
    case "take": {
      const t = openTask(turn, c.task, c.actor);
      if ("code" in t) return t;
      if (t.holder === c.actor) return null;
      if (t.candidates.length < 2) return { code: "not-shared", data: { task: t.id } };
      turn.raise({ type: "task taken", task: t.id });
      return null;
    }
    case "put back": {
      const t = openTask(turn, c.task, c.actor);
      if ("code" in t) return t;
      if (t.candidates.length < 2 || t.status !== "taken")
        return { code: "not-shared", data: { task: t.id } };
      turn.raise({ type: "task put back", task: t.id });
      return null;
    }
    case "hand over": {
      const t = openTask(turn, c.task, c.actor);
      if ("code" in t) return t;
      if (c.to === t.holder || !turn.facts.isActive(c.to))
        return { code: "same-person", data: { person: c.to } };
      const step = turn.release.places.get(t.step)?.step;
      const allowed =
        t.purpose === "changes" ||
        ((step?.kind === "decide" || step?.kind === "complete") && step.who.requesterToo);
      const to = withCover(turn, [c.to]);
      if (!allowed && to.some((x) => x.person === s.requester))
        return { code: "own-request", data: { person: s.requester } };
      turn.raise({ type: "task handed over", task: t.id, to, note: c.note });
      return null;
    }
    case "withdraw":
      if (c.actor !== s.requester) return { code: "not-requester", data: { requester: s.requester } };
      closeAll(turn);
      turn.raise({ type: "request withdrawn", note: c.note });
      return null;
    case "cancel":
      closeAll(turn);
      turn.raise({ type: "request cancelled", note: c.note });
      return null;
    case "time reached":
      timeReached(turn, c.timer);
      return null;
    case "effect done":
      return effectDone(turn, c);
    case "effect failed": {
      const p = s.pending[c.effect];
      if (!p) return null;
      turn.raise({ type: "write failed", effect: c.effect, step: p.step, reason: c.reason });
      stuck(turn, p.token, p.step, c.reason);
      return null;
    }
    case "retry":
    case "skip": {
      const at = s.stuck.find((x) => x.token === c.token);
      if (!at) return { code: "not-stuck", data: { token: c.token } };
      turn.raise({
        type: "got unstuck",
        token: c.token,
        step: at.step,
        how: c.type === "retry" ? "retried" : "skipped",
      });
      const step = turn.release.places.get(at.step)?.step;
      if (c.type === "retry" && step) enter(turn, c.token, step);
      else proceed(turn, c.token, at.step);
      return null;
    }
  }
}

function start(turn: Turn, c: Extract<Command, { type: "start" }>): Refusal | null {
  if (turn.state.status !== "new") return { code: "already-started", data: { number: turn.state.number } };
  const { release, facts } = turn;
  const access = release.access(START);
  const data = mergeEdits(release.definition.fields, {}, c.data, access);
  turn.state = { ...turn.state, requester: c.requester, number: c.number, startedAt: facts.at };
  const result = evaluateForm(release.form, data, access, facts, turn.extraNames());
  turn.state = NEW_REQUEST;
  if (result.problems.length > 0) return { code: "form", data: { problems: result.problems } };
  turn.raise({ type: "request started", requester: c.requester, number: c.number, data: result.data });
  const first = release.definition.route[0];
  const token = turn.newId("k");
  turn.raise({ type: "token placed", token, step: first?.id ?? START, parent: null, branch: null }, null);
  if (first) enter(turn, token, first);
  else turn.raise({ type: "request finished", step: START, result: "Done", tone: "plain" }, null);
  return null;
}

const taskOver = (t: Task): Refusal => ({
  code: "already-answered",
  data: { by: t.by ?? null, answer: t.answer ?? null, at: t.endedAt ?? null },
});

/** The task, when it is open and this person may answer it. */
function openTask(turn: Turn, id: string, actor: string): Task | Refusal {
  const t = turn.state.tasks[id];
  if (!t) return { code: "unknown-task", data: { task: id } };
  if (!isOpen(t)) {
    // Answered by a colleague of the same visit: name them, not the closing.
    const other = Object.values(turn.state.tasks).find((x) => x.visit === t.visit && x.status === "answered");
    return taskOver(t.status === "closed" && other ? other : t);
  }
  if (!t.candidates.some((x) => x.person === actor)) return { code: "not-yours", data: { task: id } };
  if (t.holder !== null && t.holder !== actor) return { code: "taken-by-other", data: { by: t.holder } };
  return t;
}

function answer(turn: Turn, c: Extract<Command, { type: "answer" }>): Refusal | null {
  const t = openTask(turn, c.task, c.actor);
  if ("code" in t) return t;
  const step = turn.release.places.get(t.step)?.step;
  const choices = answersOf(turn, t);
  const chosen = choices.find((a) => a.id === c.answer);
  if (!step || !chosen)
    return { code: "unknown-answer", data: { answer: c.answer, answers: choices.map((a) => a.id) } };
  if (chosen.note === "must" && c.note.trim() === "")
    return { code: "note-needed", data: { answer: chosen.label } };

  const access = turn.release.access(t.purpose === "changes" ? START : t.step);
  const { definition, form } = turn.release;
  const data = mergeEdits(definition.fields, turn.state.data, c.data, access);
  const result = evaluateForm(form, data, access, turn.facts, turn.extraNames());
  // Someone who refuses or sends back must not be held up by fields that only matter to going on.
  const lenient = chosen.tone === "refuse" || chosen.returns;
  if (!lenient && result.problems.length > 0) return { code: "form", data: { problems: result.problems } };
  if (!lenient) {
    const changed = changedValues(turn.state.data, result.data);
    if (changed) turn.raise({ type: "data changed", data: changed, task: t.id });
  }
  const as = t.candidates.find((x) => x.person === c.actor)?.for;
  turn.raise({
    type: "answer given",
    task: t.id,
    answer: chosen.id,
    label: chosen.label,
    note: c.note.trim(),
    ...(as ? { for: as } : {}),
  });
  settle(turn, t.visit, c.note.trim());
  return null;
}

/** The answers open to whoever has a task. */
export function answersOf(
  turn: Pick<Turn, "release">,
  t: Pick<Task, "purpose" | "step">,
): { id: string; label: string; tone: "agree" | "refuse" | "plain"; note?: "must"; returns?: true }[] {
  if (t.purpose === "changes") return [{ id: "sent", label: "Send again", tone: "agree" }];
  const step = turn.release.places.get(t.step)?.step;
  if (step?.kind === "complete") return [{ id: "done", label: step.button, tone: "agree" }];
  return step?.kind === "decide" ? step.answers : [];
}

/** Goes on when the answers given so far settle the visit. */
function settle(turn: Turn, visitId: string, note: string) {
  const visit = turn.state.visits[visitId];
  const step = visit ? turn.release.places.get(visit.step)?.step : undefined;
  if (!visit || !step) return;
  const tasks = Object.values(turn.state.tasks);
  if (visit.purpose === "changes") {
    turn.raise({ type: "changes sent", visit: visit.id, step: step.id });
    enter(turn, visit.token, step);
    return;
  }
  const choices = answersOf(turn, { purpose: visit.purpose, step: visit.step });
  const how = step.kind === "decide" || step.kind === "complete" ? step.who.how : "one";
  // Sending back is not a vote: one person who needs changes is enough.
  const returned = tasks.some(
    (t) => t.visit === visit.id && t.status === "answered" && choices.find((a) => a.id === t.answer)?.returns,
  );
  const outcome = returned
    ? choices.find((a) => a.returns)!.id
    : outcomeOf(
        visit,
        how,
        choices.map((a) => a.id),
        tasks,
      );
  const chosen = choices.find((a) => a.id === outcome);
  if (!chosen) return;
  if (chosen.returns) {
    closeVisit(turn, visit.id, "returned");
    turn.raise({ type: "returned for changes", visit: visit.id, step: step.id, note });
    askForChanges(turn, visit.token, step);
    return;
  }
  closeVisit(turn, visit.id, "decided");
  turn.raise({
    type: "step decided",
    visit: visit.id,
    step: step.id,
    answer: chosen.id,
    label: chosen.label,
    note,
    given: tasks.filter((t) => t.visit === visit.id && t.status === "answered").length,
  });
  const way = step.kind === "decide" ? step.answers.find((a) => a.id === chosen.id)?.steps[0] : undefined;
  if (way) enter(turn, visit.token, way);
  else proceed(turn, visit.token, step.id);
}

function changedValues(
  before: RequestState["data"],
  after: RequestState["data"],
): RequestState["data"] | null {
  const out = Object.fromEntries(
    Object.entries(after).filter(([k, v]) => JSON.stringify(before[k] ?? null) !== JSON.stringify(v)),
  );
  return Object.keys(out).length > 0 ? out : null;
}

function timeReached(turn: Turn, id: string) {
  const timer = turn.state.timers[id];
  const visit = timer ? turn.state.visits[timer.visit] : undefined;
  const step = visit ? turn.release.places.get(visit.step)?.step : undefined;
  const rung = step ? limitOf(step)?.rungs.find((r) => r.id === timer?.rung) : undefined;
  // Cleared, or fired already by another worker: a timer means nothing once it is gone from the state.
  if (!timer || !visit || !step || !rung) return;
  const open = Object.values(turn.state.tasks).filter((t) => t.visit === visit.id && isOpen(t));
  const fired = (did: string, found = true) =>
    turn.raise({
      type: "rung fired",
      timer: timer.id,
      visit: visit.id,
      step: step.id,
      rung: rung.id,
      did,
      found,
    });
  const a = rung.action;
  const place = `rung ${rung.id}`;
  switch (a.do) {
    case "remind": {
      const people = [
        ...new Set(open.flatMap((t) => (t.holder ? [t.holder] : t.candidates.map((c) => c.person)))),
      ];
      fired("remind");
      tell(
        turn,
        step.id,
        people,
        `Reminder: ${step.name} for ${turn.state.number}`,
        `${turn.state.number} is waiting for your answer.`,
      );
      return;
    }
    case "tell": {
      const people = peopleOf(turn, step.id, place, a.who, open[0]?.holder);
      fired("tell", people.length > 0);
      tell(
        turn,
        step.id,
        people,
        `${step.name} for ${turn.state.number} is waiting`,
        turn.text(step.id, `${place} text`, a.text),
      );
      return;
    }
    case "add": {
      const asked = new Set(open.flatMap((t) => t.candidates.map((c) => c.person)));
      const fresh = withCover(turn, peopleOf(turn, step.id, place, a.who, open[0]?.holder)).filter(
        (c) => !asked.has(c.person) && mayAnswer(turn, step, c.person),
      );
      fired("add", fresh.length > 0);
      for (const c of fresh)
        turn.raise({
          type: "decider added",
          task: newTask(turn, visit.id, step.id, visit.token, visit.purpose, [c], visit.due),
          rung: rung.id,
        });
      return;
    }
    case "hand over": {
      const moves = open.map((t) => ({
        t,
        to: withCover(turn, peopleOf(turn, step.id, place, a.to, t.holder ?? t.candidates[0]?.person)).filter(
          (c) => c.person !== t.holder && mayAnswer(turn, step, c.person),
        ),
      }));
      fired(
        "hand over",
        moves.some((m) => m.to.length > 0),
      );
      for (const { t, to } of moves)
        if (to.length > 0) turn.raise({ type: "task handed over", task: t.id, to, note: "", rung: rung.id });
      return;
    }
    case "answer": {
      fired("answer");
      const chosen = answersOf(turn, { purpose: visit.purpose, step: step.id }).find(
        (x) => x.id === a.answer,
      );
      const first = open[0];
      if (!chosen || !first) return;
      turn.raise({
        type: "answer given",
        task: first.id,
        answer: chosen.id,
        label: chosen.label,
        note: a.note,
        automatic: true,
      });
      // On everybody's behalf: what others might still have said no longer matters.
      closeVisit(turn, visit.id, "decided");
      if (chosen.returns) {
        turn.raise({ type: "returned for changes", visit: visit.id, step: step.id, note: a.note });
        askForChanges(turn, visit.token, step);
        return;
      }
      turn.raise({
        type: "step decided",
        visit: visit.id,
        step: step.id,
        answer: chosen.id,
        label: chosen.label,
        note: a.note,
        given: 1,
      });
      const way =
        step.kind === "decide"
          ? (step as StepOf<"decide">).answers.find((x) => x.id === chosen.id)?.steps[0]
          : undefined;
      if (way) enter(turn, visit.token, way);
      else proceed(turn, visit.token, step.id);
      return;
    }
  }
}

const mayAnswer = (turn: Turn, step: { kind: string }, person: string): boolean =>
  person !== turn.state.requester || Boolean((step as StepOf<"decide">).who.requesterToo);

function effectDone(turn: Turn, c: Extract<Command, { type: "effect done" }>): Refusal | null {
  if (c.people) {
    turn.raise({ type: "told", effect: c.effect, people: c.people });
    return null;
  }
  const p = turn.state.pending[c.effect];
  if (!p) return null;
  turn.raise({ type: "written", effect: c.effect, step: p.step, records: c.records ?? [] });
  const step = turn.release.places.get(p.step)?.step;
  const made = c.records?.find((r) => r.did === "added");
  if (step?.kind === "write" && step.into && made)
    turn.raise({ type: "values set", step: p.step, data: { [step.into]: made.id } });
  proceed(turn, p.token, p.step);
  return null;
}
