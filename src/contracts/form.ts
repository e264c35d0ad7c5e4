import { z } from "zod";
import { FIELD_KINDS, type Field, type FormData } from "@/core/form";
import { formula, id, short } from "./pieces";

/** Properties of a field other than its id, its name and what it holds: those a `field.set` may change. */
export const fieldProperties = {
  kind: z.enum(FIELD_KINDS),
  help: z.string().max(1000).optional(),
  needed: formula.optional(),
  shown: formula.optional(),
  worked: formula.optional(),
  checks: z
    .array(z.strictObject({ must: formula, say: z.string().max(500) }))
    .max(20)
    .optional(),
  min: z.string().max(40).optional(),
  max: z.string().max(40).optional(),
  options: z.array(short).max(500).optional(),
  register: z.string().max(60).optional(),
};
export const field: z.ZodType<Field> = z
  .lazy(() =>
    z.strictObject({
      id,
      name: z.string().max(60),
      ...fieldProperties,
      fields: z.array(field).max(500).optional(),
    }),
  )
  .meta({ id: "Field" });

const scalar = z.union([z.string().max(20_000), z.boolean(), z.null()]);
const row = z.object({ "#": z.string().max(60) }).catchall(scalar);
/** Values of a form by field id: text, decimal text, ISO dates, ids; lines are lists of rows with "#". */
export const formData: z.ZodType<FormData> = z
  .record(z.string().max(60), z.union([scalar, z.array(row).max(5000)]))
  .meta({ id: "FormData" }) as z.ZodType<FormData>;
