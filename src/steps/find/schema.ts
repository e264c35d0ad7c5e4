import { z } from "zod";
import { formula, id, registerKey, stepBase } from "@/contracts/pieces";
import type { StepList } from "@/contracts/stepList";
import { MOST_FOUND } from "./shape";

/** @param list the schema of a list of steps */
export const schema = (list: StepList) =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("find"),
    register: registerKey,
    where: formula.optional(),
    sort: z
      .array(z.strictObject({ column: z.string().max(100), descending: z.literal(true).optional() }))
      .max(5)
      .optional(),
    take: z.enum(["first", "last", "some"]),
    most: z.int().min(1).max(MOST_FOUND).optional(),
    columns: z.literal("all").optional(),
    nothing: z.enum(["on", "stop"]),
    ways: z.array(z.strictObject({ id, steps: list })).max(1),
  });
