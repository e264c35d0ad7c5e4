import { MOST_MAIL_TEXT } from "@/contracts";
import type { SampleMail } from "@/core/form";
import { startKind } from "@/core/kinds";
import { files, getPool, messages, processes, type Db, type MessageRow } from "@/db";
import { KINDS } from "@/kinds";
import { readMail } from "@/outside/mail";
import type { Call } from "../kernel/defineUseCase";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { mustDesign } from "./mustDesign";

const MOST_SHOWN = 20;
const invalid = (message: string) => new Failed({ code: "invalid", data: { path: "", message } });

/** A mail that came, to make a sample of. */
export interface MailToTry {
  id: string;
  from: string;
  subject: string;
  at: number;
}

/**
 * The mailbox whose mail somebody may try a draft with: what came there is read by the owners of the process, and by
 * nobody else who may design it.
 */
async function mailboxOf(c: Call, db: Db, key: string): Promise<string | null> {
  await mustDesign(c, db, key);
  const row = await processes.draftOf(db, key);
  const owner = (await processes.ownersOf(db, key)).includes(c.actor.id);
  // What a draft says is nothing anybody has agreed to yet: another's mailbox could be named there.
  const live = await processes.liveRelease(db, key, false);
  const mailbox = row?.definition.mailbox;
  const takes = live?.released.starts.some((s) => startKind(KINDS, s).ofMail?.(s) !== undefined);
  return owner && takes && mailbox && live?.released.mailbox === mailbox ? mailbox : null;
}

/** Mails that came to the process, of its own requests or of none yet, the newest. */
export const mailsToTry = defineUseCase(["design"], async (c, key: string): Promise<MailToTry[]> => {
  const db = getPool();
  const mailbox = await mailboxOf(c, db, key);
  if (mailbox === null) return [];
  return (await messages.cameTo(db, mailbox, key, MOST_SHOWN)).map((m) => ({
    id: m.id,
    from: senderOf(m).name || senderOf(m).email,
    subject: m.subject,
    at: m.at,
  }));
});

/** One of these, as a sample keeps it. */
export const sampleOfMail = defineUseCase(
  ["design"],
  async (c, key: string, id: string): Promise<SampleMail> => {
    const db = getPool();
    const mailbox = await mailboxOf(c, db, key);
    const m =
      mailbox === null
        ? undefined
        : (await messages.cameTo(db, mailbox, key, MOST_SHOWN)).find((x) => x.id === id);
    if (!m) throw new Failed({ code: "not-found", data: { what: "mail", id } });
    const held = await files.filesByIds(db, m.files);
    const { name, email } = senderOf(m);
    return {
      sender: email,
      senderName: name,
      to: [...m.receivers, ...m.copies].flatMap((r) => ("email" in r ? [r.email] : [])).slice(0, 100),
      subject: m.subject,
      text: m.body.slice(0, MOST_MAIL_TEXT),
      files: held.map((f) => ({ name: f.name, size: f.size, type: f.media_type })),
    };
  },
);

const senderOf = (m: MessageRow): { name: string; email: string } =>
  m.sender && "email" in m.sender ? m.sender : { name: "", email: "" };

/** A mail that somebody has kept as a file, as a sample keeps it. @param bytes as mail programs save it (RFC 5322) */
export const sampleOfMailFile = defineUseCase(
  ["design"],
  async (c, key: string, bytes: Buffer): Promise<SampleMail> => {
    await mustDesign(c, getPool(), key);
    const mail = await readMail(bytes, "", new Set()).catch(() => null);
    if (!mail || (mail.from === null && mail.subject === ""))
      throw invalid(
        "There is no sender and no subject in this file. Save a mail with your mail program; such a file mostly ends in .eml.",
      );
    return {
      sender: mail.from?.email ?? "",
      senderName: mail.from?.name ?? "",
      to: [...mail.to, ...mail.copies].map((a) => a.email).slice(0, 100),
      subject: mail.subject,
      text: mail.text.slice(0, MOST_MAIL_TEXT),
      files: mail.files.map((f) => ({
        name: f.name.slice(0, 255),
        size: f.content.length,
        type: f.type.slice(0, 200),
      })),
    };
  },
);
