import {
  evaluateForm,
  labelOf,
  mergeEdits,
  notOffered,
  notPassed,
  walkFields,
  type AccessOf,
  type Field,
  type FormData,
  type FormProblem,
} from "../form";
import { stepKind } from "../kinds";
import { type AnswerChoice, type Step } from "../route";
import { changedPaths } from "./changedPaths";
import type { Command, Refusal } from "./commands";
import { notSigned } from "./paperToSign";
import { raisePassed } from "./raisePassed";
import { raiseSigned } from "./raiseSigned";
import { readAnew, sawAll } from "./readAnew";
import { signaturesReused } from "./signaturesReused";
import type { CompiledRelease } from "./release";
import { isEnded, isQuestion, type RequestState, type Task } from "./state";
import { notYetAsked } from "./notYetAsked";
import { stepTurn } from "./stepTurn";
import { openTask } from "./tasks";
import type { Turn } from "./turn";
import { askNext } from "./askNext";
import { askForChanges, closeVisit } from "./visit";
import { backTo } from "./backTo";
import { answerQuestion, SAID } from "./questions";
import { formOf } from "./formOf";
import { outcomeOf } from "./vote";
import { endLostRounds } from "./rounds";
import { enter, goOn, goThrough, stuck } from "./walk";

/** The answers open to whoever has a task. */
export const answersOf = (
  release: Pick<CompiledRelease, "places" | "kinds">,
  t: Pick<Task, "purpose" | "step">,
): AnswerChoice[] => choicesOf(release, t).filter((a) => !a.byLadder);

/** The same with those that only a ladder gives. */
export function choicesOf(
  release: Pick<CompiledRelease, "places" | "kinds">,
  t: Pick<Task, "purpose" | "step">,
): AnswerChoice[] {
  if (t.purpose === "changes") return [{ id: "sent", label: "Send again", tone: "agree" }];
  if (isQuestion(t)) return [SAID];
  const step = release.places.get(t.step)?.step;
  return step ? (stepKind(release.kinds, step).asks?.answers(step) ?? []) : [];
}

export function answer(turn: Turn, c: Extract<Command, { type: "answer" }>): Refusal | null {
  const t = openTask(turn, c.task, c.actor);
  if ("code" in t) return t;
  const choices = answersOf(turn.release, t);
  const chosen = choices.find((a) => a.id === c.answer);
  if (!turn.release.places.has(t.step) || !chosen)
    return { code: "unknown-answer", data: { answer: c.answer, answers: choices.map((a) => a.id) } };
  if (chosen.note === "must" && c.note.trim() === "")
    return { code: "note-needed", data: { answer: chosen.label } };

  if (t.question) return answerQuestion(turn, t, chosen, c);

  const formAt = formOf(t);
  const access = turn.release.access(formAt);
  const { definition, form } = turn.release;
  const fields = c.seen === undefined ? [] : changedSince(definition.fields, turn.state, c.seen, access);
  if (fields.length > 0) return { code: "changed-since", data: { fields, seq: turn.state.seq } };
  // After the end what is answered is told on the trail, and changes nothing any more.
  const over = isEnded(turn.state);
  const data = over ? turn.state.data : mergeEdits(definition.fields, turn.state.data, c.data, access);
  const typed = evaluateForm(form, data, access, turn.facts, turn.extraNames(), turn.state.data);
  const named = over ? [] : (chosen.anew ?? []);
  const anew = named.length > 0 ? readAnew(turn, named, data, typed, access) : null;
  const result = anew?.form ?? typed;
  const unasked = over ? null : (notYetAsked(typed, turn.facts) ?? notYetAsked(result, turn.facts));
  if (unasked) return unasked;
  const { offers, paper } = turn.state.visits[t.visit] ?? {};
  const open = notPassed(result.problems, c.passed ?? {});
  const problems = [
    ...open,
    ...notOffered(definition.fields, offers, result.data, access, turn.release.kinds.fields),
    ...signaturesReused(turn.release, turn.state.data, result.data),
    ...notSigned(turn, paper, result.data).filter((p) => !open.some((x) => x.path === p.path)),
  ];
  // Someone who refuses or sends back must not be held up by fields that only matter to going on. What they filled in
  // is kept all the same, but for values that their field cannot hold.
  const lenient = over || chosen.tone === "refuse" || chosen.returns;
  // Mistakes in what they typed come first; then they see what is read anew, and only then what that makes wrong.
  if (!lenient && notPassed(typed.problems, c.passed ?? {}).length > 0 && problems.length > 0)
    return { code: "form", data: { problems } };
  if (anew && c.anew !== true && !sawAll(c.anew, anew))
    return {
      code: "read-anew",
      data: { answer: chosen.label, changes: anew.changes, stays: anew.stays },
    };
  if (!lenient && problems.length > 0) return { code: "form", data: { problems } };
  const unfit = new Set(
    problems.filter((p) => !ABOUT_GOING_ON.has(p.code)).map((p) => p.path.split("/")[0]!),
  );
  const { data: before } = turn.state;
  const kept = over ? null : changedValues(before, typed.data, unfit);
  if (kept) turn.raise({ type: "data changed", data: kept, task: t.id });
  const read = anew ? changedValues(turn.state.data, result.data, unfit) : null;
  if (read) turn.raise({ type: "data changed", data: read, task: t.id, anew: [...named] });
  const changed = kept !== null || read !== null;
  const as = t.candidates.find((x) => x.person === c.actor)?.for;
  if (!lenient) raisePassed(turn, result.problems, c.passed, t.id);
  if (changed)
    raiseSigned(turn, before, {
      access,
      form: definition.forms?.[formAt],
      shown: result.shown,
      paper: paper && {
        field: paper.field,
        is: { file: paper.file, step: t.step, scope: t.scope ?? null, ...(as ? { for: as } : {}) },
      },
      task: t.id,
    });
  const note = c.note.trim();
  const given = {
    task: t.id,
    answer: chosen.id,
    label: chosen.label,
    note,
    ...(as ? { for: as } : {}),
  };
  const again = backTo(turn, t);
  if (again) {
    const { to, back } = again;
    turn.raise({ type: "answer proposed", ...given, to: [to], ...(back.length > 0 ? { back } : {}) });
  } else turn.raise({ type: "answer given", ...given });
  // Rows that were taken away take their rounds along, before anything goes on.
  if (changed) endLostRounds(turn, before);
  if (!again) settle(turn, t.visit, note);
  goThrough(turn);
  return null;
}

