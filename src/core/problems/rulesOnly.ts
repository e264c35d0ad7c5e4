import { mapRules, type FormulaWalk, type Kinds } from "../kinds";
import type { Rule } from "../route";

/** A walk that only looks at the rules. */
export const rulesOnly = (check: (place: string, r: Rule) => void, kinds: Kinds): FormulaWalk =>
  mapRules((place, r) => {
    check(place, r);
    return r;
  }, kinds);
