import { colleagueOf, followerOf, hearerOf, isOutside } from "../form";
import type { AnswerChoice } from "../route";
import { withCover } from "./assign";
import { isOwn } from "./bar";
import type { Command, Refusal } from "./commands";
import { limitGoesOn, stopLimit } from "./limitStill";
import { isOpen, isQuestion, type Task } from "./state";
import { openTask } from "./tasks";
import type { Turn } from "./turn";
import { newTask } from "./visit";

/** Questions that may be open beside one task. */
export const MOST_QUESTIONS = 20;

/** The one answer to a question: its note is what is said. */
export const SAID: AnswerChoice = { id: "said", label: "Answer", tone: "plain", note: "must" };

/**
 * Asks somebody something beside a task, which stays where it is: whoever asked for the request (`to` null), who sees the
 * form as they sent it, or a colleague, who sees what the step shows. Neither decides anything by their answer. Whoever is
 * away has it answered by their cover.
 */
export function ask(turn: Turn, c: Extract<Command, { type: "ask" }>): Refusal | null {
  const t = openTask(turn, c.task, c.actor);
  if ("code" in t) return t;
  if (isQuestion(t)) return { code: "only-answers", data: { task: t.id } };
  const note = c.note.trim();
  if (note === "") return { code: "note-needed", data: { answer: "Ask" } };
  const { requester } = turn.state;
  // Somebody outside can be asked where they are written to, and answer by the link by which they follow it.
  const follower = hearerOf(requester) && followerOf(requester);
  const to = c.to ?? colleagueOf(requester) ?? follower;
  if (to === null) return { code: "asker-outside", data: { requester } };
  const there = to === follower || (turn.facts.isActive(to) && !isOutside(to));
  if (to === c.actor || !there) return { code: "cannot-ask", data: { person: to } };
  const open = Object.values(turn.state.tasks).filter((x) => isOpen(x) && x.question?.of === t.id);
  if (open.length >= MOST_QUESTIONS) return { code: "too-many-questions", data: { limit: MOST_QUESTIONS } };
  const people = withCover(turn, [to]);
  if (people.some((p) => p.person === c.actor)) return { code: "cannot-ask", data: { person: c.actor } };
  // Whoever covers for a colleague may be the one who asked for it: they see no more of it by that.
  const asker = isOwn(turn, to) || people.some((p) => isOwn(turn, p.person));
  const purpose = asker ? ("question" as const) : ("advice" as const);
  const of = { visit: turn.newId("v"), step: t.step, token: t.token, purpose, due: null };
  const task: Task = {
    // The visit is the one before it.
    ...newTask(turn, of, people, 1),
    question: { of: t.id, visit: t.visit, by: c.actor, text: "" },
  };
  const scope = t.scope === undefined ? {} : { scope: t.scope };
  const visit = { id: of.visit, step: t.step, token: t.token, purpose, ...scope };
  turn.raise({
    type: "question asked",
    visit: { ...visit, due: null, openedAt: turn.facts.at, needed: 1, asked: 1 },
    task,
    note,
  });
  stopLimit(turn, t.visit);
  return null;
}

export function answerQuestion(
  turn: Turn,
  t: Task,
  chosen: AnswerChoice,
  c: Extract<Command, { type: "answer" }>,
): null {
  const as = t.candidates.find((x) => x.person === c.actor)?.for;
  turn.raise({
    type: "answer given",
    task: t.id,
    answer: chosen.id,
    label: chosen.label,
    note: c.note.trim(),
    ...(as ? { for: as } : {}),
  });
  endQuestion(turn, t);
  return null;
}

/** A question that nobody is there to answer is not waited for. */
export function giveUpQuestion(turn: Turn, t: Task): void {
  turn.raise({ type: "task closed", task: t.id, reason: "left" }, null);
  endQuestion(turn, t);
}

function endQuestion(turn: Turn, t: Task): void {
  turn.raise({ type: "question ended", visit: t.visit, step: t.step }, null);
  if (t.question) limitGoesOn(turn, t.question.visit);
}

/**
 * Ends the questions of tasks that are over: whatever ended those, nobody waits for the answer. Looked for once after
 * each command, so that no way of ending a task can forget it.
 */
export function endQuestions(turn: Turn): void {
  if (!Object.values(turn.state.visits).some(isQuestion)) return;
  for (const t of Object.values(turn.state.tasks)) {
    const of = t.question && turn.state.tasks[t.question.of];
    if (!isOpen(t) || !of || isOpen(of)) continue;
    turn.raise({ type: "task closed", task: t.id, reason: "decided" }, null);
    endQuestion(turn, t);
  }
}
