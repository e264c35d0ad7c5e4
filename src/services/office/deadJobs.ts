import { deadJobs as store, getPool } from "@/db";
import { defineUseCase, defineView } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { noteEntry } from "../log/noteEntry";

const MOST_SHOWN = 200;

/** What workers gave up on, newest first; for those with the rights of the office. */
export const deadJobs = defineView(["keep jobs"], async (c): Promise<store.DeadJobRow[]> => {
  return c.may({ action: "keep jobs" }) ? store.deadJobs(getPool(), MOST_SHOWN) : [];
});

/** Has a job tried anew, or drops it for good. */
export const settleJob = defineUseCase(
  ["keep jobs"],
  async (c, id: string, how: "try again" | "drop"): Promise<null> => {
    c.must({ action: "keep jobs" }, { code: "not-allowed", data: { action: "see to jobs that gave up" } });
    const db = getPool();
    const known = /^\d{1,18}$/.test(id) && (await (how === "drop" ? store.dropJob : store.reviveJob)(db, id));
    if (!known) throw new Failed({ code: "not-found", data: { what: "job that gave up", id } });
    await noteEntry(c.actor, { what: how === "drop" ? "job dropped" : "job tried again", data: { job: id } });
    return null;
  },
);
