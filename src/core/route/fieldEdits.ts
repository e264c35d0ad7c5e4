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
});

const namesIn = (field: Field): string[] => {
  const out: string[] = [];
  walkFields([field], (f) => void out.push(f.name));
  return out;
};

export function addField(d: ProcessDefinition, e: EditOf<"field.add">, around: Surrounding): Applied {
  // Groups come whole when a removal is taken back; only the outermost name can collide with a newcomer's.
  walkFields([e.field], (f) => {
    if (findField(d.fields, f.id)) refuse({ code: "duplicate-id", data: { id: f.id } });
  });
  checkName(d, e.field.name, e.field.id, e.parent);
  const next = { ...d, fields: insertField(d.fields, e.parent, e.after, e.field) };
  keepMeaning(d, next, around, namesIn(e.field), { deed: "added", name: e.field.name });
  return [next, { op: "field.remove", id: e.field.id }];
}

export function takeField(d: ProcessDefinition, e: EditOf<"field.remove">, around: Surrounding): Applied {
  const { field, parent, after } = locateField(d.fields, e.id);
  const gone = new Set<string>();
  walkFields([field], (f) => void gone.add(f.id));
  const entries = Object.entries(d.access).flatMap(([step, table]) =>
    Object.entries(table)
      .filter(([f]) => gone.has(f))
      .map(([f, access]): Edit => ({ op: "access.set", step, field: f, access })),
  );
  const access = Object.fromEntries(
    Object.entries(d.access).map(([step, table]) => [
      step,
      Object.fromEntries(Object.entries(table).filter(([f]) => !gone.has(f))),
    ]),
  );
  const next = { ...d, access, fields: removeField(d.fields, e.id) };
  keepMeaning(d, next, around, namesIn(field), { deed: "taken away", name: field.name });
  return [next, { op: "batch", edits: [{ op: "field.add", parent, after, field }, ...entries] }];
}

export function moveField(d: ProcessDefinition, e: EditOf<"field.move">, around: Surrounding): Applied {
  const { field, parent, after } = locateField(d.fields, e.id);
  const intoItself = e.parent !== null && (e.parent === e.id || findField(field.fields ?? [], e.parent));
  if (intoItself || e.after === e.id) refuse({ code: "into-itself", data: { id: e.id } });
  const next = moved(d, e);
  if (tableAt(d, parent) !== tableAt(d, e.parent))
    keepMeaning(d, next, around, namesIn(field), { deed: "moved", name: field.name, moved: e.id });
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
