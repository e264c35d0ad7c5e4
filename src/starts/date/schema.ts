import { z } from "zod";
import { formula, id, timeOfDay } from "@/contracts/pieces";

const MOST = 200;
/** Days between a date and when it starts something. */
const MOST_DAYS = 3660;

export const schema = z.strictObject({
  id,
  kind: z.literal("date"),
  register: z.string().max(60),
  column: z.string().max(60),
  days: z.int().min(-MOST_DAYS).max(MOST_DAYS),
  working: z.literal(true).optional(),
  clock: z.enum(["hours", "minutes"]).optional(),
  at: timeOfDay,
  when: formula.optional(),
  again: z.literal(true).optional(),
  late: z.literal("never").optional(),
  into: z.string().max(60).optional(),
  values: z.array(z.strictObject({ field: z.string().max(60), value: formula })).max(MOST),
});
