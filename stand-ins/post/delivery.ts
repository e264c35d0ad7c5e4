import MailComposer from "nodemailer/lib/mail-composer";
import { simpleParser } from "mailparser";
import { REFUSED, RETURNED, type Faults } from "./faults";
import type { MailFolders } from "./mailFolders";

/** What this server calls itself where it says what it found out about a sender (RFC 8601 §2.5). */
export const SERVER_NAME = "post.quillhaven.example";

export const isRefused = (address: string): boolean => REFUSED.test(address);

/** Headers at the beginning of a mail, each with the lines that go on with it; and what follows them. */
function splitHead(raw: Buffer): { head: string[]; body: Buffer } {
  const text = raw.toString("latin1");
  const at = /\r?\n\r?\n/.exec(text);
  const end = at ? at.index : text.length;
  const head = text.slice(0, end).split(/\r?\n(?![ \t])/);
  return { head, body: raw.subarray(at ? at.index + at[0].length : raw.length) };
}

/**
 * What a receiving server does with a mail: takes away what others say in its name, says itself what it found out about
 * the sender, and puts it into the mailboxes.
 * @param signedIn the address whoever sent it had signed in as; null for a stranger
 */
export async function deliver(
  folders: MailFolders,
  faults: Faults,
  mail: { raw: Buffer; from: string; to: readonly string[]; signedIn: string | null },
): Promise<void> {
  const { head, body } = splitHead(mail.raw);
  const own = new RegExp(`^authentication-results:\\s*${SERVER_NAME.replace(/\./g, "\\.")}\\b`, "i");
  const kept = head.filter((h) => !own.test(h.replace(/\r?\n[ \t]+/g, " ")));
  const parsed = await simpleParser(Buffer.concat([Buffer.from(`${kept.join("\r\n")}\r\n\r\n`, "latin1")]));
  const from = parsed.from?.value[0]?.address?.toLowerCase() ?? "";
  const known = mail.signedIn !== null && from === mail.signedIn.toLowerCase();
  const found = known ? "pass" : "fail";
  const said = `Authentication-Results: ${SERVER_NAME}; dmarc=${found} header.from=${from.split("@")[1] ?? "none"}`;
  const received = `Received: from ${mail.from || "<>"} by ${SERVER_NAME}; ${new Date().toUTCString()}`;
  const raw = Buffer.concat([
    Buffer.from(
      `Return-Path: <${mail.from}>\r\n${received}\r\n${said}\r\n${kept.join("\r\n")}\r\n\r\n`,
      "latin1",
    ),
    body,
  ]);
  for (const to of mail.to) {
    if (RETURNED.test(to) && mail.from !== "") {
      await sendBack(folders, { ...mail, to, head: kept });
      continue;
    }
    const copies = Math.random() < faults.twice ? 2 : 1;
    for (let i = 0; i < copies; i++) folders.deliver(to, raw);
  }
}

/** A report that a mail could not be delivered (RFC 3464), in the name of nobody, so that none comes of it. */
async function sendBack(folders: MailFolders, m: { from: string; to: string; head: readonly string[] }) {
  const report = new MailComposer({
    from: `Mail delivery <mailer-daemon@${SERVER_NAME}>`,
    to: m.from,
    subject: "Undelivered mail returned to sender",
    headers: { "Auto-Submitted": "auto-replied" },
    text: `This is the mail system of ${SERVER_NAME}.\n\nYour mail could not be delivered to ${m.to}: the mailbox is not there any more.\n`,
    attachments: [
      {
        contentType: "message/delivery-status",
        contentTransferEncoding: "7bit",
        contentDisposition: "inline",
        content: `Reporting-MTA: dns; ${SERVER_NAME}\r\n\r\nFinal-Recipient: rfc822; ${m.to}\r\nAction: failed\r\nStatus: 5.1.1\r\nDiagnostic-Code: smtp; 550 5.1.1 The mailbox is not there any more\r\n`,
      },
      {
        contentType: "text/rfc822-headers",
        contentTransferEncoding: "7bit",
        contentDisposition: "inline",
        content: `${m.head.join("\r\n")}\r\n`,
      },
    ],
  }).compile();
  const whole = (await report.build())
    .toString("latin1")
    .replace(
      /^Content-Type: multipart\/mixed;/m,
      "Content-Type: multipart/report; report-type=delivery-status;",
    );
  folders.deliver(m.from, Buffer.from(`Return-Path: <>\r\n${whole}`, "latin1"));
}
