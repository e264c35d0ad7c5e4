import { emailKey, hearerOf } from "@/core/form";
import type { Receiver } from "@/core/kinds";
import { letterPage, partsOfText } from "@/core/letter";
import {
  getPool,
  holding,
  inTransaction,
  mailboxes,
  messages,
  requests,
  type MessageRow,
  type MessageState,
} from "@/db";
import { sendMail, type OutMail } from "@/outside/mail";
import { nowMs } from "../kernel/clock";
import { defineView, type Call } from "../kernel/defineUseCase";
import { loadDirectory, type Directory } from "../kernel/directory";
import { postChat } from "../chat/postChat";
import { askedAt } from "./asked";
import { askLetter, outsideAskLetter, linkHtml, linkText, type LetterText } from "./askLetter";
import { makeAnswerLink } from "./answerLink";
import { makeTrackingLink } from "../outside/trackingLink";
import { zoneOutside } from "../outside/visitor";
import { answerAddress, deskAddress, followAddress } from "./ownAddress";
import { timeIn } from "../requests/requestView";
import { addressMistake } from "./addressMistake";
import { attachments } from "./attachments";
import { sendingServer } from "./mailbox";
import { messageIdOf, messageKey, threadIdOf } from "./messageIds";
import { tellMissed } from "./tellMissed";

/** How long it is waited after each try that came to nothing, in seconds; then somebody has to look at it. */
const WAITS = [5, 30, 120, 600, 1800, 3600, 3 * 3600, 6 * 3600, 12 * 3600];
/** Before one is sent once more that may have arrived. */
const AGAIN_SECONDS = 60;
/** How often at most one is sent that may have arrived. */
const MOST_AGAIN = 4;

/** Sends the mails an effect put into the book. */
export const sendMails = defineView(
  ["run jobs"],
  async (c, request: string, effect: string): Promise<void> => {
    if (!c.may({ action: "run jobs" })) return;
    for (const m of await messages.messagesOfEffect(getPool(), request, effect)) await sendOne(c, m.id);
  },
);

/** Sends one that was not out when it was tried before. */
export const sendMessage = defineView(["run jobs"], async (c, id: string): Promise<void> => {
  if (c.may({ action: "run jobs" })) await sendOne(c, id);
});

/** States in which one may be taken to be sent: a worker that took it and died before it gave the text sent nothing. */
const TO_SEND: readonly MessageState[] = ["waiting", "sending"];

/**
 * Sends a mail unless that is done, or is being done. However often it is called, a mail goes out once, as far as that can
 * be known: from when its text is given to the server until the server's word is kept nobody can tell, and whoever finds
 * it so lets it be, or sends it once more where its process says so.
 */
async function sendOne(c: Call, id: string): Promise<void> {
  const held = await holding(`message ${id}`, async () => {
    const m = await messages.messageById(getPool(), id, false);
    if (!m || m.direction !== "out") return;
    if (m.state === "given")
      await mayHaveArrived(m, "Whoever sent it was ended before the server's word came.");
    else if (TO_SEND.includes(m.state)) await (m.channel === "chat" ? postChat(m) : trySending(m));
    await inTransaction(async (db) => {
      const now = await messages.messageById(db, id, true);
      if (now) await tellMissed(c, db, now);
    });
  });
  // Somebody is sending it; should they die, it is tried again.
  if (!held) await messages.queueMessage(getPool(), id, WAITS[1]! * 1000);
}

async function trySending(m: MessageRow): Promise<void> {
  const db = getPool();
  const end = async (
    state: MessageState,
    why: string | null,
    missed: { email: string; why: string }[] = [],
  ) => messages.noteCame(db, m.id, { state, why, missed, at: state === "sent" ? await nowMs(db) : null });
  const box = m.mailbox === "" ? null : await mailboxes.mailboxOf(db, m.mailbox);
  if (!box)
    return void (await end(
      "stuck",
      m.mailbox === "" ? "The process has no mailbox." : `There is no mailbox ${m.mailbox} any more.`,
    ));
  const server = sendingServer(box);
  if (typeof server === "string") return void (await end("stuck", server));
  const d = await loadDirectory(db);
  const [to, copies, blind] = [m.receivers, m.copies, m.blind].map((of) => reachable(d, of)) as [
    Reached,
    Reached,
    Reached,
  ];
  const missed = [...to.missed, ...copies.missed, ...blind.missed];
  if (to.at.length + copies.at.length + blind.at.length === 0)
    return void (await end("returned", missed[0]?.why ?? "There is nobody it goes to.", missed));
  const letter = await letterOf(m, d);
  // Answered meanwhile, or with somebody else: nobody is asked any more.
  if (letter === null)
    return void (await end("returned", "It was not sent: nobody waits for this answer any more."));
  const carried = await attachments(m.files);
  if (typeof carried === "string")
    return void (await end(
      "returned",
      carried,
      [...to.at, ...copies.at, ...blind.at].map((a) => ({ email: a.email, why: carried })),
    ));
  const key = await messageKey(db);
  const request = m.request_id ?? "";
  const messageId = messageIdOf(key, m.mailbox, request, m.effect ?? m.id, m.part ?? 0);
  const with_ = to.at[0] ?? copies.at[0] ?? blind.at[0]!;
  const last =
    m.request_id === null ? null : await messages.lastWith(db, m.request_id, emailKey(with_.email), m.id);
  // One of no request answers a mail of none.
  const answers = last ?? m.in_reply_to;
  const thread = threadIdOf(key, m.mailbox, request, emailKey(with_.email));
  const reached = [...to.at, ...copies.at, ...blind.at].map((a) => emailKey(a.email));
  if (!(await messages.takeMessage(db, m.id, TO_SEND, { messageId, inReplyTo: last, reached }))) return;
  const mail: OutMail = {
    from: { name: box.name, email: box.address },
    to: to.at,
    copies: copies.at,
    blind: blind.at,
    replyTo: m.reply_to ? (reachable(d, [m.reply_to]).at[0] ?? null) : null,
    subject: m.subject.trim() || "(no subject)",
    text: letter.text,
    html: letter.html,
    messageId,
    inReplyTo: answers ?? thread,
    references: answers ? [thread, answers] : [thread],
    files: carried,
  };
  const came = await sendMail(server, mail, async () => void (await messages.noteGiven(db, m.id)));
  switch (came.came) {
    case "sent":
      return void (await end("sent", null, [...missed, ...came.missed]));
    case "refused":
      return void (await end("returned", came.missed[0]?.why ?? null, [...missed, ...came.missed]));
    case "perhaps":
      return mayHaveArrived({ ...m, tries: m.tries + 1 }, came.why);
    case "later": {
      const wait = WAITS[m.tries];
      await end(wait === undefined ? "stuck" : "waiting", came.why);
      if (wait !== undefined) return void (await messages.queueMessage(db, m.id, wait * 1000));
    }
  }
}

