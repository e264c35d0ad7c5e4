import { createHash, randomBytes } from "node:crypto";
import { emailKey } from "@/core/form";
import {
  at,
  files,
  getPool,
  inTransaction,
  mailboxes,
  messages,
  requests,
  whyUnavailable,
  type Client,
  type MessageRow,
} from "@/db";
import { readMail, type Fetched, type InMail } from "@/outside/mail";
import { nowMs } from "../kernel/clock";
import { defineView, type Call } from "../kernel/defineUseCase";
import { keepContent } from "../files/contents/keepContent";
import { spooled } from "../files/contents/spool";
import { MAX_FILE_BYTES, tidyFileName } from "../files/files";
import { answerByReply } from "./answerByReply";
import { tellMissed } from "./tellMissed";
import { tellOfReply, tellStep } from "./tellReply";

/** A mail that could not be read is kept all the same, so that somebody can see that it came. */
async function readOrSay(raw: Buffer, checksBy: string, own: ReadonlySet<string>): Promise<InMail> {
  try {
    return await readMail(raw, checksBy, own);
  } catch {
    return unreadable(raw);
  }
}
const unreadable = (raw: Buffer): InMail => ({
  messageId: null,
  inReplyTo: null,
  thread: [],
  from: null,
  to: [],
  copies: [],
  subject: "(a mail that cannot be read)",
  date: null,
  text: "",
  said: "",
  // As it came, so that nothing of it is lost.
  files: [{ name: "mail.eml", type: "message/rfc822", content: raw }],
  automatic: "report",
  bounces: [],
  vouched: null,
  fingerprint: createHash("sha256").update(raw).digest("hex"),
});

/**
 * Takes one mail out of a mailbox: puts it to the request whose thread it answers, has a request told that a mail of its
 * own came back, and keeps what belongs to none. All of that, and how far the mailbox is read, is one transaction: a mail
 * is taken once, whatever ends in between. One that was delivered twice is known by what it says.
 */
export const takeMail = defineView(
  ["run jobs"],
  async (c, address: string, fetched: Fetched): Promise<void> => {
    if (!c.may({ action: "run jobs" })) return;
    const box = await mailboxes.mailboxOf(getPool(), address);
    if (!box) return;
    const own = new Set((await mailboxes.mailboxNames(getPool())).map((m) => m.address));
    const mail = await readOrSay(fetched.raw, box.checks_by, own);
    try {
      await take(c, address, fetched, mail);
    } catch (e) {
      if (whyUnavailable(e)) throw e;
      // One mail that cannot be taken as it is must not keep all that come after it from being taken.
      await take(c, address, fetched, unreadable(fetched.raw));
    }
  },
);

async function take(c: Call, address: string, fetched: Fetched, mail: InMail): Promise<void> {
  await inTransaction(async (db) => {
    await mailboxes.noteMailboxRead(db, address, fetched.validity, fetched.uid);
    const bounced = await bouncedOf(db, address, mail);
    const named = bounced[0]?.message ?? (await messages.messageNamed(db, address, mail.thread));
    const answered = named ?? (await byNumber(db, address, mail));
    const now = await nowMs(db);
    const id = await messages.insertIncoming(db, {
      request: answered?.request_id ?? null,
      mailbox: address,
      fingerprint: mail.fingerprint,
      sender: mail.from,
      receivers: mail.to,
      copies: mail.copies,
      subject: mail.subject,
      body: fetched.cut ? "(This mail is larger than 30 MB: it was not taken.)" : withoutLinks(mail.text),
      said: fetched.cut ? "" : withoutLinks(mail.said),
      files: [],
      messageId: mail.messageId,
      inReplyTo: mail.inReplyTo,
      automatic: mail.automatic,
      vouched: mail.vouched,
      // What answers a letter repeats it: it is for no more eyes than that, and one who was asked may have handed it on.
      hidden: answered !== null && (answered.hidden || answered.person_id !== null),
      why: answered ? null : whyNone(mail),
      at: now,
    });
    // It came before.
    if (id === null) return;
    const kept = fetched.cut ? [] : await keepFiles(db, id, answered?.request_id ?? null, mail, at(now)!);
    for (const { message, email, why } of bounced) {
      if (!(await messages.noteReturned(db, message.id, email, why))) continue;
      await tellMissed(c, db, (await messages.messageById(db, message.id, true))!);
    }
    if (mail.automatic !== null) return;
    if (!answered?.request_id) return void (await messages.queueMailStart(db, id));
    const { number } = await requests.whoWaits(db, answered.request_id);
    const heard = named !== null && (await answerByReply(c, db, named, id, mail, now));
    const reply = {
      id,
      from: mail.from,
      subject: mail.subject,
      text: withoutLinks(mail.said),
      vouched: mail.vouched === true,
    };
    if (!heard && named) await tellStep(c, db, named, reply, kept);
    if (!heard) await tellOfReply(db, answered, reply, now);
    await requests.tick(db, number, null);
  });
}

