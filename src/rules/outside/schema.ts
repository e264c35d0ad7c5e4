import { z } from "zod";
import { formula } from "@/contracts/pieces";

export const schema = z.strictObject({ by: z.literal("outside"), to: formula, name: formula.optional() });
