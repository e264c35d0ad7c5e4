import { mapTemplate, nameMistake, renameInFormula, type Scope } from "../expression";
import {
  findField,
  flatFields,
  holdsFields,
  REQUEST_SCOPE,
  walkFields,
  type Access,
  type Field,
  type Registers,
  formScope,
  columnScope,
} from "../form";
import type { ProcessDefinition, Sample, Step } from "./definition";
import { mapStepFormulas, routeScope } from "./formulas";
import { listsOf, placesOf, withLists } from "./route";

/** A list of steps: the route itself (owner null), or the list of an answer, way or branch. */
export interface ListRef {
  owner: string | null;
  list: string | null;
}

/** A small change of a draft. Each has an inverse, so undo, autosave and comparing are one mechanism. */
export type Edit =
  | {
      op: "process.set";
      patch: Partial<
        Pick<ProcessDefinition, "name" | "purpose" | "title" | "numbering" | "owners" | "starts" | "calendar">
      >;
    }
  | { op: "field.add"; parent: string | null; index: number; field: Field }
  | { op: "field.remove"; id: string }
  | { op: "field.move"; id: string; parent: string | null; index: number }
  /** A value of null takes the property away. */
  | {
      op: "field.set";
      id: string;
      patch: { [K in Exclude<keyof Field, "id" | "name" | "fields">]?: Field[K] | null };
    }
  | { op: "field.rename"; id: string; name: string }
  /** Texts as they were: takes a rename back where renaming again would not give the same. */
  | { op: "texts.restore"; title: string; fields: Field[]; route: Step[] }
  | { op: "access.set"; step: string; field: string; access: Access | null }
  | { op: "step.add"; to: ListRef; index: number; step: Step }
  | { op: "step.remove"; id: string }
  | { op: "step.move"; id: string; to: ListRef; index: number }
  /** Replaces a step by another of the same id; its lists come along. */
  | { op: "step.put"; step: Step }
  | { op: "sample.put"; sample: Sample }
  | { op: "sample.remove"; id: string }
  | { op: "batch"; edits: Edit[] };

export type EditRefusal =
  | { code: "unknown-field" | "unknown-step" | "unknown-list" | "unknown-sample"; data: { id: string } }
  | { code: "duplicate-id"; data: { id: string } }
  | { code: "into-itself"; data: { id: string } }
  | { code: "bad-name"; data: { name: string; why: string } }
  | { code: "name-taken"; data: { name: string } };

export type EditResult =
  { ok: true; definition: ProcessDefinition; inverse: Edit } | { ok: false; refusal: EditRefusal };

class Refuse extends Error {
  constructor(readonly refusal: EditRefusal) {
    super(refusal.code);
  }
}
const refuse = (refusal: EditRefusal): never => {
  throw new Refuse(refusal);
};

/** Applies an edit to an immutable definition; gives the new one and the edit that takes it back. */
export function applyEdit(definition: ProcessDefinition, edit: Edit, registers: Registers): EditResult {
  try {
    const [next, inverse] = apply(definition, edit, registers);
    return { ok: true, definition: next, inverse };
  } catch (e) {
    if (e instanceof Refuse) return { ok: false, refusal: e.refusal };
    throw e;
  }
}

type Applied = [ProcessDefinition, Edit];

