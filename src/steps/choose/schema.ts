import { z } from "zod";
import { formula, id, short, stepBase } from "@/contracts/pieces";
import type { StepList } from "@/contracts/stepList";

/** @param list the schema of a list of steps */
export const schema = (list: StepList) =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("choose"),
    byValue: z.literal(true).optional(),
    ways: z.array(z.strictObject({ id, name: short, when: formula.optional(), steps: list })).max(50),
  });
