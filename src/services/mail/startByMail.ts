import { emailKey, type MailFacts, type Party } from "@/core/form";
import { filledByMail, mailStartProgram, takesMail } from "@/core/mail";
import { startKind, type OfMail } from "@/core/kinds";
import type { Start } from "@/core/route";
import { at, getPool, inTransaction, messages, notices, processes, type Client, type MessageRow } from "@/db";
import { KINDS } from "@/kinds";
import { nowMs } from "../kernel/clock";
import { defineUseCase, defineView } from "../kernel/defineUseCase";
import { loadDirectory, personName, type Directory, type Offered } from "../kernel/directory";
import { definitionNow } from "../kernel/definitionNow";
import { Failed } from "../kernel/failure";
import { engineFacts } from "../requests/facts";
import { loadFileFacts } from "../files/fileFacts";
import { makeRequest } from "../requests/makeRequest";
import { badForm, NotStarted } from "../requests/notStarted";
import { whyNot } from "../requests/startFromRecords";

interface Taking {
  offered: Offered;
  start: Start;
  of: OfMail;
}

/**
 * Looks what a mail starts that came and answers nothing, and makes the request, in one transaction with saying that the
 * mail belongs to it: however often it is asked, a mail starts one. Called by a worker.
 */
export const startByMail = defineView(["run jobs"], async (c, id: string): Promise<void> => {
  if (!c.may({ action: "run jobs" })) return;
  await inTransaction(async (db) => {
    const m = await messages.messageById(db, id, true);
    if (!m || m.direction !== "in" || m.request_id !== null || m.automatic !== null) return;
    const d = await loadDirectory(db);
    const now = await nowMs(db);
    const found = await takers(db, d, m, now);
    if (found.takes.length !== 1) {
      const names = found.takes.map((t) => `“${t.offered.name}”`).join(" and ");
      const why =
        names === ""
          ? "No process takes it by what it says."
          : `${names} would take it: it is for somebody to say which.`;
      return notStarted(db, m, found.untold ?? why, found.takes, now);
    }
    const [taking] = found.takes as [Taking];
    const { offered, start, of } = taking;
    if (offered.paused[start.id])
      return notStarted(db, m, `The start of “${offered.name}” by mail is paused.`, [taking], now);
    if (of.strangers === "hold" && knownSender(d, m) === null)
      return notStarted(
        db,
        m,
        `It is held: ${m.vouched === true ? "the office does not know who wrote it" : "nobody vouches for who wrote it"}.`,
        [taking],
        now,
      );
    if (of.strangers === "refuse" && knownSender(d, m) === null) return refuse(db, m, taking, now);
    await begin(db, d, m, taking, now);
  });
});

/** To one address so many letters of refusal in a day: two programs could go on for ever. */
const MOST_REFUSALS = 3;
const REFUSED = "It is refused, as the start says of whoever the office does not know";

/** Keeps a mail as refused, and tells its sender, where the receiving server vouches for that it is them. */
async function refuse(db: Client, m: MessageRow, { of }: Taking, now: number): Promise<void> {
  const to = m.vouched === true && m.sender && "email" in m.sender ? m.sender : null;
  const text = of.refusal.trim();
  const since = now - 86_400_000;
  const tell = to !== null && text !== "" && (await messages.refusalsTo(db, to.email, since)) < MOST_REFUSALS;
  if (tell) {
    const subject = /^re:/i.test(m.subject) ? m.subject : `Re: ${m.subject}`;
    const sent = await messages.insertRefusal(db, {
      of: m.id,
      mailbox: m.mailbox,
      to,
      subject,
      body: text,
      answers: m.message_id,
      at: now,
    });
    // Looked at once more, it was told before.
    if (!sent) return;
  }
  await messages.noteNotStarted(db, m.id, `${REFUSED}${tell ? "; they were told" : ""}.`);
}

/** The starts that take a mail; and where it could not be told of one, why. */
async function takers(
  db: Client,
  d: Directory,
  m: MessageRow,
  now: number,
): Promise<{ takes: Taking[]; untold: string | null }> {
  const takes: Taking[] = [];
  let untold: string | null = null;
  const facts = await factsOf(db, d, m, now);
  for (const t of listeners(d, m.mailbox)) {
    const is = takesMail(mailStartProgram(t.of), mailFacts(m), facts);
    if (is === true) takes.push(t);
    else if (is !== false) untold = `Whether it starts “${t.offered.name}” cannot be told: ${is.why}`;
  }
  // One of two that take it is no other one where the second could not be asked.
  return untold === null ? { takes, untold } : { takes: [], untold };
}

const listeners = (d: Directory, mailbox: string): Taking[] =>
  d.offered.flatMap((offered) =>
    offered.mailbox !== mailbox
      ? []
      : offered.starts.flatMap((start) => {
          const of = startKind(KINDS, start).ofMail?.(start);
          return of ? [{ offered, start, of }] : [];
        }),
  );

const mailFacts = (m: MessageRow): MailFacts => ({
  sender: m.sender && "email" in m.sender ? m.sender.email : "",
  senderName: m.sender && "email" in m.sender ? m.sender.name : "",
  to: [...m.receivers, ...m.copies].flatMap((r) => ("email" in r ? [r.email] : [])),
  subject: m.subject,
  text: m.body,
  files: m.files,
});

