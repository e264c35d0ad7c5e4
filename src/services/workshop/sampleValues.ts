import {
  levelOf,
  proceduresFrom,
  releaseAt,
  sampleWalk,
  Turn,
  valuesAfter,
  type SampleAnswer,
  type ValueAfter,
} from "@/core/engine";
import { TooHeavy } from "@/core/expression";
import { factsSeen } from "@/core/form";
import { stuckSentence } from "@/core/words";
import { getPool, searching } from "@/db";
import { KINDS } from "@/kinds";
import { executorOf } from "@/steps/effects";
import type { RecordRef } from "@/core/form";
import { defineUseCase } from "../kernel/defineUseCase";
import { isWithdrawn } from "../kernel/registersSeen";
import { engineFacts, factsReader } from "../requests/facts";
import { proceduresAtHand } from "../requests/proceduresAtHand";
import { draftSample, withSampleMail } from "./draftSample";

/** Milliseconds all formulas of the walk may take together: it holds the thread that answers pages. */
const MOST_MS = 240;

/** Values told of one sample, and of them of one step. */
const [MOST, MOST_OF_STEP] = [500, 4];

export interface SampleValues {
  values: ValueAfter[];
  /** By step, how many more there are than are told. */
  more: Record<string, number>;
  /** Where a search could not be made for the sample: why. */
  whys: string[];
}

/**
 * The values after each step of the draft, as it is kept, for a sample that goes through it: what is searched for is
 * looked for in the real registers, everybody agrees, and nothing is done.
 */
export const sampleValues = defineUseCase(
  ["design"],
  async (c, key: string, sampleId: string): Promise<SampleValues | null> => {
    const db = getPool();
    const tried = await draftSample(c, db, key, sampleId);
    if (!tried) return null;
    const { row, sample, d, seen, release, now } = tried;
    const procedures = proceduresFrom(await proceduresAtHand(db, d, release, { calls: {} }));
    return searching(async (on) => {
      const reader = factsReader(on, d, row.definition, { request: null, by: row.definition.owners });
      const found: RecordRef[] = [];
      const readFacts = async (also: readonly RecordRef[]) =>
        factsSeen(withSampleMail(sample, await reader.load(also, sample.data)), d.registers, seen);
      const plain = async (also: readonly RecordRef[] = []) =>
        engineFacts(d, await readFacts([...found, ...also]), now, c.actor.zone);
      /** Of the time formulas may take, what is left; the database is not waited for on its account. */
      let left = MOST_MS;
      let until = Infinity;
      const outOfTime = () => performance.now() > until;
      const facts = async (also?: readonly RecordRef[]) => ({
        ...(await plain(also)),
        procedures,
        outOfTime,
      });
      const onTime = <T>(work: () => T): T => {
        const began = performance.now();
        until = began + left;
        try {
          return work();
        } finally {
          left -= performance.now() - began;
          until = Infinity;
        }
      };
      const withdrawn = isWithdrawn(d, key);
      const out: SampleValues = { values: [], more: {}, whys: [] };
      const count = new Map<string, number>();
      const walk = sampleWalk(release, sample.requester, sample.data, await facts(), (e, state, known) => {
        // Thousands of rounds take their time without any formula.
        if (outOfTime()) throw new TooHeavy();
        for (const v of valuesAfter(release, e, state, known)) {
          // Of what a step comes to bit by bit the last counts.
          const same = out.values.findIndex(
            (x) => x.step === v.step && x.round === v.round && x.name === v.name,
          );
          if (same >= 0) {
            out.values[same] = v;
            continue;
          }
          const n = (count.get(v.step) ?? 0) + 1;
          count.set(v.step, n);
          if (n > MOST_OF_STEP || out.values.length >= MOST) out.more[v.step] = (out.more[v.step] ?? 0) + 1;
          else out.values.push(v);
        }
      });
      const goOn = (answer?: SampleAnswer) => {
        try {
          return onTime(() => (answer ? walk.next(answer) : walk.next()));
        } catch (e) {
          if (!(e instanceof TooHeavy)) throw e;
          out.whys.push("What comes then takes too long to be worked out here.");
          return null;
        }
      };
      let step = goOn();
      while (step && !step.done) {
        const { effect, state, rehearsed } = step.value;
        const executor = executorOf(effect);
        const at = levelOf(state, effect.id);
        if (executor.where !== "inside" || !executor.look || !at) {
          step = goOn({ result: rehearsed });
          continue;
        }
        const inside = releaseAt(at, release, procedures);
        const turn = async () => new Turn(inside, at.state, await facts(), null);
        const stepName = inside.places.get(effect.step)?.step.name ?? effect.step;
        const looked = await executor.look(effect, {
          db: on,
          registers: seen,
          withdrawn,
          facts,
          turn,
          stepName,
        });
        if (!looked.ok) {
          // Nothing found is something else: what would follow from that is not what would follow.
          out.whys.push(stuckSentence(looked.reason, KINDS), "What comes after it is not told.");
          break;
        }
        found.push(...(looked.records ?? []));
        step = goOn({ result: looked.result, facts: await facts() });
      }
      if (step?.done && step.value.stuck) out.whys.push(stuckSentence(step.value.stuck, KINDS));
      return out;
    });
  },
);
