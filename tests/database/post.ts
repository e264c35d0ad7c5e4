import { mkdtempSync, rmSync, chmodSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import MailComposer from "nodemailer/lib/mail-composer";
import { simpleParser, type ParsedMail } from "mailparser";
import { putMailbox, type Actor } from "@/services";
import { deliver } from "../../stand-ins/post/delivery";
import { NO_FAULTS } from "../../stand-ins/post/faults";
import { startPost, type Post } from "../../stand-ins/post/post";
import { value } from "./world";

const freePort = (): Promise<number> =>
  new Promise((resolve, reject) => {
    const s = createServer();
    s.once("error", reject);
    s.listen(0, "127.0.0.1", () => {
      const { port } = s.address() as { port: number };
      s.close(() => resolve(port));
    });
  });

export interface TestPost extends Post {
  smtpPort: number;
  imapPort: number;
  /** What lies in a mailbox, oldest first. */
  mails(address: string): Promise<ParsedMail[]>;
  /** Puts a mail of somebody's into a mailbox, as their mail program sends it. */
  send(m: MailSaid): Promise<void>;
}
export interface MailSaid {
  from: string;
  to: string;
  subject?: string;
  text?: string;
  html?: string;
  answers?: ParsedMail;
  headers?: Record<string, string>;
  files?: { filename: string; content: Buffer }[];
  /** Somebody else who only says to be the sender. */
  forged?: true;
}

/** A mail server of a test's own. */
export async function openPost(): Promise<TestPost> {
  const folder = mkdtempSync(join(tmpdir(), "post-"));
  chmodSync(folder, 0o755);
  const [smtpPort, imapPort] = [await freePort(), await freePort()];
  const post = await startPost({ folder, smtpPort, imapPort, pagePort: null });
  return {
    ...post,
    smtpPort,
    imapPort,
    async mails(address) {
      post.folders.open(address);
      const kept = post.folders.list(address).reverse();
      return Promise.all(kept.map((k) => simpleParser(post.folders.read(address, k.name)!)));
    },
    async send({ from, to, subject, text, html, answers, headers, files, forged }) {
      const before = answers
        ? [answers.references].flat().filter((r): r is string => typeof r === "string")
        : [];
      const raw = await new MailComposer({
        from,
        to,
        subject: subject ?? (answers ? `Re: ${answers.subject ?? ""}` : ""),
        ...(text === undefined ? {} : { text }),
        ...(html === undefined ? {} : { html }),
        ...(answers?.messageId
          ? { inReplyTo: answers.messageId, references: [...before, answers.messageId] }
          : {}),
        headers: headers ?? {},
        attachments: files ?? [],
      })
        .compile()
        .build();
      await deliver(post.folders, NO_FAULTS, { raw, from, to: [to], signedIn: forged ? null : from });
    },
    async stop() {
      await post.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Makes a mailbox that sends by a test's mail server and is read from it. */
export async function makeMailbox(keeper: Actor, post: TestPost, address: string): Promise<void> {
  const server = (port: number) => ({ host: "127.0.0.1", port });
  value(
    await putMailbox(keeper, null, {
      address,
      name: "Test office",
      smtp: server(post.smtpPort),
      imap: server(post.imapPort),
      security: "none",
      user: address,
      password: "quillhaven",
      checksBy: "post.quillhaven.example",
      news: false,
    }),
  );
}
