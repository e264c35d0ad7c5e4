import { z } from "zod";
import type { Effect } from "@/core/engine";
import { EFFECTS } from "@/steps/effects";

/** An effect as it waits in the queue: what its kind says it is made of. */
export const EFFECT_PAYLOAD: z.ZodType<Effect> = z.union(
  Object.values(EFFECTS).map((e) => e.payload) as unknown as [z.ZodType<Effect>],
);
