import { z } from "zod";

/** A chat room as it is spoken to over HTTP. */
export interface ChatServer {
  address: string;
  token: string;
}
/** Who reads a message: one account, or all of a room. */
export type ChatTo = { account: string } | { room: string };

/** What a message says. With answers it can be pressed; without it only tells. */
export interface ChatMessage {
  heading: string;
  text: string;
  facts: { name: string; value: string }[];
  /** `note`: whether a few words go along, or must. */
  answers: { id: string; label: string; does: string; note: "may" | "must" }[];
  /** Lines to be filled in beside an answer; with `choices` one of these. */
  fills: { id: string; label: string; value: string; needed: boolean; choices: string[] | null }[];
  link: { label: string; address: string } | null;
  /** What is so by now, in the place of answers. */
  over: string | null;
}

export type Posted =
  | { came: "posted"; id: string }
  /** It will not be taken however often it is tried: there is no such account or room, or it is not let in. */
  | { came: "refused"; why: string; whose: "receiver" | "server" }
  | { came: "later"; why: string };

const TIMEOUT_MS = 10_000;
const TAKEN = z.object({ id: z.string().min(1).max(200) });
const WHY = z.object({ why: z.string().max(1000) });

/**
 * Posts a message. By the same key it is the same message, however often it is posted.
 * @param key stays over every try
 */
export const postMessage = (
  server: ChatServer,
  to: ChatTo,
  key: string,
  message: ChatMessage,
): Promise<Posted> => call(server, "POST", "messages", { key, to, message });

/** Puts another message in the place of one that was posted. */
export const replaceMessage = (server: ChatServer, id: string, message: ChatMessage): Promise<Posted> =>
  call(server, "PUT", `messages/${encodeURIComponent(id)}`, { message });

/** Whether a chat room lets Cobble Step in. @returns why not; null where it does */
export async function tryChat(server: ChatServer): Promise<string | null> {
  const r = await ask(server, "GET", "me");
  if ("why" in r) return r.why;
  return r.status === 200 ? null : `It answers ${r.status}${r.said ? `: ${r.said}` : ""}.`;
}

interface Answered {
  status: number;
  body: unknown;
  said: string;
}
async function ask(
  server: ChatServer,
  method: string,
  path: string,
  body?: object,
): Promise<Answered | { why: string }> {
  try {
    const r = await fetch(`${server.address.replace(/\/+$/, "")}/api/${path}`, {
      method,
      headers: {
        authorization: `Bearer ${server.token}`,
        ...(body ? { "content-type": "application/json" } : {}),
      },
      ...(body ? { body: JSON.stringify(body) } : {}),
      // Whoever it sends elsewhere would be handed the token.
      redirect: "error",
      signal: AbortSignal.timeout(TIMEOUT_MS),
    });
    const answer: unknown = await r.json().catch(() => null);
    const why = WHY.safeParse(answer);
    return { status: r.status, body: answer, said: why.success ? why.data.why : "" };
  } catch (e) {
    const timed = e instanceof Error && e.name === "TimeoutError";
    return { why: timed ? "The chat room does not answer." : "The chat room cannot be reached." };
  }
}

async function call(server: ChatServer, method: string, path: string, body: object): Promise<Posted> {
  const r = await ask(server, method, path, body);
  if ("why" in r) return { came: "later", why: r.why };
  const taken = TAKEN.safeParse(r.body);
  if (r.status >= 200 && r.status < 300)
    return taken.success
      ? { came: "posted", id: taken.data.id }
      : { came: "later", why: "The chat room did not say how it knows the message." };
  if (r.status === 401 || r.status === 403)
    return { came: "refused", why: "The chat room does not let Cobble Step in.", whose: "server" };
  if (r.status === 404 || r.status === 410 || r.status === 422)
    return {
      came: "refused",
      why: r.said || "The chat room knows nobody by that account.",
      whose: "receiver",
    };
  if (r.status === 429 || r.status >= 500)
    return { came: "later", why: `The chat room answers ${r.status}.` };
  return { came: "refused", why: `The chat room answers ${r.status}. ${r.said}`.trim(), whose: "server" };
}
