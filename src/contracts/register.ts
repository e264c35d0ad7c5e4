import { z } from "zod";
import type { Audience, ColumnKind, RegisterRights, RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import { registerKey, short } from "./pieces";

const column = z
  .string()
  .regex(/^[a-z][a-z0-9_]{0,39}$/)
  .refine((key) => !(key in {}), "Nothing may be called so.");

export const registerShape: z.ZodType<RegisterShape> = z
  .strictObject({
    format: z.literal("cobble-step/register@1"),
    key: column,
    name: short,
    one: short,
    purpose: z.string().max(1000),
    columns: z
      .array(
        z.strictObject({
          id: column,
          name: z.string().max(60),
          kind: z.enum(Object.keys(COLUMNS) as [ColumnKind]),
          options: z.array(short).max(500).optional(),
          register: registerKey.optional(),
          needed: z.boolean().optional(),
        }),
      )
      .min(1)
      .max(200),
    title: z.array(z.string()).min(1).max(5),
    key_column: z.string().optional(),
  })
  .meta({ id: "RegisterShape" });

const audience: z.ZodType<Audience> = z.discriminatedUnion("by", [
  z.strictObject({ by: z.literal("everybody") }),
  z.strictObject({ by: z.literal("group"), group: short }),
  z.strictObject({ by: z.literal("department"), department: short }),
  z.strictObject({ by: z.literal("duty"), duty: short }),
  z.strictObject({ by: z.literal("person"), person: short }),
]);
const audiences = z.array(audience).max(50);

/** Who may see what of a register. */
export const registerRights: z.ZodType<RegisterRights> = z.strictObject({
  keepers: z.array(short).max(50),
  see: audiences,
  columns: z.record(column, audiences),
  withdrawn: z.array(registerKey).max(1000),
});
