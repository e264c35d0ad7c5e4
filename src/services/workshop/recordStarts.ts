import { at, getPool, inTransaction, processes, recordStarts } from "@/db";
import { startKind } from "@/core/kinds";
import type { Start } from "@/core/route";
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
  /** It is pressed: nothing comes meanwhile that could be caught up. */
  pressed: boolean;
  /** Requests it began; null where that is not counted. */
  made: number | null;
  waiting: number;
  kept: { at: number; why: string; register: string; record: string }[];
}

/** How the starts of what is live fare, but for its form; none where whoever looks does not own the process. */
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
      if (!isPausable(s)) return [];
      const pressed = kind.ofPress !== undefined;
      const of = kind.ofRecords?.(s) ?? kind.ofDates?.(s) ?? kind.ofEach?.(s) ?? kind.ofPress?.(s);
      const register = of?.register ?? null;
      const f = fared.find((x) => x.start_id === s.id);
      return {
        id: s.id,
        words:
          register === null
            ? kind.words(s)
            : kind.words(s).replace(register, registerOf(d, register)?.name ?? register),
        paused: offered!.paused[s.id] ?? null,
        pressed,
        made: register === null || pressed ? null : (f?.made ?? 0),
        waiting: f?.waiting ?? 0,
        kept: f?.kept ?? [],
      };
    });
  },
);

/** Whether it can be paused: what is asked by its form is closed with its process. */
const isPausable = (s: Start): boolean => {
  const kind = startKind(KINDS, s);
  return [kind.ofRecords, kind.ofDates, kind.ofDays, kind.ofPress].some((of) => of !== undefined);
};

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
      if (!offered?.starts.some((s) => s.id === start && isPausable(s))) throw new Failed(missing);
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
