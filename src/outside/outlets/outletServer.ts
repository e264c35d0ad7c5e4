import { createHash } from "node:crypto";
import { Readable } from "node:stream";

/** An outlet as it is spoken to over HTTP. */
export interface OutletServer {
  address: string;
  /** With an account by its password (RFC 7617), else by a token (RFC 6750). */
  account: string | null;
  secret: string;
}
/** A document on its way there. */
export interface Carried {
  /** Stays over every try: by it the same is not taken twice. */
  key: string;
  name: string;
  mediaType: string;
  size: number;
  /** SHA-256, in hexadecimal. */
  sha256: string;
  /** What is in it, as often as it is asked for. */
  parts(): AsyncIterable<Uint8Array>;
}

export type Taken =
  /** By what it is known there. */
  | { came: "taken"; as: string }
  /** It will not be taken however often it is tried. */
  | { came: "refused"; why: string }
  | { came: "later"; why: string };

/** Until it has been taken whole, in milliseconds. */
const TIMEOUT_MS = 60_000;
const MOST_SAID = 300;
/** Bytes of an answer that are kept, to be read as words. */
const MOST_BEGUN = 4 * MOST_SAID;
/** Bytes of an answer that are read: as many as any file that is brought has. */
const MOST_ANSWERED = 100_000_000;

export interface Answered {
  status: number;
  headers: Headers;
  /** What it says of itself. */
  said: string;
  /** Of what it sent, in hexadecimal. */
  sha256: string;
}

/**
 * Speaks to an outlet.
 * @param what it is called in a sentence: "The print room"
 * @returns its answer; why there is none
 */
export async function speak(
  { address, account, secret }: OutletServer,
  what: string,
  method: string,
  path: string,
  { headers = {}, body }: { headers?: Record<string, string>; body?: AsyncIterable<Uint8Array> } = {},
): Promise<Answered | { why: string }> {
  const credentials =
    account === null
      ? `Bearer ${secret}`
      : `Basic ${Buffer.from(`${account}:${secret}`, "utf8").toString("base64")}`;
  try {
    const r = await fetch(`${address.replace(/\/+$/, "")}/${path}`, {
      method,
      headers: { ...headers, authorization: credentials },
      // As it is read: a large file is never in memory as a whole.
      ...(body
        ? { body: Readable.toWeb(Readable.from(body)) as ReadableStream<Uint8Array>, duplex: "half" }
        : {}),
      // Whoever it sends elsewhere would be handed what it is entered with.
      redirect: "error",
      signal: AbortSignal.timeout(TIMEOUT_MS),
    });
    const { begins, sha256 } = await readUpTo(r, MOST_ANSWERED);
    const text = (r.headers.get("content-type") ?? "").startsWith("text/plain")
      ? begins.toString("utf8")
      : "";
    return { status: r.status, headers: r.headers, said: text.slice(0, MOST_SAID).trim(), sha256 };
  } catch (e) {
    const timed = e instanceof Error && e.name === "TimeoutError";
    return { why: timed ? `${what} does not answer.` : `${what} cannot be reached.` };
  }
}

/** How an answer begins, and what it comes to, up to so many bytes; who sends more is not listened to any longer. */
async function readUpTo(r: Response, most: number): Promise<{ begins: Buffer; sha256: string }> {
  const hash = createHash("sha256");
  const begins: Uint8Array[] = [];
  let size = 0;
  for await (const part of (r.body ?? []) as AsyncIterable<Uint8Array>) {
    hash.update(part);
    if (size < MOST_BEGUN) begins.push(part.subarray(0, MOST_BEGUN - size));
    size += part.length;
    if (size > most) break;
  }
  return { begins: Buffer.concat(begins), sha256: hash.digest("hex") };
}

/** What an answer that is not the one hoped for means: to be tried again, or never. */
export function notTaken({ status, said }: Pick<Answered, "status" | "said">, what: string): Taken {
  const says = said ? `: ${said}` : "";
  if (status === 401 || status === 403)
    return {
      came: "refused",
      why: `${what} does not let Cobble Step in. Enter what it is entered with anew in Office.`,
    };
  if (status === 408 || status === 423 || status === 425 || status === 429 || status >= 500)
    return { came: "later", why: `${what} answers ${status}${says}.` };
  return { came: "refused", why: `${what} answers ${status}${says}.` };
}
