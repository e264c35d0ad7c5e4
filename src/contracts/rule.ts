import type { z } from "zod";
import type { Rule } from "@/core/route";
import { RULE_SCHEMAS } from "@/rules/schemas";
import { oneOf } from "./pieces";

export const rule: z.ZodType<Rule> = oneOf<Rule>("by", RULE_SCHEMAS).meta({ id: "Rule" });
