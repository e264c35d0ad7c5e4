import { createHash, randomBytes } from "node:crypto";
import type { SeenAnew } from "@/core/engine";
import { answerLinks, getPool, messages, type Db } from "@/db";
import { actorOf, type Actor } from "../kernel/actor";
import { nowMs } from "../kernel/clock";
import { loadDirectory, personName } from "../kernel/directory";
import { Failed, outcome, type Failure, type Outcome } from "../kernel/failure";
import { act } from "../requests/requests";
import { askedAt, type Asked } from "./asked";

const TOKEN = /^[\w-]{43}$/;
/** What a link is to; null where it is none of ours. */
export const answerLinkBy = (db: Db, token: string): Promise<answerLinks.AnswerLinkRow | null> =>
  TOKEN.test(token) ? answerLinks.answerLinkOf(db, digest(token)) : Promise.resolve(null);
const digest = (token: string): Buffer => createHash("sha256").update(token).digest();

/** A new link to a task of somebody's; only what is made of it is kept. @returns what stands in the address */
export async function makeAnswerLink(
  db: Db,
  of: { message: string; request: string; task: string; person: string },
): Promise<string> {
  const token = randomBytes(32).toString("base64url");
  await answerLinks.insertAnswerLink(db, { ...of, hash: digest(token), now: await nowMs(db) });
  return token;
}

/** What a link leads to, for whoever opens it. */
export type AnswerLink =
  | { is: "gone"; why: string }
  | { is: "sign in" }
  | { is: "somebody else's"; name: string }
  | {
      is: "open";
      number: string;
      title: string;
      process: string;
      step: string;
      about: string;
      due: number | null;
      zone: string;
      name: string;
      subject: string;
      text: string;
      answers: {
        id: string;
        label: string;
        tone: Asked["answers"][number]["tone"];
        note: boolean;
        then: string;
      }[];
    };

const GONE = "This link is not known. Perhaps it was cut off where the mail was shown; copy all of it.";

interface Found {
  link: answerLinks.AnswerLinkRow;
  asked: Asked;
  actor: Actor;
}
/** @returns what the link is to, or why it leads nowhere for this person */
async function follow(
  token: string,
  viewer: Actor | null,
): Promise<Found | Exclude<AnswerLink, { is: "open" }>> {
  const db = getPool();
  const link = await answerLinkBy(db, token);
  if (!link) return { is: "gone", why: GONE };
  // Of whoever does not work here the page is another; see `outside/askedOutside`.
  const actor = await actorOf(db, link.person_id, { kind: "link", id: link.message_id });
  const asked = await askedAt(db, link.request_id, link.task_id, link.person_id);
  if (!actor || !asked) return { is: "gone", why: "What this link asked for is not asked any more." };
  const { link: how } = asked.byMail;
  // Switched off meanwhile, or the task is of another kind of step by now.
  if (how === undefined)
    return { is: "gone", why: "Answers by a link have been switched off here. Sign in to answer." };
  if (how === "signed in" && viewer === null) return { is: "sign in" };
  if (how === "signed in" && viewer!.id !== link.person_id) {
    const d = await loadDirectory(db);
    return { is: "somebody else's", name: personName(d, link.person_id) };
  }
  if (asked.open) return { link, asked, actor };
  const over = asked.ended ? ` The request has ended.` : "";
  return {
    is: "gone",
    why: link.used_at
      ? `You have answered this already; a link works once.${over}`
      : `Nobody waits for your answer to “${asked.step}” of ${asked.number} any more: it is answered, or with somebody else.${over}`,
  };
}

/** What the page of a link shows. Opening it does nothing: programs that look through mail open links, too. */
export async function answerLink(token: string, viewer: Actor | null): Promise<AnswerLink> {
  const found = await follow(token, viewer);
  if ("is" in found) return found;
  const { asked, actor } = found;
  return {
    is: "open",
    number: asked.number,
    title: asked.title,
    process: asked.process,
    step: asked.step,
    about: asked.about,
    due: asked.due,
    zone: actor.zone,
    name: actor.name,
    subject: asked.letter.subject,
    text: asked.letter.text,
    answers: asked.answers.map(({ id, label, tone, note, then }) => ({
      id,
      label,
      tone,
      note: note === "must",
      then,
    })),
  };
}

/** Whoever has a mail sees what it says, and no values besides: those are seen on the page of the task. */
function withoutValues(f: Failure, { byMail, number }: Asked): Failure {
  if (f.code !== "refused" || f.data.code !== "read-anew" || byMail.link !== "free") return f;
  const message = `“${f.data.data.answer}” reads values anew that are others now. Sign in, look at them on the page of ${number}, and answer there.`;
  return { code: "invalid", data: { path: "", message } };
}

/** Answers the task of a link, as the person it was sent to, once somebody has pressed. */
export const answerByLink = (
  token: string,
  viewer: Actor | null,
  answer: string,
  note: string,
  saw?: SeenAnew,
): Promise<Outcome<{ number: string; label: string }>> =>
  outcome(async () => {
    const found = await follow(token, viewer);
    if ("is" in found) {
      const message = found.is === "gone" ? found.why : "Sign in as the one who was asked.";
      throw new Failed({ code: "invalid", data: { path: "", message } });
    }
    const { link, asked, actor } = found;
    const mail = await messages.messageById(getPool(), link.message_id, false);
    const done = await act(actor, asked.number, {
      type: "answer",
      task: link.task_id,
      answer,
      note,
      data: {},
      // The mail says what stood when it was written: where that is another now, nobody decides by it.
      seen: mail?.seq ?? asked.seq,
      ...(saw ? { anew: saw } : {}),
    });
    if (!done.ok) throw new Failed(withoutValues(done.failure, asked));
    await answerLinks.useAnswerLinks(
      getPool(),
      link.request_id,
      link.task_id,
      link.person_id,
      await nowMs(getPool()),
    );
    return { number: asked.number, label: asked.answers.find((a) => a.id === answer)?.label ?? answer };
  });
