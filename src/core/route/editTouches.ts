import { findField, walkFields, type Field } from "../form";
import { stepKind, type Kinds } from "../kinds";
import type { DocumentTemplate } from "../document";
import type { Letter } from "../letter";
import { START, type ProcessDefinition, type Sample, type Step } from "./definition";
import type { Edit } from "./edit";
import { heldBy, listsOf, placesOf } from "./tree";

/** One property of one thing that an edit changes, adds or takes away. */
export interface Touch {
  /** From the outside in: two edits meet where one's path begins with the other's. */
  path: readonly string[];
  /** Where that is, for a reader: "“Guests”, needed". */
  says: string;
  /** What it becomes; undefined where it is taken away. */
  value: unknown;
}

/** Whether two edits change the same, or one changes what the other takes away or puts in its place. */
export function meet(a: Touch, b: Touch): boolean {
  const n = Math.min(a.path.length, b.path.length);
  for (let i = 0; i < n; i++) if (a.path[i] !== b.path[i]) return false;
  // Both came to the same.
  return !(a.path.length === b.path.length && JSON.stringify(a.value) === JSON.stringify(b.value));
}

/** Properties whose names say too little to a reader. */
const PROPERTY: Readonly<Record<string, string>> = {
  needed: "needed when",
  shown: "shown when",
  worked: "worked out as",
  checks: "checks",
  who: "who is asked",
  limit: "time limit",
  when: "its condition",
  label: "its label",
  name: "its name",
  help: "help",
  options: "choices",
  keepPersonalDays: "how long personal values are kept",
  keepFilesDays: "how long files are kept",
  mentions: "whether mentioned people may look",
};

const TEXTS = "texts";
const fieldPath = (id: string, ...rest: string[]) => [TEXTS, "field", id, ...rest];
const stepPath = (id: string, ...rest: string[]) => [TEXTS, "step", id, ...rest];

const letterPath = (id: string, ...rest: string[]) => [TEXTS, "letter", id, ...rest];
const ladderPath = (id: string) => [TEXTS, "ladder", id];
const documentPath = (id: string, ...rest: string[]) => [TEXTS, "document", id, ...rest];

/**
 * What an edit changes, told by ids, of the definition it is about to be applied to. Something added touches what it is
 * put into, so that it meets with that being taken away; its neighbours it does not touch.
 */
