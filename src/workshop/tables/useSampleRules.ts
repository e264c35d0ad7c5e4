import { useMemo } from "react";
import type { TableResult } from "@/core/decision";
import type { Value } from "@/core/expression";
import type { StepOf } from "@/core/route";
import { faceOf, inputValues, missingInput, worked, type Working } from "@/steps/apply/worked";
import { useDraft } from "../draft/DraftProvider";
import { useSampleAt } from "../parts/StepHere";

type Apply = StepOf<"apply">;

/** What a table comes to for the chosen sample. */
export interface SampleRules {
  /** What each input comes to; undefined where that cannot be worked out. */
  inputs: readonly (Value | undefined)[];
  /** By rule and input whether its test holds; null where that cannot be worked out. */
  passes: readonly (readonly (boolean | null)[])[];
  /** Null where it cannot be worked out. */
  result: TableResult | { missing: number } | null;
}

/** Null where there is no sample, or it comes to none of the rounds the table stands in. */
export function useSampleRules(s: Apply): SampleRules | null {
  const turn = useDraft((d) => d.turn);
  const here = useSampleAt();
  const scope = here?.scope;
  return useMemo(() => {
    if (!turn || scope === undefined) return null;
    const at = { step: s.id, scope };
    const w: Working = {
      names: () => turn.names(at.scope),
      value: (place, text, names) => turn.value(at, place, text, names ?? turn.names(at.scope)),
    };
    const tried = <T>(work: () => T): T | undefined => {
      try {
        return work();
      } catch {
        // What cannot be worked out would stop the request; why is told beside the row.
        return undefined;
      }
    };
    const inputs = s.inputs.map((i) => tried(() => inputValues({ ...s, inputs: [i] }, w)[0]!));
    const known = inputs.map((v) => v ?? null);
    const face = faceOf(s, w, known);
    const passes = s.rules.map((_, r) =>
      s.inputs.map((_i, i) => (inputs[i] === undefined ? null : (tried(() => face.passes(r, i)) ?? null))),
    );
    const missing = missingInput(s, known);
    const whole = () => (missing >= 0 ? { missing } : worked(s, w, known));
    const result = inputs.includes(undefined) ? null : (tried(whole) ?? null);
    return { inputs, passes, result };
  }, [s, turn, scope]);
}
