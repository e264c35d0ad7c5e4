import { z } from "zod";
import { formula, id } from "@/contracts/pieces";

const MOST = 200;

export const schema = z.strictObject({
  id,
  kind: z.literal("record"),
  register: z.string().max(60),
  on: z.enum(["added", "changed", "added or changed", "removed"]),
  when: formula.optional(),
  each: z.literal(true).optional(),
  columns: z.array(z.string().max(60)).max(MOST).optional(),
  into: z.string().max(60).optional(),
  values: z.array(z.strictObject({ field: z.string().max(60), value: formula })).max(MOST),
});
