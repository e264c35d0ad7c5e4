import type { Effect, EffectOf } from "@/core/engine";
import { inTransaction, requests } from "@/db";
import { executorOf } from "@/steps/effects";
import type { BeginningKind, KeptKind } from "@/steps/shapes";
import { defineView } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { carry, toldOf } from "./carry";
import { keep, type Occasion } from "./keep";
import { bringFiles } from "../outlets/bringFiles";
import { drawUp } from "./drawUp";
import { startOther } from "./otherRequests";
import { proceduresAtHand } from "./proceduresAtHand";
import { releaseFor } from "./releases";

/**
 * Has done what a request asked of the world outside its own transaction. However often a worker tries, it is done once:
 * that is told by the effect's id. A notice asked for before notices were kept with their request
 * still comes as a job; its line on the trail tells whether it is there.
 */
export const deliver = defineView(
  ["run jobs", "begin"],
  async (c, requestId: string, effect: Effect, occasion?: Occasion): Promise<void> => {
    if (!c.may({ action: "run jobs" })) return;
    const executor = executorOf(effect);
    if (executor.where === "inside") throw new Error(`a "${effect.kind}" is no job`);
    if (executor.where === "document") return drawUp(c, requestId, effect, executor, occasion);
    if (executor.where === "outside") return bringFiles(c, requestId, effect, executor, occasion);
    if (executor.where === "another request")
      return startOther(c, requestId, effect as EffectOf<BeginningKind>, executor, occasion);
    await inTransaction(async (db) => {
      const row = await requests.requestForCommand(db, { id: requestId }, true);
      if (!row) return;
      const offset = Number(row.clock_offset);
      const now = occasion?.at ?? Date.now() + offset;
      const d = await loadDirectory(db, row.directory_version);
      const release = await releaseFor(db, d, row.release_id);
      const procedures = await proceduresAtHand(db, d, release, row.state);
      const on = { db, directory: d, release, procedures, request: row.id, now, chain: row.chain };
      if (await requests.effectDone(db, row.id, effect.id)) return;
      const result = release.kinds.steps[effect.kind].kept!(effect);
      const done = await carry(on, row.state, { type: "effect done", effect, result });
      const notice = toldOf(effect, executor.notice(effect as EffectOf<KeptKind>));
      await keep(
        db,
        { ...done, told: [notice, ...done.told] },
        {
          release,
          procedures,
          row,
          fresh: null,
          occasion,
          answered: null,
          by: c.actor,
          beyond: d.beyond,
          mentioned: [],
        },
      );
    });
  },
);
