import { valuesAfter, type ValueAfter } from "@/core/engine";
import { getPool, searching } from "@/db";
import { defineUseCase } from "../kernel/defineUseCase";
import { draftSample } from "./draftSample";
import { walkSample } from "./walkSample";

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
    const { release } = tried;
    const out: SampleValues = { values: [], more: {}, whys: [] };
    const count = new Map<string, number>();
    const { whys } = await searching((on) =>
      walkSample(c, on, tried, {
        each(e, state, known) {
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
        },
      }),
    );
    return { ...out, whys };
  },
);
