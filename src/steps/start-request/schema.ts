import { z } from "zod";
import { binding } from "@/contracts/binding";
import { stepBase } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("start request"),
    process: z.string().max(60),
    ...binding,
    waits: z.boolean(),
    endsWith: z.boolean(),
    asProcess: z.literal(true).optional(),
  });
