import { stepKind, type Kinds } from "../kinds";
import type { Step } from "../route";

/** Whether a step comes to what is read by its name as soon as it is entered, asking nothing of anybody or anything. */
export function worksAtOnce(kinds: Kinds, step: Step): boolean {
  const k = stepKind(kinds, step);
  return (
    k.gives !== undefined &&
    k.lists === null &&
    ![k.asks, k.done, k.kept, k.rounds, k.woken, k.calls].some((part) => part !== undefined && part !== null)
  );
}
