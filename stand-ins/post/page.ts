import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import MailComposer from "nodemailer/lib/mail-composer";
import { simpleParser, type ParsedMail } from "mailparser";
import { bodyOf } from "../bodyOf";
import { deliver, isRefused } from "./delivery";
import { FAULTS, type Faults } from "./faults";
import type { MailFolders } from "./mailFolders";
import { escape, PAGE_HEADERS, when } from "../look";
import { framed, page } from "./pageParts";

/** Mails shown of one mailbox. */
const MOST_SHOWN = 100;
const MOST_SENT = 60 * 1024 * 1024;

interface Post {
  folders: MailFolders;
  faults(): Faults;
  setFaults(f: Faults): void;
}

/** A plain page to read, answer, forward and write mail as anybody. */
export async function startPage(port: number, post: Post): Promise<() => Promise<void>> {
  const server = createServer((req, res) => {
    answer(post, req, res).catch((e: Error) => {
      if (!res.headersSent) res.writeHead(500, { "content-type": "text/html; charset=utf-8" });
      res.end(page("Not done", post.folders.addresses(), null, `<p role="alert">${escape(e.message)}</p>`));
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(port, "127.0.0.1", () => resolve());
  });
  return () =>
    new Promise((resolve) => {
      server.close(() => resolve());
      server.closeAllConnections();
    });
}

async function answer(post: Post, req: IncomingMessage, res: ServerResponse): Promise<void> {
  const url = new URL(req.url ?? "/", "http://post");
  const [what = "", address = "", name = "", part = ""] = url.pathname
    .slice(1)
    .split("/")
    .map(decodeURIComponent);
  const html = (title: string, body: string, status = 200) => {
    res.writeHead(status, PAGE_HEADERS);
    res.end(page(title, post.folders.addresses(), address || null, body));
  };
  const go = (to: string) => void res.writeHead(303, { location: to }).end();
  if (req.method === "POST") {
    const form = await formOf(req);
    if (what === "faults") {
      const share = (n: string) => Number(form.get(n) || 0) / 100;
      post.setFaults(
        FAULTS.parse({
          slow: Number(form.get("slow") || 0),
          refuse: share("refuse"),
          loseAfter: share("loseAfter"),
          loseBefore: share("loseBefore"),
          twice: share("twice"),
        }),
      );
      return go("/faults");
    }
    if (what === "write") {
      await write(post, form);
      return go(`/box/${encodeURIComponent(text(form, "from"))}?sent=1`);
    }
    res.writeHead(404).end();
    return;
  }
  if (what === "")
    return html(
      "Post",
      `<p>Pick a mailbox at the left. Every mail sent by the demo arrives here; nothing leaves this machine.</p>`,
    );
  if (what === "faults") return html("What goes wrong", faultsForm(post.faults()));
  if (what === "write") return html("A new mail", writeForm(prefilled(url)));
  if (what === "box" && !name) {
    const { rows, more } = await listed(post, address);
    const sent = url.searchParams.has("sent") ? `<p role="status">Sent.</p>` : "";
    const write = `<p><a class="deed" href="/write?from=${encodeURIComponent(address)}">Write a mail</a></p>`;
    const list =
      rows.length > 0 ? `<table><tbody>${rows.join("")}</tbody></table>` : `<p class="soft">No mail yet.</p>`;
    return html(
      address,
      `${sent}${write}${list}${more ? `<p class="soft">The newest ${MOST_SHOWN} are shown.</p>` : ""}`,
    );
  }
  const raw = what === "box" ? post.folders.read(address, name) : null;
  if (!raw) return html("Not there", "<p>There is no such mail.</p>", 404);
  if (part === "source") {
    res.writeHead(200, { "content-type": "text/plain; charset=utf-8" }).end(raw);
    return;
  }
  const mail = await simpleParser(raw);
  if (part === "file") {
    const file = mail.attachments[Number(url.searchParams.get("n"))];
    if (!file) return html("Not there", "<p>There is no such file.</p>", 404);
    res.writeHead(200, {
      "content-type": "application/octet-stream",
      "content-disposition": `attachment; filename*=UTF-8''${encodeURIComponent(file.filename ?? "file")}`,
    });
    res.end(file.content);
    return;
  }
  if (part === "answer" || part === "forward")
    return html(
      part === "answer" ? "Reply" : "Forward",
      writeForm(replyTo(address, mail, part === "forward")),
    );
  post.folders.markRead(address, name);
  html(mail.subject || "(no subject)", shown(address, name, mail));
}

/** Forms with files, and plain ones; read by Node itself. */
async function formOf(req: IncomingMessage): Promise<FormData> {
  const body = await bodyOf(req, MOST_SENT);
  if (!body) throw new Error("That is more than 60 MB.");
  return new Response(new Uint8Array(body), {
    headers: { "content-type": req.headers["content-type"] ?? "" },
  }).formData();
}
const text = (f: FormData, name: string): string => {
  const v = f.get(name);
  return typeof v === "string" ? v.trim() : "";
};
const addressesIn = (said: string): string[] =>
  said
    .split(/[,;\s]+/)
    .map((a) => a.trim().toLowerCase())
    .filter((a) => a.includes("@"));

async function write(post: Post, form: FormData): Promise<void> {
  const from = text(form, "from");
  const [to, copy] = [addressesIn(text(form, "to")), addressesIn(text(form, "copy"))];
  if (to.length === 0)
    throw new Error("A mail needs an address it goes to, for example loans@quillhaven.example.");
  const refused = [...to, ...copy].find(isRefused);
  if (refused) throw new Error(`There is no mailbox ${refused}.`);
  const files = await Promise.all(
    form
      .getAll("files")
      .flatMap((f) => (typeof f === "string" || f.size === 0 ? [] : [f]))
      .map(async (f) => ({ filename: f.name, content: Buffer.from(await f.arrayBuffer()) })),
  );
  const said = String(form.get("text") ?? "");
  const as = text(form, "as");
  const html = as === "html" ? { html: said } : {};
  const headers: Record<string, string> = as === "away" ? { "Auto-Submitted": "auto-replied" } : {};
  const raw = await new MailComposer({
    from,
    to,
    cc: copy,
    subject: text(form, "subject"),
    ...(as === "html" ? html : { text: said }),
    ...(text(form, "inReplyTo")
      ? { inReplyTo: text(form, "inReplyTo"), references: text(form, "references").split(/\s+/) }
      : {}),
    headers,
    attachments: files,
  })
    .compile()
    .build();
  const signedIn = form.get("forged") ? null : from;
  await deliver(post.folders, post.faults(), { raw, from, to: [...to, ...copy], signedIn });
}

async function listed(post: Post, address: string): Promise<{ rows: string[]; more: boolean }> {
  const all = post.folders.list(address);
  const rows = await Promise.all(
    all.slice(0, MOST_SHOWN).map(async ({ name, read }) => {
      // The beginning holds the headers; a mail of 50 MB is not read to be listed.
      const raw = post.folders.read(address, name)?.subarray(0, 64 * 1024) ?? Buffer.alloc(0);
      const m = await simpleParser(raw, { skipHtmlToText: true, skipTextToHtml: true, skipImageLinks: true });
      const to = `/box/${encodeURIComponent(address)}/${encodeURIComponent(name.split(":")[0]!)}`;
      const who = m.from?.value[0]?.name || m.from?.text || "nobody";
      return `<tr${read ? "" : ' class="new"'}><td><a href="${to}">${escape(m.subject || "(no subject)")}</a></td><td>${escape(who)}</td><td class="soft">${when(m.date)}</td></tr>`;
    }),
  );
  return { rows, more: all.length > MOST_SHOWN };
}

function shown(address: string, name: string, m: ParsedMail): string {
  const here = `/box/${encodeURIComponent(address)}/${encodeURIComponent(name)}`;
  const to = [m.to]
    .flat()
    .flatMap((t) => (t ? [t.text] : []))
    .join(", ");
  const copy = [m.cc]
    .flat()
    .flatMap((t) => (t ? [t.text] : []))
    .join(", ");
  const files = m.attachments.map(
    (a, i) =>
      `<li><a href="${here}/file?n=${i}">${escape(a.filename ?? "file")}</a> <span class="soft">${Math.ceil(a.size / 1024)} KB</span></li>`,
  );
  const body = typeof m.html === "string" ? framed(m.html) : `<pre>${escape(m.text ?? "")}</pre>`;
  return `<dl><dt>From</dt><dd>${escape(m.from?.text ?? "")}</dd><dt>To</dt><dd>${escape(to)}</dd>${copy ? `<dt>Copy</dt><dd>${escape(copy)}</dd>` : ""}<dt>Sent</dt><dd>${when(m.date)}</dd></dl>
<p><a class="deed" href="${here}/answer">Reply</a> <a class="deed" href="${here}/forward">Forward</a> <a href="${here}/source">As it was sent</a></p>
${body}${files.length > 0 ? `<h2>Files</h2><ul>${files.join("")}</ul>` : ""}`;
}

interface Draft {
  from: string;
  to: string;
  subject: string;
  text: string;
  inReplyTo: string;
  references: string;
}
const prefilled = (url: URL): Draft => ({
  from: url.searchParams.get("from") ?? "",
  to: url.searchParams.get("to") ?? "",
  subject: "",
  text: "",
  inReplyTo: "",
  references: "",
});

function replyTo(address: string, m: ParsedMail, forward: boolean): Draft {
  const quoted = (m.text ?? "")
    .split("\n")
    .map((l) => `> ${l}`)
    .join("\n");
  const who = m.from?.text ?? "";
  const intro = forward ? "---------- Forwarded mail ----------" : `On ${when(m.date)}, ${who} wrote:`;
  const before = [m.references].flat().filter((r): r is string => typeof r === "string");
  const head = forward ? "Fwd: " : "Re: ";
  const subject = m.subject ?? "";
  return {
    from: address,
    to: forward ? "" : (m.replyTo?.value[0]?.address ?? m.from?.value[0]?.address ?? ""),
    subject: subject.startsWith(head) ? subject : `${head}${subject}`,
    text: `\n\n${intro}\n${quoted}`,
    inReplyTo: forward ? "" : (m.messageId ?? ""),
    references: forward ? "" : [...before, m.messageId ?? ""].join(" ").trim(),
  };
}

const writeForm = (d: Draft): string => `<form method="post" action="/write" enctype="multipart/form-data">
<label>From <input name="from" value="${escape(d.from)}" required></label>
<label>To <input name="to" value="${escape(d.to)}" required></label>
<label>Copy <input name="copy"></label>
<label>Subject <input name="subject" value="${escape(d.subject)}"></label>
<label>Text <textarea name="text" rows="14">${escape(d.text)}</textarea></label>
<label>Files <input type="file" name="files" multiple></label>
<label>Sent as <select name="as"><option value="text">plain text</option><option value="html">HTML</option><option value="away">an automatic reply (out of office)</option></select></label>
<label class="line"><input type="checkbox" name="forged"> Somebody else, who only says to be this sender</label>
<input type="hidden" name="inReplyTo" value="${escape(d.inReplyTo)}"><input type="hidden" name="references" value="${escape(d.references)}">
<button>Send</button></form>`;

const faultsForm = (f: Faults): string => {
  const share = (name: keyof Faults, says: string) =>
    `<label>${says} <span class="soft">(of 100 mails)</span> <input type="number" min="0" max="100" name="${name}" value="${Math.round(f[name] * 100)}"></label>`;
  return `<form method="post" action="/faults"><p>Post works well unless it is told otherwise.</p>
<label>Slow: so many milliseconds before each mail is taken <input type="number" min="0" max="60000" name="slow" value="${f.slow}"></label>
${share("refuse", "Refused for now")}${share("loseBefore", "Connection lost before the mail is taken")}${share("loseAfter", "Connection lost after it is taken")}${share("twice", "Put into the mailbox twice")}
<button>Set</button></form><p class="soft">Addresses that begin with nobody, no-such or unknown are refused at once; those that begin with moved, full or returned take a mail and send it back.</p>`;
};
