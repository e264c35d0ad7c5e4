import { z } from "zod";
import { formula, short } from "@/contracts/pieces";

export const schema = z.strictObject({
  by: z.literal("manager"),
  of: formula.optional(),
  levels: z.int().min(1).max(20).optional(),
  until: z
    .union([z.strictObject({ title: short }), z.strictObject({ level: z.int().min(1).max(20) })])
    .optional(),
  line: z.literal(true).optional(),
});
