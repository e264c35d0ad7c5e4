import type { IncomingMessage, ServerResponse } from "node:http";
import { bodyOf } from "../bodyOf";
import { escape, page, PAGE_HEADERS, when } from "../look";
import type { Chat } from "./chat";
import type { Faults } from "./faults";
import type { Kept } from "./message";
import { tellPress } from "./press";

const MOST_SHOWN = 100;

/** Plain pages to read and answer messages as anybody. */
export async function answerPage(
  chat: Chat,
  req: IncomingMessage,
  res: ServerResponse,
  url: URL,
): Promise<void> {
  const [what = "", name = ""] = url.pathname.slice(1).split("/").map(decodeURIComponent);
  const html = (title: string, body: string, status = 200) => {
    res.writeHead(status, PAGE_HEADERS);
    res.end(framed(chat, what, name, title, body));
  };
  const go = (to: string) => void res.writeHead(303, { location: to }).end();
  if (req.method === "POST") {
    const form = await formOf(req);
    if (what === "faults") {
      const share = (n: string) => Number(form.get(n) || 0) / 100;
      chat.setFaults({
        slow: Number(form.get("slow") || 0),
        refuse: share("refuse"),
        loseAfter: share("loseAfter"),
        twice: share("twice"),
        mute: share("mute"),
      });
      return go("/faults");
    }
    if (what === "press") {
      const said = await press(chat, form);
      return go(`${form.get("back") || "/"}?said=${encodeURIComponent(said)}`);
    }
    return html("Not there", "<p>There is nothing here.</p>", 404);
  }
  if (what === "faults") return html("What goes wrong", faultsForm(chat.faults()));
  if (what === "as" && chat.accounts.includes(name))
    return html(name, listed(chat, { account: name }, name, url));
  if (what === "room" && chat.rooms.includes(name))
    return html(name, listed(chat, { room: name }, null, url));
  if (what === "")
    return html(
      "Chat room",
      "<p>Pick at the left as whom you read. Everything the demo says in chat arrives here; nothing leaves this machine.</p>",
    );
  html("Not there", "<p>There is no such account or room.</p>", 404);
}

function framed(chat: Chat, what: string, name: string, title: string, body: string): string {
  const items = (at: "as" | "room", of: readonly string[]) =>
    of.map((x) => ({ href: `/${at}/${encodeURIComponent(x)}`, text: x, here: what === at && x === name }));
  return page({
    name: "Chat room",
    title,
    links: [
      ["/", "Everybody"],
      ["/faults", "What goes wrong"],
      ["/openapi.json", "How it is spoken to"],
    ],
    lists: [
      { label: "Rooms", of: items("room", chat.rooms) },
      { label: "To one person", of: items("as", chat.accounts) },
    ],
    body,
  });
}

function listed(chat: Chat, to: Kept["to"], as: string | null, url: URL): string {
  const said = url.searchParams.get("said");
  const all = chat.messages.of(to);
  const shown = all.slice(0, MOST_SHOWN).map((m) => messageShown(m, as, url.pathname));
  return `${said ? `<p role="status" class="said">${escape(said)}</p>` : ""}${
    shown.length > 0 ? shown.join("") : '<p class="soft">No messages yet.</p>'
  }${all.length > MOST_SHOWN ? `<p class="soft">The newest ${MOST_SHOWN} are shown.</p>` : ""}`;
}

/** Answers stand as underlined words with what they do; pressing one opens a line for a note. */
function messageShown(m: Kept, as: string | null, back: string): string {
  const { heading, text, facts, answers, fills, link, over } = m.message;
  const told = facts.map((f) => `<dt>${escape(f.name)}</dt><dd>${escape(f.value)}</dd>`).join("");
  const lines = fills
    .map((f) => {
      const name = `name="fill ${escape(f.id)}"`;
      const needed = f.needed ? " required" : "";
      const input = f.choices
        ? `<select ${name}${needed}><option value="">…</option>${f.choices.map((c) => `<option${c === f.value ? " selected" : ""}>${escape(c)}</option>`).join("")}</select>`
        : `<input ${name} value="${escape(f.value)}"${needed}>`;
      return `<label>${escape(f.label)}${input}</label>`;
    })
    .join("");
  const ways = answers.map(
    (
      a,
    ) => `<details name="${m.id}"><summary><u>${escape(a.label)}</u> <span class="soft">${escape(a.does)}</span></summary>
<form method="post" action="/press"><input type="hidden" name="message" value="${m.id}"><input type="hidden" name="answer" value="${escape(a.id)}"><input type="hidden" name="account" value="${escape(as ?? "")}"><input type="hidden" name="back" value="${escape(back)}">
${lines}<label>Note <span class="soft">${a.note === "must" ? "(say why)" : "(if you want to say something)"}</span><textarea name="note" rows="2"${a.note === "must" ? " required" : ""}></textarea></label>
<button>Say “${escape(a.label)}”</button></form></details>`,
  );
  return `<article aria-label="${escape(heading)}"><p class="soft">Cobble Step, ${when(new Date(m.at))}${m.changes > 0 ? ", changed since" : ""}</p>
<h2>${escape(heading)}</h2>${text ? `<pre>${escape(text)}</pre>` : ""}${told ? `<dl>${told}</dl>` : ""}
${over === null ? ways.join("") : `<p class="over"><strong>${escape(over)}</strong></p>`}
${link ? `<p><a href="${escape(link.address)}">${escape(link.label)}</a></p>` : ""}</article>`;
}

async function formOf(req: IncomingMessage): Promise<URLSearchParams> {
  const body = await bodyOf(req, 200_000);
  if (!body) throw new Error("That is too long.");
  return new URLSearchParams(body.toString("utf8"));
}

async function press(chat: Chat, form: URLSearchParams): Promise<string> {
  const [message, account, answer, note] = ["message", "account", "answer", "note"].map(
    (n) => form.get(n) ?? "",
  );
  const kept = chat.messages.get(message!);
  if (!kept) return "That message is not here any more.";
  const f = chat.faults();
  if (Math.random() < f.mute) return "Nobody could be reached. Nothing was done; press again in a moment.";
  const fills = Object.fromEntries(
    [...form].flatMap(([name, v]) => (name.startsWith("fill ") ? [[name.slice(5), v] as const] : [])),
  );
  const told = { message: message!, account: account!, answer: answer!, note: note!, fills };
  const first = await tellPress(chat.tells, chat.signingKey, told);
  const said = Math.random() < f.twice ? await tellPress(chat.tells, chat.signingKey, told) : first;
  if (said.message) chat.messages.replace(kept.id, said.message);
  return said.say;
}

const faultsForm = (f: Faults): string => {
  const share = (name: keyof Faults, says: string) =>
    `<label>${says} <span class="soft">(of 100)</span> <input type="number" min="0" max="100" name="${name}" value="${Math.round(f[name] * 100)}"></label>`;
  return `<form method="post" action="/faults"><p>The chat room works well unless it is told otherwise.</p>
<label>Slow: so many milliseconds before it answers <input type="number" min="0" max="60000" name="slow" value="${f.slow}"></label>
${share("refuse", "Messages refused for now")}${share("loseAfter", "Messages taken, and the connection lost before that is said")}${share("twice", "What is pressed is told twice")}${share("mute", "What is pressed is told to nobody")}
<button>Set</button></form>`;
};
