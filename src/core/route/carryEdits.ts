import { findField, flatFields, walkFields } from "../form";
import { stepKind } from "../kinds";
import { applyEdit } from "./applyEdit";
import type { ProcessDefinition } from "./definition";
import type { Edit } from "./edit";
import { spaced } from "./formulaPlaces";
import type { Surrounding } from "./surrounding";
import { heldBy, placesOf } from "./tree";

/** An edit that has been applied before: it cannot be refused, or what is kept is not what was applied. */
export function must(d: ProcessDefinition, e: Edit, around: Surrounding): ProcessDefinition {
  const r = applyEdit(d, e, around);
  if (!r.ok) throw new Error(`an edit that was applied is refused: ${r.refusal.code}`);
  return r.definition;
}

/** A rename of a field, a step or columns of a register. */
type Rename = { edit: Edit; from: string[] };

export function renamesIn(d: ProcessDefinition, e: Edit, around: Surrounding): Rename[] {
  if (e.op === "batch") {
    const out: Rename[] = [];
    let at = d;
    for (const x of e.edits) {
      out.push(...renamesIn(at, x, around));
      at = must(at, x, around);
    }
    return out;
  }
  if (e.op === "field.rename") {
    const from = findField(d.fields, e.id)?.field.name;
    return from === undefined || from === e.name ? [] : [{ edit: e, from: [from] }];
  }
  if (e.op === "step.set" && typeof e.patch["name"] === "string") {
    const from = placesOf(d, around.kinds).get(e.id)?.step.name;
    const name = e.patch["name"];
    return from === undefined || from === name
      ? []
      : [{ edit: { op: "step.set", id: e.id, patch: { name } }, from: [from] }];
  }
  if (e.op === "columns.rename") return [{ edit: e, from: e.columns.map((c) => c.from) }];
  return [];
}

/**
 * Mine with what they write read anew after a rename: the rename is applied to what stood after each of them, and their
 * texts are taken from there. A rename that cannot be applied there is about nothing of mine.
 */
export function carry(
  base: ProcessDefinition,
  mine: readonly Edit[],
  rename: Rename,
  around: Surrounding,
): Edit[] {
  let d = base;
  const one = (e: Edit): Edit => {
    if (e.op === "batch") return { ...e, edits: e.edits.map(one) };
    const r = applyEdit(d, e, around);
    if (!r.ok) return e;
    d = r.definition;
    const text = spaced(JSON.stringify(e));
    if (!rename.from.some((name) => text.includes(name))) return e;
    const after = applyEdit(d, rename.edit, around);
    return after.ok ? readAnew(e, after.definition, around) : e;
  };
  return mine.map(one);
}

