import { z } from "zod";
import type { WorkingCalendar } from "@/core/calendar";

const begin = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, "Opens at a time of day, for example 09:00.");
const end = z
  .string()
  .regex(/^([01]\d|2[0-3]):[0-5]\d$|^24:00$/, "Closes at a time of day, 24:00 at the latest.");
const span = z
  .tuple([begin, end])
  .refine(
    ([from, to]) => from !== to,
    "A span that ends when it begins is open for no time, or all day; say 00:00 to 24:00.",
  );

export function isZone(zone: string): boolean {
  try {
    new Intl.DateTimeFormat("en", { timeZone: zone });
    return true;
  } catch {
    return false;
  }
}

export const workingCalendar: z.ZodType<WorkingCalendar> = z.strictObject({
  key: z.string(),
  name: z.string(),
  zone: z
    .string()
    .refine(isZone, "There is no such time zone. Name one as in the IANA list, for example Europe/Dublin."),
  week: z.record(z.string().regex(/^[1-7]$/), z.array(span)),
  holidays: z.array(z.iso.date()),
  publicHolidays: z
    .strictObject({
      country: z.string().regex(/^[A-Z]{2}$/),
      region: z
        .string()
        .regex(/^[A-Za-z0-9-]{1,10}$/)
        .optional(),
      works: z.array(z.string().max(200)).max(100),
    })
    .optional(),
});
