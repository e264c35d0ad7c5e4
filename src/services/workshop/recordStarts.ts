import { at, getPool, inTransaction, processes, recordStarts } from "@/db";
import { startKind } from "@/core/kinds";
import { KINDS } from "@/kinds";
import { nowMs } from "../kernel/clock";
import { defineUseCase, defineView } from "../kernel/defineUseCase";
import { loadDirectory, registerOf } from "../kernel/directory";
import { Failed } from "../kernel/failure";

/** Refused changes of which so many are told. */
const TOLD = 20;

/** How a start by records fares. */
export interface StartFares {
  id: string;
  /** Its sentence. */
  words: string;
  paused: { keeps: boolean } | null;
  made: number;
  waiting: number;
  kept: { at: number; why: string; register: string; record: string }[];
}

/** How the starts of what is live fare that nobody presses; none where whoever looks does not own the process. */
export const startsFaring = defineView(
  ["see progress"],
  async (c, process: string): Promise<StartFares[]> => {
    const db = getPool();
    const owner = (await processes.ownersOf(db, process)).includes(c.actor.id);
    if (!c.may({ action: "see progress", owner })) return [];
    const d = await loadDirectory(db);
    const offered = d.offered.find((o) => o.process === process);
    const fared = await recordStarts.recordStartsOf(db, process, TOLD);
    return (offered?.starts ?? []).flatMap((s) => {
      const kind = startKind(KINDS, s);
      const of = kind.ofRecords?.(s);
      if (!of) return [];
      const f = fared.find((x) => x.start_id === s.id);
      return {
        id: s.id,
        words: kind.words(s).replace(of.register, registerOf(d, of.register)?.name ?? of.register),
        paused: offered!.paused[s.id] ?? null,
        made: f?.made ?? 0,
        waiting: f?.waiting ?? 0,
        kept: f?.kept ?? [],
      };
    });
  },
);

/**
 * Has a start take nothing up for a while, or go on.
 * @param keeps null to go on; else whether what comes meanwhile is caught up afterwards, or left out
 */
export const pauseStart = defineUseCase(
  ["watch"],
  (c, process: string, start: string, keeps: boolean | null): Promise<null> =>
    inTransaction(async (db) => {
      const missing = { code: "not-found", data: { what: "start", id: start } } as const;
      c.must(
        { action: "watch", owner: (await processes.ownersOf(db, process)).includes(c.actor.id) },
        missing,
      );
      const d = await loadDirectory(db);
      const offered = d.offered.find((o) => o.process === process);
      if (!offered?.starts.some((s) => s.id === start && startKind(KINDS, s).ofRecords))
        throw new Failed(missing);
      if (keeps === null) await recordStarts.resumeStart(db, process, start);
      else
        await recordStarts.pauseStart(db, {
          process,
          start,
          keeps,
          at: at(await nowMs(db))!,
          by: c.actor.id,
        });
      return null;
    }),
);
