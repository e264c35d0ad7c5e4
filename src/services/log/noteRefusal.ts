import type { Actor } from "../kernel/actor";
import type { Failure } from "../kernel/failure";
import { noteEntry } from "./noteEntry";

/** One entry for one thing tried over and over: what is refused cannot be used to flood the log. */
const QUIET_MS = 60_000;
const MOST = 5_000;
const lately = new Map<string, number>();

/** Notes that the policy refused somebody something; that it could not be noted changes nothing of the answer. */
export async function noteRefusal(actor: Actor, deed: string, failure: Failure): Promise<void> {
  if (failure.code !== "not-found" && failure.code !== "not-allowed") return;
  // Whoever is on the web can ask for what is not there without end, and nobody here could tell who it was.
  if (actor.kind === "visitor") return;
  const on = failure.code === "not-found" ? failure.data.id.slice(0, 80) : "";
  const key = `${actor.id}\n${deed}\n${on}`;
  const now = performance.now();
  if (now - (lately.get(key) ?? -Infinity) < QUIET_MS) return;
  if (lately.size >= MOST) lately.clear();
  lately.set(key, now);
  await noteEntry(actor, { what: "refused", data: { deed, on } }).catch(() => undefined);
}
