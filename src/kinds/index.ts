import type { Kinds } from "@/core/kinds";
import { FIELDS } from "@/fields/kinds";
import { RULES } from "@/rules/kinds";
import { RUNGS } from "@/rungs/kinds";
import { STARTS } from "@/starts/kinds";
import { STEPS } from "@/steps/kinds";

/** All kinds a definition may be made of, as core is handed them. */
export const KINDS: Kinds = { fields: FIELDS, steps: STEPS, rules: RULES, rungs: RUNGS, starts: STARTS };
