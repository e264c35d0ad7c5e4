import { z } from "zod";
import type { StepList } from "@/contracts/stepList";
import { formula, id, length, stepBase } from "@/contracts/pieces";
import { MOST_AWAITED } from "./shape";

/** @param list the schema of a list of steps */
export const schema = (list: StepList) =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("wait"),
    for: z
      .array(
        z.union([
          z.strictObject({ id, length }),
          z.strictObject({ id, date: formula }),
          z.strictObject({ id, moment: formula }),
          z.strictObject({ id, holds: formula }),
        ]),
      )
      .max(MOST_AWAITED),
    // What was stored before there were any has none.
    ways: z
      .array(z.strictObject({ id, steps: list }))
      .max(1)
      .default([]),
  });
