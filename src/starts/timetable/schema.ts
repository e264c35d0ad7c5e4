import { z } from "zod";
import { MOST_RULE } from "@/core/calendar";
import { formula, id, timeOfDay } from "@/contracts/pieces";

const weekday = z.int().min(1).max(7);
const MOST_IN_MONTH = 31;
const MOST_VALUES = 200;

export const schema = z.strictObject({
  id,
  kind: z.literal("timetable"),
  days: z.discriminatedUnion("every", [
    z.strictObject({ every: z.literal("working day") }),
    z.strictObject({ every: z.literal("week"), days: z.array(weekday).max(7) }),
    z.strictObject({
      every: z.literal("month"),
      nth: z
        .int()
        .min(-1)
        .max(MOST_IN_MONTH)
        .refine((n) => n !== 0, "There is no day before the first."),
      of: z.union([z.enum(["day", "working day"]), weekday]),
    }),
    z.strictObject({
      every: z.literal("rule"),
      rule: z.string().max(MOST_RULE),
      from: z.iso.date().meta({ examples: ["2026-01-05"] }),
    }),
  ]),
  closed: z.enum(["as it is", "skip", "before", "after"]),
  at: timeOfDay,
  each: z
    .strictObject({
      register: z.string().max(60),
      when: formula.optional(),
      into: z.string().max(60).optional(),
      values: z.array(z.strictObject({ field: z.string().max(60), value: formula })).max(MOST_VALUES),
    })
    .optional(),
});
