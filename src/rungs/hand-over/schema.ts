import { z } from "zod";
import { rule } from "@/contracts/rule";

export const schema = z.strictObject({ do: z.literal("hand over"), to: rule });
