import { z } from "zod";
import { MAX_PROSE, type Field, type FieldKind } from "@/core/form";
import { formula, id, registerKey, short } from "./pieces";

/** Properties any field may have besides its id, name, kind and what it holds: those a `field.set` may change. */
export const fieldProperties = {
  label: z.string().min(1).max(200).optional(),
  help: z.string().max(1000).optional(),
  text: z.string().max(MAX_PROSE).optional(),
  picture: z
    .strictObject({
      hash: z
        .string()
        .regex(/^[0-9a-f]{64}$/)
        .meta({ examples: ["0".repeat(64)] }),
      says: z.string().max(300),
      width: z.int().min(1).max(10_000),
      height: z.int().min(1).max(10_000),
    })
    .optional(),
  needed: formula.optional(),
  shown: formula.optional(),
  worked: formula.optional(),
  copied: z.literal(true).optional(),
  fixed: z.literal(true).optional(),
  hand: z.enum(["in", "out", "in and out"]).optional(),
  starting: formula.optional(),
  offered: formula.optional(),
  personal: z.literal(true).optional(),
  checks: z
    .array(
      z.strictObject({
        must: formula,
        records: z.strictObject({ register: registerKey, there: z.enum(["none", "some"]) }).optional(),
        say: z.string().max(500),
        passable: z.literal(true).optional(),
        about: z.array(id).max(20).optional(),
      }),
    )
    .max(20)
    .optional(),
  unique: z.literal(true).optional(),
  total: z.literal(true).optional(),
  min: z.string().max(40).optional(),
  max: z.string().max(40).optional(),
  options: z.array(short).max(500).optional(),
  among: z.strictObject({ register: registerKey, column: id }).optional(),
  optionLabels: z.record(short, z.string().min(1).max(200)).optional(),
  register: registerKey.optional(),
  registers: z.array(registerKey).max(100).optional(),
};

/** The schema of a kind of field: what any field may have, and what only this kind has. */
export const fieldOf =
  <K extends FieldKind>(kind: K, own: z.ZodRawShape) =>
  (list: z.ZodType<Field[]>) =>
    z.strictObject({
      id,
      name: z.string().max(60),
      kind: z.literal(kind),
      ...fieldProperties,
      fields: list.optional(),
      ...own,
    }) as unknown as z.ZodType<Field & { kind: K }>;
