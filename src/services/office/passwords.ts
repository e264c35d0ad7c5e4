import { randomBytes } from "node:crypto";
import { getPool, inTransaction, passwords, people, sessions, type Db } from "@/db";
import { actorOf } from "../kernel/actor";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed, outcome, type Outcome } from "../kernel/failure";
import { mustHaveProved } from "../kernel/proof";
import { noteEntry } from "../log/noteEntry";
import { passwordMistake } from "./badPasswords";
import { digest } from "./digest";
import { beginSession, hashPassword, type SignedIn, type SigningIn } from "./signIn";

const LINK_HOURS = 72;
const TOKEN = /^[\w-]{43}$/;

/**
 * The one-time link by which somebody sets their password, made outside any use case (the first administrator's is
 * printed by a command).
 * @returns its token; only a digest is kept
 */
export async function newPasswordLink(db: Db, person: string): Promise<string> {
  const token = randomBytes(32).toString("base64url");
  await passwords.putPasswordLink(db, digest(token), person, LINK_HOURS);
  return token;
}

/** Makes a link for somebody else to set their password by; shown once, good for three days, and voids earlier ones. */
export const makePasswordLink = defineUseCase(
  ["keep people"],
  (c, person: string): Promise<{ token: string; hours: number }> =>
    inTransaction(async (db) => {
      c.must(
        { action: "keep people" },
        { code: "not-allowed", data: { action: "make links to set a password" } },
      );
      mustHaveProved(c.actor);
      const whom = await people.personById(db, person);
      if (!whom) throw new Failed({ code: "not-found", data: { what: "person who is here", id: person } });
      const token = await newPasswordLink(db, whom.id);
      await noteEntry(c.actor, { what: "password link made", data: { person: whom.id } }, db);
      return { token, hours: LINK_HOURS };
    }),
);

/** Whose password a link sets; null when it was used, replaced or has run out. Looking uses nothing up. */
export const linkPerson = async (token: string): Promise<{ id: string; name: string } | null> =>
  TOKEN.test(token) ? passwords.personOfLink(getPool(), digest(token)) : null;

const aboutPerson = (p: { name: string; email: string }): string[] => [p.name, p.email, "cobble", "step"];

function mustBeGood(password: string, about: readonly string[]): void {
  const message = passwordMistake(password, about);
  if (message) throw new Failed({ code: "invalid", data: { path: "New password", message } });
}

/** Sets the password of whoever a link is for, ends all their sessions, and signs them in. The link is used up. */
export const setPasswordByLink = (
  token: string,
  password: string,
  from: SigningIn,
): Promise<Outcome<SignedIn>> =>
  outcome(() =>
    inTransaction(async (db) => {
      const gone = new Failed({
        code: "invalid",
        data: {
          path: "",
          message:
            "This link was used already, was replaced by a newer one, or is older than three days. Ask for another in Office.",
        },
      });
      const whom = TOKEN.test(token) ? await passwords.personOfLink(db, digest(token)) : null;
      const person = whom && (await people.personById(db, whom.id));
      if (!person) throw gone;
      // What is refused here leaves the link as good as it was.
      mustBeGood(password, aboutPerson(person));
      if ((await passwords.useLink(db, digest(token))) !== person.id) throw gone;
      await passwords.setPassword(db, person.id, await hashPassword(password));
      await sessions.endSessions(db, person.id, null);
      const signedIn = await beginSession(db, person.id, "link", from);
      await noteEntry(
        await actorOf(db, person.id),
        { what: "password set", data: { person: person.id, how: "link" } },
        db,
      );
      return signedIn;
    }),
  );

/** Changes one's own password; all other sessions of theirs end. Whether it is they must have been shown lately. */
export const changePassword = defineUseCase(["use own"], (c, password: string): Promise<{ ended: number }> =>
  inTransaction(async (db) => {
    c.must(
      { action: "use own", person: c.actor.id },
      { code: "not-allowed", data: { action: "change a password" } },
    );
    if (c.actor.via.kind !== "session")
      throw new Failed({ code: "not-allowed", data: { action: "change a password by a key" } });
    mustHaveProved(c.actor);
    const me = await people.personById(db, c.actor.id);
    if (!me) throw new Failed({ code: "not-found", data: { what: "person", id: c.actor.id } });
    mustBeGood(password, aboutPerson(me));
    await passwords.setPassword(db, me.id, await hashPassword(password));
    const ended = await sessions.endSessions(db, me.id, c.actor.via.id);
    await noteEntry(c.actor, { what: "password set", data: { person: me.id, how: "change" } }, db);
    return { ended };
  }),
);
