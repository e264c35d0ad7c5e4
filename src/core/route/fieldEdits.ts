import { findField, isGroup, walkFields, type Field } from "../form";
import type { ProcessDefinition } from "./definition";
import type { Edit } from "./edit";
import { insertField, locateField, mapField, removeField, withListOfKind } from "./fieldTree";
import type { Surrounding } from "./surrounding";
import { keepMeaning } from "./keepMeaning";
import { patched } from "./neighbours";
import { refuse, settles } from "./refuse";
import { checkName, renameField } from "./renameField";

type Applied = [ProcessDefinition, Edit];
type EditOf<O extends Edit["op"]> = Extract<Edit, { op: O }>;

/** The texts and all they stand in: what only a restore can bring back. */
export const textsOf = (d: ProcessDefinition): Edit => ({
  op: "texts.restore",
  title: d.title,
  starts: d.starts,
  fields: d.fields,
  route: d.route,
  ...(d.letters ? { letters: d.letters } : {}),
  ...(d.ladders ? { ladders: d.ladders } : {}),
  ...(d.documents ? { documents: d.documents } : {}),
});

const namesIn = (field: Field): string[] => {
  const out: string[] = [];
  walkFields([field], (f) => void out.push(f.name));
  return out;
};

/**
 * Adds fields, one after the other; what formulas mean is looked at once for all of them, as each look is one at every
 * formula. Those of the added fields mean what they do among all that come.
 */
export function addFields(
  d: ProcessDefinition,
  edits: readonly EditOf<"field.add">[],
  around: Surrounding,
): Applied {
  let next = d;
  for (const { parent, after, field } of edits) {
    // Groups come whole when a removal is taken back; only the outermost name can collide with a newcomer's.
    walkFields([field], (f) => {
      if (findField(next.fields, f.id)) refuse({ code: "duplicate-id", data: { id: f.id } });
    });
    checkName(next, field.name, field.id, parent);
    next = { ...next, fields: insertField(next.fields, parent, after, field) };
  }
  const added = edits.map((e) => e.field);
  keepMeaning(d, next, around, added.flatMap(namesIn), { deed: "added", name: namedAmong(added) });
  const back = edits.map((e): Edit => ({ op: "field.remove", id: e.field.id })).reverse();
  return [next, back.length === 1 ? back[0]! : { op: "batch", edits: back }];
}

/** Takes fields away, one after the other; what formulas mean is looked at once for all of them. */
export function takeFields(
  d: ProcessDefinition,
  edits: readonly EditOf<"field.remove">[],
  around: Surrounding,
): Applied {
  let next = d;
  const [fields, backs, entries]: [Field[], Edit[], Edit[]] = [[], [], []];
  for (const { id } of edits) {
    const { field, parent, after } = locateField(next.fields, id);
    const gone = new Set<string>();
    walkFields([field], (f) => void gone.add(f.id));
    fields.push(field);
    backs.unshift({ op: "field.add", parent, after, field });
    for (const [step, table] of Object.entries(next.access))
      for (const [f, access] of Object.entries(table))
        if (gone.has(f)) entries.push({ op: "access.set", step, field: f, access });
    const access = Object.fromEntries(
      Object.entries(next.access).map(([step, table]) => [
        step,
        Object.fromEntries(Object.entries(table).filter(([f]) => !gone.has(f))),
      ]),
    );
    next = { ...next, access, fields: removeField(next.fields, id) };
  }
  keepMeaning(d, next, around, fields.flatMap(namesIn), { deed: "taken away", name: namedAmong(fields) });
  return [next, { op: "batch", edits: [...backs, ...entries] }];
}

/** Which of several fields is, or holds, what is called so. */
const namedAmong =
  (fields: readonly Field[]) =>
  (reads: string): string =>
    (fields.find((f) => namesIn(f).includes(reads)) ?? fields[0]!).name;

export function moveField(d: ProcessDefinition, e: EditOf<"field.move">, around: Surrounding): Applied {
  const { field, parent, after } = locateField(d.fields, e.id);
  const intoItself = e.parent !== null && (e.parent === e.id || findField(field.fields ?? [], e.parent));
  if (intoItself || e.after === e.id) refuse({ code: "into-itself", data: { id: e.id } });
  const next = moved(d, e);
  if (tableAt(d, parent) !== tableAt(d, e.parent))
    keepMeaning(d, next, around, namesIn(field), { deed: "moved", name: () => field.name, moved: e.id });
  const back: Edit = { op: "field.move", id: e.id, parent, after };
  return [next, settles(() => moved(next, back), d) ? back : textsOf(d)];
}

/** A field among other names must be told from them, as when it is added there. */
function moved(d: ProcessDefinition, e: EditOf<"field.move">): ProcessDefinition {
  const { field, parent } = locateField(d.fields, e.id);
  const rest = { ...d, fields: removeField(d.fields, e.id) };
  if (tableAt(d, parent) !== tableAt(d, e.parent) && !isGroup(field))
    checkName(rest, field.name, e.id, e.parent);
  return { ...d, fields: insertField(rest.fields, e.parent, e.after, field) };
}
const tableAt = (d: ProcessDefinition, parent: string | null): string | null => {
  const at = parent === null ? null : findField(d.fields, parent);
  return [...(at?.parents ?? []), ...(at ? [at.field] : [])].find((f) => f.kind === "lines")?.id ?? null;
};

export function setField(d: ProcessDefinition, e: EditOf<"field.set">): Applied {
  const { field } = locateField(d.fields, e.id);
  const [changed, before] = patched(field, e.patch);
  const next = withListOfKind(changed);
  // A file from elsewhere may have line items without a list; only restoring the texts gives that back.
  const back = withListOfKind(patched(next, before)[0]);
  const exact = (back.fields === undefined) === (field.fields === undefined);
  return [
    { ...d, fields: mapField(d.fields, e.id, () => next) },
    exact ? { op: "field.set", id: e.id, patch: before as EditOf<"field.set">["patch"] } : textsOf(d),
  ];
}

export function nameField(d: ProcessDefinition, e: EditOf<"field.rename">, around: Surrounding): Applied {
  const old: Field = locateField(d.fields, e.id).field;
  const next = renameField(d, e.id, e.name, around);
  // A formula that read the new name before anything had it is caught by the rename, and would go
  // along when the name goes back.
  const exact = settles(() => renameField(next, e.id, old.name, around), d);
  return [next, exact ? { op: "field.rename", id: e.id, name: old.name } : textsOf(d)];
}