async function factsOf(db: Client, d: Directory, m: MessageRow, now: number) {
  const files = await loadFileFacts(db, m.files, { request: null, by: [], mail: m.id });
  return engineFacts(d, { people: d.facts, registers: d.registers, records: {}, files }, now);
}

/** The person who wrote it, where the server vouches for that; null for anybody else. */
function knownSender(d: Directory, m: MessageRow): string | null {
  if (m.vouched !== true || !m.sender || !("email" in m.sender)) return null;
  const key = emailKey(m.sender.email);
  return [...d.people.values()].find((p) => p.active && emailKey(p.email) === key)?.id ?? null;
}

function askerOf(d: Directory, m: MessageRow): Party {
  const person = knownSender(d, m);
  if (person !== null) return { kind: "person", id: person };
  const { sender, senderName } = mailFacts(m);
  return { kind: "outside", name: senderName || sender || "somebody", email: sender, through: null };
}

/** Makes the request; what keeps it from beginning is kept with the mail, and told to the owners. @returns its number */
async function begin(
  db: Client,
  d: Directory,
  m: MessageRow,
  t: Taking,
  now: number,
): Promise<string | null> {
  await db.query("savepoint begun");
  try {
    const live = await processes.liveRelease(db, t.offered.process, true);
    const start = live?.released.starts.find((s) => s.id === t.start.id);
    const of = start && startKind(KINDS, start).ofMail?.(start);
    if (!live || !of) throw new NotStarted("The release that is live now has no such start any more.");
    const { fields } = definitionNow(live, d.registers);
    const filled = filledByMail(
      mailStartProgram(of),
      mailFacts(m),
      fields,
      KINDS.fields,
      await factsOf(db, d, m, now),
    );
    if ("why" in filled) throw new NotStarted(filled.why);
    const made = await makeRequest(db, live, {
      requester: askerOf(d, m),
      actor: null,
      data: filled.data,
      startKey: `mail ${m.id}`,
      startHash: null,
      mail: m.id,
      occasion: undefined,
    }).catch((e: unknown) => {
      throw badForm(e, live.released) ?? e;
    });
    await messages.giveToRequest(db, m.id, made.id);
    return made.number;
  } catch (e) {
    const why = await whyNot(e);
    await db.query("rollback to savepoint begun");
    await notStarted(db, m, why, [t], now);
    return null;
  }
}

async function notStarted(
  db: Client,
  m: MessageRow,
  why: string,
  of: readonly Taking[],
  now: number,
): Promise<void> {
  await messages.noteNotStarted(db, m.id, why);
  for (const { offered } of of)
    for (const person of await processes.ownersOf(db, offered.process))
      await notices.insertNotice(db, {
        person,
        request: null,
        effectKey: `mail-start:${m.id}`,
        subject: `A mail did not start ${offered.name}`,
        body: `${m.subject}: ${why}`,
        at: at(now)!,
      });
}

export interface MailOfNone {
  id: string;
  from: string;
  subject: string;
  text: string;
  why: string;
  at: number;
  /** Processes of its reader's that could take it. */
  processes: { key: string; name: string }[];
}

function senderName(d: Directory, { sender }: MessageRow): string {
  if (!sender) return "somebody";
  return "person" in sender ? personName(d, sender.person) : sender.name || sender.email;
}

/** Mail that came to mailboxes of processes somebody owns, and belongs to no request. */
export const mailOfNone = defineUseCase(["see progress"], async (c): Promise<MailOfNone[]> => {
  c.may({ action: "see progress", owner: true });
  const db = getPool();
  const d = await c.directory();
  const owned = new Set((await processes.ownedBy(db, c.actor.id)).map((p) => p.key));
  const mine = d.offered.filter(
    (o) => owned.has(o.process) && o.mailbox !== null && listeners(d, o.mailbox).some((t) => t.offered === o),
  );
  const rows = await messages.belongingToNone(db, [...new Set(mine.map((o) => o.mailbox!))], 50);
  return rows.map((m) => ({
    id: m.id,
    from: senderName(d, m),
    subject: m.subject,
    text: m.body.slice(0, 400),
    why: m.why ?? "It has not been looked at yet.",
    at: m.at,
    processes: mine.filter((o) => o.mailbox === m.mailbox).map((o) => ({ key: o.process, name: o.name })),
  }));
});

/** Starts a request of a mail by hand, whatever its conditions say; or says that it needs none. */
export const settleMailOfNone = defineUseCase(
  ["watch"],
  async (c, id: string, process: string | null): Promise<{ number: string | null }> =>
    inTransaction(async (db) => {
      const missing = { code: "not-found", data: { what: "mail", id } } as const;
      const d = await loadDirectory(db);
      const m = /^\d{1,18}$/.test(id) ? await messages.messageById(db, id, true) : null;
      const owned = new Set((await processes.ownedBy(db, c.actor.id)).map((p) => p.key));
      const mine =
        m && m.direction === "in" && m.request_id === null
          ? listeners(d, m.mailbox).filter((t) => owned.has(t.offered.process))
          : [];
      c.must({ action: "watch", owner: mine.length > 0 }, missing);
      if (process === null) {
        await messages.settleIncoming(db, m!.id);
        return { number: null };
      }
      const taking = mine.find((t) => t.offered.process === process);
      if (!taking) throw new Failed(missing);
      const number = await begin(db, d, m!, taking, await nowMs(db));
      return { number };
    }),
);
