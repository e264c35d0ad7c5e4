import { emailKey, NO_PARTY } from "@/core/form";
import type { Receiver } from "@/core/kinds";
import type { WrittenPart } from "@/core/letter";
import {
  findInLetters,
  getPool,
  inTransaction,
  messages,
  requests,
  searching,
  type LetterRow,
  type MessageRow,
  type MessageState,
} from "@/db";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { personName, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { isWrittenTo } from "./answerOnPage";
import { isReader, letterReader, type LetterReader } from "./letterReader";
import { seenRequest, type Loaded } from "../requests/loadRequest";

/** One letter of a conversation, as it is read. */
export interface MailShown {
  id: string;
  direction: "out" | "in";
  /** By name, else by address. */
  from: string;
  to: string[];
  copies: string[];
  subject: string;
  text: string;
  /** Where it is more than a text: its parts. */
  parts: WrittenPart[] | null;
  /** Below what was written: what it answers, repeated. */
  quoted: string;
  files: { id: string; name: string; size: number; type: string }[];
  at: number;
  state: MessageState;
  channel: "mail" | "chat";
  /** Why it is not out, or to whom it did not come. */
  trouble: string;
  /** A program wrote it. */
  automatic: boolean;
  /** Those outside with whom it was exchanged. */
  outside: { name: string; email: string }[];
  /** Somebody wrote it, and no step did. */
  byHand: boolean;
  /** Whether its reader may have it sent again, or say that it arrived. */
  maySettle: boolean;
  /** Whether its reader may answer it here. */
  mayAnswer: boolean;
}

/** What was written of a request, oldest first, as far as its reader may see it. */
export function lettersOf(
  { d, row }: Pick<Loaded, "d" | "row">,
  reader: LetterReader,
  watches: boolean,
): MailShown[] {
  const answers = answerable(row.letters, reader);
  return row.letters.flatMap((m) =>
    maySee(m, reader, d, watches) ? [{ ...letterOf(m, d, watches), mayAnswer: m.id === answers }] : [],
  );
}

/** The last letter to somebody that they have not answered since; null for none. */
function answerable(letters: readonly LetterRow[], reader: LetterReader): string | null {
  const last = letters.findLast((m) => isWrittenTo(m, reader));
  const theirs = (r: Receiver | null) => r !== null && isReader(r, reader);
  const since = letters.findLast((m) => m.direction === "in" && theirs(m.sender));
  return last && (!since || letters.indexOf(since) < letters.indexOf(last)) ? last.id : null;
}

/** Addresses of those who work here, kept as long as they are the same: asked for each letter. */
const staffKept = new WeakMap<Directory["people"], ReadonlySet<string>>();
function staffOf(people: Directory["people"]): ReadonlySet<string> {
  let staff = staffKept.get(people);
  if (!staff) staffKept.set(people, (staff = new Set([...people.values()].map((p) => emailKey(p.email)))));
  return staff;
}

/**
 * A letter is its receivers' and its writer's, and is seen by those who look after the process. What was exchanged with
 * somebody outside is for everybody who may see the request besides, unless it tells of what is hidden from somebody:
 * what one who works here is asked or told is between them and the process. Whoever follows it from outside sees what was
 * exchanged with them.
 */
function maySee(m: MessageRow, reader: LetterReader, d: Directory, watches: boolean): boolean {
  if (watches || m.by_person === reader.id) return true;
  const all = [...m.receivers, ...m.copies, ...m.blind, ...(m.sender ? [m.sender] : [])];
  if (all.some((r) => isReader(r, reader))) return true;
  // What is exchanged with others outside is none of theirs.
  if (reader.outside) return false;
  if (m.hidden || m.person_id !== null) return false;
  // Whoever is in a room reads it there.
  if (m.room !== null) return true;
  return outsideOf(m, d).length > 0;
}

/** Those of a letter who do not work here, and are no mailbox of ours. */
function outsideOf(m: MessageRow, d: Directory): { name: string; email: string }[] {
  const staff = staffOf(d.people);
  const all = [...m.receivers, ...m.copies, ...m.blind, ...(m.sender ? [m.sender] : [])];
  return all.filter(
    (r): r is { name: string; email: string } =>
      "email" in r && !staff.has(emailKey(r.email)) && !d.office.mailboxes.some((b) => b.address === r.email),
  );
}

function letterOf(m: LetterRow, d: Directory, watches: boolean): Omit<MailShown, "mayAnswer"> {
  const name = (r: Receiver): string => ("person" in r ? personName(d, r.person) : r.name || r.email);
  const { text, quoted } = written(m);
  const box = d.office.mailboxes.find((b) => b.address === m.mailbox);
  const ours = m.channel === "chat" ? "Cobble Step" : m.mailbox;
  const us = m.by_person ? personName(d, m.by_person) : (box?.name ?? ours);
  return {
    id: m.id,
    direction: m.direction,
    from: m.direction === "out" ? us : senderName(m, name),
    to: m.room === null ? m.receivers.map(name) : [`the room ${m.room}`],
    channel: m.channel,
    // Who else has it unseen is for those who look after the process.
    copies: [...m.copies, ...(watches ? m.blind : [])].map(name),
    subject: m.subject,
    text,
    parts: m.letter?.parts ?? null,
    quoted,
    files: m.held,
    at: m.sent_at ?? m.at,
    state: m.state,
    trouble: troubleOf(m),
    automatic: m.automatic !== null,
    // Who else has it unseen is for those who look after the process.
    outside: outsideOf(watches ? m : { ...m, blind: [] }, d),
    byHand: m.direction === "out" && m.by_person !== null,
    maySettle: watches && SETTLED.has(m.state),
  };
}

const senderName = (m: MessageRow, name: (r: Receiver) => string): string =>
  m.sender ? name(m.sender) : "somebody";

function troubleOf(m: MessageRow): string {
  const missed = m.missed.map((x) => `It did not come to ${x.email}${x.why ? `: ${x.why}` : ""}`);
  switch (m.state) {
    case "waiting":
      return m.why ? `It is not out yet and will be tried again: ${m.why}` : "It is on its way out.";
    case "sending":
    case "given":
      return "It is being sent.";
    case "perhaps":
      return `It cannot be known whether it arrived: ${m.why ?? ""}`;
    case "stuck":
      return `It is not out: ${m.why ?? ""}`;
    case "sent":
    case "returned":
    case "kept":
      return missed.join("; ");
  }
}

/** What somebody wrote, and what it answers, where that is repeated. */
function written(m: MessageRow): { text: string; quoted: string } {
  if (m.direction === "out" || m.said === null || m.said === "") return { text: m.body.trim(), quoted: "" };
  const at = m.body.indexOf(m.said);
  const rest = at < 0 ? m.body : `${m.body.slice(0, at)}${m.body.slice(at + m.said.length)}`;
  return { text: m.said, quoted: rest.trim() };
}

const SETTLED: ReadonlySet<MessageState> = new Set(["perhaps", "stuck", "returned"]);

/** Has a mail sent again that is not out, or may not be; or says that it did arrive. For who looks after the process. */
export const settleMail = defineUseCase(
  ["see request", "watch"],
  async (c, id: string, how: "send" | "arrived"): Promise<{ number: string }> =>
    inTransaction(async (db) => {
      const missing = { code: "not-found", data: { what: "mail", id } } as const;
      const m = /^\d{1,18}$/.test(id) ? await messages.messageById(db, id, true) : null;
      const seen = m?.request_id ? await seenRequest(c, db, { id: m.request_id }) : null;
      if (!m || !seen) {
        c.must({ action: "watch", owner: false }, missing);
        throw new Failed(missing);
      }
      c.must(
        { action: "watch", owner: seen.owner },
        { code: "not-allowed", data: { action: "send this mail again; the owners of the process may" } },
      );
      const to = how === "send" ? "waiting" : "sent";
      if (!(await messages.settle(db, id, [...SETTLED], to)))
        throw new Failed({
          code: "invalid",
          data: { path: "", message: "This mail is out already, or is on its way: there is nothing to do." },
        });
      if (how === "send") await messages.queueMessage(db, id, 0);
      await requests.tick(db, seen.row.number, null);
      return { number: seen.row.number };
    }),
);

export interface MailNotOut {
  id: string;
  number: string;
  title: string;
  to: string[];
  subject: string;
  trouble: string;
  at: number;
}
/** Mails of the processes somebody owns that are not out, or may not be; the newest. */
export const mailNotOut = defineUseCase(["see progress"], async (c): Promise<MailNotOut[]> => {
  c.may({ action: "see progress", owner: true });
  const d = await c.directory();
  return (await messages.notOut(getPool(), c.actor.id, 50)).map((m) => ({
    id: m.id,
    number: m.number,
    title: m.title,
    to:
      m.room === null
        ? m.receivers.map((r) => ("person" in r ? personName(d, r.person) : r.name || r.email))
        : [`the room ${m.room}`],
    subject: m.subject,
    trouble:
      m.state === "perhaps"
        ? `It cannot be known whether it arrived: ${m.why ?? ""}`
        : (m.why ?? "It is not out."),
    at: m.at,
  }));
});

/** Which of some files came or went with a letter of the request that whoever asks may see. */
export async function filesInLetters(
  c: Call,
  { d, row, owner }: Loaded,
  files: readonly string[],
): Promise<ReadonlySet<string>> {
  if (files.length === 0) return new Set();
  const of = await messages.messagesWithFiles(getPool(), row.id, files);
  const reader = letterReader(d, c.actor, row.state.requester);
  return new Set(of.filter((m) => maySee(m, reader, d, owner)).flatMap((m) => m.files));
}

/** Most mails with the words that are looked at for whether one may read them. */
const MOST_HITS = 100;
const AROUND = 40;

/** Letters that hold some words, the newest of those somebody may read, with a few words around them. */
export async function lettersWith(
  c: Call,
  words: string,
  most: number,
): Promise<{ number: string; title: string; subject: string; around: string }[]> {
  const d = await c.directory();
  const reader = letterReader(d, c.actor, NO_PARTY);
  const hits = await searching((db) => findInLetters(db, c.actor.id, words, MOST_HITS));
  return hits
    .filter((m) => maySee(m, reader, d, c.may({ action: "watch", owner: m.owner })))
    .slice(0, most)
    .map(({ number, title, subject, body }) => ({ number, title, subject, around: around(body, words) }));
}

/** The words in a text with what stands beside them; the beginning where they stand in the subject. */
function around(text: string, words: string): string {
  const line = text.replace(/\s+/g, " ").trim();
  const at = Math.max(0, line.toLowerCase().indexOf(words.toLowerCase()));
  const [from, to] = [Math.max(0, at - AROUND), at + words.length + AROUND];
  return `${from > 0 ? "…" : ""}${line.slice(from, to)}${to < line.length ? "…" : ""}`;
}