function apply(d: ProcessDefinition, e: Edit, registers: Registers): Applied {
  switch (e.op) {
    case "batch": {
      const inverses: Edit[] = [];
      let now = d;
      for (const one of e.edits) {
        const [next, inverse] = apply(now, one, registers);
        now = next;
        inverses.unshift(inverse);
      }
      return [now, { op: "batch", edits: inverses }];
    }
    case "process.set": {
      const before = Object.fromEntries(
        Object.keys(e.patch).map((k) => [k, d[k as keyof ProcessDefinition]]),
      );
      return [tidy({ ...d, ...e.patch }), { op: "process.set", patch: before }];
    }
    case "field.add": {
      // Groups come whole when a removal is taken back; only the outermost name can collide with a newcomer's.
      walkFields([e.field], (f) => {
        if (findField(d.fields, f.id)) refuse({ code: "duplicate-id", data: { id: f.id } });
      });
      checkName(d, e.field.name, e.field.id, e.parent);
      return [
        { ...d, fields: insertField(d.fields, e.parent, e.index, e.field) },
        { op: "field.remove", id: e.field.id },
      ];
    }
    case "field.remove": {
      const at = locate(d.fields, e.id);
      const gone = new Set<string>();
      walkFields([at.field], (f) => void gone.add(f.id));
      const entries = Object.entries(d.access).flatMap(([step, table]) =>
        Object.entries(table)
          .filter(([f]) => gone.has(f))
          .map(([field, access]): Edit => ({ op: "access.set", step, field, access })),
      );
      const access = Object.fromEntries(
        Object.entries(d.access).map(([step, table]) => [
          step,
          Object.fromEntries(Object.entries(table).filter(([f]) => !gone.has(f))),
        ]),
      );
      return [
        { ...d, access, fields: removeField(d.fields, e.id) },
        {
          op: "batch",
          edits: [{ op: "field.add", parent: at.parent, index: at.index, field: at.field }, ...entries],
        },
      ];
    }
    case "field.move": {
      const at = locate(d.fields, e.id);
      if (e.parent !== null && (e.parent === e.id || findField(at.field.fields ?? [], e.parent)))
        refuse({ code: "into-itself", data: { id: e.id } });
      return [
        { ...d, fields: insertField(removeField(d.fields, e.id), e.parent, e.index, at.field) },
        { op: "field.move", id: e.id, parent: at.parent, index: at.index },
      ];
    }
    case "field.set": {
      const { field } = locate(d.fields, e.id);
      const before = Object.fromEntries(
        Object.keys(e.patch).map((k) => [k, field[k as keyof Field] ?? null]),
      );
      const next = ofKind(tidy({ ...field, ...e.patch }) as Field);
      const after = { ...d, fields: mapField(d.fields, e.id, () => next) };
      // A file from elsewhere may have line items without a list; only restoring the texts gives that back.
      const back = ofKind(tidy({ ...next, ...before }) as Field);
      return [
        after,
        (back.fields === undefined) === (field.fields === undefined)
          ? { op: "field.set", id: e.id, patch: before }
          : { op: "texts.restore", title: d.title, fields: d.fields, route: d.route },
      ];
    }
    case "field.rename": {
      const [next, back] = renameField(d, e.id, e.name, registers);
      // A formula that read the new name before anything had it is caught by the rename, and would go
      // along when the name goes back.
      const [again] = renameField(next, e.id, locate(d.fields, e.id).field.name, registers);
      if (JSON.stringify(again) === JSON.stringify(d)) return [next, back];
      return [next, { op: "texts.restore", title: d.title, fields: d.fields, route: d.route }];
    }
    case "texts.restore":
      return [
        { ...d, title: e.title, fields: e.fields, route: e.route },
        { op: "texts.restore", title: d.title, fields: d.fields, route: d.route },
      ];
    case "access.set": {
      const before = d.access[e.step]?.[e.field] ?? null;
      const table = { ...d.access[e.step] };
      if (e.access === null) delete table[e.field];
      else table[e.field] = e.access;
      return [
        { ...d, access: { ...d.access, [e.step]: table } },
        { ...e, access: before },
      ];
    }
    case "step.add": {
      const known = placesOf(d);
      for (const id of placesOf({ route: [e.step] }).keys())
        if (known.has(id)) refuse({ code: "duplicate-id", data: { id } });
      return [
        { ...d, route: changeList(d.route, e.to, (l) => l.toSpliced(e.index, 0, e.step)) },
        { op: "step.remove", id: e.step.id },
      ];
    }
    case "step.remove": {
      const at = stepAt(d, e.id);
      const gone = new Set(placesOf({ route: [at.step] }).keys());
      const entries = Object.entries(d.access)
        .filter(([s]) => gone.has(s))
        .flatMap(([step, table]) =>
          Object.entries(table).map(([field, access]): Edit => ({ op: "access.set", step, field, access })),
        );
      return [
        {
          ...d,
          access: Object.fromEntries(Object.entries(d.access).filter(([s]) => !gone.has(s))),
          route: changeList(d.route, at.ref, (l) => l.toSpliced(at.index, 1)),
        },
        { op: "batch", edits: [{ op: "step.add", to: at.ref, index: at.index, step: at.step }, ...entries] },
      ];
    }
    case "step.move": {
      const at = stepAt(d, e.id);
      if (e.to.owner !== null && placesOf({ route: [at.step] }).has(e.to.owner))
        refuse({ code: "into-itself", data: { id: e.id } });
      const without = changeList(d.route, at.ref, (l) => l.toSpliced(at.index, 1));
      return [
        { ...d, route: changeList(without, e.to, (l) => l.toSpliced(e.index, 0, at.step)) },
        { op: "step.move", id: e.id, to: at.ref, index: at.index },
      ];
    }
    case "step.put": {
      const at = stepAt(d, e.step.id);
      return [
        { ...d, route: changeList(d.route, at.ref, (l) => l.with(at.index, e.step)) },
        { op: "step.put", step: at.step },
      ];
    }
    case "sample.put": {
      const old = d.samples.find((s) => s.id === e.sample.id);
      return [
        { ...d, samples: old ? d.samples.map((s) => (s === old ? e.sample : s)) : [...d.samples, e.sample] },
        old ? { op: "sample.put", sample: old } : { op: "sample.remove", id: e.sample.id },
      ];
    }
    case "sample.remove": {
      const old =
        d.samples.find((s) => s.id === e.id) ?? refuse({ code: "unknown-sample", data: { id: e.id } });
      return [
        { ...d, samples: d.samples.filter((s) => s !== old) },
        { op: "sample.put", sample: old },
      ];
    }
  }
}

