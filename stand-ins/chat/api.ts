import type { IncomingMessage, ServerResponse } from "node:http";
import type { z } from "zod";
import { bodyOf } from "../bodyOf";
import DOCUMENT from "../../docs/chat-room.json";
import type { Chat } from "./chat";
import { POSTED, REPLACED, type Kept } from "./message";

const MOST_BYTES = 1_000_000;

/** Answers what docs/chat-room.json describes. */
export async function answerCall(
  chat: Chat,
  req: IncomingMessage,
  res: ServerResponse,
  url: URL,
): Promise<void> {
  const say = (status: number, body: object) => {
    res.writeHead(status, { "content-type": "application/json" });
    res.end(JSON.stringify(body));
  };
  if (url.pathname === "/openapi.json") return say(200, DOCUMENT);
  if (req.headers.authorization !== `Bearer ${chat.token}`)
    return say(401, { why: "This token is not known here." });
  const f = chat.faults();
  if (f.slow > 0) await new Promise((r) => setTimeout(r, f.slow));
  const [, , what, id] = url.pathname.split("/");
  if (req.method === "GET" && what === "me") return say(200, { name: "Cobble Step" });
  if (what !== "messages") return say(404, { why: "There is nothing here." });
  if (Math.random() < f.refuse) return say(503, { why: "Not just now." });
  const told = (status: number, body: object) => {
    // What was done stays done; nobody hears of it.
    if (Math.random() < f.loseAfter) req.socket.destroy();
    else say(status, body);
  };
  const body = await said(req);
  if (req.method === "POST" && id === undefined) {
    const read = POSTED.safeParse(body);
    if (!read.success) return say(400, { why: whyNot(read.error) });
    const { key, to, message } = read.data;
    const nobody = unknown(chat, to);
    if (nobody !== null) return say(404, { why: nobody });
    const { id: posted, fresh } = chat.messages.post(key, to, message, Date.now());
    return told(fresh ? 201 : 200, { id: posted });
  }
  if (req.method === "PUT" && id !== undefined) {
    const read = REPLACED.safeParse(body);
    if (!read.success) return say(400, { why: whyNot(read.error) });
    const known = decodeURIComponent(id);
    if (!chat.messages.replace(known, read.data.message))
      return say(404, { why: "There is no such message." });
    return told(200, { id: known });
  }
  say(405, { why: "That cannot be done here." });
}

function unknown({ accounts, rooms }: Chat, to: Kept["to"]): string | null {
  if ("room" in to) return rooms.includes(to.room) ? null : `There is no room ${to.room}.`;
  return accounts.includes(to.account) ? null : `There is no account ${to.account}.`;
}

const whyNot = (e: z.ZodError): string =>
  e.issues
    .slice(0, 3)
    .map((i) => `${i.path.join(".")}: ${i.message}`)
    .join("; ");

async function said(req: IncomingMessage): Promise<unknown> {
  const body = await bodyOf(req, MOST_BYTES);
  try {
    return body && JSON.parse(body.toString("utf8"));
  } catch {
    return null;
  }
}
