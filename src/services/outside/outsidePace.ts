import { createHash } from "node:crypto";
import { callerNow, outside, type Db } from "@/db";
import { Failed } from "../kernel/failure";

/** How much comes from one address: enough for a class of thirty behind it, who all send within minutes, and try twice. */
const LIMITS = {
  send: { most: 120, minutes: 10, within: "10 minutes", says: "forms" },
  code: { most: 120, minutes: 60, within: "an hour", says: "codes" },
  /** To one mail address, whoever asks. */
  "code to": { most: 5, minutes: 60, within: "an hour", says: "codes" },
  /** Bytes. */
  file: { most: 1_000_000_000, minutes: 24 * 60, within: "a day", says: "files" },
} as const;
export type Paced = keyof typeof LIMITS;

/** Of what counts only as itself, so that no address is kept as it is. */
const hashed = (text: string): string => createHash("sha256").update(text).digest("hex").slice(0, 32);

/** The address of whoever is at the other end; the same for all where it is not known, as in tests. */
const addressNow = (): string => callerNow()?.address ?? "here";

/**
 * Takes room for something sent from outside.
 * @param of what it is counted by beside the address: the key of a process; for "code to" the mail address alone
 * @throws Failed where more has come than is taken
 */
export async function mustHaveRoom(db: Db, what: Paced, of: string, amount = 1): Promise<void> {
  const { most, minutes, says, within } = LIMITS[what];
  const bucket = `${what} ${hashed(what === "code to" ? of : `${of} ${addressNow()}`)}`;
  if (await outside.takeRoom(db, bucket, amount, { most, minutes })) return;
  throw new Failed({
    code: "invalid",
    data: {
      path: "",
      message: `More ${says} have come from where you are than are taken within ${within}. What you typed is still here: try again later.`,
    },
  });
}
