import { createHmac } from "node:crypto";
import { settings, type Db } from "@/db";

let kept: string | null = null;

/** What ids are made with; it stays for good, because replies name ids of long ago. */
export async function messageKey(db: Db): Promise<string> {
  kept ??= await settings.readSetting<string>(db, "message_key");
  if (!kept) throw new Error("there is no key that message ids are made with");
  return kept;
}

const made = (key: string, of: readonly (string | number)[]): string =>
  createHmac("sha256", key).update(JSON.stringify(of)).digest("hex").slice(0, 40);
const domainOf = (mailbox: string): string => mailbox.split("@")[1] ?? "localhost";

/**
 * The Message-ID of a mail (RFC 5322 §3.6.4): made from the effect's id, so that a mail sent twice is known as the same,
 * and with a key, so that nobody can name one that was not sent to them.
 */
export const messageIdOf = (
  key: string,
  mailbox: string,
  request: string,
  effect: string,
  part: number,
): string => `<${made(key, ["mail", request, effect, part])}@${domainOf(mailbox)}>`;

/** The first id of a thread: of one request with one person. No mail has it; mail programs need none that has. */
export const threadIdOf = (key: string, mailbox: string, request: string, email: string): string =>
  `<${made(key, ["thread", request, email])}@${domainOf(mailbox)}>`;

/** By which a chat room knows a message, however often it is posted. */
export const chatKeyOf = (key: string, message: string): string => made(key, ["chat", message]);
