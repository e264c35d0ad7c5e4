import {
  evolve,
  forgetEvents,
  NEW_REQUEST,
  personalFields,
  replay,
  type Forgetting,
  type RequestEvent,
} from "@/core/engine";
import type { Field, FormData } from "@/core/form";
import { at, chat, erasure, getPool, inTransaction, messages, processes, requests, type Client } from "@/db";
import { canonicalJson } from "../kernel/canonicalJson";
import { nowMs } from "../kernel/clock";
import { defineUseCase, defineView } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { mustHaveProved } from "../kernel/proof";
import { noteEntry } from "../log/noteEntry";
import { releaseFor } from "./releases";

const BATCH = 200;

/** Texts among some values that are not there any more among others, however deep they stand. */
function textsGone(before: unknown, after: unknown, out = new Set<string>()): Set<string> {
  if (typeof before === "string") {
    if (before !== "" && before !== after) out.add(before);
  } else if (typeof before === "object" && before !== null)
    for (const [k, v] of Object.entries(before))
      textsGone(v, (after as Record<string, unknown> | null)?.[k], out);
  return out;
}
/** Who asked, and whom it asks outside, as far as texts may name them. */
const peopleOf = (events: readonly RequestEvent[]): unknown[] =>
  events.map((e) => {
    if (e.type === "in call") return peopleOf([e.event]);
    if (e.type === "outsider named") return [e.name, e.email];
    return e.type === "request started" ? e.requester : null;
  });
const dataOf = (events: readonly RequestEvent[]): FormData[] =>
  events.flatMap((e) => {
    if (e.type === "in call") return dataOf([e.event]);
    return e.type === "request started" || e.type === "data changed" || e.type === "values set"
      ? [e.data]
      : [];
  });

/**
 * Blanks what is personal in one ended request: in its events, and so in its state, which is folded from them anew; in
 * its title, notices, drafts, files, and what the history of records has from it.
 * @param also fields as they are marked now: owners may have marked them after the request's release
 * @param gone whether its personal fields go, and whose notes
 * @returns whether anything was to be blanked
 */
async function blank(
  db: Client,
  id: string,
  also: readonly Field[],
  gone: { values: boolean; notesOf: string | null },
): Promise<boolean> {
  const row = await requests.requestForCommand(db, { id }, true);
  if (!row || row.ended_at === null) return false;
  const d = await loadDirectory(db, row.directory_version);
  const release = await releaseFor(db, d, row.release_id);
  const forgetting: Forgetting = {
    fields: gone.values ? personalFields(release, also) : new Set(),
    inCalls: gone.values,
    asker: gone.values,
    notesOf: gone.notesOf,
  };
  const events = await requests.eventsOf(db, id);
  const left = forgetEvents(events, release, forgetting);
  const when = Date.now() + Number(row.clock_offset);
  if (canonicalJson(left) === canonicalJson(events)) {
    if (!gone.values) return false;
    await erasure.markBlanked(db, id, at(when)!);
    // What was written may tell of people where no field does.
    return forgetConversation(db, id);
  }
  const said: RequestEvent = { type: "values blanked", seq: row.state.seq + 1, at: when, by: null };
  const state = evolve(replay(left, NEW_REQUEST), said);
  const texts = textsGone([dataOf(events), peopleOf(events)], [dataOf(left), peopleOf(left)]);
  const named = [...texts].some((t) => t.length > 1 && row.title.toLowerCase().includes(t.toLowerCase()));
  await erasure.rewriteRequest(db, id, {
    events: [...left, said],
    state,
    title: named ? `${release.definition.name} ${row.number}` : row.title,
    at: gone.values ? at(when) : null,
  });
  await erasure.forgetNotices(db, id, row.number);
  await erasure.dropTellings(db, id);
  if (!gone.values) return true;
  // Also those of procedures, whichever their forms are: an id that is told nowhere any more. Several stand on lines.
  const kept = JSON.stringify(dataOf(left));
  const ids = [...texts].flatMap((t) => t.split("\n"));
  await erasure.deleteFiles(
    db,
    id,
    ids.filter((f) => !kept.includes(f)),
  );
  await erasure.deleteDrawnUp(db, id, kept);
  await erasure.forgetHistory(db, row.number, [...texts]);
  await erasure.forgetNotes(db, row.number);
  await forgetConversation(db, id);
  return true;
}

/** Blanks what was written in a request, here and in the chat room. @returns whether there was anything */
async function forgetConversation(db: Client, id: string): Promise<boolean> {
  await chat.queueForget(db, id);
  return ((await messages.forgetMessages(db, id)).rowCount ?? 0) > 0;
}

/** Blanks the personal values of all requests that ended longer ago than the owners of their processes keep them. */
export const blankDue = defineView(["run jobs"], async (c): Promise<{ requests: number }> => {
  let all = 0;
  if (!c.may({ action: "run jobs" })) return { requests: 0 };
  const db = getPool();
  for (const live of await processes.liveReleases(db)) {
    const { keepPersonalDays: days, fields } = live.released;
    if (days === undefined) continue;
    const before = at((await nowMs(db)) - days * 86_400_000)!;
    let done = 0;
    for (
      let ids = await due(live.process_key, before);
      ids.length > 0;
      ids = await due(live.process_key, before)
    )
      for (const id of ids)
        if (await inTransaction((tx) => blank(tx, id, fields, { values: true, notesOf: null }))) done++;
    all += done;
    if (done > 0)
      await noteEntry(c.actor, {
        what: "personal values blanked",
        data: { person: null, process: live.process_key, requests: done },
      });
  }
  return { requests: all };
});
const due = (process: string, before: string) => erasure.dueToBlank(getPool(), process, before, BATCH);

export interface Erased {
  /** Ended requests in which something was blanked. */
  requests: number;
  /** Requests of theirs still under way: they keep what they need until they have ended. */
  underWay: number;
}
/**
 * Blanks what there is of one person, on demand: the personal values of ended requests they made, the notes they wrote
 * on any ended request, forms they began, and what they were told.
 */
export const erasePerson = defineUseCase(["erase person"], async (c, person: string): Promise<Erased> => {
  c.must(
    { action: "erase person" },
    { code: "not-allowed", data: { action: "blank somebody's personal values" } },
  );
  mustHaveProved(c.actor);
  const db = getPool();
  const d = await loadDirectory(db);
  if (!d.people.has(person)) throw new Failed({ code: "not-found", data: { what: "person", id: person } });
  const live = new Map((await processes.liveReleases(db)).map((r) => [r.process_key, r.released.fields]));
  const touched = await erasure.requestsTouchedBy(db, person);
  const out: Erased = { requests: 0, underWay: touched.filter((r) => r.own && !r.ended).length };
  for (const r of touched) {
    if (!r.ended) continue;
    const gone = { values: r.own, notesOf: person };
    if (await inTransaction((tx) => blank(tx, r.id, live.get(r.process) ?? [], gone))) out.requests++;
  }
  await inTransaction(async (tx) => {
    await erasure.forgetOwn(tx, person);
    const data = { person, process: null, requests: out.requests };
    await noteEntry(c.actor, { what: "personal values blanked", data }, tx);
  });
  return out;
});
