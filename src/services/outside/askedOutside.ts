import type { SeenAnew } from "@/core/engine";
import type { FileFacts, FormData, Passed } from "@/core/form";
import { answerLinks, getPool, inTransaction } from "@/db";
import { nowMs } from "../kernel/clock";
import { loadDirectory } from "../kernel/directory";
import { fail, type Failure, type Outcome } from "../kernel/failure";
import { act } from "../requests/requests";
import { taskView, type TaskView } from "../requests/taskView";
import { askedBy, OVER } from "./linkedBy";
import { theirsToFill } from "./followed";
import { openOf } from "./visitor";

/** What somebody outside is asked, with the form as the step shows it to people outside, and nothing around it. */
export interface AskedOutside {
  is: "open";
  number: string;
  process: string;
  letterhead: string;
  step: string;
  /** The round it is of, in words; empty for none. */
  about: string;
  /** How they are called, or their address. */
  name: string;
  /** What they were written. */
  text: string;
  due: number | null;
  zone: string;
  task: string;
  purpose: TaskView["task"]["purpose"];
  form: TaskView["form"];
  seen: number;
  note: string;
  draftId: string;
  draftAt: number | null;
  /** What is signed with it. */
  paper: FileFacts | null;
  answers: Pick<TaskView["answers"][number], "id" | "label" | "tone" | "note">[];
}

/** What stands at a link that asks somebody outside; null where it asks nobody outside. Looking at it does nothing. */
export async function askedOutside(
  token: string,
): Promise<AskedOutside | { is: "gone"; why: string } | null> {
  const by = await askedBy(token);
  if (by === null) return null;
  if ("gone" in by) return { is: "gone", why: by.gone };
  const seen = await taskView(by.actor, by.number, by.task, 0);
  if (!seen.ok) return { is: "gone", why: "What this link leads to is not there any more." };
  const { task, form, seen: seq, note, draftId, draftAt, paper, answers } = seen.value;
  const { asked } = by;
  // Whoever reads it knows the house by whom the letter came from.
  const box = (await loadDirectory(getPool())).office.mailboxes.find((b) => b.address === asked.mailbox);
  const { name, email } = asked.outsider ?? { name: "", email: "" };
  return {
    is: "open",
    number: by.number,
    process: asked.process,
    letterhead: openOf(asked.starts)?.open.letterhead ?? (box?.name || asked.process),
    step: task.step,
    about: task.about,
    name: name || email,
    text: asked.letter.text,
    due: task.due,
    zone: by.actor.zone,
    task: by.task,
    purpose: task.purpose,
    form,
    seen: seq,
    note,
    draftId,
    draftAt,
    paper,
    // What comes of an answer is how the office deals with it, and none of theirs.
    answers: answers.map(({ id, label, tone, note }) => ({ id, label, tone, note })),
  };
}

/** What somebody outside answers. */
export interface AnswerOutside {
  answer: string;
  note: string;
  data: FormData;
  seen: number;
  passed: Passed;
  saw: SeenAnew | null;
}

/** Answers as whom a link asks. Of what they send only what the step lets people outside fill in counts. */
export async function answerOutside(
  token: string,
  s: AnswerOutside,
): Promise<Outcome<{ number: string; label: string }>> {
  const by = await askedBy(token);
  if (by === null) return fail({ code: "invalid", data: { path: "", message: "This link is not known." } });
  if ("gone" in by) return fail({ code: "invalid", data: { path: "", message: by.gone } });
  const { actor, number, request, task, asked } = by;
  const theirs = await theirsToFill(actor, number, task, s.data);
  if (!theirs.ok) return theirs;
  const { answer, note, seen, passed, saw } = s;
  const done = await act({ ...actor, via: { kind: "link", id: by.message } }, number, {
    type: "answer",
    task,
    answer,
    note,
    data: theirs.value,
    seen,
    passed,
    ...(saw ? { anew: saw } : {}),
  });
  if (!done.ok) return withoutPeople(done.failure);
  await inTransaction(async (db) =>
    answerLinks.useAnswerLinks(db, request, task, actor.id, await nowMs(getPool())),
  );
  const label = asked.answers.find((a) => a.id === answer)?.label ?? answer;
  return { ok: true, value: { number, label } };
}

/** Refusals that name somebody here. */
const OF_OTHERS: ReadonlySet<string> = new Set(["already-answered", "taken-by-other", "not-yours", "ended"]);

/** Who here has answered meanwhile, or has it now, is told to nobody outside. */
const withoutPeople = (failure: Failure): Outcome<never> =>
  fail(
    failure.code === "refused" && OF_OTHERS.has(failure.data.code)
      ? { code: "invalid", data: { path: "", message: OVER } }
      : failure,
  );
