import { levelsOf, type RequestState } from "@/core/engine";
import { at, files, getPool, inTransaction, processes, requests } from "@/db";
import { nowMs } from "../kernel/clock";
import { defineView, type Call } from "../kernel/defineUseCase";
import { commandIn } from "../requests/requests";

/** Requests whose files are looked for at once. */
const BATCH = 200;
const DAY = 86_400_000;

/**
 * Removes the files of all requests that ended longer ago than their processes keep them, with a line on the trail of each;
 * what came after the end is kept as long from then.
 * Records keep theirs, which are copies, and a signature stays what its field says. Done again, nothing is left to do.
 */
export const removeDueFiles = defineView(["run jobs"], async (c): Promise<{ files: number }> => {
  let all = 0;
  if (!c.may({ action: "run jobs" })) return { files: 0 };
  const db = getPool();
  for (const { process_key: process, released } of await processes.liveReleases(db)) {
    const { keepFilesDays: days } = released;
    if (days === undefined) continue;
    const before = at((await nowMs(db)) - days * DAY)!;
    let after = "0";
    for (;;) {
      const ids = await files.requestsWithFiles(db, { process, endedBefore: before, after, most: BATCH });
      for (const id of ids) all += await removeOf(c, id, before);
      const last = ids.at(-1);
      if (last === undefined) break;
      after = last;
    }
  }
  return { files: all };
});

/** In one transaction with the line on the trail. @returns how many went */
const removeOf = (c: Call, request: string, before: string): Promise<number> =>
  inTransaction(async (tx) => {
    const row = await requests.requestForCommand(tx, { id: request }, true);
    if (!row || row.ended_at === null) return 0;
    const gone = await files.removeOfRequest(tx, request, before, signaturesOf(row.state));
    if (gone.count > 0) await commandIn(c, tx, request, { type: "remove files", ...gone });
    return gone.count;
  });

/** Pictures that are what a field holds, and no files to whoever looks. */
const signaturesOf = (s: RequestState): string[] =>
  levelsOf(s).flatMap((level) => Object.values(level.state.signed ?? {}).map((x) => x.value));
