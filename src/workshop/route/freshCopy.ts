import { listsOf, withLists, type Step } from "@/core/process";
import { newId } from "../draft/newId";

/** A copy with ids of its own, all the way down; jumps to a step of the copied lead to its copy. */
export function freshCopy(step: Step, taken: (id: string) => boolean): Step {
  const ids = new Map<string, string>();
  const name = (s: Step) => {
    ids.set(
      s.id,
      newId(s.id.replace(/-\d+$/, ""), (x) => taken(x) || [...ids.values()].includes(x)),
    );
    for (const l of listsOf(s)) l.steps.forEach(name);
  };
  name(step);
  const copy = (s: Step): Step => {
    const inner = withLists(s, (_, l) => l.map(copy));
    return {
      ...inner,
      id: ids.get(s.id)!,
      ...(inner.kind === "jump" ? { to: ids.get(inner.to) ?? inner.to } : {}),
    } as Step;
  };
  return copy(step);
}
