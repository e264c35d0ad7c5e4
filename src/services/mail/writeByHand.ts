import { emailKey, hiddenOfRecords, hiddenReads } from "@/core/form";
import { readsInWords } from "@/core/expression";
import { isQuestion, letterWritten, Turn } from "@/core/engine";
import type { Receiver } from "@/core/kinds";
import { partsOfText, writtenText, type WrittenLetter } from "@/core/letter";
import { stuckSentence } from "@/core/words";
import {
  at,
  files,
  getPool,
  inTransaction,
  messages,
  notices,
  requests,
  type Db,
  type MessageRow,
} from "@/db";
import { KINDS } from "@/kinds";
import type { Actor } from "../kernel/actor";
import { nowMs } from "../kernel/clock";
import { personName, type Directory } from "../kernel/directory";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { engineFacts, recordsKept } from "../requests/facts";
import { loadRequest, type Loaded } from "../requests/loadRequest";
import { registersSeen } from "../kernel/registersSeen";
import { openFor } from "../requests/openFor";
import { readerOf } from "../requests/requestView";
import { attachFiles } from "../files/attachFiles";
import { addressMistake } from "./addressMistake";
import { MOST_FILES_MB } from "./attachments";

const MOST_RECEIVERS = 10;
const MOST_SUBJECT = 400;
const MOST_TEXT = 20_000;
const MOST_FILES = 10;

/** A letter as it would be sent now, ready to be changed. */
export interface LetterDraft {
  subject: string;
  text: string;
}
export interface LetterByHand {
  /** The same over every try, so that it goes out once. */
  key: string;
  /** The letter it began as. */
  letter: string | null;
  /** Addresses; they all get one mail. */
  to: readonly string[];
  subject: string;
  text: string;
  /** Ids of files its writer has added. */
  files: readonly string[];
}

const invalid = (path: string, message: string) => new Failed({ code: "invalid", data: { path, message } });

/** A request of which somebody may write letters. */
async function writable(c: Call, number: string): Promise<Loaded> {
  const loaded = await loadRequest(c, { number });
  c.must(
    {
      action: "write letter",
      owner: loaded.owner,
      holds: openFor(loaded.row.state, c.actor.id).some(({ t }) => !isQuestion(t)),
    },
    {
      code: "not-allowed",
      data: { action: "write a letter here; those for whom it waits, and the owners of its process, may" },
    },
  );
  return loaded;
}

/** A letter of the process as it would be sent now; nothing of it tells what its writer may not see. */
async function composed(
  c: Call,
  loaded: Loaded,
  id: string,
): Promise<{ subject: string; letter: WrittenLetter; hidden: boolean }> {
  const { d, row, now, release, access } = loaded;
  const letter = release.definition.letters?.find((l) => l.id === id && l.byHand);
  if (!letter) throw new Failed({ code: "not-found", data: { what: "letter", id } });
  const data = await readerOf(loaded).load(recordsKept(release, row.state), row.state.data);
  const turn = new Turn(release, row.state, engineFacts(d, data, now), c.actor.id);
  const written = letterWritten(turn, { step: "", scope: null }, id);
  if ("go" in written)
    throw invalid(
      "letter",
      `“${letter.name}” cannot be written now: ${stuckSentence(written.reason, KINDS)}`,
    );
  const closed = hiddenOfRecords(d.registers, registersSeen(d, c.actor));
  const own = hiddenReads(release.definition.fields, access);
  const tells = [...written.read].flatMap((f) => readsInWords(f.ast, f.reads));
  if (tells.some((read) => own(read) || closed(read)))
    throw invalid(
      "letter",
      `“${letter.name}” tells of something you may not see. Write a letter of your own.`,
    );
  return written;
}

/** A letter as it reads for a request, to be changed by whoever sends it. */
export const letterByHand = defineUseCase(
  ["see request", "write letter"],
  async (c, number: string, letter: string): Promise<LetterDraft> => {
    const { subject, letter: written } = await composed(c, await writable(c, number), letter);
    return { subject, text: writtenText(written.parts) };
  },
);

/**
 * Sends a letter that somebody wrote. One that was left as it came to keeps its looks; a changed one is a text. Sent a
 * second time with the same key it is not sent again.
 */
