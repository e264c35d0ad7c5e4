import type { Renaming } from "../expression";
import { ANY_TYPES, stepKind, type AnyLists, type ListHolder } from "../kinds";
import type { Limit, Rung } from "./asking";
import type { ProcessDefinition, Step } from "./definition";
import type { Edit, HeldList, ListRef, Patch } from "./edit";
import type { Surrounding } from "./surrounding";
import { textsOf } from "./fieldEdits";
import { insertBehind, neighbourOf, patched } from "./neighbours";
import { refuse, settles } from "./refuse";
import { renameInFormulas } from "./renameInFormulas";
import { heldBy, listsOf, placesOf, withHeld, withLists } from "./tree";
import { withForm } from "./withForm";

type Applied = [ProcessDefinition, Edit];
type EditOf<O extends Edit["op"]> = Extract<Edit, { op: O }>;
type Kinds = Surrounding["kinds"];

interface StepPosition {
  step: Step;
  ref: ListRef;
  after: string | null;
}
function locate(d: ProcessDefinition, id: string, kinds: Kinds): StepPosition {
  const p = placesOf(d, kinds).get(id) ?? refuse({ code: "unknown-step", data: { id } });
  const owner = p.owners.at(-1);
  return {
    step: p.step,
    ref: { owner: owner?.step.id ?? null, list: owner?.list ?? null },
    after: neighbourOf(p.list, p.index),
  };
}

function changeList(
  route: readonly Step[],
  ref: ListRef,
  kinds: Kinds,
  change: (list: Step[]) => Step[],
): Step[] {
  if (ref.owner === null) return change([...route]);
  let done = false;
  const inside = (steps: readonly Step[]): Step[] =>
    steps.map((s) => {
      if (done || listsOf(s, kinds).length === 0) return s;
      return withLists(s, kinds, (id, l) => {
        if (s.id !== ref.owner || id !== ref.list) return inside(l);
        done = true;
        return change([...l]);
      });
    });
  const out = inside(route);
  if (!done) refuse({ code: "unknown-list", data: { id: `${ref.owner}/${ref.list}` } });
  return out;
}

/** The definition with one step, wherever it stands, put in place of the one of the same id. */
const replaceStep = (
  d: ProcessDefinition,
  at: StepPosition,
  next: Step,
  kinds: Kinds,
): ProcessDefinition => ({
  ...d,
  route: changeList(d.route, at.ref, kinds, (l) => l.map((s) => (s.id === next.id ? next : s))),
});

/** No id may stand twice: lists, tokens and formulas would mean the wrong one of the two. */
function refuseTwice(d: ProcessDefinition, steps: readonly Step[], kinds: Kinds) {
  const known = new Set(placesOf(d, kinds).keys());
  const visit = (s: Step) => {
    if (known.has(s.id)) refuse({ code: "duplicate-id", data: { id: s.id } });
    known.add(s.id);
    for (const l of listsOf(s, kinds)) l.steps.forEach(visit);
  };
  steps.forEach(visit);
}

export function addStep(d: ProcessDefinition, e: EditOf<"step.add">, kinds: Kinds): Applied {
  refuseTwice(d, [e.step], kinds);
  return [
    { ...d, route: changeList(d.route, e.to, kinds, (l) => insertBehind(l, e.after, e.step)) },
    { op: "step.remove", id: e.step.id },
  ];
}

/** What is said of access and form at steps that go, as the edits that bring it back, and the definition without it. */
function tablesWithout(d: ProcessDefinition, gone: ReadonlySet<string>) {
  const entries = Object.entries(d.access)
    .filter(([s]) => gone.has(s))
    .flatMap(([step, table]) =>
      Object.entries(table).map(([field, access]): Edit => ({ op: "access.set", step, field, access })),
    );
  const forms = Object.entries(d.forms ?? {})
    .filter(([s]) => gone.has(s))
    .map(([step, form]): Edit => ({ op: "form.set", step, patch: form }));
  const rest = { ...d, access: Object.fromEntries(Object.entries(d.access).filter(([s]) => !gone.has(s))) };
  return { entries: [...entries, ...forms], without: [...gone].reduce((x, s) => withForm(x, s, {}), rest) };
}

export function takeStep(d: ProcessDefinition, e: EditOf<"step.remove">, kinds: Kinds): Applied {
  const at = locate(d, e.id, kinds);
  const { entries, without } = tablesWithout(d, new Set(placesOf({ route: [at.step] }, kinds).keys()));
  return [
    { ...without, route: changeList(d.route, at.ref, kinds, (l) => l.filter((s) => s.id !== e.id)) },
    { op: "batch", edits: [{ op: "step.add", to: at.ref, after: at.after, step: at.step }, ...entries] },
  ];
}