export function touchesOf(d: ProcessDefinition, e: Edit, kinds: Kinds): Touch[] {
  const step = (id: string) => placesOf(d, kinds).get(id)?.step;
  const fieldName = (id: string) => `“${findField(d.fields, id)?.field.name ?? id}”`;
  const stepName = (id: string) => `“${step(id)?.name ?? id}”`;
  const listName = (s: string, l: string) => {
    const at = step(s);
    const lists = at && stepKind(kinds, at).lists;
    const held = at && lists ? heldBy(at, lists).find((h) => h.id === l) : undefined;
    return `${stepName(s)}, ${lists && held ? `${lists.one} “${lists.name(held)}”` : l}`;
  };
  const letterName = (id: string) => `the letter “${d.letters?.find((l) => l.id === id)?.name ?? id}”`;
  const documentOf = (id: string) => d.documents?.find((x) => x.id === id);
  const documentName = (id: string) => `the template “${documentOf(id)?.name ?? id}”`;
  const patchOf = (
    path: readonly string[],
    says: string,
    patch: Readonly<Record<string, unknown>>,
  ): Touch[] =>
    Object.entries(patch).map(([k, v]) => ({
      path: [...path, k],
      says: `${says}, ${PROPERTY[k] ?? k}`,
      value: v ?? null,
    }));
  switch (e.op) {
    case "batch":
      return e.edits.flatMap((x) => touchesOf(d, x, kinds));
    case "process.replace":
      return [{ path: [], says: "the whole process", value: e.definition }];
    case "texts.restore":
      return [{ path: [TEXTS], says: "form and route as a whole", value: e }];
    // What it changes in texts goes along with what others wrote there.
    case "columns.rename":
      return [];
    case "process.set":
      return patchOf(["process"], "the process", e.patch).map((t) =>
        t.path[1] === "title" ? { ...t, path: [TEXTS, "title"] } : t,
      );
    case "start.put":
      return [{ path: [TEXTS, "start", e.start.id], says: "the start", value: e.start }];
    case "start.remove":
      return [{ path: [TEXTS, "start", e.id], says: "the start", value: undefined }];
    case "start.move":
      return [{ path: [TEXTS, "start", e.id, "place"], says: "the place of a start", value: e.after }];
    case "letter.put": {
      const old = d.letters?.find((l) => l.id === e.letter.id);
      return old
        ? letterTouches(old, e.letter)
        : [{ path: letterPath(e.letter.id), says: `the letter “${e.letter.name}”`, value: e.letter }];
    }
    case "letter.remove":
      return [{ path: letterPath(e.id), says: letterName(e.id), value: undefined }];
    case "letter.move":
      return [{ path: letterPath(e.id, "place"), says: `${letterName(e.id)}, its place`, value: e.after }];
    case "ladder.put": {
      const { id, name } = e.ladder;
      return [{ path: ladderPath(id), says: `the ladder “${name}”`, value: e.ladder }];
    }
    case "ladder.remove": {
      const name = d.ladders?.find((l) => l.id === e.id)?.name ?? e.id;
      return [{ path: ladderPath(e.id), says: `the ladder “${name}”`, value: undefined }];
    }
    case "document.put": {
      const { id, name } = e.document;
      const old = documentOf(id);
      return old
        ? documentTouches(old, e.document)
        : [{ path: documentPath(id), says: `the template “${name}”`, value: e.document }];
    }
    case "document.remove":
      return [{ path: documentPath(e.id), says: documentName(e.id), value: undefined }];
    case "document.move":
      return [
        { path: documentPath(e.id, "place"), says: `${documentName(e.id)}, its place`, value: e.after },
      ];
    case "field.add":
      return [
        { path: fieldPath(e.field.id), says: `“${e.field.name}”`, value: e.field },
        ...insideField(e.parent, e.field, fieldName),
      ];
    case "field.remove": {
      const out: Touch[] = [];
      const field = findField(d.fields, e.id)?.field;
      walkFields(field ? [field] : [], (f) =>
        out.push({ path: fieldPath(f.id), says: `“${f.name}”`, value: undefined }),
      );
      return out;
    }
    case "field.move":
      return [
        {
          path: fieldPath(e.id, "place"),
          says: `${fieldName(e.id)}, its place`,
          value: [e.parent, e.after],
        },
        ...insideField(e.parent, { id: e.id }, fieldName),
      ];
    case "field.set":
      return patchOf(fieldPath(e.id), fieldName(e.id), e.patch);
    case "field.rename":
      return [{ path: fieldPath(e.id, "name"), says: `${fieldName(e.id)}, its name`, value: e.name }];
    case "access.set": {
      const says = `who sees ${fieldName(e.field)} at ${stepName(e.step)}`;
      return [
        { path: fieldPath(e.field, "access", e.step), says, value: e.access },
        { path: stepPath(e.step, "access", e.field), says, value: e.access },
      ];
    }
    case "form.set":
      return Object.entries(e.patch).map(([k, value]) => ({
        path: stepPath(e.step, "form", k),
        says: `the form at ${e.step === START ? "the start" : stepName(e.step)}`,
        value,
      }));
    case "step.add":
      return [
        { path: stepPath(e.step.id), says: `“${e.step.name}”`, value: e.step },
        ...insideStep(e.to, e.step, stepName),
      ];
    case "step.remove": {
      const at = step(e.id);
      return at ? goneSteps([at], kinds) : [];
    }
    case "step.move":
      return [
        {
          path: stepPath(e.id, "place"),
          says: `${stepName(e.id)}, its place`,
          value: [e.to.owner, e.to.list, e.after],
        },
        ...insideStep(e.to, { id: e.id }, stepName),
      ];
    case "step.set":
      return patchOf(stepPath(e.id), stepName(e.id), e.patch);
    case "list.add":
      return [
        {
          path: stepPath(e.step, "list", e.list.id),
          says: `${stepName(e.step)}, something added`,
          value: e.list,
        },
      ];
    case "list.remove": {
      const at = step(e.step);
      const inside = at ? listsOf(at, kinds).find((l) => l.id === e.list)?.steps : undefined;
      return [
        {
          path: stepPath(e.step, "list", e.list),
          says: listName(e.step, e.list),
          value: undefined,
        },
        ...goneSteps(inside ?? [], kinds),
      ];
    }
    case "list.move":
      return [
        {
          path: stepPath(e.step, "list", e.list, "place"),
          says: `${listName(e.step, e.list)}, its place`,
          value: e.after,
        },
      ];
    case "list.set":
      return patchOf(stepPath(e.step, "list", e.list), listName(e.step, e.list), e.patch);
    case "rung.add":
      return [
        {
          path: stepPath(e.step, "limit", "rungs", e.rung.id),
          says: `${stepName(e.step)}, a rung`,
          value: e.rung,
        },
      ];
    case "rung.remove":
      return [
        {
          path: stepPath(e.step, "limit", "rungs", e.rung),
          says: `${stepName(e.step)}, a rung`,
          value: undefined,
        },
      ];
    case "rung.set":
      return patchOf(stepPath(e.step, "limit", "rungs", e.rung), `${stepName(e.step)}, a rung`, e.patch);
    case "sample.put": {
      const old = d.samples.find((s) => s.id === e.sample.id);
      return old
        ? sampleTouches(old, e.sample)
        : [{ path: ["sample", e.sample.id], says: `the sample “${e.sample.name}”`, value: e.sample }];
    }
    case "sample.remove": {
      const name = d.samples.find((s) => s.id === e.id)?.name ?? e.id;
      return [{ path: ["sample", e.id], says: `the sample “${name}”`, value: undefined }];
    }
  }
}

