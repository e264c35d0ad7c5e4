import { z } from "zod";
import type { EffectOf } from "@/core/engine";
import type { OutsideEffect } from "../executor";

/** Brings files out of the house, by a worker; what was brought is known again by the effect's id. */
export const effect: OutsideEffect<"bring"> = {
  where: "outside",
  payload: z.object({
    kind: z.literal("bring"),
    id: z.string(),
    step: z.string(),
    scope: z.string().optional(),
    files: z.array(z.string()),
    to: z.discriminatedUnion("outlet", [
      z.object({ outlet: z.literal("shelf"), folder: z.string() }),
      z.object({ outlet: z.literal("print room"), copies: z.number() }),
    ]),
    since: z.number(),
  }) as unknown as z.ZodType<EffectOf<"bring">>,
  attempts: 25,
  asks: ({ files, to, since }) => ({ files, to, since }),
  came: (brought, { to }) => ({
    brought: brought.length,
    jobs: to.outlet === "print room" ? [...brought] : [],
  }),
  failed: (step, message) => ({ code: "not-brought", data: { step, message } }),
};
