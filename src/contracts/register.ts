import { z } from "zod";
import type { Audience, ColumnKind, RegisterRights, RegisterRule, RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import { formula, registerKey, short } from "./pieces";

const column = z
  .string()
  .regex(/^[a-z][a-z0-9_]{0,39}$/)
  .refine((key) => !(key in {}), "Nothing may be called so.");

const rule: z.ZodType<RegisterRule> = z.strictObject({
  id: z.string().min(1).max(40),
  on: z.enum(["added", "changed", "added or changed", "removed"]),
  when: formula,
  then: z.discriminatedUnion("do", [
    z.strictObject({ do: z.literal("set"), column: z.string().max(40), value: formula }),
    z.strictObject({ do: z.literal("refuse"), say: z.string().max(500) }),
  ]),
});

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
          registers: z.array(registerKey).max(100).optional(),
          needed: z.boolean().optional(),
          help: z.string().max(500).optional(),
          unique: z.boolean().optional(),
          starting: formula.optional(),
          worked: formula.optional(),
          unlisted: z.boolean().optional(),
          leaving: z.literal(true).optional(),
        }),
      )
      .min(1)
      .max(200),
    title: z.array(z.string()).min(1).max(5),
    key_column: z.string().optional(),
    rules: z.array(rule).max(100).optional(),
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
  add: audiences,
  change: audiences,
  remove: audiences,
  fill: z.record(column, audiences),
  open: z.array(column).max(200).optional(),
});
