import { mergeEdits, type FormData, type Passed } from "@/core/form";
import { START } from "@/core/route";
import { getPool, inTransaction, outside, requests, type Db } from "@/db";
import { defineUseCase } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import type { Consequences } from "../requests/keep";
import { makeRequest } from "../requests/makeRequest";
import { releaseFor } from "../requests/releases";
import { startHash } from "../requests/startHash";
import { addressTyped, mustHaveCode } from "./addressCode";
import { askerOutside } from "./openForm";
import { publicProcess } from "./publicProcess";
import { mustHaveRoom } from "./outsidePace";
import { makeTrackingLink } from "./trackingLink";
import { accessFor } from "./visitor";

/** What somebody outside sends. */
export interface OpenSending {
  /** Who they say they are; not asked of everybody. */
  name: string;
  email: string;
  /** What was sent to that address, where it is to be confirmed. */
  code: string;
  /** What stands in the input nobody sees: whatever fills in every input is no person. */
  trap: string;
  data: FormData;
  passed: Passed;
}
const MOST_NAME = 200;
const invalid = (path: string, message: string) => new Failed({ code: "invalid", data: { path, message } });

/**
 * Makes a request of what somebody outside sends, in their account for it: sent once more the same is the same request.
 * @returns its number, and what stands in the address by which it is followed: null where that was called back meanwhile
 */
export const sendOpenForm = defineUseCase(
  ["ask from outside"],
  async (
    c,
    processKey: string,
    s: OpenSending,
  ): Promise<{ number: string; token: string | null } & Consequences> => {
    const { open } = await publicProcess(c, getPool(), processKey);
    if (s.trap !== "")
      throw invalid(
        "",
        "Something filled in an input that nobody sees, as programs do. If your browser did, press Send once more: it has been emptied.",
      );
    const who = asked(open.asks, s);
    if (open.asks === "confirmed") await mustHaveCode(c.actor.id, who.email, s.code);
    return inTransaction(async (db) => {
      await mustHaveRoom(db, "send", processKey);
      const { row, open: held } = await publicProcess(c, db, processKey, true);
      // What was asked for before another release came is not what this one asks for.
      if (held.asks !== open.asks)
        throw invalid("", "The form was changed just now. Look at it once more, then press Send again.");
      const key = `outside:${c.actor.id}`;
      const hash = startHash(processKey, [s.data, who]);
      // The lock makes a second try wait for the first, instead of both finding nothing.
      await db.query("select pg_advisory_xact_lock(hashtextextended($1, 7))", [key]);
      const earlier = await requests.requestByStartKey(db, key);
      if (earlier?.hash && !earlier.hash.equals(hash))
        throw new Failed({ code: "already-sent", data: { number: earlier.number } });
      if (earlier) return { number: earlier.number, token: await linkAgain(db, earlier.number), ...NOTHING };
      await outside.insertVisitor(db, c.actor.id);
      const d = await loadDirectory(db);
      const release = await releaseFor(db, d, row.id);
      const access = accessFor(c.actor, release, START);
      const { mailbox } = release.definition;
      const requester = askerOutside(c, who, { mailbox, sure: open.asks === "confirmed" });
      const made = await makeRequest(db, row, {
        requester,
        actor: c.actor,
        // What is not open to them is not theirs to send, whatever the form says of people here.
        data: mergeEdits(release.definition.fields, {}, s.data, access),
        startKey: key,
        startHash: hash,
        occasion: undefined,
        passed: s.passed,
      });
      const { number, changes, outside: jobs } = made;
      return { number, token: await makeTrackingLink(db, made.id), changes, outside: jobs };
    });
  },
);

const NOTHING: Consequences = {
  changes: { tasks: [], setTimers: [], clearTimers: [], watches: [] },
  outside: [],
};

function asked(asks: "nothing" | "address" | "confirmed", s: OpenSending): { name: string; email: string } {
  if (asks === "nothing") return { name: "Somebody outside", email: "" };
  const name = s.name.replace(/\s+/g, " ").trim();
  if (name === "") throw invalid("Your name", "Say who you are, for example Ada Byrne.");
  if (name.length > MOST_NAME)
    throw invalid("Your name", `It has at most ${MOST_NAME} characters; this one has ${name.length}.`);
  return { name, email: addressTyped(s.email) };
}

/** A further link to what was sent already: the answer to that may have been lost on its way. */
async function linkAgain(db: Db, number: string): Promise<string | null> {
  const row = await requests.requestByNumber(db, number);
  if (!row || (await outside.wasCalledBack(db, row.id))) return null;
  return makeTrackingLink(db, row.id);
}
