import type { z } from "zod";
import { schema as duty } from "./duty/schema";
import { schema as formula } from "./formula/schema";
import { schema as group } from "./group/schema";
import { schema as manager } from "./manager/schema";
import { schema as person } from "./person/schema";
import { schema as requester } from "./requester/schema";
import type { RuleKind, RuleParts } from "./shapes";

export const RULE_SCHEMAS = { requester, person, group, duty, manager, formula } satisfies {
  [K in RuleKind]: z.ZodType<RuleParts[K]>;
};
