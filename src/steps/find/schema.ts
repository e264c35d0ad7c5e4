import { z } from "zod";
import { formula, id, registerKey, short } from "@/contracts/pieces";
import { MOST_FOUND } from "./shape";

export const schema = () =>
  z.strictObject({
    id,
    name: short,
    kind: z.literal("find"),
    register: registerKey,
    where: formula.optional(),
    sort: z
      .array(z.strictObject({ column: z.string().max(100), descending: z.literal(true).optional() }))
      .max(5)
      .optional(),
    take: z.enum(["first", "last", "some"]),
    most: z.int().min(1).max(MOST_FOUND).optional(),
    nothing: z.enum(["on", "stop"]),
  });
