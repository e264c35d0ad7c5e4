import { isHeading, stepKind, type AnyLists, type Kinds, type ListHolder } from "../kinds";
import type { ProcessDefinition, Step } from "./definition";

/** One list of steps inside a step: the steps of an answer, a way or a branch. */
export interface StepList {
  /** Id of the answer, way or branch. */
  id: string;
  name: string;
  steps: Step[];
  /** Whether nothing goes on from here: it leads back to who asked. */
  back: boolean;
}

/** What holds the lists of a step, as its kind says: its answers, ways or branches. */
export const heldBy = (s: Step, lists: AnyLists): ListHolder[] =>
  (s as unknown as Record<string, ListHolder[]>)[lists.in] ?? [];

export const withHeld = (s: Step, lists: AnyLists, held: readonly ListHolder[]): Step =>
  ({ ...s, [lists.in]: held }) as Step;

export function listsOf(s: Step, kinds: Kinds): StepList[] {
  const { lists } = stepKind(kinds, s);
  return lists
    ? heldBy(s, lists).map((h) => ({ id: h.id, name: lists.name(h), steps: h.steps, back: lists.back(h) }))
    : [];
}

/** A step with each of its lists passed through `change`. */
export function withLists(s: Step, kinds: Kinds, change: (id: string, list: Step[]) => Step[]): Step {
  const { lists } = stepKind(kinds, s);
  if (!lists) return s;
  return withHeld(
    s,
    lists,
    heldBy(s, lists).map((h) => ({ ...h, steps: change(h.id, h.steps) })),
  );
}

export interface Owner {
  step: Step;
  list: string;
  /** Whether the list runs with a token of its own. */
  sideBySide: boolean;
}

/** Where a step stands: its list, its position there, and the owners from the outside in. */
export interface StepPlace {
  step: Step;
  list: readonly Step[];
  index: number;
  owners: readonly Owner[];
  /**
   * Legal numbering as on the sheet; 1 is the start. "3a.1": first step of the first list of step 3. What stands under a
   * heading is numbered on as if that were not there; the heading itself has the number of what comes next.
   */
  number: string;
}

export const letter = (i: number): string =>
  i < 26 ? String.fromCharCode(97 + i) : letter(Math.floor(i / 26) - 1) + letter(i % 26);

/** Every step in reading order. */
export function placesOf(
  definition: { readonly route: readonly Step[] },
  kinds: Kinds,
): Map<string, StepPlace> {
  const out = new Map<string, StepPlace>();
  /** @returns the number the next step behind them has */
  const visit = (list: readonly Step[], owners: readonly Owner[], prefix: string, first: number): number => {
    let next = first;
    list.forEach((step, index) => {
      const number = `${prefix}${next}`;
      out.set(step.id, { step, list, index, owners, number });
      const sideBySide = stepKind(kinds, step).lists?.sideBySide ?? false;
      const heading = isHeading(kinds, step);
      if (!heading) next++;
      listsOf(step, kinds).forEach((l, k) => {
        const inside = [...owners, { step, list: l.id, sideBySide }];
        if (heading) next = visit(l.steps, inside, prefix, next);
        else visit(l.steps, inside, `${number}${letter(k)}.`, 1);
      });
    });
    return next;
  };
  visit(definition.route, [], "", 2);
  return out;
}

/** Ids of the branches a step stands in, outermost first: tokens may only move inside the same ones. */
export const branchesAround = (p: StepPlace): string[] =>
  p.owners.filter((o) => o.sideBySide).map((o) => `${o.step.id}/${o.list}`);

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
  return owner.sideBySide ? "branch end" : following(places, owner.step.id);
}

/** The step one comes to first at a step: of a heading what stands under it, or comes behind it. */
export function firstAt(
  places: ReadonlyMap<string, StepPlace>,
  kinds: Kinds,
  at: Step | null | "branch end",
): Step | null | "branch end" {
  if (at === null || at === "branch end" || !isHeading(kinds, at)) return at;
  return firstAt(places, kinds, listsOf(at, kinds)[0]?.steps[0] ?? following(places, at.id));
}

/** Whether anything that enters a list may go on behind it. */
export const listGoesOn =
  (kinds: Kinds) =>
  (steps: readonly Step[]): boolean =>
    steps.every((s) => stepGoesOn(s, kinds));
export const stepGoesOn = (s: Step, kinds: Kinds): boolean => stepKind(kinds, s).goesOn(s, listGoesOn(kinds));

export type RouteOf = Pick<ProcessDefinition, "route">;
