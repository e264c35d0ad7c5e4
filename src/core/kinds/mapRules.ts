import type { Rule } from "@/rules/shapes";
import { ruleKind, rungKind, type Kinds } from "./kinds";
import { neverPlace, type FormulaWalk } from "./places";

/** A walk that passes over the rules alone, those within others too, and puts back what it is given. */
export function mapRules(change: (place: string, r: Rule) => Rule, kinds: Kinds): FormulaWalk {
  const walk: FormulaWalk = {
    formula: (_, text) => text,
    template: (_, text) => text,
    rule: (at, _, r) => {
      if (!r) return r;
      const changed = change(at, r);
      return ruleKind(kinds, changed).formulas(changed, at, "", walk) as typeof r;
    },
    limit: (l) => l && { ...l, rungs: walk.rungs(l.rungs) },
    rungs: (rungs) =>
      rungs.map((r) => ({
        ...r,
        action: rungKind(kinds, r.action).formulas(r.action, `rung ${r.id}`, walk),
      })),
    asks: (s) => {
      const { who } = s;
      return {
        ...s,
        who: {
          ...who,
          rule: walk.rule("who", "", who.rule),
          ...(who.fallback ? { fallback: walk.rule("fallback", "", who.fallback) } : {}),
          ...(who.never ? { never: who.never.map((r, i) => walk.rule(neverPlace(i), "", r)) } : {}),
        },
        ...(s.limit ? { limit: walk.limit(s.limit) } : {}),
      };
    },
  };
  return walk;
}
