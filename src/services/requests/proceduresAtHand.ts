import {
  levelsOf,
  NONE_READ,
  soughtAs,
  type CompiledRelease,
  type ProceduresRead,
  type RequestEvent,
  type RequestState,
} from "@/core/engine";
import { proceduresCalled } from "@/core/route";
import { processes, type Db } from "@/db";
import { KINDS } from "@/kinds";
import type { Directory } from "../kernel/directory";
import { releaseFor } from "./releases";

const called = new WeakMap<CompiledRelease, ReturnType<typeof proceduresCalled>>();
function calledBy(release: CompiledRelease) {
  let known = called.get(release);
  if (!known) called.set(release, (known = proceduresCalled(release.definition, KINDS)));
  return known;
}

/**
 * The procedures a request may come to from its release and from those it is in, and theirs, as they are live now.
 * Asks the database only where there are some.
 */
export async function proceduresAtHand(
  db: Db,
  d: Directory,
  release: CompiledRelease,
  state: Pick<RequestState, "calls">,
): Promise<ProceduresRead> {
  const found = new Map<string, string>();
  const releases = new Map<string, CompiledRelease>();
  let fresh: CompiledRelease[] = [release];
  let ids = releasesIn(state);
  while (fresh.length > 0 || ids.length > 0) {
    const sought = fresh.flatMap(calledBy).filter((c) => !found.has(soughtAs(c.procedure, c.version)));
    const keys = [...new Set(sought.flatMap((c) => (c.version === null ? [c.procedure] : [])))];
    const live = keys.length > 0 ? await processes.liveIds(db, keys) : {};
    for (const { procedure, version } of sought) {
      const id =
        version === null ? live[procedure] : await processes.releaseOfVersion(db, procedure, version);
      if (!id) continue;
      found.set(soughtAs(procedure, version), id);
      ids.push(id);
    }
    fresh = [];
    for (const id of new Set(ids)) {
      if (releases.has(id)) continue;
      const r = await releaseFor(db, d, id);
      releases.set(id, r);
      fresh.push(r);
    }
    ids = [];
  }
  return found.size === 0 && releases.size === 0 ? NONE_READ : { found, releases };
}

/** Ids of the releases of procedures a request is in, theirs too. */
const releasesIn = (s: Pick<RequestState, "calls">): string[] =>
  Object.values(s.calls).flatMap((c) => [
    c.release,
    ...levelsOf(c.state).flatMap((l) => l.calls.map((x) => x.release)),
  ]);

const openedIn = (e: RequestEvent): string[] => {
  if (e.type === "in call") return openedIn(e.event);
  return e.type === "call opened" ? [e.call.release] : [];
};

/** The releases of all procedures that a request has been through: for whoever looks back. */
export async function proceduresSeen(
  db: Db,
  d: Directory,
  state: Pick<RequestState, "calls">,
  events: readonly RequestEvent[],
): Promise<ProceduresRead> {
  const ids = new Set([...releasesIn(state), ...events.flatMap(openedIn)]);
  if (ids.size === 0) return NONE_READ;
  const releases = new Map<string, CompiledRelease>();
  for (const id of ids) releases.set(id, await releaseFor(db, d, id));
  return { found: new Map(), releases };
}
