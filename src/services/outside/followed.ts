import {
  hearerOf,
  mergeEdits,
  type FormData,
  type Passed,
  type FormAnswer,
  type FormQuestion,
} from "@/core/form";
import { formOf as placeOf, outsideId, SAID } from "@/core/engine";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { fail, Failed, type Outcome } from "../kernel/failure";
import { sentPage, type SentPage } from "../ask/sentPage";
import type { Spooled } from "../files/contents/spool";
import { openFile, readSmall, type OpenedFile } from "../files/files";
import { answerOnPage } from "../mail/answerOnPage";
import type { MailShown } from "../mail/conversation";
import { askAtTask } from "../requests/askAtTask";
import type { FormPage } from "../requests/formPage";
import { loadRequest } from "../requests/loadRequest";
import { nameIn } from "../requests/nameIn";
import { openFor } from "../requests/openFor";
import { act } from "../requests/requests";
import { formOf, readerOf, viewOf, type RequestView } from "../requests/requestView";
import { saveTaskDraft, taskAt, taskView, type TaskView } from "../requests/taskView";
import { addOpenFile } from "./openFile";
import { linkedBy } from "./linkedBy";
import { followerBy } from "./trackingLink";
import { accessFor, openOf } from "./visitor";

type LetterShown = Pick<
  MailShown,
  "id" | "direction" | "from" | "subject" | "text" | "parts" | "files" | "at" | "mayAnswer"
>;

/** What somebody outside sees of their request: nothing of how it is dealt with but what its owner lets them. */
export interface Followed {
  number: string;
  process: string;
  letterhead: string;
  startedAt: number;
  endedAt: number | null;
  status: RequestView["status"];
  result: RequestView["result"];
  stages: RequestView["stages"];
  /** What they sent, as it is now; null where it is not read again, or is to be changed just now. */
  form: FormPage | null;
  /** What they are asked to change. */
  changes:
    | (Pick<TaskView, "form" | "seen" | "draftId" | "draftAt"> & {
        task: string;
        by: string | null;
        note: string;
      })
    | null;
  /** What they are asked beside, oldest first. */
  questions: { task: string; text: string; by: string | null; at: number }[];
  letters: LetterShown[];
  mayWithdraw: boolean;
  /** Whether they hear of it by letters. */
  hears: boolean;
  zone: string;
  /** What is read once it is sent, and where they may go on. */
  sent: Pick<SentPage, "says" | "leads">;
}

/** A request as whoever asked for it from outside sees it. */
export const followedView = defineUseCase(
  ["see request", "watch", "write letter"],
  async (c, number: string): Promise<Followed> => {
    const loaded = await loadRequest(c, { number }, true);
    const { row, release } = loaded;
    const open = openOf(release.definition.starts)?.open;
    const reader = readerOf(loaded);
    const view = await viewOf(c, loaded, reader, 0);
    const mine = openFor(row.state, c.actor.id);
    const toChange = mine.find(({ t }) => t.purpose === "changes");
    const changes = toChange
      ? await changesOf(c, number, outsideId(toChange.level, toChange.t.id), open?.staff === true)
      : null;
    const name = nameIn(loaded.d, row.state);
    const questions = mine.flatMap(({ level, t: { id, question, openedAt } }) =>
      question
        ? [
            {
              task: outsideId(level, id),
              text: question.text,
              by: open?.staff ? name(question.by) : null,
              at: openedAt,
            },
          ]
        : [],
    );
    const sent = await sentPage(c.actor, number);
    const letterhead = open?.letterhead ?? release.definition.name;
    return {
      number,
      process: release.definition.name,
      letterhead,
      startedAt: view.startedAt,
      endedAt: view.endedAt,
      status: view.status,
      result: view.result,
      stages: view.stages,
      form: open?.values && changes === null ? await formOf(c, loaded, reader) : null,
      changes,
      questions,
      letters: view.letters.map((l) => letterShown(l, open?.staff ? null : letterhead)),
      mayWithdraw: view.mayWithdraw,
      hears: hearerOf(row.state.requester) !== null,
      zone: c.actor.zone,
      sent: sent.ok ? { says: sent.value.says, leads: sent.value.leads } : { says: "", leads: null },
    };
  },
);

/** @param ours who is said to have written what came from here; null for whoever did */
function letterShown(l: MailShown, ours: string | null): LetterShown {
  const { id, direction, from, subject, text, parts, files, at, mayAnswer } = l;
  const by = direction === "out" && ours !== null ? ours : from;
  return { id, direction, from: by, subject, text, parts, files, at, mayAnswer };
}

async function changesOf(
  c: Call,
  number: string,
  task: string,
  staff: boolean,
): Promise<Followed["changes"]> {
  const view = await taskView(c.actor, number, task);
  if (!view.ok) throw new Failed(view.failure);
  const { form, seen, draftId, draftAt, wants } = view.value;
  return {
    task,
    form,
    seen,
    draftId,
    draftAt,
    by: staff ? (wants?.by ?? null) : null,
    note: wants?.note ?? "",
  };
}