/** The mail as it reads, with the ways to answer where it asks somebody; null where it asks for what is over. */
async function letterOf(m: MessageRow, d: Directory): Promise<LetterText | null> {
  const { request_id: request, task_id: task, person_id: person } = m;
  const asks = m.effect?.startsWith("ask:") === true;
  if (!asks || request === null || task === null || person === null) return withLink(m);
  const db = getPool();
  const asked = await askedAt(db, request, task, person);
  if (!asked?.open) return null;
  if (asked.outsider) {
    const link = answerAddress(await makeAnswerLink(db, { message: m.id, request, task, person }));
    return outsideAskLetter(asked, m, { link, time: timeIn(zoneOutside(d)) });
  }
  const token = asked.byMail.link ? await makeAnswerLink(db, { message: m.id, request, task, person }) : null;
  return askLetter(asked, {
    link: token === null ? null : answerAddress(token),
    desk: deskAddress(asked.number, task),
    time: timeIn(d.people.get(person)?.zone ?? "UTC"),
  });
}

/**
 * A letter as it reads, with the link by which its reader follows the request where that is theirs: to them alone, because
 * whoever gets a copy could use it as well. Nothing of the link is kept with the letter.
 */
async function withLink(m: MessageRow): Promise<LetterText> {
  const written = m.letter ?? { language: "", parts: partsOfText(m.body) };
  const [to] = m.receivers;
  const alone = m.receivers.length === 1 && m.copies.length + m.blind.length === 0;
  const link =
    m.request_id !== null && alone && to && "email" in to ? await linkFor(m.request_id, to.email) : null;
  if (link === null) return { text: m.body, html: letterPage(written) };
  return { text: `${m.body.trimEnd()}\n\n${linkText(link)}`, html: letterPage(written, linkHtml(link)) };
}

/** A new link for whoever follows a request, where that is the one written to; null for anybody else. */
async function linkFor(request: string, email: string): Promise<string | null> {
  const db = getPool();
  const asker = await requests.askerOf(db, request);
  const to = asker && hearerOf(asker);
  if (!to || emailKey(to.email) !== emailKey(email)) return null;
  return followAddress(await makeTrackingLink(db, request));
}

/** Lets one be that may have arrived; where its process says so it is sent once more, under the same id. */
async function mayHaveArrived(m: MessageRow, why: string): Promise<void> {
  const again = m.again && m.tries < MOST_AGAIN;
  await messages.noteCame(getPool(), m.id, {
    state: again ? "waiting" : "perhaps",
    why,
    missed: [],
    at: null,
  });
  if (again) await messages.queueMessage(getPool(), m.id, AGAIN_SECONDS * 1000);
}

interface Reached {
  at: { name: string; email: string }[];
  missed: { email: string; why: string }[];
}
/** The addresses of receivers, as the office knows them now. */
function reachable(d: Directory, of: readonly Receiver[]): Reached {
  const out: Reached = { at: [], missed: [] };
  for (const r of of) {
    const person = "person" in r ? d.people.get(r.person) : null;
    if ("person" in r && !person?.active) {
      out.missed.push({
        email: person?.name ?? r.person,
        why: `${person?.name ?? r.person} is not here any more.`,
      });
      continue;
    }
    const { name, email } = "person" in r ? person! : r;
    const mistake = addressMistake(email);
    if (mistake) out.missed.push({ email: email || name, why: mistake });
    else out.at.push({ name, email });
  }
  return out;
}
