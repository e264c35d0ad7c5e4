import { z } from "zod";
import { anew, askMail, assignment, limit, offers } from "@/contracts/asking";
import { id, short, stepBase, tone } from "@/contracts/pieces";
import type { StepList } from "@/contracts/stepList";

/** @param list the schema of a list of steps */
export const schema = (list: StepList) =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("decide"),
    who: assignment,
    limit: limit.optional(),
    offers: offers.optional(),
    byMail: askMail.optional(),
    answers: z
      .array(
        z.strictObject({
          id,
          label: short,
          tone,
          note: z.literal("must").optional(),
          words: z.string().max(300).optional(),
          abstains: z.literal(true).optional(),
          returns: z.literal(true).optional(),
          byLadder: z.literal(true).optional(),
          anew: anew.optional(),
          steps: list,
        }),
      )
      .max(20),
  });
