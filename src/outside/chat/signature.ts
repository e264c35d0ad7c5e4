import { createHash, createHmac, timingSafeEqual } from "node:crypto";

/** What a call from outside brings, as far as who sent it hangs on it. */
export interface SignedCall {
  method: string;
  path: string;
  body: Buffer;
  /** Of the headers, by their names in small letters; null for one that is not there. */
  header(name: string): string | null;
}
export type SignatureMistake = "unsigned" | "changed" | "old" | "wrong";

/** A call is believed for so long after it was signed; what is pressed means a task, which is answered once. */
const MOST_SECONDS = 300;
const INPUT =
  /^call=(\("@method" "@path" "content-digest"\);created=(\d{1,12});keyid="[\w-]{1,60}";alg="hmac-sha256")$/;
const SIGNATURE = /^call=:([A-Za-z0-9+/=]{1,200}):$/;

/**
 * Whether a call was signed with a key: HTTP Message Signatures (RFC 9421) with HMAC-SHA256, over method, path and the
 * digest of the body (RFC 9530) and over nothing else, in that order. One way to sign is enough, and leaves nothing to
 * be chosen by who calls.
 * @param now seconds of the machine's clock
 */
export function signatureMistake(call: SignedCall, key: string, now: number): SignatureMistake | null {
  const input = INPUT.exec(call.header("signature-input") ?? "");
  const signature = SIGNATURE.exec(call.header("signature") ?? "");
  const digest = call.header("content-digest");
  if (!input || !signature || digest === null) return "unsigned";
  if (digest !== digestOf(call.body)) return "changed";
  const [, params = "", created = ""] = input;
  const base = [
    `"@method": ${call.method.toUpperCase()}`,
    `"@path": ${call.path}`,
    `"content-digest": ${digest}`,
    `"@signature-params": ${params}`,
  ].join("\n");
  const ours = createHmac("sha256", key).update(base).digest();
  const theirs = Buffer.from(signature[1]!, "base64");
  if (ours.length !== theirs.length || !timingSafeEqual(ours, theirs)) return "wrong";
  return Math.abs(now - Number(created)) > MOST_SECONDS ? "old" : null;
}

export const digestOf = (body: Buffer): string =>
  `sha-256=:${createHash("sha256").update(body).digest("base64")}:`;
