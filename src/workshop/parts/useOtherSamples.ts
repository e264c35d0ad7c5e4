import { sampleAt, sampleTurn, type At, type Turn } from "@/core/engine";
import type { Sample } from "@/core/route";
import { useDraft } from "../draft/DraftProvider";

/** Samples told of beside the chosen one. */
const OTHERS = 2;

/** What stands beside what is said for the chosen sample: others, with where the step stands for each; null for no round. */
export function useOtherSamples(step: string): { sample: Sample; of: Turn; at: At | null }[] {
  const { turn, sample: chosen, definition, facts } = useDraft();
  if (!turn || !chosen) return [];
  const others = definition.samples.filter((s) => s.id !== chosen.id).slice(0, OTHERS);
  return others.map((sample) => {
    const of = sampleTurn(turn.release, sample, facts);
    return { sample, of, at: sampleAt(of, step) };
  });
}