/**
 * What a mail repeats of a link by which its writer follows their request is nobody's to use who reads it here: the part
 * that nobody can guess goes.
 */
const withoutLinks = (text: string): string => text.replace(/(\/(?:follow|answer)\/)[\w-]{20,}/g, "$1…");

const whyNone = (mail: InMail): string => {
  switch (mail.automatic) {
    case "automatic reply":
      return "An automatic reply to nothing of ours.";
    case "report":
      return "A report about nothing of ours.";
    case "list":
      return "It came by a list.";
    case "own":
      return "It came from a mailbox of our own.";
    case null:
      return "It answers nothing of ours.";
  }
};

interface Bounced {
  message: MessageRow;
  email: string;
  why: string;
}
/** Mails of ours that a report says did not arrive. Only a report about an id that nobody can guess is believed. */
async function bouncedOf(db: Client, mailbox: string, mail: InMail): Promise<Bounced[]> {
  const out: Bounced[] = [];
  for (const b of mail.bounces) {
    const message = b.about === null ? null : await messages.messageNamed(db, mailbox, [b.about]);
    // Whom it was not sent to it cannot have missed.
    const email =
      message?.reached.find((r) => r === emailKey(b.email)) ??
      (message?.reached.length === 1 ? message.reached[0] : undefined);
    if (message?.direction === "out" && email !== undefined) out.push({ message, email, why: b.why });
  }
  return out;
}

/**
 * Where a mail program names nothing it answers: the last mail of a request whose number stands in the subject, if whoever
 * writes was written to there. That is enough to put it to the request, and not to let it answer anything.
 */
async function byNumber(db: Client, mailbox: string, mail: InMail): Promise<MessageRow | null> {
  if (mail.from === null || mail.automatic === "own") return null;
  const numbers = mail.subject.match(/\b[A-Z][A-Z0-9]{0,7}-\d{3,9}\b/g) ?? [];
  return messages.lastSentTo(db, mailbox, numbers.slice(0, 5), emailKey(mail.from.email));
}

async function keepFiles(
  db: Client,
  message: string,
  request: string | null,
  mail: InMail,
  when: string,
): Promise<string[]> {
  const came = mail.files
    .filter((f) => f.content.length > 0 && f.content.length <= MAX_FILE_BYTES)
    .map((f) => ({ ...f, contents: spooled(f.content) }));
  // In one order, whatever order they came in: two mails with the same two files would else wait for each other.
  const inOrder = came.map((f) => f.contents).sort((a, b) => (a.sha256 < b.sha256 ? -1 : 1));
  for (const contents of inOrder) await keepContent(db, contents);
  const ids: string[] = [];
  for (const f of came) {
    const id = randomBytes(18).toString("base64url");
    const name = tidyFileName(f.name) || "file";
    const { sha256, size } = f.contents;
    await files.insertFile(db, {
      id,
      name,
      mediaType: f.type,
      sha256,
      size,
      at: when,
      by: null,
      message,
      request,
    });
    ids.push(id);
  }
  if (ids.length > 0) await messages.noteFiles(db, message, ids);
  return ids;
}
