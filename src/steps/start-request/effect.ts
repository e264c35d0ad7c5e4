import { z } from "zod";
import type { EffectOf } from "@/core/engine";
import type { RequestEffect } from "../executor";

/** Starts a request of another process; how is the services' to say, because it goes as every start does. */
export const effect: RequestEffect<"start request"> = {
  where: "another request",
  payload: z.object({
    kind: z.literal("start request"),
    id: z.string(),
    step: z.string(),
    scope: z.string().optional(),
    process: z.string(),
    values: z.array(z.tuple([z.string(), z.unknown()])),
    waits: z.boolean(),
    endsWith: z.boolean(),
    asProcess: z.literal(true).optional(),
  }) as unknown as z.ZodType<EffectOf<"start request">>,
  attempts: 25,
  asks: ({ process, values, waits, endsWith, asProcess }) => ({
    process,
    values,
    waits,
    endsWith,
    asProcess: asProcess === true,
  }),
  came: ({ number, result, values }) => ({ number, result, values: [...values] }),
  failed: (step, message) => ({ code: "not-started", data: { step, message } }),
};