/** Fields and columns this person may see whose values changed after the event they saw last. */
function changedSince(
  fields: readonly Field[],
  state: RequestState,
  seen: number,
  access: AccessOf,
): string[] {
  const out: string[] = [];
  const since = (path: string) => (state.changedAt[path] ?? 0) > seen;
  walkFields(fields, (f, parents) => {
    if ([f, ...parents].some((x) => access(x.id) === "hide")) return;
    const table = parents.find((p) => p.kind === "lines");
    if (since(table ? `${table.id}/${f.id}` : f.id))
      out.push(table ? `${labelOf(table)}: ${labelOf(f)}` : labelOf(f));
  });
  return out;
}

/** Problems of a form as a whole, which say nothing against a value being kept. */
const ABOUT_GOING_ON = new Set<FormProblem["code"]>(["needed", "no-lines", "check", "unclear"]);

function changedValues(before: FormData, after: FormData, but: ReadonlySet<string>): FormData | null {
  const out = Object.fromEntries(
    // By value and not by text: the database keeps the columns of a row in an order of its own.
    Object.entries(after).filter(([k, v]) => !but.has(k) && changedPaths(before, { [k]: v }).length > 0),
  );
  return Object.keys(out).length > 0 ? out : null;
}

/** Goes on when the answers given so far settle the visit. */
export function settle(turn: Turn, visitId: string, note: string) {
  const visit = turn.state.visits[visitId];
  const step = visit ? turn.release.places.get(visit.step)?.step : undefined;
  if (!visit || !step) return;
  if (visit.purpose === "changes") {
    turn.raise({ type: "changes sent", visit: visit.id, step: step.id });
    enter(turn, visit.token, step);
    return;
  }
  const choices = answersOf(turn.release, { purpose: visit.purpose, step: visit.step });
  const who = stepKind(turn.release.kinds, step).asks?.who(step) ?? { how: "one" };
  const answered = Object.values(turn.state.tasks).filter(
    (t) => t.visit === visit.id && t.status === "answered",
  );
  // Sending back is not a vote: one person who needs changes is enough.
  const returned = choices.find((a) => a.returns && answered.some((t) => t.answer === a.id));
  const outcome = returned?.id ?? outcomeOf(visit, who, choices, Object.values(turn.state.tasks));
  const chosen = choices.find((a) => a.id === outcome);
  if (chosen) return conclude(turn, visit.id, step, chosen, note, answered.length);
  if (visit.rest && askNext(turn, visit, step)) settle(turn, visitId, note);
}

/** Closes a visit with an answer and goes the way that answer leads. */
export function conclude(
  turn: Turn,
  visitId: string,
  step: Step,
  chosen: AnswerChoice,
  note: string,
  given: number,
) {
  const visit = turn.state.visits[visitId]!;
  closeVisit(turn, visit.id, chosen.returns ? "returned" : "decided");
  if (chosen.returns) {
    turn.raise({ type: "returned for changes", visit: visit.id, step: step.id, note });
    const nobody = askForChanges(turn, visit.token, step);
    if (nobody) stuck(turn, visit.token, step.id, nobody);
    return;
  }
  const { id: answer, label } = chosen;
  turn.raise({ type: "step decided", visit: visit.id, step: step.id, answer, label, note, given });
  const { asks } = stepKind(turn.release.kinds, step);
  if (!asks) throw new Error(`a ${step.kind} step asks nobody`);
  const at = stepTurn(turn, turn.at(visit.token, step.id));
  goOn(turn, visit.token, step, asks.answered(step, answer, at));
}
