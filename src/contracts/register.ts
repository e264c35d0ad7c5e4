import { z } from "zod";
import type { ColumnKind, RegisterShape } from "@/core/form";
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
