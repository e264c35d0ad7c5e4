import { createHash, createHmac } from "node:crypto";
import { z } from "zod";
import { MESSAGE, type Message } from "./message";

export interface Press {
  message: string;
  account: string;
  answer: string;
  note: string;
  /** What was filled in beside it, by the ids of the lines. */
  fills?: Record<string, string>;
}
const ANSWER = z.object({ say: z.string(), message: MESSAGE.nullable() });

/**
 * Headers by which who is called knows that the chat room called: HTTP Message Signatures (RFC 9421) with HMAC-SHA256
 * over method, path and the digest of the body (RFC 9530).
 */
export function signed(path: string, body: string, key: string, now: number): Record<string, string> {
  const digest = `sha-256=:${createHash("sha256").update(body).digest("base64")}:`;
  const params = `("@method" "@path" "content-digest");created=${Math.floor(now / 1000)};keyid="chat";alg="hmac-sha256"`;
  const base = [
    `"@method": POST`,
    `"@path": ${path}`,
    `"content-digest": ${digest}`,
    `"@signature-params": ${params}`,
  ].join("\n");
  return {
    "content-type": "application/json",
    "content-digest": digest,
    "signature-input": `call=${params}`,
    signature: `call=:${createHmac("sha256", key).update(base).digest("base64")}:`,
  };
}

/** Says that somebody has pressed an answer. @returns what to say to them, and what the message shows from now on */
export async function tellPress(
  to: string,
  key: string,
  press: Press,
): Promise<{ say: string; message: Message | null }> {
  const body = JSON.stringify(press);
  try {
    const r = await fetch(to, {
      method: "POST",
      headers: signed(new URL(to).pathname, body, key, Date.now()),
      body,
      signal: AbortSignal.timeout(10_000),
    });
    const read = ANSWER.safeParse(await r.json());
    return read.success ? read.data : { say: `It was not taken (${r.status}).`, message: null };
  } catch {
    return { say: "Nobody could be reached. Nothing was done; press again in a moment.", message: null };
  }
}
