import { z } from "zod";
import { id, short } from "@/contracts/pieces";

export const schema = () => z.strictObject({ id, name: short, kind: z.literal("jump"), to: z.string() });
