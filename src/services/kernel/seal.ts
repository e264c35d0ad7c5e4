import { createCipheriv, createDecipheriv, hkdfSync, randomBytes } from "node:crypto";
import { settingsNow } from "./settings";

const ALGORITHM = "aes-256-gcm";
const NONCE = 12;
const TAG = 16;

/** @param what is sealed: what was sealed as one thing is not opened as another */
const keyFor = (what: string): Buffer =>
  Buffer.from(hkdfSync("sha256", settingsNow().secretKey || "demo", "", `cobble-step ${what}`, 32));

/** A secret as it may be kept in the database: read by whoever has the installation's SECRET_KEY, and nobody else. */
export function seal(what: string, secret: string): Buffer {
  const nonce = randomBytes(NONCE);
  const cipher = createCipheriv(ALGORITHM, keyFor(what), nonce);
  const text = Buffer.concat([cipher.update(secret, "utf8"), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), text]);
}

/** The secret again; null where another key sealed it, or somebody changed it. */
export function unseal(what: string, sealed: Buffer): string | null {
  try {
    const decipher = createDecipheriv(ALGORITHM, keyFor(what), sealed.subarray(0, NONCE));
    decipher.setAuthTag(sealed.subarray(NONCE, NONCE + TAG));
    return Buffer.concat([decipher.update(sealed.subarray(NONCE + TAG)), decipher.final()]).toString("utf8");
  } catch {
    return null;
  }
}