export const sendByHand = defineUseCase(
  ["see request", "write letter"],
  async (c, number: string, by: LetterByHand): Promise<{ sent: true }> => {
    const loaded = await writable(c, number);
    const receivers = receiversOf(by.to, loaded.d);
    const mailbox = loaded.release.definition.mailbox ?? "";
    if (mailbox === "") await mustReadHere(loaded, receivers);
    const subject = by.subject.replace(/\s+/g, " ").trim();
    const text = by.text.replace(/\r\n?/g, "\n").trim();
    if (subject === "")
      throw invalid("subject", "Say what it is about, for example: A question about your request.");
    if (subject.length > MOST_SUBJECT)
      throw invalid("subject", `A subject has at most ${MOST_SUBJECT} characters.`);
    if (text === "") throw invalid("text", "Write something.");
    if (text.length > MOST_TEXT)
      throw invalid("text", `A letter has at most ${MOST_TEXT} characters; this one has ${text.length}.`);
    const of = by.letter === null ? null : await composed(c, loaded, by.letter);
    const asItWas = of && writtenText(of.letter.parts) === text;
    const letter = asItWas ? of.letter : { language: of?.letter.language ?? "", parts: partsOfText(text) };
    const carried = await filesOf(c, by.files);
    const key = `${c.actor.id}:${by.key}`;
    await inTransaction(async (db: Db) => {
      const id = await messages.insertByHand(db, {
        request: loaded.row.id,
        key,
        mailbox,
        by: c.actor.id,
        receivers,
        subject,
        body: text,
        letter,
        files: carried,
        hidden: of?.hidden === true,
        at: await nowMs(db),
      });
      if (id === null)
        return sameAsSent(await messages.letterByKey(db, loaded.row.id, key), {
          receivers,
          subject,
          body: text,
          files: carried,
        });
      await attachFiles(db, carried, c.actor.id, loaded.row.id);
      if (mailbox !== "") await messages.queueMessage(db, id, 0);
      await tellAsked(db, loaded, c.actor, { id, subject }, receivers);
      await requests.tick(db, number, null);
    });
    return { sent: true };
  },
);

/** The files somebody has added to a letter: their own, that went nowhere else, and not more than a mail carries. */
async function filesOf(c: Call, ids: readonly string[]): Promise<string[]> {
  const own = [...new Set(ids)];
  if (own.length === 0) return own;
  if (own.length > MOST_FILES) throw invalid("files", `A letter carries at most ${MOST_FILES} files.`);
  const rows = await files.filesByIds(getPool(), own);
  if (rows.length < own.length || rows.some((f) => f.added_by !== c.actor.id))
    throw invalid("files", "One of the files is not there any more. Take it away, and add it once more.");
  const size = rows.reduce((n, f) => n + f.size, 0);
  if (size > MOST_FILES_MB * 1_000_000)
    throw invalid(
      "files",
      `These files have ${Math.ceil(size / 1_000_000)} MB; a mail carries at most ${MOST_FILES_MB} MB.`,
    );
  return own;
}

/** What was changed since it went out, when the answer to that was lost, must not be taken for sent. */
function sameAsSent(
  sent: MessageRow | null,
  now: Pick<MessageRow, "receivers" | "subject" | "body" | "files">,
) {
  const of = (m: typeof now) => JSON.stringify([m.receivers, m.subject, m.body, m.files]);
  if (!sent || of(sent) !== of(now))
    throw invalid(
      "",
      "This letter went out already, as it was when you pressed first. Copy what you have changed since, put it away, and write another.",
    );
}

/** Without a mailbox only those read it who may open the request. */
async function mustReadHere({ row, d }: Loaded, receivers: readonly Receiver[]): Promise<void> {
  for (const r of receivers) {
    const reads =
      "person" in r &&
      (row.requester_id === r.person || (await requests.tookPart(getPool(), row.id, r.person)).length > 0);
    if (reads) continue;
    const name = "person" in r ? personName(d, r.person) : r.email;
    throw invalid(
      "to",
      `This process has no mailbox, so it is read on the page of the request alone; ${name} may not open that. Write to whoever asked, or to somebody who was asked.`,
    );
  }
}

/** Those who work here are told on their screens as well. */
async function tellAsked(
  db: Db,
  { row, now }: Loaded,
  by: Actor,
  { id, subject }: { id: string; subject: string },
  receivers: readonly Receiver[],
) {
  for (const r of receivers)
    if ("person" in r && r.person !== by.id)
      await notices.insertNotice(db, {
        person: r.person,
        request: row.id,
        effectKey: `letter:${id}`,
        subject: `${row.number}: ${by.name} has written to you`,
        body: subject,
        at: at(now)!,
      });
}

function receiversOf(to: readonly string[], d: Directory): Receiver[] {
  const all = [
    ...new Map(
      to
        .map((t) => t.trim())
        .filter(Boolean)
        .map((t) => [t.toLowerCase(), t]),
    ).values(),
  ];
  if (all.length === 0) throw invalid("to", "Say to whom it goes, for example registry@example.org.");
  if (all.length > MOST_RECEIVERS)
    throw invalid("to", `A letter goes to at most ${MOST_RECEIVERS} addresses.`);
  const bad = all.map(addressMistake).find((m) => m !== null);
  if (bad) throw invalid("to", bad);
  const staff = new Map([...d.people.values()].flatMap((p) => (p.active ? [[emailKey(p.email), p.id]] : [])));
  return all.map((email) => {
    const person = staff.get(emailKey(email));
    return person === undefined ? { name: "", email } : { person };
  });
}
