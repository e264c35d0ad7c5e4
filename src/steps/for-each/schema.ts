import { z } from "zod";
import { formula, id, short, stepBase } from "@/contracts/pieces";
import type { StepList } from "@/contracts/stepList";
import { MOST_ROUNDS } from "./shape";

/** @param list the schema of a list of steps */
export const schema = (list: StepList) =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("for each"),
    over: z.union([
      z.strictObject({ lines: z.string().max(100) }),
      z.strictObject({ list: formula }),
      z.strictObject({ times: formula }),
    ]),
    item: short,
    only: formula.optional(),
    gather: z.strictObject({ by: formula, as: short }).optional(),
    atOnce: z.int().min(1).max(MOST_ROUNDS).optional(),
    collect: formula.optional(),
    until: formula.optional(),
    stuckHolds: z.literal(true).optional(),
    bodies: z.array(z.strictObject({ id, steps: list })).length(1),
  });
