import { z } from "zod";
import type { Filled } from "@/core/document";
import type { EffectOf } from "@/core/engine";
import type { DocumentEffect } from "../executor";

const filled: z.ZodType<Filled> = z.lazy(() =>
  z.union([
    z.string(),
    z.object({ picture: z.string().nullable(), signs: z.string().optional() }) as z.ZodType<Filled>,
    z.object({ times: z.array(z.array(filled)) }),
    z.object({ holds: z.boolean(), parts: z.array(filled) }),
  ]),
);

/** Draws up a document; how is the services' to say, because it takes seconds that no transaction should last. */
export const effect: DocumentEffect<"draw up"> = {
  where: "document",
  payload: z.object({
    kind: z.literal("draw up"),
    id: z.string(),
    step: z.string(),
    scope: z.string().optional(),
    template: z.object({
      sha256: z.string(),
      name: z.string(),
      tags: z.array(
        z.object({
          tag: z.enum(["value", "each", "if", "otherwise", "end", "picture"]),
          piece: z.number(),
          mm: z.number().optional(),
        }),
      ),
    }),
    called: z.string(),
    as: z.enum(["docx", "pdf", "both"]),
    filled: z.array(filled),
  }) as unknown as z.ZodType<EffectOf<"draw up">>,
  attempts: 25,
  asks: ({ template, called, as, filled: values }) => ({ template, called, as, filled: values }),
  came: (files, pages) => ({ files: [...files], ...(pages === null ? {} : { pages }) }),
  failed: (step, message) => ({ code: "not-drawn-up", data: { step, message } }),
};