/** Properties set to null or undefined are left out, so that equal documents are equal text. */
const tidy = <T extends object>(o: T): T =>
  Object.fromEntries(Object.entries(o).filter(([, v]) => v !== null && v !== undefined)) as T;

function locate(
  fields: readonly Field[],
  id: string,
): { field: Field; parent: string | null; index: number } {
  const found = findField(fields, id) ?? refuse({ code: "unknown-field", data: { id } });
  const parent = found.parents.at(-1);
  return {
    field: found.field,
    parent: parent?.id ?? null,
    index: (parent?.fields ?? fields).findIndex((f) => f.id === id),
  };
}

const mapField = (fields: readonly Field[], id: string, change: (f: Field) => Field): Field[] =>
  fields.map((f) =>
    f.id === id ? change(f) : f.fields ? { ...f, fields: mapField(f.fields, id, change) } : f,
  );

const removeField = (fields: readonly Field[], id: string): Field[] =>
  fields.filter((f) => f.id !== id).map((f) => (f.fields ? { ...f, fields: removeField(f.fields, id) } : f));

function insertField(fields: readonly Field[], parent: string | null, index: number, field: Field): Field[] {
  if (parent === null) return fields.toSpliced(index, 0, field);
  if (!findField(fields, parent)) refuse({ code: "unknown-field", data: { id: parent } });
  return mapField(fields, parent, (f) => ({ ...f, fields: (f.fields ?? []).toSpliced(index, 0, field) }));
}

function stepAt(d: ProcessDefinition, id: string): { step: Step; ref: ListRef; index: number } {
  const p = placesOf(d).get(id) ?? refuse({ code: "unknown-step", data: { id } });
  const owner = p.owners.at(-1);
  return { step: p.step, index: p.index, ref: { owner: owner?.step.id ?? null, list: owner?.list ?? null } };
}

function changeList(route: readonly Step[], ref: ListRef, change: (list: Step[]) => Step[]): Step[] {
  if (ref.owner === null) return change([...route]);
  let done = false;
  const inside = (steps: readonly Step[]): Step[] =>
    steps.map((s) => {
      const lists = listsOf(s);
      if (lists.length === 0 || done) return s;
      return withLists(s, (id, l) => {
        if (s.id !== ref.owner || id !== ref.list) return inside(l);
        done = true;
        return change([...l]);
      });
    });
  const out = inside(route);
  if (!done) refuse({ code: "unknown-list", data: { id: `${ref.owner}/${ref.list}` } });
  return out;
}

/** A field that holds others has a list of them, if an empty one; another kind has none that is empty. */
function ofKind(f: Field): Field {
  if (holdsFields(f.kind)) return f.fields ? f : { ...f, fields: [] };
  const { fields, ...rest } = f;
  return fields?.length === 0 ? rest : f;
}

