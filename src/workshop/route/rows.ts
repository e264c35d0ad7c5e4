import { letter, listsOf, placesOf, type ListRef, type ProcessDefinition, type Step } from "@/core/process";

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
  | { kind: "list"; id: string; number: string; depth: number; owner: Step; list: string; index: number };

/** The route as lines in reading order: each answer, way and branch a line of its own, its steps indented under it. */
export function sheetRows(definition: ProcessDefinition): SheetRow[] {
  const numbers = placesOf(definition);
  const out: SheetRow[] = [{ kind: "start", id: "start", number: "1", depth: 0 }];
  const visit = (steps: readonly Step[], ref: ListRef, depth: number) =>
    steps.forEach((step, index) => {
      const number = numbers.get(step.id)!.number;
      out.push({ kind: "step", id: step.id, number, depth, step, ref, index, siblings: steps.length });
      listsOf(step).forEach((l, k) => {
        out.push({
          kind: "list",
          id: `${step.id}/${l.id}`,
          number: `${number}${letter(k)}`,
          depth: depth + 1,
          owner: step,
          list: l.id,
          index: k,
        });
        visit(l.steps, { owner: step.id, list: l.id }, depth + 2);
      });
    });
  visit(definition.route, { owner: null, list: null }, 0);
  return out;
}

/** Where a list's steps lead when it is a plain way on: shown at its head instead of as rows of their own. */
export interface WayOn {
  kind: "on" | "jump" | "finish";
  to?: string;
  result?: string;
}
export function wayOn(steps: readonly Step[]): WayOn | null {
  if (steps.length === 0) return { kind: "on" };
  const [only] = steps;
  if (steps.length === 1 && only?.kind === "jump") return { kind: "jump", to: only.to };
  if (steps.length === 1 && only?.kind === "finish") return { kind: "finish", result: only.result };
  return null;
}
