import { useEffect, useMemo, useState } from "react";
import type { ValueAfter } from "@/core/engine";
import type { SampleValuesShown } from "../draft/draft";
import { useDraft } from "../parts";

/** Between the last change and asking anew. */
const PAUSE_MS = 500;

/** The values after one step, as its row shows them. */
export interface AfterStep {
  values: readonly ValueAfter[];
  more: number;
}
export interface SampleValuesHere {
  of(step: string): AfterStep | null;
  /** What is to be said of all of them: that they are asked for, or why they cannot be told. */
  said: string;
}

/**
 * The values after each step for the chosen sample, asked of the server once what was typed is kept there.
 * @param on whether anybody wants them
 */
export function useSampleValues(on: boolean): SampleValuesHere {
  const { sample, unsaved, definition, values } = useDraft();
  const [shown, setShown] = useState<SampleValuesShown | null>(null);
  const [said, setSaid] = useState("");
  const id = sample?.id ?? null;
  useEffect(() => {
    if (!on || id === null || unsaved) return;
    let here = true;
    setSaid("Looking…");
    const timer = setTimeout(() => {
      void values(id).then((r) => {
        if (!here) return;
        setShown(r.ok ? r.value : null);
        setSaid(r.ok ? (r.value?.whys.join(" ") ?? "") : r.sentence);
      });
    }, PAUSE_MS);
    return () => {
      here = false;
      clearTimeout(timer);
    };
  }, [on, id, unsaved, definition, values]);
  const byStep = useMemo(() => {
    const out = new Map<string, AfterStep>();
    for (const v of shown?.values ?? []) {
      const { values: before = [] } = out.get(v.step) ?? {};
      out.set(v.step, { values: [...before, v], more: shown?.more[v.step] ?? 0 });
    }
    return out;
  }, [shown]);
  if (!on) return NONE;
  const none = id === null ? "Keep a sample to see its values." : said;
  return { of: (step) => byStep.get(step) ?? null, said: none };
}
const NONE: SampleValuesHere = { of: () => null, said: "" };
