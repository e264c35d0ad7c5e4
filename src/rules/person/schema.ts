import { z } from "zod";
import { MOST_NAMED } from "../shapes";

export const schema = z.strictObject({
  by: z.literal("person"),
  person: z.string(),
  others: z
    .array(z.string())
    .min(1)
    .max(MOST_NAMED - 1)
    .optional(),
});
