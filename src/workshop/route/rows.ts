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

/** The route as lines in reading order: each answer, way and branch a line of its own, its steps indented under it. */
export function sheetRows(definition: ProcessDefinition): SheetRow[] {
  const numbers = placesOf(definition, KINDS);
  const out: SheetRow[] = [{ kind: "start", id: "start", number: "1", depth: 0 }];
  const visit = (steps: readonly Step[], ref: ListRef, depth: number) =>
    steps.forEach((step, index) => {
      const number = numbers.get(step.id)!.number;
      out.push({ kind: "step", id: step.id, number, depth, step, ref, index, siblings: steps.length });
      const lists = listsOf(step, KINDS);
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
