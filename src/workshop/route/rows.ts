import { isHeading } from "@/core/kinds";
import { KINDS } from "@/kinds";
import { letter, listsOf, placesOf, type ListRef, type ProcessDefinition, type Step } from "@/core/route";

/** One line of the route sheet: the start, a step, or the head of one of a step's lists. */
export type SheetRow =
  | { kind: "start"; id: string; number: string; depth: number }
  | {
      kind: "step";
      id: string;
      number: string;
      depth: number;
      step: Step;
      ref: ListRef;
      index: number;
      siblings: number;
      /** Of a heading: whether what stands under it is out of sight, and how many steps that are. */
      under?: { folded: boolean; steps: number };
    }
  | {
      kind: "list";
      id: string;
      number: string;
      depth: number;
      owner: Step;
      list: string;
      index: number;
      last: boolean;
    };

/**
 * The route as lines in reading order: each answer, way and branch a line of its own, its steps indented under it. What
 * stands under a heading stands right under that, or is out of sight.
 * @param folded ids of headings
 */
export function sheetRows(
  definition: ProcessDefinition,
  folded: ReadonlySet<string> = new Set(),
): SheetRow[] {
  const numbers = placesOf(definition, KINDS);
  const out: SheetRow[] = [{ kind: "start", id: "start", number: "1", depth: 0 }];
  const visit = (steps: readonly Step[], ref: ListRef, depth: number) =>
    steps.forEach((step, index) => {
      const number = numbers.get(step.id)!.number;
      const row = {
        kind: "step" as const,
        id: step.id,
        number,
        depth,
        step,
        ref,
        index,
        siblings: steps.length,
      };
      const lists = listsOf(step, KINDS);
      if (isHeading(KINDS, step)) {
        const all = placesOf({ route: lists.flatMap((l) => l.steps) }, KINDS).size;
        out.push({ ...row, under: { folded: folded.has(step.id), steps: all } });
        if (!folded.has(step.id))
          for (const l of lists) visit(l.steps, { owner: step.id, list: l.id }, depth + 1);
        return;
      }
      out.push(row);
      lists.forEach((l, k) => {
        out.push({
          kind: "list",
          id: `${step.id}/${l.id}`,
          number: `${number}${letter(k)}`,
          depth: depth + 1,
          owner: step,
          list: l.id,
          index: k,
          last: k === lists.length - 1,
        });
        visit(l.steps, { owner: step.id, list: l.id }, depth + 2);
      });
    });
  visit(definition.route, { owner: null, list: null }, 0);
  return out;
}
