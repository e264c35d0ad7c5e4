import { z } from "zod";
import type { WorkingCalendar } from "@/core/calendar";

const wall = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$|^24:00$/);

export const workingCalendar: z.ZodType<WorkingCalendar> = z.strictObject({
  key: z.string(),
  name: z.string(),
  zone: z.string(),
  week: z.record(z.string().regex(/^[1-7]$/), z.array(z.tuple([wall, wall]))),
  holidays: z.array(z.iso.date()),
});