const gone = (why: string) => fail({ code: "invalid", data: { path: "", message: why } });

/** What stands at a link by which somebody follows their request, or why it leads nowhere. */
export async function followed(
  token: string,
): Promise<({ is: "open" } & Followed) | { is: "gone"; why: string }> {
  const by = await followerBy(token);
  if ("gone" in by) return { is: "gone", why: by.gone };
  const seen = await followedView(by.actor, by.number);
  return seen.ok
    ? { is: "open", ...seen.value }
    : { is: "gone", why: "What this link leads to is not there any more." };
}

/**
 * What is sent as far as it is theirs to fill in, in rows as well: what is not open to them stays there as it is, whatever
 * the form says of people here, and is not lost by not having been sent.
 */
export const theirsToFill = defineUseCase(
  ["see request"],
  async (c, number: string, id: string, data: FormData): Promise<FormData> => {
    const { task, state, release } = taskAt(await loadRequest(c, { number }), id);
    const access = accessFor(c.actor, release, placeOf(task));
    const merged = mergeEdits(release.definition.fields, state.data, data, access);
    return Object.fromEntries(
      Object.entries(merged).filter(([field]) => field in data && access(field) === "edit"),
    );
  },
);

/** What whoever follows a request sends anew, once they were asked to change it. */
export interface Changed {
  task: string;
  data: FormData;
  seen: number;
  passed: Passed;
}
export async function sendChanged(token: string, s: Changed): Promise<Outcome<{ number: string }>> {
  const by = await followerBy(token);
  if ("gone" in by) return gone(by.gone);
  const theirs = await theirsToFill(by.actor, by.number, s.task, s.data);
  if (!theirs.ok) return theirs;
  const done = await act(by.actor, by.number, {
    type: "answer",
    task: s.task,
    answer: "sent",
    note: "",
    data: theirs.value,
    seen: s.seen,
    passed: s.passed,
  });
  return done.ok ? { ok: true, value: { number: by.number } } : done;
}

/** What whoever follows a request says to what they were asked. */
export async function sayFollowed(
  token: string,
  task: string,
  said: string,
): Promise<Outcome<{ number: string }>> {
  const by = await followerBy(token);
  if ("gone" in by) return gone(by.gone);
  const deed = { type: "answer", task, answer: SAID.id, note: said, data: {} } as const;
  const done = await act(by.actor, by.number, deed);
  return done.ok ? { ok: true, value: { number: by.number } } : done;
}

/** What the form of their changes asks while they fill it in. */
export async function askFollowed(
  token: string,
  task: string,
  typed: FormData,
  q: FormQuestion,
): Promise<Outcome<FormAnswer>> {
  const by = await linkedBy(token);
  return "gone" in by ? gone(by.gone) : askAtTask(by.actor, by.number, task, typed, q);
}

/** Keeps what somebody has typed of their changes and not sent. */
export async function keepChanged(
  token: string,
  task: string,
  draftId: string,
  data: FormData,
  base: FormData,
  note = "",
): Promise<Outcome<{ savedAt: number }>> {
  const by = await linkedBy(token);
  return "gone" in by ? gone(by.gone) : saveTaskDraft(by.actor, by.number, task, draftId, data, base, note);
}

export async function withdrawFollowed(token: string, note: string): Promise<Outcome<{ number: string }>> {
  const by = await followerBy(token);
  if ("gone" in by) return gone(by.gone);
  const done = await act(by.actor, by.number, { type: "withdraw", note });
  return done.ok ? { ok: true, value: { number: by.number } } : done;
}

/** Answers a letter; see `answerOnPage`. */
export async function writeFollowed(
  token: string,
  letter: string,
  key: string,
  text: string,
): Promise<Outcome<{ number: string }>> {
  const by = await followerBy(token);
  return "gone" in by ? gone(by.gone) : answerOnPage(by.actor, letter, key, text);
}

/** A file of theirs, or of a letter to them. */
export async function followedFile(token: string, file: string): Promise<Outcome<OpenedFile>> {
  const by = await linkedBy(token);
  return "gone" in by ? gone(by.gone) : openFile(by.actor, file);
}
/** A picture of theirs, or of a letter to them, as a small one. */
export async function followedSmall(
  token: string,
  file: string,
): Promise<Awaited<ReturnType<typeof readSmall>>> {
  const by = await linkedBy(token);
  return "gone" in by ? gone(by.gone) : readSmall(by.actor, file);
}

export async function addFollowedFile(
  token: string,
  name: string,
  contents: Spooled,
): Promise<Awaited<ReturnType<typeof addOpenFile>>> {
  const by = await linkedBy(token);
  return "gone" in by ? gone(by.gone) : addOpenFile(by.actor, { number: by.number }, name, contents);
}
