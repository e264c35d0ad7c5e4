import { z } from "zod";
import { assignment, limit } from "@/contracts/asking";
import { id, short } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    id,
    name: short,
    kind: z.literal("complete"),
    who: assignment,
    button: short,
    limit: limit.optional(),
  });
