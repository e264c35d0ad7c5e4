import type { Actor } from "./actor";
import { Failed } from "./failure";

/** So long after signing in, what matters most (keys, owners, releases, people) asks once more who somebody is. */
export const PROOF_MINUTES = 60;

/** Whether somebody has lately shown who they are; a key shows it with each call, and nobody can borrow one unseen. */
export function hasProved(actor: Actor, now = Date.now()): boolean {
  switch (actor.via.kind) {
    case "session":
      return now - actor.via.provedAt <= PROOF_MINUTES * 60_000;
    case "key":
      return true;
    // Whoever has the mail, or the chat, could have it from somebody else's screen.
    case "link":
    case "reply":
    case "chat":
    case "outside":
      return false;
    case "inside":
      return actor.kind === "system";
  }
}

/** @throws "prove-anew" for somebody who signed in too long ago */
export function mustHaveProved(actor: Actor): void {
  if (!hasProved(actor)) throw new Failed({ code: "prove-anew", data: { minutes: PROOF_MINUTES } });
}