/** A name must be readable in formulas and the only one among the names it stands with. */
function checkName(d: ProcessDefinition, name: string, id: string, parent: string | null) {
  const why = nameMistake(name);
  if (why) refuse({ code: "bad-name", data: { name, why } });
  const holder = parent
    ? (findField(d.fields, parent) ?? refuse({ code: "unknown-field", data: { id: parent } }))
    : null;
  const lines = holder ? [...holder.parents, holder.field].find((f) => f.kind === "lines") : null;
  const beside = lines ? flatFields(lines.fields ?? []) : namedFields(d.fields);
  if (
    beside.some((f) => f.id !== id && f.name.toLowerCase() === name.toLowerCase()) ||
    (!lines && name in REQUEST_SCOPE)
  )
    refuse({ code: "name-taken", data: { name } });
}

/** Fields with names of their own at the top: everything but columns. */
function namedFields(fields: readonly Field[]): Field[] {
  return fields.flatMap((f) => (f.kind === "lines" ? [f] : [f, ...namedFields(f.fields ?? [])]));
}

function renameField(d: ProcessDefinition, id: string, name: string, registers: Registers): Applied {
  const { field, parent } = locate(d.fields, id);
  checkName(d, name, id, parent);
  const parents = findField(d.fields, id)!.parents;
  const lines = parents.find((p) => p.kind === "lines");
  const path = lines ? [lines.name, field.name] : [field.name];
  const outer: Scope = { ...routeScope(d, registers) };
  const formOnly: Scope = { ...REQUEST_SCOPE, ...formScope(d.fields, registers) };
  const inner = new Map(
    flatFields(d.fields)
      .filter((f) => f.kind === "lines")
      .map((l) => [l.name, { ...outer, ...columnScope(l, registers) } as Scope]),
  );
  const rewrite = (formula: string, each: string | null, scope: Scope): string => {
    // Inside the table itself a column is read by its bare name, and hides an outer field of the same name.
    const own = each !== null && lines?.name === each;
    const shadowed =
      each !== null && !own && !lines && inner.get(each) && columnNames(d, each).has(field.name);
    let out = formula;
    if (lines ? own : !shadowed) out = renameInFormula(out, scope, [field.name], name);
    return lines ? renameInFormula(out, scope, path, name) : out;
  };
  const inField = (f: Field, each: string | null): Field => {
    const scope = each ? { ...formOnly, ...inner.get(each) } : formOnly;
    const r = (x: string | undefined) => (x === undefined ? undefined : rewrite(x, each, scope));
    const next: Field = tidy({
      ...f,
      name: f.id === id ? name : f.name,
      needed: r(f.needed),
      shown: r(f.shown),
      worked: r(f.worked),
      checks: f.checks?.map((c) => ({ ...c, must: r(c.must)! })),
      fields: f.fields?.map((x) => inField(x, f.kind === "lines" ? f.name : each)),
    } as Field);
    return next;
  };
  const isGroupField = field.kind === "page" || field.kind === "section";
  if (isGroupField)
    return [
      { ...d, fields: mapField(d.fields, id, (f) => ({ ...f, name })) },
      { op: "field.rename", id, name: field.name },
    ];
  return [
    {
      ...d,
      title: mapTemplate(d.title, (f) => rewrite(f, null, outer)),
      fields: d.fields.map((f) => inField(f, null)),
      route: d.route.map((s) =>
        renameEach(
          mapStepFormulas(s, (f, each) => rewrite(f, each ?? null, each ? inner.get(each)! : outer)),
          field,
          name,
        ),
      ),
    },
    { op: "field.rename", id, name: field.name },
  ];
}

const columnNames = (d: ProcessDefinition, lines: string): Set<string> =>
  new Set(
    flatFields(flatFields(d.fields).find((f) => f.kind === "lines" && f.name === lines)?.fields ?? []).map(
      (c) => c.name,
    ),
  );

/** Write steps name their line items in `each`. */
function renameEach(s: Step, field: Field, name: string): Step {
  if (field.kind !== "lines") return s;
  if (s.kind === "write" && s.each === field.name) return { ...s, each: name };
  return withLists(s, (_, l) => l.map((x) => renameEach(x, field, name)));
}
