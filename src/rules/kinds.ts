import type { RuleBehaviour } from "@/core/kinds";
import { duty } from "./duty/kind";
import { formula } from "./formula/kind";
import { group } from "./group/kind";
import { manager } from "./manager/kind";
import { person } from "./person/kind";
import { requester } from "./requester/kind";
import type { RuleKind } from "./shapes";

/** In the order in which the picker offers them. */
export const RULES = { manager, duty, group, person, formula, requester } satisfies {
  [K in RuleKind]: RuleBehaviour<K>;
};
