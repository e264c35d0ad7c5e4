import type { RuleBehaviour } from "@/core/kinds";
import { answered } from "./answered/kind";
import { duty } from "./duty/kind";
import { formula } from "./formula/kind";
import { group } from "./group/kind";
import { head } from "./head/kind";
import { manager } from "./manager/kind";
import { outside } from "./outside/kind";
import { people } from "./people/kind";
import { person } from "./person/kind";
import { requester } from "./requester/kind";
import { several } from "./several/kind";
import type { RuleKind } from "./shapes";

/** In the order in which the picker offers them. */
export const RULES = {
  manager,
  head,
  duty,
  group,
  person,
  people,
  formula,
  outside,
  answered,
  requester,
  several,
} satisfies {
  [K in RuleKind]: RuleBehaviour<K>;
};
