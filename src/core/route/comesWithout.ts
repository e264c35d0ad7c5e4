import { stepKind, type Kinds } from "../kinds";
import type { ProcessDefinition } from "./definition";
import type { Flow } from "./flow";
import { listsOf, type StepPlace } from "./tree";

/**
 * The steps a request can come to without having gone through any of some others, whatever its conditions come to; of
 * those others the ones that can come first. Branches and rounds that are waited for count as gone through where any of
 * them cannot be: a list that is empty, or a condition that leaves a branch out, is not thought of.
 */
export function comesWithout(
  d: Pick<ProcessDefinition, "route">,
  places: ReadonlyMap<string, StepPlace>,
  flow: Pick<Flow, "next">,
  kinds: Kinds,
  without: ReadonlySet<string>,
): ReadonlySet<string> {
  /** Steps whose branches cannot all be left without. */
  const closed = new Set<string>();
  const isInside = (id: string, owner: string) =>
    places.get(id)?.owners.some((o) => o.step.id === owner) ?? false;
  /** Whether going from one step to another leaves branches that cannot be left. */
  const isHeld = (from: string, to: string) =>
    [from, ...(places.get(from)?.owners.map((o) => o.step.id) ?? [])].some(
      (o) => closed.has(o) && !isInside(to, o),
    );
  const from = (start: readonly string[], may: (to: string) => boolean): Set<string> => {
    const seen = new Set(start);
    const todo = [...start];
    for (let id = todo.pop(); id !== undefined; id = todo.pop()) {
      if (without.has(id)) continue;
      for (const to of flow.next.get(id) ?? [])
        if (!seen.has(to) && may(to) && !isHeld(id, to)) {
          seen.add(to);
          todo.push(to);
        }
    }
    return seen;
  };
  // The innermost first: what stands in others is known before those.
  for (const { step } of [...places.values()].reverse()) {
    const { lists, late } = stepKind(kinds, step);
    // What is gone through late holds up nobody.
    if (!lists?.sideBySide || late || lists.joins?.early(step)) continue;
    const canLeave = (first: string | undefined): boolean => {
      if (first === undefined) return true;
      const seen = from([first], (to) => isInside(to, step.id));
      return [...seen].some(
        (id) =>
          !without.has(id) &&
          ((flow.next.get(id) ?? []).some((to) => !isInside(to, step.id) && !isHeld(id, to)) ||
            (flow.next.get(id) ?? []).length === 0),
      );
    };
    if (listsOf(step, kinds).some((l) => !canLeave(l.steps[0]?.id))) closed.add(step.id);
  }
  const first = d.route[0]?.id;
  return first === undefined ? new Set() : from([first], () => true);
}
