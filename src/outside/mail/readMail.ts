import { createHash } from "node:crypto";
import { withoutUnfit } from "@/core/form";
import { simpleParser, type AddressObject, type ParsedMail } from "mailparser";

/** Whoever wrote it, or it was written to. */
export interface MailAddress {
  name: string;
  email: string;
}
/** A report that one of ours did not arrive (RFC 3464). */
export interface Bounce {
  /** Message-ID of the one it is about; null where that is not told. */
  about: string | null;
  /** Whom it did not reach. */
  email: string;
  why: string;
}
/** A mail as it came. */
export interface InMail {
  messageId: string | null;
  inReplyTo: string | null;
  /** Ids of the thread, the one it answers last. */
  thread: string[];
  from: MailAddress | null;
  to: MailAddress[];
  copies: MailAddress[];
  subject: string;
  /** Epoch milliseconds; null where it says none. */
  date: number | null;
  text: string;
  /** Without what it repeats of what it answers, and without a signature. */
  said: string;
  files: { name: string; type: string; content: Buffer }[];
  /** Why nobody is to take it for something a person wrote; null where a person may have. */
  automatic: "automatic reply" | "report" | "list" | "own" | null;
  bounces: Bounce[];
  /** Whether the receiving server says that the sender is who it says to be. Null: it says nothing. */
  vouched: boolean | null;
  /** The same for the same mail, however often it is delivered. */
  fingerprint: string;
}

const MOST_TEXT = 200_000;
const MOST_FILES = 50;

const idsIn = (s: string | undefined): string[] => s?.match(/<[^<>\s]{1,400}>/g) ?? [];
const addresses = (of: AddressObject | AddressObject[] | undefined): MailAddress[] =>
  [of].flat().flatMap((a) =>
    (a?.value ?? []).flatMap((v) =>
      v.address
        ? [
            {
              name: withoutUnfit(v.name.slice(0, 200)),
              email: withoutUnfit(v.address.toLowerCase().slice(0, 254)),
            },
          ]
        : [],
    ),
  );

/** The lines of one header, unfolded; a header may stand several times. */
function headerLines(m: ParsedMail, name: string): string[] {
  return m.headerLines.flatMap((h) =>
    h.key === name ? [h.line.replace(/\r?\n[ \t]+/g, " ").replace(/^[^:]*:\s*/, "")] : [],
  );
}

/**
 * Reads a mail.
 * @param checksBy what the receiving server calls itself: only what it wrote itself counts (RFC 8601 §5); empty for none
 * @param own addresses of mailboxes of ours
 */
export async function readMail(raw: Buffer, checksBy: string, own: ReadonlySet<string>): Promise<InMail> {
  const m = await simpleParser(raw, {
    skipImageLinks: true,
    skipTextToHtml: true,
    keepDeliveryStatus: true,
    maxHtmlLengthToParse: 1_000_000,
  });
  const from = addresses(m.from)[0] ?? null;
  const inReplyTo = idsIn(m.inReplyTo)[0] ?? null;
  const references = idsIn([m.references].flat().filter(Boolean).join(" "));
  const text = withoutUnfit((m.text ?? "").replace(/\r\n/g, "\n").slice(0, MOST_TEXT));
  const messageId = idsIn(m.messageId)[0] ?? null;
  const bounces = bouncesIn(m);
  const date = m.date && !Number.isNaN(m.date.getTime()) ? m.date.getTime() : null;
  return {
    messageId,
    inReplyTo,
    thread: [...new Set([...references, ...(inReplyTo ? [inReplyTo] : [])])].slice(-100),
    from,
    to: addresses(m.to),
    copies: addresses(m.cc),
    subject: withoutUnfit((m.subject ?? "").replace(/\s+/g, " ").slice(0, 400)),
    date,
    text,
    said: await ownWords(text),
    files: m.attachments
      .filter((a) => !/^message\/(delivery-status|rfc822)$|^text\/rfc822-headers$/.test(a.contentType))
      .slice(0, MOST_FILES)
      .map((a, i) => ({ name: a.filename ?? `file ${i + 1}`, type: a.contentType, content: a.content })),
    automatic: automaticBy(m, from, own),
    bounces,
    vouched: vouchedFor(m, checksBy, from),
    fingerprint: createHash("sha256")
      .update(
        JSON.stringify([
          messageId,
          from?.email,
          m.subject,
          date,
          createHash("sha256").update(text).digest("hex"),
        ]),
      )
      .digest("hex"),
  };
}

