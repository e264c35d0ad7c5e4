import type { DocumentTemplate } from "../document";
import type { Letter } from "../letter";
import type { Ladder } from "./asking";
import type { ProcessDefinition } from "./definition";
import type { Edit, EditResult } from "./edit";
import { addFields, moveField, nameField, setField, takeFields, textsOf } from "./fieldEdits";
import { renameColumns } from "./followColumns";
import type { Surrounding } from "./surrounding";
import { insertBehind, neighbourOf, patched } from "./neighbours";
import { refuse, RefusedEdit } from "./refuse";
import * as steps from "./stepEdits";
import { withForm } from "./withForm";

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

type EditOf<O extends Edit["op"]> = Extract<Edit, { op: O }>;
/** Edits that are applied together: fields that come, or go, one right after the other. */
type Run = { adds: EditOf<"field.add">[] } | { takes: EditOf<"field.remove">[] } | { one: Edit };

function runs(edits: readonly Edit[]): Run[] {
  const out: Run[] = [];
  for (const e of edits) {
    const last = out.at(-1);
    if (e.op === "field.add") {
      if (last && "adds" in last) last.adds.push(e);
      else out.push({ adds: [e] });
    } else if (e.op === "field.remove") {
      if (last && "takes" in last) last.takes.push(e);
      else out.push({ takes: [e] });
    } else out.push({ one: e });
  }
  return out;
}

function applyRun(d: ProcessDefinition, run: Run, around: Surrounding): Applied {
  if ("adds" in run) return addFields(d, run.adds, around);
  return "takes" in run ? takeFields(d, run.takes, around) : apply(d, run.one, around);
}

