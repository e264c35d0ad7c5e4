import { sampleAt, sampleTurn, Turn, workAsked } from "@/core/engine";
import { factsSeen, type RecordRef } from "@/core/form";
import { stuckSentence } from "@/core/words";
import { getPool, searching } from "@/db";
import { KINDS } from "@/kinds";
import { executorOf } from "@/steps/effects";
import type { Preview } from "@/steps/executor";
import { defineUseCase } from "../kernel/defineUseCase";
import { isWithdrawn } from "../kernel/registersSeen";
import { engineFacts, factsReader } from "../requests/facts";
import { draftSample, withSampleMail } from "./draftSample";

/**
 * What a step of the draft, as it is kept, would do for a sample: looked at in the real registers, with nothing done.
 * Null where that cannot be told of its kind, or there is no such step or sample.
 */
export const stepPreview = defineUseCase(
  ["design"],
  async (c, key: string, step: string, sampleId: string): Promise<Preview | null> => {
    const db = getPool();
    const tried = await draftSample(c, db, key, sampleId);
    if (!tried) return null;
    const { row, sample, d, seen, release, now } = tried;
    return searching(async (on) => {
      const reader = factsReader(on, d, row.definition, { request: null, by: row.definition.owners });
      const facts = async (also: readonly RecordRef[] = []) =>
        engineFacts(
          d,
          factsSeen(withSampleMail(sample, await reader.load(also, sample.data)), d.registers, seen),
          now,
          c.actor.zone,
        );
      const turn = sampleTurn(release, sample, await facts());
      const at = sampleAt(turn, step);
      const asked = at && workAsked(turn, at);
      if (asked === null) return null;
      if ("go" in asked) return { ok: false, why: stuckSentence(asked.reason, KINDS) };
      const executor = executorOf(asked);
      if (executor.where !== "inside" || !executor.preview) return null;
      // What it is over must be what a request would be: the copies taken, too.
      const over = async () => new Turn(release, turn.state, await facts(), null);
      return executor.preview(asked, {
        db: on,
        registers: seen,
        withdrawn: isWithdrawn(d, key),
        facts,
        turn: over,
      });
    });
  },
);
