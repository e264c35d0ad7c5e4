import { z } from "zod";
import { id } from "@/contracts/pieces";

const audience = z.discriminatedUnion("by", [
  z.strictObject({ by: z.literal("everybody") }),
  z.strictObject({ by: z.literal("group"), group: z.string() }),
  z.strictObject({ by: z.literal("department"), department: z.string() }),
]);
export const schema = z.strictObject({ id, kind: z.literal("form"), who: audience });
