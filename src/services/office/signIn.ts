import { hash, verify } from "@node-rs/argon2";
import { createHash, randomBytes } from "node:crypto";
import { getPool, people, sessions } from "@/db";
import { actorOf, type Actor } from "../kernel/actor";
import { Failed, outcome, type Outcome } from "../kernel/failure";

const SESSION_DAYS = 14;
const WINDOW_MINUTES = 15;
const TRIES_PER_ACCOUNT = 8;
const TRIES_PER_ADDRESS = 60;

/** argon2id with the parameters of the OWASP password storage sheet (19 MiB, 2 passes, 1 lane). */
export const hashPassword = (password: string): Promise<string> =>
  hash(password, { memoryCost: 19_456, timeCost: 2, parallelism: 1 });

const digest = (token: string): Buffer => createHash("sha256").update(token).digest();

async function newSession(person: string): Promise<string> {
  const token = randomBytes(32).toString("base64url");
  await sessions.insertSession(getPool(), digest(token), person, SESSION_DAYS);
  return token;
}

// Checked against when the account does not exist, so that both answers take equally long.
let nobodysHash: Promise<string> | null = null;

/** Signs in by e-mail and password; gives a session token, of which only a digest is stored. */
export function signIn(
  email: string,
  password: string,
  address: string,
): Promise<Outcome<{ token: string }>> {
  return outcome(async () => {
    const db = getPool();
    const account = `account:${email.trim().toLowerCase().slice(0, 200)}`;
    const [byAccount, byAddress] = [
      await sessions.noteAttempt(db, account, WINDOW_MINUTES),
      await sessions.noteAttempt(db, `address:${address}`, WINDOW_MINUTES),
    ];
    if (byAccount > TRIES_PER_ACCOUNT || byAddress > TRIES_PER_ADDRESS)
      throw new Failed({ code: "too-many-tries", data: { minutes: WINDOW_MINUTES } });
    const person = await people.personByEmail(db, email.trim());
    const stored =
      person?.password_hash ?? (await (nobodysHash ??= hashPassword("nobody has this password")));
    const right = await verify(stored, password);
    if (!person?.password_hash || !right) throw new Failed({ code: "sign-in", data: {} });
    await sessions.forgetAttempts(db, account);
    await sessions.dropOldAttempts(db);
    return { token: await newSession(person.id) };
  });
}

/** Demo only: becomes a person without a password. The caller makes sure that this is a demo. */
export async function becomePerson(personId: string): Promise<string | null> {
  return (await actorOf(getPool(), personId)) ? newSession(personId) : null;
}

export async function actorOfSession(token: string): Promise<Actor | null> {
  const db = getPool();
  const person = await sessions.personOfSession(db, digest(token));
  return person ? actorOf(db, person) : null;
}
export const signOut = async (token: string): Promise<void> =>
  void (await sessions.deleteSession(getPool(), digest(token)));
