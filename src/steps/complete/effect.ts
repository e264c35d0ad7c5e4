import { z } from "zod";
import type { EffectOf } from "@/core/engine";
import type { DocumentEffect } from "../executor";

/** Makes the signed one of a document; how is the services' to say, because it takes seconds that no transaction should last. */
export const effect: DocumentEffect<"complete"> = {
  where: "document",
  payload: z.object({
    kind: z.literal("complete"),
    id: z.string(),
    step: z.string(),
    scope: z.string().optional(),
    signs: z.object({
      document: z.string(),
      picture: z.string(),
      by: z.string(),
      for: z.string().optional(),
      at: z.number(),
    }),
    field: z.string(),
  }) as unknown as z.ZodType<EffectOf<"complete">>,
  attempts: 25,
  asks: ({ signs, field }) => ({ signs, field }),
  came: (files, pages) => ({ files: [...files], ...(pages === null ? {} : { pages }) }),
  failed: (step, message) => ({ code: "not-made-signed", data: { step, message } }),
};
