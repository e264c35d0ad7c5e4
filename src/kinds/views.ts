import { FIELD_EDITORS } from "@/fields/editors";
import { RULE_EDITORS } from "@/rules/editors";
import { RUNG_EDITORS } from "@/rungs/editors";
import { START_EDITORS } from "@/starts/editors";
import { STEP_VIEWS } from "@/steps/views";
import type { KindViews } from "@/workshop/parts";

/** How all kinds look and are edited, as the sheets are handed them. */
export const VIEWS = {
  steps: STEP_VIEWS,
  rules: RULE_EDITORS,
  rungs: RUNG_EDITORS,
  starts: START_EDITORS,
  fields: FIELD_EDITORS,
} as unknown as KindViews;
