"use client";
import { createContext, useContext } from "react";
import { sampleAt, type At } from "@/core/engine";
import type { Names } from "@/core/expression";
import { useDraft } from "../draft/DraftProvider";

/** The step on whose row of the sheet something stands; null outside of all steps. */
export const StepHere = createContext<string | null>(null);

/** Where this row stands for the chosen sample: in the first round of whatever rounds it is in; null where it comes to none. */
export function useSampleAt(): At | null {
  const step = useContext(StepHere);
  const turn = useDraft((d) => d.turn);
  if (!turn) return null;
  return step === null ? { step: "", scope: null } : sampleAt(turn, step);
}

/** The names formulas of this row read for the chosen sample; null where there is none. */
export function useNamesHere(): Names | null {
  const at = useSampleAt();
  const turn = useDraft((d) => d.turn);
  return turn && at ? turn.names(at.scope) : null;
}
