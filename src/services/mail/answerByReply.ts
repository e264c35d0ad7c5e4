import { emailKey } from "@/core/form";
import { readReply, wordsOf } from "@/core/mail";
import { messages, type Client, type MessageRow } from "@/db";
import type { InMail } from "@/outside/mail";
import { actorOf, type Actor } from "../kernel/actor";
import type { Call } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { can } from "../kernel/policy";
import { sentenceOf } from "../kernel/sentence";
import { commandIn } from "../requests/requests";
import { askedAt, type Asked } from "./asked";
import { deskAddress } from "./ownAddress";

/** So many mails of Cobble Step's own are written back about one task to one person: two programs could go on for ever. */
const MOST_BACK = 5;

/**
 * Answers the task that a mail asked about, where the reply to it plainly says so and comes from whoever was asked; else
 * writes back what was understood. All of it is part of the transaction in which the reply is taken, so that it answers
 * once. A reply decides nothing unless the receiving server has vouched for its sender.
 * @param id of the reply as it is kept
 * @returns whether it was about a task, so that nobody else needs to be told of it
 */
export async function answerByReply(
  c: Call,
  db: Client,
  answered: MessageRow,
  id: string,
  mail: InMail,
  now: number,
): Promise<boolean> {
  const { request_id: request, task_id: task, person_id: person } = answered;
  if (request === null || task === null || person === null) return false;
  const asked = await askedAt(db, request, task, person);
  const d = await loadDirectory(db);
  const address = emailKey(d.people.get(person)?.email ?? "");
  const from = emailKey(mail.from?.email ?? "");
  // Somebody else's words on a task of theirs: kept, and read by those who have the request.
  if (!asked || from === "" || from !== address) return false;
  const back = (lines: readonly string[]) =>
    writeBack(db, { asked, task, person, seq: answered.seq, id, mail, now }, lines);
  if (!asked.open) {
    const over = asked.ended ? " The request has ended." : "";
    await back([`“${asked.step}” of ${asked.number} does not wait for your answer any more.${over}`, KEPT]);
    return true;
  }
  const elsewhere = `Answer it on your desk: ${deskAddress(asked.number, task)}`;
  if (!asked.byMail.reply) {
    await back([`“${asked.step}” of ${asked.number} is not answered by a reply.`, elsewhere, KEPT]);
    return true;
  }
  if (mail.vouched !== true) {
    await back([
      `Your mail server could not be shown to have sent this reply, so it decides nothing.`,
      elsewhere,
      KEPT,
    ]);
    return true;
  }
  const read = readReply(mail.said, asked.answers);
  if ("unclear" in read) {
    await back([UNCLEAR[read.unclear](read.said), ...wordsFor(asked), elsewhere]);
    return true;
  }
  const actor = await actorOf(db, person, { kind: "reply", id });
  if (!actor) return true;
  await db.query("savepoint answering");
  try {
    await commandIn(asActor(c, actor), db, request, {
      type: "answer",
      actor: person,
      task,
      answer: read.answer,
      note: read.note.slice(0, MOST_NOTE),
      data: {},
      ...(answered.seq === null ? {} : { seen: answered.seq }),
    });
  } catch (e) {
    if (!(e instanceof Failed)) throw e;
    await db.query("rollback to savepoint answering");
    const label = asked.answers.find((a) => a.id === read.answer)?.label ?? read.answer;
    await back([
      `Your answer was read as “${label}”, and could not be taken: ${await sentenceOf(e.failure)}`,
      elsewhere,
    ]);
  }
  return true;
}

const MOST_NOTE = 4000;
const KEPT = "What you wrote is kept with the request.";
const UNCLEAR: Record<"nothing" | "unknown" | "two", (said: string) => string> = {
  nothing: () => "Your reply says nothing that could be read, so nothing was decided.",
  unknown: (said) => `Your reply begins “${said}”, which is none of the answers, so nothing was decided.`,
  two: (said) => `Your reply begins “${said}”, and could mean more than one answer, so nothing was decided.`,
};
const wordsFor = (a: Asked): string[] => [
  "Reply once more with one of these alone on the first line; what you write below it becomes your note:",
  a.answers.map((x) => `  for “${x.label}”: ${wordsOf(x).join(", ")}`).join("\n"),
];

/** A call on somebody's behalf, as they could make it themselves. */
const asActor = (c: Call, actor: Actor): Call => ({
  ...c,
  actor,
  may: (deed) => can(actor, deed),
  must(deed, otherwise) {
    if (!can(actor, deed)) throw new Failed(otherwise);
  },
});

interface Back {
  asked: Asked;
  task: string;
  person: string;
  /** The last event that the mail which asked was written after. */
  seq: number | null;
  id: string;
  mail: InMail;
  now: number;
}
async function writeBack(db: Client, b: Back, lines: readonly string[]): Promise<void> {
  const effect = `back:${b.task}:${b.person}:`;
  if ((await messages.countOf(db, b.asked.request, effect)) >= MOST_BACK) return;
  const subject = b.mail.subject || b.asked.letter.subject;
  await messages.insertOutgoing(db, {
    request: b.asked.request,
    mailbox: b.asked.mailbox,
    effect: `${effect}${b.id}`,
    receivers: [{ person: b.person }],
    subject: /^re:/i.test(subject) ? subject : `Re: ${subject}`,
    body: lines.join("\n\n"),
    hidden: b.asked.letter.hidden,
    about: { task: b.task, person: b.person, seq: b.seq },
    at: b.now,
  });
}