export function moveStep(d: ProcessDefinition, e: EditOf<"step.move">, kinds: Kinds): Applied {
  const at = locate(d, e.id, kinds);
  const inside = e.to.owner !== null && placesOf({ route: [at.step] }, kinds).has(e.to.owner);
  if (inside || e.after === e.id) refuse({ code: "into-itself", data: { id: e.id } });
  const without = changeList(d.route, at.ref, kinds, (l) => l.filter((s) => s.id !== e.id));
  return [
    { ...d, route: changeList(without, e.to, kinds, (l) => insertBehind(l, e.after, at.step)) },
    { op: "step.move", id: e.id, to: at.ref, after: at.after },
  ];
}

const refuseFixed = (id: string, patch: Patch, fixed: readonly (string | undefined)[]) => {
  const property = fixed.find((p) => p !== undefined && Object.hasOwn(patch, p));
  if (property !== undefined) refuse({ code: "fixed-property", data: { id, property } });
};

/** Sets properties of a step. Where its name is among them, formulas that read its outcome go along. */
export function setStep(d: ProcessDefinition, e: EditOf<"step.set">, around: Surrounding): Applied {
  const { kinds } = around;
  const at = locate(d, e.id, kinds);
  refuseFixed(e.id, e.patch, ["id", "kind", stepKind(kinds, at.step).lists?.in]);
  const [changed, before] = patched(at.step, e.patch);
  const back = { op: "step.set" as const, id: e.id, patch: before };
  if (renamings(at.step, changed, kinds).length === 0) return [replaceStep(d, at, changed, kinds), back];
  const next = named(d, e, around);
  // A formula that read the new name before anything had it is caught by the rename, and would not go back.
  return [next, settles(() => named(next, back, around), d) ? back : textsOf(d)];
}

/** What a step calls otherwise than it did: itself, and things in its rounds. */
function renamings(was: Step, is: Step, kinds: Kinds): Renaming[] {
  const { rounds } = stepKind(kinds, was);
  const names = (s: Step) => rounds?.names(s, ANY_TYPES) ?? [];
  const before = names(was);
  const out = names(is).flatMap(({ role, name }) => {
    const from = before.find((n) => n.role === role)?.name;
    return from === undefined || from === name
      ? []
      : [{ id: `round ${was.id} ${role}`, entryOf: null, from, to: name }];
  });
  if (was.name !== is.name) out.push({ id: `step ${was.id}`, entryOf: null, from: was.name, to: is.name });
  return out;
}

/**
 * The name first, and what it calls things in its rounds, with all formulas as they are; then the rest, which may bring
 * formulas of its own.
 */
function named(d: ProcessDefinition, e: EditOf<"step.set">, around: Surrounding): ProcessDefinition {
  const { kinds } = around;
  const at = locate(d, e.id, kinds);
  const [changed] = patched(at.step, e.patch);
  const { rounds } = stepKind(kinds, at.step);
  const called = { ...(rounds?.called(at.step, changed) ?? at.step), name: changed.name } as Step;
  const next = renameInFormulas(
    d,
    replaceStep(d, at, called, kinds),
    around,
    renamings(at.step, changed, kinds),
  );
  const there = locate(next, e.id, kinds);
  return replaceStep(next, there, patched(there.step, e.patch)[0], kinds);
}

/** A step with what holds its lists; refused for a step that holds none. */
function holderAt(
  d: ProcessDefinition,
  id: string,
  kinds: Kinds,
): { at: StepPosition; lists: AnyLists; held: ListHolder[] } {
  const at = locate(d, id, kinds);
  const { lists } = stepKind(kinds, at.step);
  if (!lists) return refuse({ code: "no-lists", data: { id } });
  return { at, lists, held: heldBy(at.step, lists) };
}
function heldAt(
  held: readonly ListHolder[],
  step: string,
  id: string,
): { one: ListHolder; after: string | null } {
  const index = held.findIndex((h) => h.id === id);
  if (index < 0) refuse({ code: "unknown-list", data: { id: `${step}/${id}` } });
  return { one: held[index]!, after: neighbourOf(held, index) };
}

export function addList(d: ProcessDefinition, e: EditOf<"list.add">, kinds: Kinds): Applied {
  const { at, lists, held } = holderAt(d, e.step, kinds);
  if (held.some((h) => h.id === e.list.id)) refuse({ code: "duplicate-id", data: { id: e.list.id } });
  refuseTwice(d, e.list.steps, kinds);
  const next = withHeld(at.step, lists, insertBehind(held, e.after, e.list));
  return [replaceStep(d, at, next, kinds), { op: "list.remove", step: e.step, list: e.list.id }];
}

