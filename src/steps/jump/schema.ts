import { z } from "zod";
import { formula, stepBase } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("jump"),
    to: z.string(),
    when: formula.optional(),
  });
