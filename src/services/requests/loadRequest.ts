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

/** Loads a request for someone, or says it is not there: what one may not see does not exist. */
export async function loadRequest(c: Call, by: { id: string } | { number: string }): Promise<Loaded> {
  const db = getPool();
  const { actor } = c;
  const row = await ("id" in by ? requests.requestById(db, by.id) : requests.requestByNumber(db, by.number));
  const d = await loadDirectory(db);
  const steps = row ? await requests.tookPart(db, row.id, actor.id) : [];
  const owner = row ? await requests.isOwner(db, row.process_key, actor.id) : false;
  if (
    !row ||
    !c.may({ action: "see request", requester: row.requester_id, tookPart: steps.length > 0, owner })
  )
    throw new Failed({ code: "not-found", data: { what: "request", id: "id" in by ? by.id : by.number } });
  const release = await releaseFor(db, d, row.release_id);
  const accesses = [
    ...(row.requester_id === actor.id ? [release.access(START)] : []),
    ...steps.map((s) => release.access(s)),
    // Owners look after the process, not the contents: they see what everybody at some step of theirs would.
    ...(owner ? [release.access("watch")] : []),
  ];
  return { db, d, row, now: await nowMs(db), owner, release, access: readOnly(widest(accesses)) };
}
