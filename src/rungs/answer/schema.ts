import { z } from "zod";
import { id, short } from "@/contracts/pieces";

export const schema = z.strictObject({ do: z.literal("answer"), answer: id, note: short });
