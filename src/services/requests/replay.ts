import { NEW_REQUEST, replay, type RequestState } from "@/core/engine";
import { getPool, requests } from "@/db";
import { storedState } from "@/formats";
import { canonicalJson } from "../kernel/canonicalJson";
import { defineView } from "../kernel/defineUseCase";

const BATCH = 100;

const spelled = (s: RequestState): string => canonicalJson(storedState(s));

export interface Replayed {
  requests: number;
  events: number;
  /** Numbers of the requests that are kept otherwise than their events tell. */
  differ: string[];
}
/** Folds the events of every request and holds the state that is kept against what comes out. */
export const replayRequests = defineView(["run jobs"], async (c): Promise<Replayed> => {
  const out: Replayed = { requests: 0, events: 0, differ: [] };
  if (!c.may({ action: "run jobs" })) return out;
  const db = getPool();
  for (let after = "0"; ;) {
    const rows = await requests.statesAfter(db, after, BATCH);
    for (const row of rows) {
      const events = await requests.eventsOf(db, row.id);
      const folded = replay(events, NEW_REQUEST);
      out.requests++;
      out.events += events.length;
      if (spelled(folded) !== spelled(row.state)) out.differ.push(row.number);
    }
    if (rows.length < BATCH) return out;
    after = rows.at(-1)!.id;
  }
});
