import { createHash, randomInt, timingSafeEqual } from "node:crypto";
import { emailKey, isEmailAddress } from "@/core/form";
import { letterPage, partsOfText } from "@/core/letter";
import { getPool, inTransaction, mailboxes, outside } from "@/db";
import { sendMail } from "@/outside/mail";
import { nowMs } from "../kernel/clock";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { sendingServer } from "../mail/mailbox";
import { messageIdOf, messageKey } from "../mail/messageIds";
import { publicProcess } from "./publicProcess";
import { mustHaveRoom } from "./outsidePace";

const MINUTES = 30;
/** Of a million codes so many may be tried. */
const MOST_TRIES = 5;

const invalid = (path: string, message: string) => new Failed({ code: "invalid", data: { path, message } });
const digest = (account: string, code: string): Buffer =>
  createHash("sha256").update(`${account} ${code}`).digest();

/** An address as somebody typed it, where it is one. @throws Failed with what is wrong with it */
export function addressTyped(text: string): string {
  const address = text.trim();
  if (!isEmailAddress(address))
    throw invalid("E-mail", "Give an address such as ada.byrne@example.org, so that you can be answered.");
  return address;
}

/**
 * Sends a code to an address, for whoever fills in a public form to show that it is theirs. It is sent at once and not
 * kept in any book: what is kept is made of it.
 */
export const sendAddressCode = defineUseCase(
  ["ask from outside"],
  async (c, processKey: string, typed: string): Promise<{ minutes: number }> => {
    const db = getPool();
    const { open, row } = await publicProcess(c, db, processKey);
    if (open.asks !== "confirmed") throw invalid("", "No code is asked for here.");
    const address = addressTyped(typed);
    const { mailbox } = row.released;
    const box = mailbox ? await mailboxes.mailboxOf(db, mailbox) : null;
    const server = box && sendingServer(box);
    if (!box || !server || typeof server === "string")
      throw invalid("", "No code can be sent just now. What you typed is still here: try again later.");
    const code = String(randomInt(0, 1_000_000)).padStart(6, "0");
    const now = await inTransaction(async (tx) => {
      await mustHaveRoom(tx, "code", processKey);
      await mustHaveRoom(tx, "code to", emailKey(address));
      const at = await nowMs(tx);
      await outside.insertVisitor(tx, c.actor.id);
      await outside.keepCode(tx, {
        account: c.actor.id,
        address: emailKey(address),
        hash: digest(c.actor.id, code),
        now: at,
      });
      return at;
    });
    const text = `Your code is ${code}. Type it into the form “${row.released.name}” within ${MINUTES} minutes.\n\nIf you filled in no form of ${open.letterhead}, somebody mistyped their address: you need do nothing.`;
    const key = await messageKey(db);
    const came = await sendMail(
      server,
      {
        from: { name: box.name, email: box.address },
        to: [{ name: "", email: address }],
        copies: [],
        blind: [],
        replyTo: null,
        subject: `${code} is your code`,
        text,
        html: letterPage({ language: "", parts: partsOfText(text) }),
        messageId: messageIdOf(key, box.address, "", `code ${c.actor.id} ${now}`, 0),
        inReplyTo: null,
        references: [],
        files: [],
      },
      async () => undefined,
    );
    if (came.came === "refused")
      throw invalid("E-mail", `${address} does not take mail: ${came.missed[0]?.why ?? "it was refused"}.`);
    if (came.came === "later")
      throw invalid(
        "",
        "The code could not be sent just now. What you typed is still here: try again in a moment.",
      );
    return { minutes: MINUTES };
  },
);

/**
 * Whether a code is the one that was sent to this address for this account. Each try counts, also one that comes to
 * nothing, so it is asked outside of any transaction.
 * @throws Failed with what to do where it is not
 */
export async function mustHaveCode(account: string, address: string, code: string): Promise<void> {
  const db = getPool();
  const kept = await outside.tryCode(db, account);
  const path = "Code";
  if (!kept || kept.address !== emailKey(address))
    throw invalid(path, `None was sent to ${address} yet. Have one sent, then type it here.`);
  if (kept.tries > MOST_TRIES)
    throw invalid(path, `It was tried ${MOST_TRIES} times. Have another one sent.`);
  if ((await nowMs(db)) - kept.made_at > MINUTES * 60_000)
    throw invalid(path, `It was good for ${MINUTES} minutes. Have another one sent.`);
  const said = digest(account, code.replace(/\s/g, ""));
  if (!timingSafeEqual(said, kept.code_hash))
    throw invalid(
      path,
      "That is not the code in the letter. It has six figures; look for the newest letter.",
    );
}
