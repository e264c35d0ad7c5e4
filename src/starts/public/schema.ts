import { z } from "zod";
import { afterSending, id, short } from "@/contracts/pieces";

const yes = z.literal(true).optional();

export const schema = z.strictObject({
  id,
  kind: z.literal("public"),
  letterhead: short,
  greeting: z.string().max(5000).optional(),
  asks: z.enum(["nothing", "address", "confirmed"]),
  files: yes,
  staff: yes,
  values: yes,
  sent: afterSending.optional(),
});
