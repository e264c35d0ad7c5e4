import { z } from "zod";
import { audience, formula, id, short, template } from "@/contracts/pieces";

const leads = z.discriminatedUnion("to", [
  z.strictObject({
    to: z.literal("form"),
    process: z.string().max(60),
    values: z.array(z.strictObject({ name: short, value: formula })).max(50),
  }),
  z.strictObject({ to: z.literal("address"), address: template(2000) }),
]);

export const schema = z.strictObject({
  id,
  kind: z.literal("form"),
  who: audience,
  sent: z.strictObject({ says: template(5000).optional(), leads: leads.optional() }).optional(),
});
