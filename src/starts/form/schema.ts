import { z } from "zod";
import { afterSending, audience, id } from "@/contracts/pieces";

export const schema = z.strictObject({
  id,
  kind: z.literal("form"),
  who: audience,
  sent: afterSending.optional(),
});
