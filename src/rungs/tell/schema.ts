import { z } from "zod";
import { rule } from "@/contracts/rule";

export const schema = z.strictObject({ do: z.literal("tell"), who: rule, text: z.string().max(4000) });
