import { z } from "zod";

export const schema = z.strictObject({ by: z.literal("answered"), step: z.string().max(60) });
