import { at, getPool, requests } from "@/db";
import { nowMs } from "../kernel/clock";
import { defineView } from "../kernel/defineUseCase";
import { onRequest } from "./requests";

const BATCH = 200;

/**
 * Looks at all tasks asked of people who have left or gone away, and asks others where somebody can be found.
 * @returns how many requests changed
 */
export const askOthers = defineView(["run jobs"], async (c): Promise<number> => {
  if (!c.may({ action: "run jobs" })) return 0;
  const db = getPool();
  const now = at(await nowMs(db))!;
  let changed = 0;
  for (let after = "0", more = true; more;) {
    const ids = await requests.askedOfNobody(db, now, after, BATCH);
    for (const id of ids) {
      const { events } = await onRequest(c, { id }, { type: "ask others" });
      if (events.length > 0) changed++;
    }
    after = ids.at(-1) ?? after;
    more = ids.length === BATCH;
  }
  return changed;
});
