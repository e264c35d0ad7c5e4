import { z } from "zod";
import { formula } from "@/contracts/pieces";

export const schema = z.strictObject({
  by: z.literal("manager"),
  of: formula.optional(),
  levels: z.int().min(1).max(20).optional(),
});