export function takeList(d: ProcessDefinition, e: EditOf<"list.remove">, kinds: Kinds): Applied {
  const { at, lists, held } = holderAt(d, e.step, kinds);
  const { one, after } = heldAt(held, e.step, e.list);
  const { least = 0 } = lists;
  if (held.length <= least) refuse({ code: "least-lists", data: { one: lists.one, least } });
  const { entries, without } = tablesWithout(d, new Set(placesOf({ route: one.steps }, kinds).keys()));
  const next = withHeld(
    at.step,
    lists,
    held.filter((h) => h.id !== e.list),
  );
  return [
    replaceStep(without, at, next, kinds),
    {
      op: "batch",
      edits: [{ op: "list.add", step: e.step, after, list: one as unknown as HeldList }, ...entries],
    },
  ];
}

export function moveList(d: ProcessDefinition, e: EditOf<"list.move">, kinds: Kinds): Applied {
  const { at, lists, held } = holderAt(d, e.step, kinds);
  const { one, after } = heldAt(held, e.step, e.list);
  if (e.after === e.list) refuse({ code: "into-itself", data: { id: e.list } });
  const rest = held.filter((h) => h.id !== e.list);
  const next = withHeld(at.step, lists, insertBehind(rest, e.after, one));
  return [replaceStep(d, at, next, kinds), { op: "list.move", step: e.step, list: e.list, after }];
}

export function setList(d: ProcessDefinition, e: EditOf<"list.set">, kinds: Kinds): Applied {
  const { at, lists, held } = holderAt(d, e.step, kinds);
  const { one } = heldAt(held, e.step, e.list);
  refuseFixed(e.list, e.patch, ["id", "steps"]);
  const [changed, before] = patched(one, e.patch);
  const next = withHeld(
    at.step,
    lists,
    held.map((h) => (h.id === e.list ? changed : h)),
  );
  return [replaceStep(d, at, next, kinds), { op: "list.set", step: e.step, list: e.list, patch: before }];
}

/** A step with its ladder; refused for a step without a limit. */
function ladderAt(d: ProcessDefinition, id: string, kinds: Kinds): { at: StepPosition; limit: Limit } {
  const at = locate(d, id, kinds);
  const limit = stepKind(kinds, at.step).asks?.limit(at.step);
  return { at, limit: limit ?? refuse({ code: "unknown-rung", data: { id } }) };
}
const withRungs = (d: ProcessDefinition, at: StepPosition, limit: Limit, rungs: Rung[], kinds: Kinds) =>
  replaceStep(d, at, { ...at.step, limit: { ...limit, rungs } } as Step, kinds);

export function addRung(d: ProcessDefinition, e: EditOf<"rung.add">, kinds: Kinds): Applied {
  const { at, limit } = ladderAt(d, e.step, kinds);
  if (limit.rungs.some((r) => r.id === e.rung.id)) refuse({ code: "duplicate-id", data: { id: e.rung.id } });
  return [
    withRungs(d, at, limit, insertBehind(limit.rungs, e.after, e.rung), kinds),
    { op: "rung.remove", step: e.step, rung: e.rung.id },
  ];
}

export function takeRung(d: ProcessDefinition, e: EditOf<"rung.remove">, kinds: Kinds): Applied {
  const { at, limit } = ladderAt(d, e.step, kinds);
  const index = limit.rungs.findIndex((r) => r.id === e.rung);
  const rung = limit.rungs[index] ?? refuse({ code: "unknown-rung", data: { id: e.rung } });
  return [
    withRungs(
      d,
      at,
      limit,
      limit.rungs.filter((r) => r !== rung),
      kinds,
    ),
    { op: "rung.add", step: e.step, after: neighbourOf(limit.rungs, index), rung },
  ];
}

export function setRung(d: ProcessDefinition, e: EditOf<"rung.set">, kinds: Kinds): Applied {
  const { at, limit } = ladderAt(d, e.step, kinds);
  const rung =
    limit.rungs.find((r) => r.id === e.rung) ?? refuse({ code: "unknown-rung", data: { id: e.rung } });
  refuseFixed(e.rung, e.patch, ["id"]);
  const [changed, before] = patched(rung, e.patch);
  return [
    withRungs(
      d,
      at,
      limit,
      limit.rungs.map((r) => (r === rung ? changed : r)),
      kinds,
    ),
    { op: "rung.set", step: e.step, rung: e.rung, patch: before as EditOf<"rung.set">["patch"] },
  ];
}
