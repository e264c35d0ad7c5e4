import { z } from "zod";
import { id, template } from "@/contracts/pieces";
import { rule } from "@/contracts/rule";

export const schema = z.strictObject({
  do: z.literal("tell"),
  who: rule,
  subject: template(400).optional(),
  text: template(4000),
  letter: id.optional(),
});
