import { z } from "zod";
import { audience, id } from "@/contracts/pieces";

export const schema = z.strictObject({ id, kind: z.literal("form"), who: audience });
