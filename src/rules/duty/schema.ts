import { z } from "zod";
import { formula, short } from "@/contracts/pieces";

export const schema = z.strictObject({ by: z.literal("duty"), duty: short, place: formula.optional() });
