import { z } from "zod";
import { formula, id, short, stepBase } from "@/contracts/pieces";

const of = { id, lines: id };
const values = z.array(z.strictObject({ column: id, value: formula })).max(100);
const rowsDeed = z.discriminatedUnion("do", [
  z.strictObject({ ...of, do: z.literal("set"), column: id, value: formula, where: formula.optional() }),
  z.strictObject({
    ...of,
    do: z.literal("add"),
    from: formula.optional(),
    as: short.optional(),
    values,
  }),
  z.strictObject({ ...of, do: z.literal("remove"), where: formula }),
  z.strictObject({ ...of, do: z.literal("sort"), by: formula, descending: z.literal(true).optional() }),
]);

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("work out"),
    set: z.array(z.strictObject({ field: id, value: formula })).max(100),
    rows: z.array(rowsDeed).max(50).optional(),
    own: z
      .array(z.strictObject({ name: short, value: formula }))
      .max(100)
      .optional(),
  });
