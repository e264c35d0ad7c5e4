import { rungKind, type FormulaWalk, type Kinds } from "../kinds";
import type { Rule } from "../route";

/** A walk that only looks at the rules. */
export function rulesOnly(check: (place: string, r: Rule) => void, kinds: Kinds): FormulaWalk {
  const walk: FormulaWalk = {
    formula: (_, text) => text,
    template: (_, text) => text,
    rule: (at, _, r) => {
      if (r) check(at, r);
      return r;
    },
    limit: (l) => {
      for (const r of l?.rungs ?? []) rungKind(kinds, r.action).formulas(r.action, `rung ${r.id}`, walk);
      return l;
    },
    asks: (s) => {
      walk.rule("who", "", s.who.rule);
      walk.rule("fallback", "", s.who.fallback);
      walk.limit(s.limit);
      return s;
    },
  };
  return walk;
}
