import { Readable } from "node:stream";
import MailComposer from "nodemailer/lib/mail-composer";
import SMTPConnection from "nodemailer/lib/smtp-connection";
import type { MailServer } from "./server";

export interface Addressee {
  name: string;
  email: string;
}
/** A mail as it goes out. All addresses are single ones, checked by whoever calls (`isEmailAddress`). */
export interface OutMail {
  from: Addressee;
  to: readonly Addressee[];
  copies: readonly Addressee[];
  /** Receive it, and stand nowhere in it. */
  blind: readonly Addressee[];
  replyTo: Addressee | null;
  subject: string;
  text: string;
  /** The same for programs that show it; styles on each thing. */
  html: string;
  messageId: string;
  inReplyTo: string | null;
  references: readonly string[];
  files: readonly { name: string; type: string; content: Buffer }[];
}
export interface NotReached {
  email: string;
  why: string;
}
/**
 * What came of sending. `later`: not now, nothing was taken. `perhaps`: its text was given and no word came back, so that
 * it cannot be known whether it was taken (RFC 5321 §4.2.5, §4.5.3.2.6).
 */
export type CameOfSending =
  | { came: "sent"; missed: NotReached[] }
  | { came: "refused"; missed: NotReached[] }
  | { came: "later"; why: string }
  | { came: "perhaps"; why: string };

const CONNECTING_MS = 15_000;
/** Longest silence of the server; RFC 5321 §4.5.3.2.6 asks for ten minutes after the text, which nobody waits for here. */
const SILENCE_MS = 90_000;

type Failure = Error & {
  responseCode?: number;
  response?: string;
  rejectedErrors?: Failure[];
  recipient?: string;
};

const oneLine = (s: string): string => s.replace(/[\r\n\t\0]+/g, " ").trim();
const address = ({ name, email }: Addressee) => ({ name: oneLine(name), address: email });

/** The mail as it is sent. */
function compose(m: OutMail): Promise<Buffer> {
  return new MailComposer({
    from: address(m.from),
    to: m.to.map(address),
    cc: m.copies.map(address),
    ...(m.replyTo ? { replyTo: address(m.replyTo) } : {}),
    subject: oneLine(m.subject),
    text: m.text,
    html: m.html,
    messageId: m.messageId,
    ...(m.inReplyTo ? { inReplyTo: m.inReplyTo } : {}),
    ...(m.references.length > 0 ? { references: [...m.references] } : {}),
    // RFC 3834: whoever answers by a program does not answer this.
    headers: { "Auto-Submitted": "auto-generated" },
    attachments: m.files.map((f) => ({ filename: f.name, contentType: f.type, content: f.content })),
    disableFileAccess: true,
    disableUrlAccess: true,
  })
    .compile()
    .build();
}

/**
 * Sends one mail by SMTP.
 * @param given is waited for when the server is ready for the text and has not had any of it: from then on it cannot be
 *   known that it did not arrive
 */
export async function sendMail(
  server: MailServer,
  mail: OutMail,
  given: () => Promise<void>,
): Promise<CameOfSending> {
  const raw = await compose(mail);
  const connection = connectionTo(server, SILENCE_MS, mail.from.email.split("@")[1]);
  let begun = false;
  try {
    await ready(connection, server);
    const to = [...mail.to, ...mail.copies, ...mail.blind].map((a) => a.email);
    const text = Readable.from(
      (async function* () {
        begun = true;
        await given();
        yield raw;
      })(),
      { objectMode: false },
    );
    const info = await send(connection, { from: mail.from.email, to, size: raw.length }, text);
    return { came: "sent", missed: (info.rejectedErrors ?? []).map(missedOf) };
  } catch (e) {
    return cameOf(e as Failure, begun, mail);
  } finally {
    connection.close();
  }
}

const missedOf = (e: Failure): NotReached => ({
  email: e.recipient ?? "",
  why: oneLine(e.response ?? e.message).slice(0, 300),
});

function cameOf(e: Failure, begun: boolean, mail: OutMail): CameOfSending {
  const why = oneLine(e.response ?? e.message).slice(0, 300);
  const code = e.responseCode ?? 0;
  // 421 says that the connection ends, and nothing of what became of the text.
  const answered = code >= 400 && !(begun && code === 421);
  if (begun && !answered) return { came: "perhaps", why };
  const each = e.rejectedErrors ?? [];
  if (each.length > 0 && each.every((x) => (x.responseCode ?? 0) >= 500))
    return { came: "refused", missed: each.map(missedOf) };
  if (each.length > 0) return { came: "later", why: missedOf(each[0]!).why };
  // What the server has against this mail; against our signing in (53x) somebody may do something.
  if (code >= 500 && !/^53/.test(String(code)))
    return { came: "refused", missed: mail.to.map((a) => ({ email: a.email, why })) };
  return { came: "later", why };
}

/** @param silence longest silence of the server, in milliseconds; @param name what we call ourselves */
const connectionTo = (server: MailServer, silence: number, name = "localhost"): SMTPConnection =>
  new SMTPConnection({
    host: server.host,
    port: server.port,
    secure: server.security === "tls",
    requireTLS: server.security === "starttls",
    ignoreTLS: server.security === "none",
    connectionTimeout: CONNECTING_MS,
    greetingTimeout: CONNECTING_MS,
    socketTimeout: silence,
    name,
  });

/** Connects and signs in. */
const ready = (connection: SMTPConnection, server: MailServer): Promise<void> =>
  new Promise((resolve, reject) => {
    // Also after it is connected: a connection that is lost would otherwise be lost for the whole program.
    connection.on("error", reject);
    connection.on("end", () => reject(new Error("The connection was closed")));
    connection.connect((e) => {
      if (e) return reject(e);
      connection.login({ user: server.user, pass: server.password }, (x) => (x ? reject(x) : resolve()));
    });
  });

type Info = { rejectedErrors?: Failure[] };
const send = (
  connection: SMTPConnection,
  envelope: { from: string; to: string[]; size: number },
  text: Readable,
): Promise<Info> =>
  new Promise((resolve, reject) => {
    connection.on("error", reject);
    connection.on("end", () => reject(new Error("The connection was closed")));
    text.once("error", reject);
    connection.send(envelope, text, (e, info) => (e ? reject(e) : resolve(info as Info)));
  });

/** Whether a server lets one in. @returns why not; null where it does */
export async function tryServer(server: MailServer): Promise<string | null> {
  const connection = connectionTo(server, CONNECTING_MS);
  try {
    await ready(connection, server);
    return null;
  } catch (e) {
    return oneLine((e as Failure).response ?? (e as Error).message);
  } finally {
    connection.close();
  }
}
