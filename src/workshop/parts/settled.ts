"use client";
import type { Step } from "@/core/route";
import { useDraft } from "../draft/DraftProvider";

/**
 * The step as the sample is worked out over: what is being typed is checked and compiled a moment later, and until
 * then the sample knows the step as it was. Null where it does not know it yet.
 */
export function useSettled<S extends Step>(step: S): S | null {
  const known = useDraft().release.places.get(step.id)?.step;
  return known?.kind === step.kind ? (known as S) : null;
}
