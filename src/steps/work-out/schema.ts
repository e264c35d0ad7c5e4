import { z } from "zod";
import { formula, id, short } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    id,
    name: short,
    kind: z.literal("work out"),
    set: z.array(z.strictObject({ field: id, value: formula })).max(100),
  });
