import { z } from "zod";
import { binding } from "@/contracts/binding";
import { stepBase } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("hand to"),
    procedure: z.string().max(60),
    version: z.string().max(30).optional(),
    ...binding,
  });
