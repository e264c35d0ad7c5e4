import type { ProcessDefinition } from "./definition";
import type { Edit, EditResult } from "./edit";
import { addField, moveField, nameField, setField, takeField, textsOf } from "./fieldEdits";
import { renameColumns } from "./followColumns";
import type { Surrounding } from "./surrounding";
import { insertBehind, neighbourOf, patched } from "./neighbours";
import { refuse, RefusedEdit } from "./refuse";
import * as steps from "./stepEdits";

/** Applies an edit to an immutable definition; gives the new one and the edit that takes it back. */
export function applyEdit(definition: ProcessDefinition, edit: Edit, around: Surrounding): EditResult {
  try {
    const [next, inverse] = apply(definition, edit, around);
    return { ok: true, definition: next, inverse };
  } catch (e) {
    if (e instanceof RefusedEdit) return { ok: false, refusal: e.refusal };
    throw e;
  }
}

type Applied = [ProcessDefinition, Edit];

function apply(d: ProcessDefinition, e: Edit, around: Surrounding): Applied {
  const { kinds } = around;
  switch (e.op) {
    case "batch": {
      const inverses: Edit[] = [];
      let now = d;
      for (const one of e.edits) {
        const [next, inverse] = apply(now, one, around);
        now = next;
        inverses.unshift(inverse);
      }
      return [now, { op: "batch", edits: inverses }];
    }
    case "process.set": {
      const [next, before] = patched(d, e.patch);
      return [next, { op: "process.set", patch: before }];
    }
    case "process.replace":
      // The key is the process's name to everybody else: releases, requests, owners hang on it.
      if (e.definition.key !== d.key) refuse({ code: "other-key", data: { key: e.definition.key } });
      // What hands to it, or asks for it, would find something else.
      if (Boolean(e.definition.procedure) !== Boolean(d.procedure))
        refuse({ code: "other-sort", data: { procedure: d.procedure === true } });
      // Whoever puts a definition in a draft's place does not put themselves in its owners' place.
      return [
        { ...e.definition, owners: d.owners },
        { op: "process.replace", definition: d },
      ];
    case "columns.rename":
      return [renameColumns(d, e, around), textsOf(d)];
    case "texts.restore":
      return [{ ...d, title: e.title, starts: e.starts, fields: e.fields, route: e.route }, textsOf(d)];
    case "start.put": {
      const old = d.starts.find((s) => s.id === e.start.id);
      if (!old)
        return [
          { ...d, starts: insertBehind(d.starts, e.after, e.start) },
          { op: "start.remove", id: e.start.id },
        ];
      const after = neighbourOf(d.starts, d.starts.indexOf(old));
      return [
        { ...d, starts: d.starts.map((s) => (s === old ? e.start : s)) },
        { op: "start.put", after, start: old },
      ];
    }
    case "start.remove": {
      const at = d.starts.findIndex((s) => s.id === e.id);
      const start = d.starts[at] ?? refuse({ code: "unknown-start", data: { id: e.id } });
      return [
        { ...d, starts: d.starts.filter((s) => s !== start) },
        { op: "start.put", after: neighbourOf(d.starts, at), start },
      ];
    }
    case "start.move": {
      const at = d.starts.findIndex((s) => s.id === e.id);
      const start = d.starts[at] ?? refuse({ code: "unknown-start", data: { id: e.id } });
      if (e.after === e.id) refuse({ code: "into-itself", data: { id: e.id } });
      const rest = d.starts.filter((s) => s !== start);
      return [
        { ...d, starts: insertBehind(rest, e.after, start) },
        { op: "start.move", id: e.id, after: neighbourOf(d.starts, at) },
      ];
    }
    case "field.add":
      return addField(d, e, around);
    case "field.remove":
      return takeField(d, e, around);
    case "field.move":
      return moveField(d, e, around);
    case "field.set":
      return setField(d, e);
    case "field.rename":
      return nameField(d, e, around);
    case "access.set": {
      const before = d.access[e.step]?.[e.field] ?? null;
      const { [e.field]: _old, ...rest } = d.access[e.step] ?? {};
      const table = e.access === null ? rest : { ...rest, [e.field]: e.access };
      const { [e.step]: _table, ...others } = d.access;
      // A step of which nothing is said has no table, so that equal documents are equal text.
      const access = Object.keys(table).length > 0 ? { ...d.access, [e.step]: table } : others;
      return [
        { ...d, access },
        { ...e, access: before },
      ];
    }
    case "step.add":
      return steps.addStep(d, e, kinds);
    case "step.remove":
      return steps.takeStep(d, e, kinds);
    case "step.move":
      return steps.moveStep(d, e, kinds);
    case "step.set":
      return steps.setStep(d, e, around);
    case "list.add":
      return steps.addList(d, e, kinds);
    case "list.remove":
      return steps.takeList(d, e, kinds);
    case "list.move":
      return steps.moveList(d, e, kinds);
    case "list.set":
      return steps.setList(d, e, kinds);
    case "rung.add":
      return steps.addRung(d, e, kinds);
    case "rung.remove":
      return steps.takeRung(d, e, kinds);
    case "rung.set":
      return steps.setRung(d, e, kinds);
    case "sample.put": {
      const at = d.samples.findIndex((s) => s.id === e.sample.id);
      const old = d.samples[at];
      if (!old)
        return [
          { ...d, samples: insertBehind(d.samples, e.after, e.sample) },
          { op: "sample.remove", id: e.sample.id },
        ];
      return [
        { ...d, samples: d.samples.with(at, e.sample) },
        { op: "sample.put", after: neighbourOf(d.samples, at), sample: old },
      ];
    }
    case "sample.remove": {
      const at = d.samples.findIndex((s) => s.id === e.id);
      const sample = d.samples[at] ?? refuse({ code: "unknown-sample", data: { id: e.id } });
      return [
        { ...d, samples: d.samples.filter((s) => s !== sample) },
        { op: "sample.put", after: neighbourOf(d.samples, at), sample },
      ];
    }
  }
}
