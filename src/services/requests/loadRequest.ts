import type { CompiledRelease } from "@/core/engine";
import type { AccessOf } from "@/core/form";
import { readOnly, START, widest } from "@/core/route";
import { getPool, requests, type Db } from "@/db";
import { nowMs } from "../kernel/clock";
import { loadDirectory, type Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import type { Call } from "../kernel/defineUseCase";
import { releaseFor } from "./releases";

export interface Loaded {
  db: Db;
  d: Directory;
  row: requests.RequestRow;
  now: number;
  owner: boolean;
  access: AccessOf;
  release: CompiledRelease;
}

type By = { id: string } | { number: string };

/** A request and what somebody is to it: the steps they took part in, whether they own its process. */
export interface Seen {
  row: requests.RequestRow;
  steps: string[];
  owner: boolean;
}
/** The request as far as somebody may see it; null where they may not, as where there is none. */
export async function seenRequest(c: Call, db: Db, by: By): Promise<Seen | null> {
  const row = await ("id" in by ? requests.requestById(db, by.id) : requests.requestByNumber(db, by.number));
  if (!row) return null;
  const steps = await requests.tookPart(db, row.id, c.actor.id);
  const owner = await requests.isOwner(db, row.process_key, c.actor.id);
  const deed = {
    action: "see request",
    requester: row.requester_id,
    tookPart: steps.length > 0,
    owner,
  } as const;
  return c.may(deed) ? { row, steps, owner } : null;
}

/** Loads a request for someone, or says it is not there: what one may not see does not exist. */
export async function loadRequest(c: Call, by: By): Promise<Loaded> {
  const db = getPool();
  const { actor } = c;
  const seen = await seenRequest(c, db, by);
  if (!seen)
    throw new Failed({ code: "not-found", data: { what: "request", id: "id" in by ? by.id : by.number } });
  const { row, steps, owner } = seen;
  const d = await loadDirectory(db);
  const release = await releaseFor(db, d, row.release_id);
  const accesses = [
    ...(row.requester_id === actor.id ? [release.access(START)] : []),
    ...steps.map((s) => release.access(s)),
    // Owners look after the process, not the contents: they see what everybody at some step of theirs would.
    ...(owner ? [release.access("watch")] : []),
  ];
  return { db, d, row, now: await nowMs(db), owner, release, access: readOnly(widest(accesses)) };
}
