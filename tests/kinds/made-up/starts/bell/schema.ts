import { z } from "zod";
import { formula, id } from "@/contracts/pieces";

export const schema = z.strictObject({ id, kind: z.literal("bell"), rings: formula });
