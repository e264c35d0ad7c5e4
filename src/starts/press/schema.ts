import { z } from "zod";
import { audience, formula, id } from "@/contracts/pieces";

const MOST = 200;

export const schema = z.strictObject({
  id,
  kind: z.literal("press"),
  who: audience,
  register: z.string().max(60),
  says: z.string().max(60),
  when: formula.optional(),
  atOnce: z.literal(true).optional(),
  into: z.string().max(60).optional(),
  values: z.array(z.strictObject({ field: z.string().max(60), value: formula })).max(MOST),
});
