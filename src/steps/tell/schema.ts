import { z } from "zod";
import { formula, id, stepBase, template } from "@/contracts/pieces";
import { rule } from "@/contracts/rule";
import type { StepList } from "@/contracts/stepList";

/** @param list the schema of a list of steps */
export const schema = (list: StepList) =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("tell"),
    who: rule,
    subject: template(400),
    text: template(10_000),
    on: formula.optional(),
    mail: z
      .strictObject({
        to: formula.optional(),
        copy: formula.optional(),
        blind: formula.optional(),
        replyTo: formula.optional(),
        files: formula.optional(),
        replies: z.literal(true).optional(),
        again: z.literal(true).optional(),
      })
      .optional(),
    chat: z.strictObject({ room: formula.optional() }).optional(),
    own: z.literal(true).optional(),
    letter: id.optional(),
    // What was stored before there were any has none.
    ways: z
      .array(z.strictObject({ id, steps: list }))
      .max(1)
      .default([]),
  });
