import { z } from "zod";
import { formula, id } from "@/contracts/pieces";

const MOST = 200;

export const schema = z.strictObject({
  id,
  kind: z.literal("mail"),
  when: formula.optional(),
  strangers: z.enum(["take", "hold", "refuse"]),
  refusal: z.string().max(4000).optional(),
  values: z.array(z.strictObject({ field: z.string().max(60), value: formula })).max(MOST),
});