/** An edit that writes something, writing what stands there in a definition. */
function readAnew(e: Edit, d: ProcessDefinition, around: Surrounding): Edit {
  const { kinds } = around;
  const patched = <P extends object>(patch: P, from: object | undefined): P =>
    from
      ? (Object.fromEntries(
          Object.entries(patch).map(([k, v]) => [
            k,
            v === null || v === undefined ? v : ((from as Record<string, unknown>)[k] ?? v),
          ]),
        ) as P)
      : patch;
  const step = (id: string) => placesOf(d, kinds).get(id)?.step;
  const held = (s: string, list: string) => {
    const at = step(s);
    const lists = at && stepKind(kinds, at).lists;
    return at && lists ? heldBy(at, lists).find((h) => h.id === list) : undefined;
  };
  const rung = (s: string, id: string) => {
    const at = step(s);
    return (
      at &&
      stepKind(kinds, at)
        .asks?.limit(at)
        ?.rungs.find((r) => r.id === id)
    );
  };
  switch (e.op) {
    case "batch":
      return e;
    case "process.set":
      return { ...e, patch: patched(e.patch, d) };
    case "process.replace":
      return { ...e, definition: d };
    case "texts.restore":
      return {
        ...e,
        title: d.title,
        starts: d.starts,
        fields: d.fields,
        route: d.route,
        ...(d.letters ? { letters: d.letters } : {}),
        ...(d.ladders ? { ladders: d.ladders } : {}),
        ...(d.documents ? { documents: d.documents } : {}),
      };
    case "start.put":
      return { ...e, start: d.starts.find((s) => s.id === e.start.id) ?? e.start };
    case "letter.put":
      return { ...e, letter: d.letters?.find((l) => l.id === e.letter.id) ?? e.letter };
    case "ladder.put":
      return { ...e, ladder: d.ladders?.find((l) => l.id === e.ladder.id) ?? e.ladder };
    case "document.put":
      return { ...e, document: d.documents?.find((x) => x.id === e.document.id) ?? e.document };
    case "field.add":
      return { ...e, field: findField(d.fields, e.field.id)?.field ?? e.field };
    case "field.set":
      return { ...e, patch: patched(e.patch, findField(d.fields, e.id)?.field) };
    case "step.add":
      return { ...e, step: step(e.step.id) ?? e.step };
    case "step.set":
      return { ...e, patch: patched(e.patch, step(e.id)) };
    case "list.add":
      return { ...e, list: (held(e.step, e.list.id) as typeof e.list | undefined) ?? e.list };
    case "list.set":
      return { ...e, patch: patched(e.patch, held(e.step, e.list)) };
    case "rung.add":
      return { ...e, rung: rung(e.step, e.rung.id) ?? e.rung };
    case "rung.set":
      return { ...e, patch: patched(e.patch, rung(e.step, e.rung)) };
    case "start.remove":
    case "start.move":
    case "letter.remove":
    case "letter.move":
    case "ladder.remove":
    case "document.remove":
    case "document.move":
    case "field.remove":
    case "field.move":
    case "field.rename":
    case "columns.rename":
    case "access.set":
    case "form.set":
    case "step.remove":
    case "step.move":
    case "list.remove":
    case "list.move":
    case "rung.remove":
    case "sample.put":
    case "sample.remove":
      return e;
  }
}

/** Mine with names of fields numbered that others have given meanwhile to something else: "Total 2". */
export function numbered(
  base: ProcessDefinition,
  head: ProcessDefinition,
  mine: readonly Edit[],
  around: Surrounding,
): Edit[] {
  const theirs = new Map<string, string>();
  walkFields(head.fields, (f) => {
    const was = findField(base.fields, f.id)?.field.name;
    if (was !== f.name) theirs.set(f.name.toLowerCase(), f.id);
  });
  if (theirs.size === 0) return [...mine];
  let out = [...mine];
  for (let i = 0; i < out.length; i++) {
    for (const { id, name } of namesGiven(out[i]!)) {
      const other = theirs.get(name.toLowerCase());
      if (other === undefined || other === id) continue;
      let n = 2;
      const taken = new Set(
        [...flatFields(head.fields), ...flatFields(base.fields)].map((f) => f.name.toLowerCase()),
      );
      while (taken.has(`${name} ${n}`.toLowerCase())) n++;
      const fresh = `${name} ${n}`;
      const rename: Rename = { edit: { op: "field.rename", id, name: fresh }, from: [name] };
      // What reads it goes along; then the name itself.
      out = carry(base, out, rename, around);
      out[i] = withName(out[i]!, id, fresh);
    }
  }
  return out;
}

/** What else gives fields names puts everything in the place of everything. */
function namesGiven(e: Edit): { id: string; name: string }[] {
  if (e.op === "batch") return e.edits.flatMap(namesGiven);
  if (e.op === "field.rename") return [{ id: e.id, name: e.name }];
  return e.op === "field.add" ? [{ id: e.field.id, name: e.field.name }] : [];
}
function withName(e: Edit, id: string, name: string): Edit {
  if (e.op === "batch") return { ...e, edits: e.edits.map((x) => withName(x, id, name)) };
  if (e.op === "field.rename" && e.id === id) return { ...e, name };
  if (e.op === "field.add" && e.field.id === id) return { ...e, field: { ...e.field, name } };
  return e;
}
