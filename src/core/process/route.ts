import type { ProcessDefinition, Step } from "./definition";

/** One list of steps inside a step: the steps of an answer, a way or a branch. */
export interface StepList {
  /** Id of the answer, way or branch. */
  id: string;
  name: string;
  steps: Step[];
}

export function listsOf(step: Step): StepList[] {
  switch (step.kind) {
    case "decide":
      return step.answers.map((a) => ({ id: a.id, name: a.label, steps: a.steps }));
    case "choose":
      return step.ways.map((w) => ({ id: w.id, name: w.name, steps: w.steps }));
    case "together":
      return step.branches.map((b) => ({ id: b.id, name: b.name, steps: b.steps }));
    default:
      return [];
  }
}

export interface Owner {
  step: Step;
  list: string;
}

/** Where a step stands: its list, its position there, and the owners from the outside in. */
export interface StepPlace {
  step: Step;
  list: readonly Step[];
  index: number;
  owners: readonly Owner[];
  /** Legal numbering as on the sheet; 1 is the start. "3a.1": first step of the first list of step 3. */
  number: string;
}

export const letter = (i: number): string =>
  i < 26 ? String.fromCharCode(97 + i) : letter(Math.floor(i / 26) - 1) + letter(i % 26);

/** Every step in reading order. */
export function placesOf(definition: Pick<ProcessDefinition, "route">): Map<string, StepPlace> {
  const out = new Map<string, StepPlace>();
  const visit = (list: readonly Step[], owners: readonly Owner[], prefix: string, first: number) =>
    list.forEach((step, index) => {
      const number = `${prefix}${first + index}`;
      out.set(step.id, { step, list, index, owners, number });
      listsOf(step).forEach((l, k) =>
        visit(l.steps, [...owners, { step, list: l.id }], `${number}${letter(k)}.`, 1),
      );
    });
  visit(definition.route, [], "", 2);
  return out;
}

/** Ids of the Together branches a step stands in, outermost first: tokens may only move inside the same ones. */
export const branchesAround = (p: StepPlace): string[] =>
  p.owners.filter((o) => o.step.kind === "together").map((o) => `${o.step.id}/${o.list}`);

/** The step that follows when a list runs to its end; null where the route or a branch ends. */
export function following(
  places: ReadonlyMap<string, StepPlace>,
  stepId: string,
): Step | null | "branch end" {
  const p = places.get(stepId);
  if (!p) return null;
  const next = p.list[p.index + 1];
  if (next) return next;
  const owner = p.owners.at(-1);
  if (!owner) return null;
  return owner.step.kind === "together" ? "branch end" : following(places, owner.step.id);
}

/** A step with each of its lists passed through `change`. */
export function withLists(s: Step, change: (id: string, list: Step[]) => Step[]): Step {
  switch (s.kind) {
    case "decide":
      return { ...s, answers: s.answers.map((a) => ({ ...a, steps: change(a.id, a.steps) })) };
    case "choose":
      return { ...s, ways: s.ways.map((w) => ({ ...w, steps: change(w.id, w.steps) })) };
    case "together":
      return { ...s, branches: s.branches.map((b) => ({ ...b, steps: change(b.id, b.steps) })) };
    default:
      return s;
  }
}
