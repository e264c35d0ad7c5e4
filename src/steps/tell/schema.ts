import { z } from "zod";
import { id, short, template } from "@/contracts/pieces";
import { rule } from "@/contracts/rule";

export const schema = () =>
  z.strictObject({
    id,
    name: short,
    kind: z.literal("tell"),
    who: rule,
    subject: template(400),
    text: template(10_000),
  });
