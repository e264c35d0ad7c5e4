import { z } from "zod";
import { formula, stepBase, template } from "@/contracts/pieces";
import { rule } from "@/contracts/rule";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("tell"),
    who: rule,
    subject: template(400),
    text: template(10_000),
    on: formula.optional(),
  });
