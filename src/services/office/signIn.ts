import { hash, verify } from "@node-rs/argon2";
import { randomBytes } from "node:crypto";
import { emailKey } from "@/contracts";
import { callerNow, getPool, people, sessions, signInPace, type Db } from "@/db";
import { actorOf, type Actor } from "../kernel/actor";
import { Failed, outcome, type Outcome } from "../kernel/failure";
import { settingsNow } from "../kernel/settings";
import { noteEntry } from "../log/noteEntry";
import { digest } from "./digest";

/** Tries at one account, from browsers it does not know or from one it knows; and from one address, at all accounts. */
const ACCOUNT: signInPace.Pace = { free: 5, longest: 60 };
const ADDRESS: signInPace.Pace = { free: 30, longest: 30 };

/** argon2id with the parameters of the OWASP password storage sheet (19 MiB, 2 passes, 1 lane). */
export const hashPassword = (password: string): Promise<string> =>
  hash(password, { memoryCost: 19_456, timeCost: 2, parallelism: 1 });

/** What a browser says of itself and brings along when somebody signs in with it. */
export interface SigningIn {
  /** What it calls itself. */
  browser: string;
  /** The token of its earlier session, which ends with the new one. */
  earlier: string | null;
  /** The token by which it is known to have signed people in before. */
  known: string | null;
}
export interface SignedIn {
  token: string;
  /** To be kept by the browser for next time. */
  known: string;
}

/** Begins a session of somebody who has shown who they are, and ends the earlier one of that browser. */
export async function beginSession(db: Db, person: string, how: string, from: SigningIn): Promise<SignedIn> {
  const token = randomBytes(32).toString("base64url");
  const known = from.known ?? randomBytes(32).toString("base64url");
  if (from.earlier) await sessions.endByToken(db, digest(from.earlier));
  const id = await sessions.insertSession(db, digest(token), person, settingsNow().sessionDays, {
    how,
    browser: from.browser.slice(0, 200),
    address: callerNow()?.address ?? "",
  });
  await signInPace.knowBrowser(db, digest(known), person);
  const actor = await actorOf(db, person, { kind: "session", id, provedAt: Date.now() });
  await noteEntry(actor, { what: "signed in", data: { how } }, db);
  return { token, known };
}

// Checked against when the account does not exist, so that both answers take equally long.
let nobodysHash: Promise<string> | null = null;

/**
 * Whether a password is somebody's, at the pace at which that may be tried. Strangers' tries slow down further tries
 * by strangers only: a browser in which the person has signed in before has a pace of its own.
 * @throws "too-many-tries" with the seconds to wait, "sign-in" when it is wrong
 */
async function provePassword(
  account: string,
  person: { id: string; password_hash: string | null } | null,
  password: string,
  known: string | null,
): Promise<void> {
  const db = getPool();
  const address = `address ${callerNow()?.address ?? ""}`;
  const knows =
    known !== null && person !== null && (await signInPace.isKnownBrowser(db, digest(known), person.id));
  const bucket = knows
    ? `browser ${person.id} ${digest(known).toString("hex")}`
    : `account ${account.slice(0, 200)}`;
  const wait =
    (await signInPace.takePlace(db, address, ADDRESS)) || (await signInPace.takePlace(db, bucket, ACCOUNT));
  if (wait > 0) {
    await noteEntry(null, {
      what: "sign-in refused",
      data: { account: account.slice(0, 80), why: "too often" },
    });
    throw new Failed({ code: "too-many-tries", data: { seconds: wait } });
  }
  const stored = person?.password_hash ?? (await (nobodysHash ??= hashPassword("nobody has this password")));
  const right = await verify(stored, password);
  if (!person?.password_hash || !right) {
    await noteEntry(null, {
      what: "sign-in refused",
      data: { account: account.slice(0, 80), why: "password" },
    });
    throw new Failed({ code: "sign-in", data: {} });
  }
  await signInPace.forgetTries(db, bucket);
  await signInPace.giveBack(db, address);
}

/** Signs in by e-mail and password; gives a session token, of which only a digest is stored. */
export const signIn = (email: string, password: string, from: SigningIn): Promise<Outcome<SignedIn>> =>
  outcome(async () => {
    const db = getPool();
    const account = emailKey(email);
    const person = await people.personByEmail(db, account);
    await provePassword(account, person, password, from.known);
    return beginSession(db, person!.id, "password", from);
  });

/** Shows once more, by the password, that it is the person whose session this is. */
export const proveAnew = (actor: Actor, password: string, known: string | null): Promise<Outcome<null>> =>
  outcome(async () => {
    const db = getPool();
    if (actor.via.kind !== "session")
      throw new Failed({ code: "not-allowed", data: { action: "sign in anew by a key" } });
    const person = await people.personById(db, actor.id);
    await provePassword(person?.email ?? actor.id, person, password, known);
    await sessions.proveSession(db, actor.via.id);
    await noteEntry(actor, { what: "shown anew", data: {} });
    return null;
  });

/** Demo only: becomes a person without a password. The caller makes sure that this is a demo. */
export async function becomePerson(personId: string, from: SigningIn): Promise<SignedIn | null> {
  const db = getPool();
  const actor = await actorOf(db, personId);
  return actor?.kind === "person" ? beginSession(db, personId, "demo", from) : null;
}

export async function actorOfSession(token: string): Promise<Actor | null> {
  const db = getPool();
  const s = await sessions.openSession(db, digest(token), settingsNow().sessionIdleHours);
  if (!s) return null;
  const via = { kind: "session", id: s.id, provedAt: s.provedAt } as const;
  const actor = await actorOf(db, s.person, via, s.directory);
  return actor && { ...actor, moment: { directory: s.directory, clockOffset: s.clockOffset } };
}
export async function signOut(token: string): Promise<void> {
  const db = getPool();
  const ended = await sessions.endByToken(db, digest(token));
  if (!ended) return;
  const actor = await actorOf(db, ended.person, { kind: "session", id: ended.id, provedAt: 0 });
  await noteEntry(actor, { what: "signed out", data: {} });
}
