import type { z } from "zod";
import { oneOf } from "@/contracts/pieces";
import { schema as answered } from "./answered/schema";
import { schema as duty } from "./duty/schema";
import { schema as formula } from "./formula/schema";
import { schema as group } from "./group/schema";
import { schema as head } from "./head/schema";
import { schema as manager } from "./manager/schema";
import { schema as outside } from "./outside/schema";
import { schema as people } from "./people/schema";
import { schema as person } from "./person/schema";
import { schema as requester } from "./requester/schema";
import { schema as several } from "./several/schema";
import type { PlainKind, PlainRule, RuleKind, RuleParts } from "./shapes";

const PLAIN = {
  requester,
  person,
  group,
  duty,
  manager,
  head,
  people,
  answered,
  formula,
  outside,
} satisfies {
  [K in PlainKind]: z.ZodType<RuleParts[K]>;
};
const plain = oneOf<PlainRule>("by", PLAIN).meta({ id: "PlainRule" });

export const RULE_SCHEMAS = { ...PLAIN, several: several(plain) } satisfies {
  [K in RuleKind]: z.ZodType<RuleParts[K]>;
};
