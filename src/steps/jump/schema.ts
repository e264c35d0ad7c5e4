import { z } from "zod";
import { stepBase } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("jump"),
    to: z.string(),
  });