function apply(d: ProcessDefinition, e: Edit, around: Surrounding): Applied {
  const { kinds } = around;
  switch (e.op) {
    case "batch": {
      const inverses: Edit[] = [];
      let now = d;
      for (const some of runs(e.edits)) {
        const [next, inverse] = applyRun(now, some, around);
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
      return [restored(d, e), textsOf(d)];
    case "start.put":
      return keptList(d.starts, e.start, e.after, {
        put: (starts) => ({ ...d, starts }),
        taken: { op: "start.remove", id: e.start.id },
        back: (after, start) => ({ op: "start.put", after, start }),
      });
    case "start.remove": {
      const [starts, after, start] = without(d.starts, e.id, "unknown-start");
      return [
        { ...d, starts },
        { op: "start.put", after, start },
      ];
    }
    case "start.move": {
      const [starts, after] = movedBehind(d.starts, e, "unknown-start");
      return [
        { ...d, starts },
        { ...e, after },
      ];
    }
    case "letter.put":
      return keptList(d.letters ?? [], e.letter, e.after, {
        put: (letters) => withLetters(d, letters),
        taken: { op: "letter.remove", id: e.letter.id },
        back: (after, letter) => ({ op: "letter.put", after, letter }),
      });
    case "letter.remove": {
      const [letters, after, letter] = without(d.letters ?? [], e.id, "unknown-letter");
      return [withLetters(d, letters), { op: "letter.put", after, letter }];
    }
    case "letter.move": {
      const [letters, after] = movedBehind(d.letters ?? [], e, "unknown-letter");
      return [withLetters(d, letters), { ...e, after }];
    }
    case "ladder.put":
      return keptList(d.ladders ?? [], e.ladder, e.after, {
        put: (ladders) => withLadders(d, ladders),
        taken: { op: "ladder.remove", id: e.ladder.id },
        back: (after, ladder) => ({ op: "ladder.put", after, ladder }),
      });
    case "ladder.remove": {
      const [ladders, after, ladder] = without(d.ladders ?? [], e.id, "unknown-ladder");
      return [withLadders(d, ladders), { op: "ladder.put", after, ladder }];
    }
    case "document.put":
      return keptList(d.documents ?? [], e.document, e.after, {
        put: (documents) => withDocuments(d, documents),
        taken: { op: "document.remove", id: e.document.id },
        back: (after, document) => ({ op: "document.put", after, document }),
      });
    case "document.remove": {
      const [documents, after, document] = without(d.documents ?? [], e.id, "unknown-document");
      return [withDocuments(d, documents), { op: "document.put", after, document }];
    }
    case "document.move": {
      const [documents, after] = movedBehind(d.documents ?? [], e, "unknown-document");
      return [withDocuments(d, documents), { ...e, after }];
    }
    case "field.add":
      return addFields(d, [e], around);
    case "field.remove":
      return takeFields(d, [e], around);
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
    case "form.set": {
      const [form, before] = patched(d.forms?.[e.step] ?? {}, e.patch);
      return [withForm(d, e.step, form), { ...e, patch: before }];
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
    case "sample.put":
      return keptList(d.samples, e.sample, e.after, {
        put: (samples) => ({ ...d, samples }),
        taken: { op: "sample.remove", id: e.sample.id },
        back: (after, sample) => ({ op: "sample.put", after, sample }),
      });
    case "sample.remove": {
      const [samples, after, sample] = without(d.samples, e.id, "unknown-sample");
      return [
        { ...d, samples },
        { op: "sample.put", after, sample },
      ];
    }
  }
}

/** Puts a thing into a list of a definition: in the place of the one of its id, else behind its neighbour. */
function keptList<T extends { id: string }>(
  list: readonly T[],
  thing: T,
  after: string | null,
  to: { put(list: T[]): ProcessDefinition; taken: Edit; back(after: string | null, old: T): Edit },
): Applied {
  const at = list.findIndex((x) => x.id === thing.id);
  const old = list[at];
  if (!old) return [to.put(insertBehind(list, after, thing)), to.taken];
  return [to.put(list.with(at, thing)), to.back(neighbourOf(list, at), old)];
}

type Unknown = "unknown-start" | "unknown-sample" | "unknown-letter" | "unknown-document" | "unknown-ladder";

/** A list without a thing, the neighbour that stood behind, and the thing. */
function without<T extends { id: string }>(
  list: readonly T[],
  id: string,
  code: Unknown,
): [T[], string | null, T] {
  const at = list.findIndex((x) => x.id === id);
  const thing = list[at] ?? refuse({ code, data: { id } });
  return [list.filter((x) => x !== thing), neighbourOf(list, at), thing];
}

/** A list with a thing behind another, and the neighbour it stood behind before. */
function movedBehind<T extends { id: string }>(
  list: readonly T[],
  { id, after }: { id: string; after: string | null },
  code: Unknown,
): [T[], string | null] {
  const [rest, before, thing] = without(list, id, code);
  if (after === id) refuse({ code: "into-itself", data: { id } });
  return [insertBehind(rest, after, thing), before];
}

/** A definition without letters says nothing of them, so that equal documents are equal text. */
function withLetters(d: ProcessDefinition, letters: Letter[]): ProcessDefinition {
  if (letters.length > 0) return { ...d, letters };
  const { letters: _, ...rest } = d;
  return rest;
}

/** The same of ladders. */
function withLadders(d: ProcessDefinition, ladders: Ladder[]): ProcessDefinition {
  if (ladders.length > 0) return { ...d, ladders };
  const { ladders: _, ...rest } = d;
  return rest;
}

/** The same of templates. */
function withDocuments(d: ProcessDefinition, documents: DocumentTemplate[]): ProcessDefinition {
  if (documents.length > 0) return { ...d, documents };
  const { documents: _, ...rest } = d;
  return rest;
}

function restored(
  d: ProcessDefinition,
  {
    title,
    starts,
    fields,
    route,
    letters = [],
    ladders = [],
    documents = [],
  }: Extract<Edit, { op: "texts.restore" }>,
): ProcessDefinition {
  const lettered = withLetters({ ...d, title, starts, fields, route }, letters);
  return withDocuments(withLadders(lettered, ladders), documents);
}
