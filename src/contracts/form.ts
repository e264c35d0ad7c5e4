import { z } from "zod";
import { MOST_ROWS, type Field, type FieldKind, type FormData } from "@/core/form";
import { FIELD_SCHEMAS } from "@/fields/schemas";
import { fieldProperties as common } from "./fieldOf";
import { oneOf } from "./pieces";

const fields: z.ZodType<Field[]> = z.lazy(() => z.array(field).max(500));
export const field: z.ZodType<Field> = oneOf<Field>(
  "kind",
  Object.fromEntries(Object.entries(FIELD_SCHEMAS).map(([kind, schema]) => [kind, schema(fields)])),
).meta({ id: "Field" });

/** Properties of a field that a `field.set` may change. */
export const fieldProperties = {
  kind: z.enum(Object.keys(FIELD_SCHEMAS) as [FieldKind]),
  ...common,
};

export const stepForm = z.strictObject({
  shows: z.enum(["together", "pages", "guided"]).optional(),
  heading: z.string().min(1).max(200).optional(),
  help: z.string().min(1).max(2000).optional(),
  answers: z.enum(["top", "end"]).optional(),
  parts: z.array(z.string().max(60)).max(500).optional(),
  columns: z.array(z.string().max(60)).max(500).optional(),
});

const scalar = z.union([z.string().max(20_000), z.boolean(), z.null()]);
const row = z.object({ "#": z.string().max(60) }).catchall(scalar);
/** Values of a form by field id: text, decimal text, ISO dates, ids; lines are lists of rows with "#". */
export const formData: z.ZodType<FormData> = z
  .record(z.string().max(60), z.union([scalar, z.array(row).max(MOST_ROWS)]))
  .meta({ id: "FormData" }) as z.ZodType<FormData>;
