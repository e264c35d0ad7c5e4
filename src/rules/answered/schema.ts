import { z } from "zod";
import { MOST_RULES } from "../shapes";

const step = z.string().max(60);

export const schema = z.strictObject({
  by: z.literal("answered"),
  step,
  others: z
    .array(step)
    .min(1)
    .max(MOST_RULES - 1)
    .optional(),
});
