import { splitCall, type CompiledRelease, type ProceduresRead } from "@/core/engine";
import type { AccessOf } from "@/core/form";
import { readOnly, START, widest } from "@/core/route";
import { getPool, requests, type Db } from "@/db";
import { loadDirectory, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import type { Call } from "../kernel/defineUseCase";
import { accessFor } from "../outside/visitor";
import { proceduresSeen } from "./proceduresAtHand";
import { releaseFor } from "./releases";

export interface Loaded {
  db: Db;
  d: Directory;
  row: requests.SeenRow;
  now: number;
  owner: boolean;
  access: AccessOf;
  release: CompiledRelease;
  /** Of procedures it is in; with the trail those that it has been through, too. */
  procedures: ProceduresRead;
}

type By = { id: string } | { number: string };

/** A request and what somebody is to it: the steps they took part in, whether they own its process. */
export interface Seen {
  row: requests.SeenRow;
  owner: boolean;
}
/**
 * The request as far as somebody may see it; null where they may not, as where there is none.
 * @param trail whether its events are wanted
 */
export async function seenRequest(c: Call, db: Db, by: By, trail = false): Promise<Seen | null> {
  const row = await requests.requestSeen(db, by, c.actor.id, trail);
  if (!row) return null;
  const owner = row.owners.includes(c.actor.id);
  const deed = {
    action: "see request",
    requester: row.requester_id,
    tookPart: row.steps.length > 0,
    owner,
  } as const;
  return c.may(deed) ? { row, owner } : null;
}

/**
 * Loads a request for someone, or says it is not there: what one may not see does not exist.
 * @param trail whether its events are wanted
 */
export async function loadRequest(c: Call, by: By, trail = false): Promise<Loaded> {
  const db = getPool();
  const { actor } = c;
  const seen = await seenRequest(c, db, by, trail);
  if (!seen)
    throw new Failed({ code: "not-found", data: { what: "request", id: "id" in by ? by.id : by.number } });
  const { row, owner } = seen;
  const d = await loadDirectory(db, row.directory_version);
  const release = await releaseFor(db, d, row.release_id);
  const accesses = [
    ...(row.requester_id === actor.id ? [accessFor(actor, release, START)] : []),
    // At a step of a procedure one sees of the request what the step shows that hands to it.
    ...row.steps.map((s) => accessFor(actor, release, splitCall(s)?.call ?? s)),
    // Owners look after the process, not the contents: they see what everybody at some step of theirs would.
    ...(owner ? [release.access("watch")] : []),
  ];
  const now = Date.now() + row.clock_offset;
  const procedures = await proceduresSeen(db, d, row.state, row.events);
  return { db, d, row, now, owner, release, procedures, access: readOnly(widest(accesses)) };
}
