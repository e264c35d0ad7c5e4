import { z } from "zod";
import { id, short } from "@/contracts/pieces";
import { rule } from "@/contracts/rule";

export const schema = () =>
  z.strictObject({
    id,
    name: short,
    kind: z.literal("tell"),
    who: rule,
    subject: z.string().max(400),
    text: z.string().max(10_000),
  });
