import { z } from "zod";
import { formula, id, stepBase } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("work out"),
    set: z.array(z.strictObject({ field: id, value: formula })).max(100),
  });
