import { emailKey } from "@/core/form";
import { getPool, inTransaction, mailboxes, officeEdits, type MailSecurity } from "@/db";
import { tryServer } from "@/outside/mail";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { noteEntry } from "../log/noteEntry";
import { keeping } from "../office/keepPeople";
import { addressMistake } from "./addressMistake";
import { sealMailPassword, sendingServer } from "./mailbox";

const wrong = (path: string, message: string) => new Failed({ code: "invalid", data: { path, message } });

export interface MailboxShown {
  address: string;
  name: string;
  smtp: { host: string; port: number };
  /** Null: nothing is read from it. */
  imap: { host: string; port: number } | null;
  security: MailSecurity;
  user: string;
  checksBy: string;
  /** People's news goes out from here. */
  news: boolean;
  /** When it was last looked into; null where it never was. */
  lookedAt: number | null;
  /** Why it could not be read just now. */
  trouble: string | null;
}
export interface MailboxInput extends Omit<MailboxShown, "lookedAt" | "trouble"> {
  /** Null leaves the one that is kept. */
  password: string | null;
}

const MAY_NOT = (action: string) => ({ code: "not-allowed", data: { action } }) as const;
const mustKeep = (c: Call, action: string) => c.must({ action: "keep people" }, MAY_NOT(action));

/** The mailboxes there are, without their passwords. */
export const mailboxList = defineUseCase(["keep people"], async (c): Promise<MailboxShown[]> => {
  mustKeep(c, "see mailboxes");
  const db = getPool();
  const reads = new Map((await mailboxes.allMailboxReads(db)).map((r) => [r.address, r]));
  return (await mailboxes.allMailboxes(db)).map((m) => ({
    address: m.address,
    name: m.name,
    smtp: { host: m.smtp_host, port: m.smtp_port },
    imap: m.imap_host !== null && m.imap_port !== null ? { host: m.imap_host, port: m.imap_port } : null,
    security: m.security,
    user: m.user_name,
    checksBy: m.checks_by,
    news: m.news,
    lookedAt: reads.get(m.address)?.looked_at ?? null,
    trouble: reads.get(m.address)?.trouble ?? null,
  }));
});

const LOOPBACK = /^(localhost|127\.0\.0\.1|\[?::1\]?)$/;
const HOST = /^[a-z0-9]([a-z0-9.:[\]-]{0,251}[a-z0-9\]])?$/i;

function checked(input: MailboxInput): void {
  const mistake = addressMistake(input.address);
  if (mistake) throw wrong("Address", mistake);
  const name = input.name.trim();
  if (name === "" || name.length > 80)
    throw wrong(
      "Name",
      "Say what receivers see as sender, up to 80 characters, for example: Quillhaven Registry.",
    );
  for (const [path, server] of [
    ["Sends by", input.smtp],
    ["Reads from", input.imap],
  ] as const) {
    if (!server) continue;
    if (!HOST.test(server.host))
      throw wrong(path, `“${server.host}” is no name of a server; write for example mail.example.org.`);
    if (!Number.isInteger(server.port) || server.port < 1 || server.port > 65_535)
      throw wrong(path, "A port is a number from 1 to 65535; 587 for sending and 993 for reading are usual.");
    if (input.security === "none" && !LOOPBACK.test(server.host))
      throw wrong(
        path,
        "Without encryption mail goes to a server on this very machine only, for example 127.0.0.1.",
      );
  }
  if (input.user.trim() === "" || input.user.length > 254)
    throw wrong("User", "Say whom the server knows it by; mostly that is the address.");
}

/**
 * Makes a mailbox or changes it. Its address stays, because processes name it.
 * @param address null for a new one
 */
export const putMailbox = defineUseCase(
  ["keep people"],
  (c, address: string | null, input: MailboxInput): Promise<{ address: string }> =>
    inTransaction(async (db) => {
      const d = await keeping(c, db, "change mailboxes");
      checked(input);
      const key = emailKey(input.address);
      const old = address === null ? null : await mailboxes.mailboxOf(db, address);
      if (address !== null && !old)
        throw new Failed({ code: "not-found", data: { what: "mailbox", id: address } });
      if (old && old.address !== key)
        throw wrong(
          "Address",
          `Processes know it as ${old.address}; add another mailbox for another address.`,
        );
      if (!old && d.office.mailboxes.some((m) => m.address === key))
        throw wrong("Address", `There is a mailbox ${key} already.`);
      if (!old && (input.password ?? "") === "")
        throw wrong("Password", "A new mailbox needs the password it is entered with.");
      // Whoever changes where it is could otherwise have the password sent to a server of theirs.
      const moved =
        old !== null && (old.smtp_host !== input.smtp.host || old.imap_host !== (input.imap?.host ?? null));
      if (moved && input.password === null)
        throw wrong("Password", "It is to be entered at another server: enter the password anew.");
      if (input.news) await mailboxes.newsFromHere(db, key);
      await mailboxes.putMailbox(db, {
        address: key,
        name: input.name.trim(),
        smtp_host: input.smtp.host,
        smtp_port: input.smtp.port,
        imap_host: input.imap?.host ?? null,
        imap_port: input.imap?.port ?? null,
        security: input.security,
        user_name: input.user.trim(),
        password: input.password === null ? old!.password : sealMailPassword(input.password),
        checks_by: input.checksBy.trim(),
        news: input.news,
      });
      await noteEntry(c.actor, { what: "mailbox changed", data: { mailbox: key } }, db);
      return { address: key };
    }),
);

/** Removes a mailbox that no process writes from. */
export const removeMailbox = defineUseCase(["keep people"], (c, address: string): Promise<null> =>
  inTransaction(async (db) => {
    await keeping(c, db, "remove mailboxes");
    const old = await mailboxes.mailboxOf(db, address);
    if (!old) throw new Failed({ code: "not-found", data: { what: "mailbox", id: address } });
    const named = await officeEdits.processesNaming(db, address);
    if (named.length > 0)
      throw wrong("", `${address} is used by ${named.join(", ")}; choose another there first.`);
    await mailboxes.deleteMailbox(db, address);
    await noteEntry(c.actor, { what: "mailbox changed", data: { mailbox: address } }, db);
    return null;
  }),
);

/** Connects to the server it sends by, and signs in. @returns why that did not go; null where it did */
export const tryMailbox = defineUseCase(
  ["keep people"],
  async (c, address: string): Promise<{ why: string | null }> => {
    mustKeep(c, "try mailboxes");
    const m = await mailboxes.mailboxOf(getPool(), address);
    if (!m) throw new Failed({ code: "not-found", data: { what: "mailbox", id: address } });
    const server = sendingServer(m);
    return { why: typeof server === "string" ? server : await tryServer(server) };
  },
);
