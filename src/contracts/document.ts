import { z } from "zod";
import { MOST_MM, MOST_OF_TEMPLATE as MOST, type DocumentTag, type DocumentTemplate } from "@/core/document";
import { formula, id, short } from "./pieces";

const spot = {
  piece: z.int().min(0).max(200),
  in: z.enum(["text", "header", "footer"]),
  near: z.string().max(MOST.near),
  apart: z.literal(true).optional(),
};
const tag: z.ZodType<DocumentTag> = z.discriminatedUnion("tag", [
  z.strictObject({ tag: z.literal("value"), of: formula, ...spot }),
  z.strictObject({ tag: z.literal("each"), of: formula, ...spot }),
  z.strictObject({ tag: z.literal("if"), of: formula, ...spot }),
  z.strictObject({ tag: z.literal("otherwise"), ...spot }),
  z.strictObject({ tag: z.literal("end"), ...spot }),
  z.strictObject({
    tag: z.literal("picture"),
    of: formula,
    mm: z.number().positive().max(MOST_MM).optional(),
    ...spot,
  }),
]);

/** A fingerprint of what a file holds (SHA-256), in hexadecimal. */
const sha256 = z
  .string()
  .regex(/^[0-9a-f]{64}$/)
  .meta({ examples: ["0".repeat(64)] });

/** A template of a process: which file it is, and what its tags say by now. */
export const document: z.ZodType<DocumentTemplate> = z
  .strictObject({
    id,
    name: short,
    file: z.strictObject({ sha256, name: short, size: z.int().min(1).max(MOST.bytes) }),
    tags: z.array(tag).max(MOST.tags),
    from: z.strictObject({ template: z.uuid(), version: z.int().min(1) }).optional(),
  })
  .meta({ id: "DocumentTemplate" });
