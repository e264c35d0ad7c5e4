import { z } from "zod";
import { short, stepBase, tone } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("finish"),
    result: short,
    tone,
  });
