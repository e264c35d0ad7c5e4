import { mapRules, ruleKind, stepKind } from "@/core/kinds";
import { listsOf, withLists, type Step } from "@/core/route";
import { KINDS } from "@/kinds";
import { newId } from "../parts";

/** A copy with ids of its own, all the way down; what names a step of the copied names its copy. */
export function freshCopy(step: Step, taken: (id: string) => boolean): Step {
  const ids = new Map<string, string>();
  const name = (s: Step) => {
    const used = new Set(ids.values());
    ids.set(
      s.id,
      newId(s.id.replace(/(-\d+)?(-[a-z2-9]{3})?$/, ""), (x) => taken(x) || used.has(x)),
    );
    for (const l of listsOf(s, KINDS)) l.steps.forEach(name);
  };
  name(step);
  const copy = (s: Step): Step => {
    const inner = withLists(s, KINDS, (_, l) => l.map(copy));
    const at = (id: string) => ids.get(id) ?? id;
    const named = stepKind(KINDS, inner).steps(inner, at);
    const rules = mapRules((_, r) => ruleKind(KINDS, r).steps?.(r, at) ?? r, KINDS);
    return { ...stepKind(KINDS, named).formulas(named, rules), id: ids.get(s.id)! };
  };
  return copy(step);
}