const MOST_READ = 100_000;
const LONGEST_LINE = 2_000;

/**
 * What somebody wrote themselves. The package knows how mail programs quote and sign, and takes long over long lines: they
 * are cut, and a text is cut, before it sees them.
 */
async function ownWords(text: string): Promise<string> {
  const cut = text
    .slice(0, MOST_READ)
    .split("\n")
    .map((l) => l.slice(0, LONGEST_LINE))
    .join("\n");
  // By itself: in a bundle for Node a package of ES modules alone gives its default only so.
  const { default: EmailReplyParser } = await import("email-reply-parser");
  const read = new EmailReplyParser().read(cut).getVisibleText().trim();
  // In languages it does not know, what leads to the repeated text stays: "… <loans@example.org> napisał(a):".
  return read.replace(/(^|\n)[^\n]{0,200}<[^<>\s@]{1,64}@[^<>\s]{1,190}>[^\n<>]{0,40}:$/u, "").trim();
}

/** Signs by which programs say that they are some (RFC 3834 §2, RFC 2919, RFC 3464). */
function automaticBy(m: ParsedMail, from: MailAddress | null, own: ReadonlySet<string>): InMail["automatic"] {
  const header = (name: string) => headerLines(m, name)[0]?.trim().toLowerCase() ?? "";
  const type = header("content-type");
  if (type.startsWith("multipart/report") || /^<\s*>$/.test(header("return-path"))) return "report";
  if (from === null || /^(mailer-daemon|postmaster)@/.test(from.email)) return "report";
  // What comes from ourselves goes in circles.
  if (own.has(from.email)) return "own";
  const submitted = header("auto-submitted");
  if (submitted !== "" && !submitted.startsWith("no")) return "automatic reply";
  if (
    header("x-autoreply") !== "" ||
    header("x-autorespond") !== "" ||
    header("x-auto-response-suppress").includes("oof")
  )
    return "automatic reply";
  if (/^(bulk|junk|auto_reply)$/.test(header("precedence"))) return "automatic reply";
  if (header("list-id") !== "" || header("precedence") === "list" || header("list-unsubscribe") !== "")
    return "list";
  return null;
}

/** What the receiving server says of the domain the sender shows; of what others say in its name nothing counts. */
function vouchedFor(m: ParsedMail, checksBy: string, from: MailAddress | null): boolean | null {
  if (checksBy === "") return null;
  for (const line of headerLines(m, "authentication-results")) {
    const [server = "", ...results] = line.split(";").map((s) => s.trim());
    if (server.split(/\s/)[0]!.toLowerCase() !== checksBy.toLowerCase()) continue;
    const dmarc = results.find((r) => /^dmarc\s*=/i.test(r));
    if (!dmarc) return null;
    const domain = /header\.from\s*=\s*([^\s;]+)/i.exec(dmarc)?.[1]?.toLowerCase();
    const said = from?.email.split("@")[1];
    return /^dmarc\s*=\s*pass\b/i.test(dmarc) && (domain === undefined || domain === said);
  }
  return null;
}

function bouncesIn(m: ParsedMail): Bounce[] {
  const status = m.attachments.find((a) => a.contentType === "message/delivery-status");
  if (!status) return [];
  const original = m.attachments.find((a) => /^message\/rfc822$|^text\/rfc822-headers$/.test(a.contentType));
  const head = original?.content.subarray(0, 64 * 1024).toString("latin1") ?? "";
  const about = idsIn(/^message-id:\s*(.*(?:\r?\n[ \t].*)*)/im.exec(head)?.[1])[0] ?? null;
  const groups = status.content
    .toString("utf8")
    .slice(0, 100_000)
    .split(/\r?\n\r?\n/);
  return groups.slice(0, 100).flatMap((g) => {
    const field = (name: string) =>
      new RegExp(`^${name}:\\s*(.*(?:\\r?\\n[ \\t].*)*)`, "im").exec(g)?.[1]?.replace(/\s+/g, " ").trim() ??
      "";
    // Delayed is not failed.
    if (field("action").toLowerCase() !== "failed") return [];
    const email = (field("final-recipient") || field("original-recipient"))
      .replace(/^[^;]*;\s*/, "")
      .toLowerCase();
    const why = (field("diagnostic-code").replace(/^[^;]*;\s*/, "") || field("status")).slice(0, 300);
    return [{ about, email: withoutUnfit(email.slice(0, 254)), why: withoutUnfit(why) }];
  });
}
