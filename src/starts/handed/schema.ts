import { z } from "zod";
import { id } from "@/contracts/pieces";

/** Processes one start may name. */
const MOST = 100;

const from = z.discriminatedUnion("by", [
  z.strictObject({ by: z.literal("any") }),
  z.strictObject({ by: z.literal("these"), processes: z.array(z.string().max(60)).max(MOST) }),
]);
export const schema = z.strictObject({ id, kind: z.literal("handed"), from });
