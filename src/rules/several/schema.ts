import { z } from "zod";
import { MOST_RULES, type PlainRule } from "../shapes";

/** @param plain the schema of any rule that is not put together from others */
export const schema = (plain: z.ZodType<PlainRule>) =>
  z.strictObject({
    by: z.literal("several"),
    take: z.enum(["first", "all"]),
    of: z.array(plain).max(MOST_RULES),
  });
