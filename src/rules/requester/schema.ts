import { z } from "zod";

export const schema = z.strictObject({ by: z.literal("requester") });
