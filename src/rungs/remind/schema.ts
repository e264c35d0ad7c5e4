import { z } from "zod";

export const schema = z.strictObject({ do: z.literal("remind") });
