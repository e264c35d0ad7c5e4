import { z } from "zod";
import { id, stepBase } from "@/contracts/pieces";
import { limit } from "@/contracts/asking";
import type { StepList } from "@/contracts/stepList";

/** @param list the schema of a list of steps */
export const schema = (list: StepList) =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("part"),
    bodies: z.array(z.strictObject({ id, steps: list })).length(1),
    limit: limit.optional(),
  });
