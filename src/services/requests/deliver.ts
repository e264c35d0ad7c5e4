import { levelOf, proceduresFrom, releaseAt, Turn, type Effect, type EffectOf } from "@/core/engine";
import { inTransaction, requests } from "@/db";
import { executorOf } from "@/steps/effects";
import type { RecordRef } from "@/core/form";
import type { BeginningKind, EffectKind, KeptKind, ResultOf } from "@/steps/shapes";
import { isWithdrawn } from "../kernel/registersSeen";
import { defineView } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { carry, toldOf, type Told } from "./carry";
import { engineFacts, factsReader, recordsRead } from "./facts";
import { registersAtHand } from "./registersAtHand";
import { keep, type Occasion } from "./keep";
import { startOther } from "./otherRequests";
import { proceduresAtHand } from "./proceduresAtHand";
import { releaseFor } from "./releases";

/**
 * Carries out an outside effect and keeps what came of it, in one transaction. However often a worker tries, it is
 * done once: its executor tells by the effect's id. A notice asked for before notices were kept with their request
 * still comes as a job; its line on the trail tells whether it is there.
 */
export const deliver = defineView(
  ["run jobs", "begin"],
  async (c, requestId: string, effect: Effect, occasion?: Occasion): Promise<void> => {
    if (!c.may({ action: "run jobs" })) return;
    const executor = executorOf(effect);
    if (executor.where === "inside") throw new Error(`a "${effect.kind}" is no job`);
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
      const shapes = registersAtHand(d, release, procedures);
      const reader = factsReader(db, d, release.definition, { request: row.id, by: [] }, shapes);
      const kept = recordsRead(release, row.state, { type: "effect", effect: effect.id }, procedures);
      const facts = async (also: readonly RecordRef[] = []) =>
        engineFacts(d, await reader.load([...kept, ...also], row.state.data), now);
      const finish = async (result: ResultOf<EffectKind>, told: Told[]) => {
        const done = await carry(on, row.state, { type: "effect done", effect, result });
        const kept = { ...done, told: [...told, ...done.told] };
        await keep(db, kept, {
          release,
          procedures,
          row,
          fresh: null,
          occasion,
          answered: null,
          by: c.actor,
          beyond: d.beyond,
        });
      };
      if (executor.where === "kept") {
        if (await requests.effectDone(db, row.id, effect.id)) return;
        const result = release.kinds.steps[effect.kind].kept!(effect);
        return finish(result, [toldOf(effect, executor.notice(effect as EffectOf<KeptKind>))]);
      }
      const at = levelOf(row.state, effect.id);
      const inside = at ? releaseAt(at, release, proceduresFrom(procedures)) : release;
      const result = await executor.deliver(effect, {
        db,
        at: now,
        by: null,
        number: row.number,
        request: row.id,
        stepName: inside.places.get(effect.step)?.step.name ?? effect.step,
        registers: d.registers,
        withdrawn: isWithdrawn(d, release.definition.key, inside.definition.key),
        facts,
        turn: async () => new Turn(inside, at?.state ?? row.state, await facts(), null),
      });
      if (result !== null) await finish(result, []);
    });
  },
);