const insideField = (parent: string | null, f: Pick<Field, "id">, name: (id: string) => string): Touch[] =>
  parent === null
    ? []
    : [{ path: fieldPath(parent, "inside", f.id), says: `something put into ${name(parent)}`, value: f }];

const insideStep = (
  to: { owner: string | null; list: string | null },
  s: Pick<Step, "id">,
  name: (id: string) => string,
): Touch[] =>
  to.owner === null
    ? []
    : [
        {
          path: stepPath(to.owner, "list", to.list ?? "", "steps", s.id),
          says: `something put into ${name(to.owner)}`,
          value: s,
        },
      ];

const goneSteps = (steps: readonly Step[], kinds: Kinds): Touch[] =>
  [...placesOf({ route: [...steps] }, kinds).values()].map((p) => ({
    path: stepPath(p.step.id),
    says: `“${p.step.name}”`,
    value: undefined,
  }));

/** A sample is put whole; what of it differs is what was changed. */
function sampleTouches(old: Sample, now: Sample): Touch[] {
  const says = `the sample “${old.name}”`;
  const { data: was, ...oldRest } = old;
  const { data: is, ...rest } = now;
  const compare = (a: object, b: object, at: string): Touch[] =>
    differing(a, b).map(([k, value]) => ({ path: ["sample", old.id, at, k], says, value }));
  return [...compare(oldRest, rest, "of"), ...compare(was, is, "data")];
}

/** A letter is put whole; what of it differs is what was changed, each of its texts for itself. */
function letterTouches(old: Letter, now: Letter): Touch[] {
  const says = `the letter “${old.name}”`;
  const { texts: was, ...oldRest } = old;
  const { texts: is, ...rest } = now;
  const byLanguage = (texts: Letter["texts"]) => Object.fromEntries(texts.map((t) => [t.language, t]));
  return [
    ...differing(oldRest, rest).map(([k, value]) => ({ path: letterPath(old.id, "of", k), says, value })),
    ...differing(byLanguage(was), byLanguage(is)).map(([k, value]) => ({
      path: letterPath(old.id, "text", k),
      says: `${says}, its text`,
      value,
    })),
  ];
}

/** A template is put whole; of the same file each formula is for itself, another file is all of it. */
function documentTouches(old: DocumentTemplate, now: DocumentTemplate): Touch[] {
  const says = `the template “${old.name}”`;
  const { tags: was, ...oldRest } = old;
  const { tags: is, ...rest } = now;
  const own = differing(oldRest, rest).map(([k, value]) => ({
    path: documentPath(old.id, "of", k),
    says,
    value,
  }));
  if (old.file.sha256 !== now.file.sha256)
    return [...own, { path: documentPath(old.id, "tags"), says: `${says}, its tags`, value: is }];
  const tags = differing(was, is).map(([k, value]) => ({
    path: documentPath(old.id, "tags", k),
    says: `${says}, a tag`,
    value,
  }));
  return [...own, ...tags];
}

/** The properties in which two things differ, with what they are now. */
const differing = (a: object, b: object): [string, unknown][] =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].flatMap((k): [string, unknown][] => {
    const [x, y] = [(a as Record<string, unknown>)[k], (b as Record<string, unknown>)[k]];
    return JSON.stringify(x ?? null) === JSON.stringify(y ?? null) ? [] : [[k, y ?? null]];
  });
