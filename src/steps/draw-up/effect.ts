import { z } from "zod";
import type { Filled } from "@/core/document";
import type { DocumentEffect } from "../executor";
import type { DrawUpWork } from "./shape";

const filled: z.ZodType<Filled> = z.lazy(() =>
  z.union([
    z.string(),
    z.object({ picture: z.string().nullable(), signs: z.string().optional() }) as z.ZodType<Filled>,
    z.object({ times: z.array(z.array(filled)) }),
    z.object({ holds: z.boolean(), parts: z.array(filled) }),
  ]),
);

const base = {
  kind: z.literal("draw up"),
  id: z.string(),
  step: z.string(),
  scope: z.string().optional(),
  called: z.string(),
};
const fromTemplate = z.object({
  ...base,
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
  as: z.enum(["docx", "pdf", "both"]),
  filled: z.array(filled),
});
const ofLabels = z.object({
  ...base,
  labels: z.object({
    across: z.number(),
    down: z.number(),
    margin: z.number(),
    labels: z.array(z.object({ heading: z.string(), lines: z.array(z.string()) })),
  }),
});

/** Draws up a document; how is the services' to say, because it takes seconds that no transaction should last. */
export const effect: DocumentEffect<"draw up"> = {
  where: "document",
  payload: z.union([fromTemplate, ofLabels]) as unknown as DocumentEffect<"draw up">["payload"],
  attempts: 25,
  asks: (effect) => {
    const work: DrawUpWork = effect;
    if ("labels" in work) return { called: work.called, labels: work.labels };
    const { template, called, as, filled: values } = work;
    return { template, called, as, filled: values };
  },
  came: (files, pages) => ({ files: [...files], ...(pages === null ? {} : { pages }) }),
  failed: (step, message) => ({ code: "not-drawn-up", data: { step, message } }),
};
