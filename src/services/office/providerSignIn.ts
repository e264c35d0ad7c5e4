import { createHash } from "node:crypto";
import { emailKey } from "@/contracts";
import { identities, inTransaction, officeEdits, people, sessions, type Client } from "@/db";
import { sendToProvider, whoCameBack, type Going, type ProviderIdentity } from "@/outside/signInProvider";
import type { Actor } from "../kernel/actor";
import { loadDirectory } from "../kernel/directory";
import { Failed, outcome, type Outcome, type ProviderWhy } from "../kernel/failure";
import { settingsNow, type Settings } from "../kernel/settings";
import { noteEntry } from "../log/noteEntry";
import { idFor } from "./personRules";
import { beginSession, type SignedIn, type SigningIn } from "./signIn";

/** So long somebody may take at the provider. */
const AWAY = "15m";
const BACK = "/sign-in/provider/back";

/** What the browser carries meanwhile, sealed. */
interface Carried extends Going {
  from: string;
  /** The session whose person is to show anew who they are; null for signing in. */
  prove: string | null;
}

const jose = () => import("jose");
const secret = () => createHash("sha256").update(`going ${settingsNow().secretKey}`).digest();

async function sealed(c: Carried): Promise<string> {
  const { EncryptJWT } = await jose();
  return new EncryptJWT({ ...c })
    .setProtectedHeader({ alg: "dir", enc: "A256GCM" })
    .setIssuedAt()
    .setExpirationTime(AWAY)
    .encrypt(secret());
}
async function unsealed(text: string): Promise<Carried | null> {
  const { jwtDecrypt } = await jose();
  try {
    return (await jwtDecrypt(text, secret())).payload as unknown as Carried;
  } catch {
    return null;
  }
}

const failed = (why: ProviderWhy) => new Failed({ code: "provider-refused", data: { why } });
function providerNow(): NonNullable<Settings["provider"]> {
  const { provider } = settingsNow();
  if (!provider) throw failed("not set up");
  return provider;
}
/** Where people come back to; the demo has no address of its own. */
const backTo = (): string => {
  const { publicUrl, port } = settingsNow();
  return `${publicUrl || `http://localhost:${port}`}${BACK}`;
};

/** How the provider is called on buttons; null where there is none. */
export const providerName = (): string | null => settingsNow().provider?.name ?? null;

/**
 * Where to send somebody who signs in through the provider, and what their browser is to carry there and back.
 * @param actor given for somebody signed in who is to show anew who they are
 */
export const goToProvider = (
  from: string,
  actor: Actor | null,
): Promise<Outcome<{ url: string; carry: string }>> =>
  outcome(async () => {
    const provider = providerNow();
    const prove = actor?.via.kind === "session" ? actor.via.id : null;
    try {
      const { url, going } = await sendToProvider(provider, backTo(), prove !== null);
      return { url, carry: await sealed({ ...going, from, prove }) };
    } catch {
      throw failed("unreachable");
    }
  });

/** What came of coming back: signed in, or shown anew. */
export type CameBack = { kind: "signed in"; signedIn: SignedIn; from: string } | { kind: "shown anew" };

/**
 * Signs somebody in who comes back from the provider: by who they are there, else by their e-mail address if the
 * provider has made sure of it; made anew where that is allowed.
 * @param search of the address they came back with, "?code=…"
 * @param carried what their browser brings along
 */
export const comeBack = (
  search: string,
  carried: string | null,
  actor: Actor | null,
  from: SigningIn,
): Promise<Outcome<CameBack>> =>
  outcome(async () => {
    const provider = providerNow();
    const c = carried ? await unsealed(carried) : null;
    if (!c) throw failed("late");
    const { state, nonce, verifier } = c;
    const url = new URL(`${backTo()}${search}`);
    let who: ProviderIdentity;
    try {
      who = await whoCameBack(provider, url, { state, nonce, verifier }, c.prove !== null);
    } catch {
      await refused("unknown");
      throw failed("unsaid");
    }
    try {
      return await inTransaction(async (db) => {
        if (c.prove !== null) return shownAnew(db, who, c.prove, actor);
        const person = await personFor(db, who, provider.makesPeople);
        return {
          kind: "signed in",
          signedIn: await beginSession(db, person, "provider", from),
          from: c.from,
        } satisfies CameBack;
      });
    } catch (e) {
      // What is refused is rolled back, and noted all the same.
      if (e instanceof Failed) await refused(who.email ?? who.subject);
      throw e;
    }
  });

const refused = (account: string): Promise<void> =>
  noteEntry(null, { what: "sign-in refused", data: { account: account.slice(0, 80), why: "provider" } });

async function shownAnew(
  db: Client,
  who: ProviderIdentity,
  session: string,
  actor: Actor | null,
): Promise<CameBack> {
  const found = await identities.personOfIdentity(db, who.issuer, who.subject);
  if (!actor || actor.via.kind !== "session" || actor.via.id !== session || found?.id !== actor.id)
    throw failed("somebody else");
  await sessions.proveSession(db, session);
  await noteEntry(actor, { what: "shown anew", data: {} }, db);
  return { kind: "shown anew" };
}

async function personFor(db: Client, who: ProviderIdentity, makesPeople: boolean): Promise<string> {
  await officeEdits.lockPeople(db);
  const known = await identities.personOfIdentity(db, who.issuer, who.subject);
  if (known?.active) return known.id;
  if (known) throw failed("closed");
  // An address nobody made sure of could be anybody's.
  if (!who.email || !who.emailVerified) throw failed("not vouched for");
  const email = emailKey(who.email);
  const d = await loadDirectory(db);
  const person = [...d.people.values()].find((p) => p.email === email);
  if (person && !person.active) throw failed("closed");
  if (person && (await identities.hasIdentity(db, person.id, who.issuer))) throw failed("taken");
  if (!person && !makesPeople) throw failed("unknown");
  const id = person?.id ?? (await addNewcomer(db, who, email));
  await identities.insertIdentity(db, who.issuer, who.subject, id);
  return id;
}

async function addNewcomer(db: Client, who: ProviderIdentity, email: string): Promise<string> {
  const d = await loadDirectory(db);
  const name = (who.name ?? email.split("@")[0]!).normalize("NFC").trim().slice(0, 120);
  const id = idFor(name, (x) => d.people.has(x));
  await people.insertPerson(db, {
    id,
    name,
    email,
    job_title: "",
    department: "",
    site: "",
    manager_id: null,
    calendar_key: null,
    zone: new Intl.DateTimeFormat().resolvedOptions().timeZone,
    office_rights: false,
    active: true,
    shows: "",
    password_hash: null,
  });
  await noteEntry(null, { what: "person added", data: { person: id } }, db);
  return id;
}
