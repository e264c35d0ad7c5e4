import { z } from "zod";
import type { Length } from "@/core/calendar";
import type { StartAudience } from "@/core/form";
import type { Tone } from "@/core/route";

/** What the schemas of all kinds are put together from. */
export const id = z
  .string()
  .regex(/^[a-z0-9][a-z0-9._-]{0,59}$/, "An id has small letters, digits, dots and dashes, at most 60.");
/** The key of a register somebody means; a name that every object has would be found without being there. */
export const registerKey = z
  .string()
  .max(60)
  .refine((key) => !(key in {}), "No register may be called so.");
/** A formula; the mark tells readers of the published schemas, and the tests, where formulas stand. */
export const formula = z.string().max(4000).meta({ "x-formula": "FEEL" });
/** A text with formulas in braces. */
export const template = (max: number) => z.string().max(max).meta({ "x-template": "FEEL in braces" });
export const short = z.string().max(200);
/** What every step has. */
export const stepBase = {
  id,
  name: short,
  note: z.string().max(500).optional(),
  stage: z.string().min(1).max(60).optional(),
};
export const tone: z.ZodType<Tone> = z.enum(["agree", "refuse", "plain"]);

export const lengthUnit = z.enum(["working days", "working hours", "days", "hours", "minutes"]);
export const length: z.ZodType<Length> = z
  .strictObject({
    amount: z.number().min(0).max(10_000),
    unit: lengthUnit,
  })
  .meta({ id: "Length" });

/** A schema for any of several kinds, told apart by one property. */
export function oneOf<T>(by: string, schemas: Readonly<Record<string, z.ZodType>>): z.ZodType<T> {
  const all = Object.values(schemas) as unknown as [z.core.$ZodTypeDiscriminable];
  return (all.length > 1 ? z.discriminatedUnion(by, all) : all[0]) as unknown as z.ZodType<T>;
}

/** A time of day to the minute, by a clock of 24 hours. */
export const timeOfDay = z
  .string()
  .regex(/^([01]\d|2[0-3]):[0-5]\d$/)
  .meta({ examples: ["08:00"] });

/** Who may start a request. */
export const audience: z.ZodType<StartAudience> = z.discriminatedUnion("by", [
  z.strictObject({ by: z.literal("everybody") }),
  z.strictObject({ by: z.literal("group"), group: z.string() }),
  z.strictObject({ by: z.literal("department"), department: z.string() }),
]);

const leads = z.discriminatedUnion("to", [
  z.strictObject({
    to: z.literal("form"),
    process: z.string().max(60),
    values: z.array(z.strictObject({ name: short, value: formula })).max(50),
  }),
  z.strictObject({ to: z.literal("address"), address: template(2000) }),
]);
/** What comes once a form is sent. */
export const afterSending = z.strictObject({ says: template(5000).optional(), leads: leads.optional() });
