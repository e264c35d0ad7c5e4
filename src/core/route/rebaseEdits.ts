import type { DocumentTemplate } from "../document";
import { findField } from "../form";
import { stepKind } from "../kinds";
import type { Letter } from "../letter";
import { applyEdit } from "./applyEdit";
import { carry, must, numbered, renamesIn } from "./carryEdits";
import type { ProcessDefinition, Sample } from "./definition";
import type { Edit, EditRefusal } from "./edit";
import { meet, touchesOf, type Touch } from "./editTouches";
import type { Surrounding } from "./surrounding";
import { heldBy, placesOf } from "./tree";

/** Something two people changed, each without knowing of the other. */
export interface EditClash {
  path: readonly string[];
  says: string;
  mine: unknown;
  theirs: unknown;
  /** Mine cannot be kept: what it is about is there no more. */
  gone: boolean;
}
/** An edit that cannot be put onto what there is now, and why. `at` is its place among mine. */
export interface RefusedHere {
  at: number;
  refusal: EditRefusal;
}
export interface RebasedEdits {
  /** Mine, as they are to be applied after theirs; those that are refused are left out. */
  edits: Edit[];
  /** What there is once all of these have been applied. */
  definition: ProcessDefinition;
  clashes: EditClash[];
  refused: RefusedHere[];
}

/**
 * Puts edits that somebody made on `base` behind the edits others made on it meanwhile. Ids tell what is meant; formulas
 * are carried through what was renamed, by the same resolver that renames; names that are taken by now are numbered; a
 * neighbour that has gone is replaced by the one before it. Where both changed the same property it is a clash, and
 * nothing is decided here: `edits` and `definition` then show mine winning.
 * @param theirs in the order they were applied; all of them apply to `base`
 */
export function rebaseEdits(
  base: ProcessDefinition,
  theirs: readonly Edit[],
  mine: readonly Edit[],
  around: Surrounding,
): RebasedEdits {
  const { kinds } = around;
  let head = base;
  const changed: { touches: Touch[] }[] = [];
  for (const t of theirs) {
    changed.push({ touches: touchesOf(head, t, kinds) });
    head = must(head, t, around);
  }
  if (theirs.length === 0) return applyAll(base, head, mine, around);
  const clashes = clashesOf(
    base,
    changed.flatMap((c) => c.touches),
    mine,
    around,
  );
  const otherwise = meantOtherwise(base, theirs, mine, around);
  let carried = numbered(base, head, mine, around);
  let at = base;
  for (const t of theirs) {
    for (const rename of renamesIn(at, t, around)) carried = carry(base, carried, rename, around);
    at = must(at, t, around);
  }
  carried = carried.map((e) => mergedPut(base, head, e));
  const left = otherwise === null ? carried : carried.map((e, i) => (i === otherwise.at ? NOTHING : e));
  const done = applyAll(base, head, left, around);
  const refused = otherwise === null ? done.refused : [otherwise, ...done.refused];
  return { ...done, clashes, refused };
}

/** Keeps the places of the others. */
const NOTHING: Edit = { op: "batch", edits: [] };

/**
 * The first of mine whose formulas would mean something else because of theirs, as where a column they added has the
 * name of a field that mine reads: theirs, put behind mine, would be refused for it.
 */
function meantOtherwise(
  base: ProcessDefinition,
  theirs: readonly Edit[],
  mine: readonly Edit[],
  around: Surrounding,
): RefusedHere | null {
  const refusalOf = (upTo: number): EditRefusal | null => {
    let d = base;
    for (const e of [...mine.slice(0, upTo), ...theirs]) {
      const r = applyEdit(d, e, around);
      if (r.ok) d = r.definition;
      else if (r.refusal.code === "other-meaning" || r.refusal.code === "rename-unclear") return r.refusal;
    }
    return null;
  };
  if (refusalOf(mine.length) === null) return null;
  for (let n = 1; n <= mine.length; n++) {
    const refusal = refusalOf(n);
    if (refusal) return { at: n - 1, refusal };
  }
  return null;
}

function clashesOf(
  base: ProcessDefinition,
  theirs: readonly Touch[],
  mine: readonly Edit[],
  around: Surrounding,
): EditClash[] {
  const out = new Map<string, EditClash>();
  let d = base;
  for (const e of mine) {
    for (const t of touchesOf(d, e, around.kinds)) {
      const other = theirs.findLast((x) => meet(x, t));
      if (!other) continue;
      const whole = other.path.length < t.path.length && other.value === undefined;
      out.set(t.path.join("\n"), {
        path: t.path,
        says: t.says,
        mine: t.value,
        theirs: other.value,
        gone: whole,
      });
    }
    const r = applyEdit(d, e, around);
    if (r.ok) d = r.definition;
  }
  return [...out.values()];
}

/** One by one onto the newest state, each with a neighbour that is there. */
function applyAll(
  base: ProcessDefinition,
  head: ProcessDefinition,
  mine: readonly Edit[],
  around: Surrounding,
): RebasedEdits {
  const edits: Edit[] = [];
  const refused: RefusedHere[] = [];
  let d = head;
  let own = base;
  for (const [at, e] of mine.entries()) {
    const placed = withoutGone(d, withNeighbour(own, d, e, around), around);
    const r = placed ? applyEdit(d, placed, around) : null;
    // Both took it away: there is nothing left to do.
    if (!placed || !r) edits.push(NOTHING);
    else if (r.ok) {
      edits.push(placed);
      d = r.definition;
    } else refused.push({ at, refusal: r.refusal });
    const alone = applyEdit(own, e, around);
    if (alone.ok) own = alone.definition;
  }
  return { edits, definition: d, clashes: [], refused };
}

const REMOVES: ReadonlySet<Edit["op"]> = new Set([
  "field.remove",
  "step.remove",
  "list.remove",
  "rung.remove",
  "start.remove",
  "letter.remove",
  "ladder.remove",
  "document.remove",
  "sample.remove",
]);

/** An edit without taking away what is gone already; null where nothing is left of it. */
function withoutGone(d: ProcessDefinition, e: Edit, around: Surrounding): Edit | null {
  if (e.op === "batch") {
    let at = d;
    const edits = e.edits.flatMap((x) => {
      const kept = withoutGone(at, x, around);
      const r = kept ? applyEdit(at, kept, around) : null;
      if (r?.ok) at = r.definition;
      return kept ?? [];
    });
    return e.edits.length > 0 && edits.length === 0 ? null : { ...e, edits };
  }
  if (!REMOVES.has(e.op)) return e;
  const r = applyEdit(d, e, around);
  return !r.ok && r.refusal.code.startsWith("unknown-") ? null : e;
}

/** The list a thing is put into, by ids, as it is in a definition; null where there is no such list. */
function listOf(d: ProcessDefinition, e: Edit, around: Surrounding): string[] | null {
  const { kinds } = around;
  const stepsIn = (owner: string | null, list: string | null): string[] | null => {
    if (owner === null) return d.route.map((s) => s.id);
    const all = [...placesOf(d, kinds).values()].filter(
      (p) => p.owners.at(-1)?.step.id === owner && p.owners.at(-1)?.list === list,
    );
    return all.map((p) => p.step.id);
  };
  switch (e.op) {
    case "field.add":
    case "field.move": {
      if (e.parent === null) return d.fields.map((f) => f.id);
      return findField(d.fields, e.parent)?.field.fields?.map((f) => f.id) ?? null;
    }
    case "step.add":
    case "step.move":
      return stepsIn(e.to.owner, e.to.list);
    case "list.add":
    case "list.move": {
      const s = placesOf(d, kinds).get(e.step)?.step;
      const lists = s && stepKind(kinds, s).lists;
      return s && lists ? heldBy(s, lists).map((h) => h.id) : null;
    }
    case "rung.add": {
      const s = placesOf(d, kinds).get(e.step)?.step;
      return (
        (s &&
          stepKind(kinds, s)
            .asks?.limit(s)
            ?.rungs.map((r) => r.id)) ??
        null
      );
    }
    case "start.put":
    case "start.move":
      return d.starts.map((s) => s.id);
    case "letter.put":
    case "letter.move":
      return (d.letters ?? []).map((l) => l.id);
    case "ladder.put":
      return (d.ladders ?? []).map((l) => l.id);
    case "document.put":
    case "document.move":
      return (d.documents ?? []).map((x) => x.id);
    case "sample.put":
      return d.samples.map((s) => s.id);
    case "batch":
    case "process.set":
    case "process.replace":
    case "start.remove":
    case "letter.remove":
    case "ladder.remove":
    case "document.remove":
    case "field.remove":
    case "field.set":
    case "field.rename":
    case "columns.rename":
    case "texts.restore":
    case "access.set":
    case "form.set":
    case "step.remove":
    case "step.set":
    case "list.remove":
    case "list.set":
    case "rung.remove":
    case "rung.set":
    case "sample.remove":
      return null;
  }
}

/** The id of what an edit moves; null for one that moves nothing. */
const movedBy = (e: Edit): string | null => {
  if (e.op === "list.move") return e.list;
  const moves =
    e.op === "field.move" ||
    e.op === "step.move" ||
    e.op === "start.move" ||
    e.op === "letter.move" ||
    e.op === "document.move";
  return moves ? e.id : null;
};

/** The same edit behind the nearest neighbour of before that still stands in its list. */
function withNeighbour(own: ProcessDefinition, now: ProcessDefinition, e: Edit, around: Surrounding): Edit {
  if (e.op === "batch") {
    const edits: Edit[] = [];
    let [a, b] = [own, now];
    for (const x of e.edits) {
      const placed = withNeighbour(a, b, x, around);
      edits.push(placed);
      const [ra, rb] = [applyEdit(a, x, around), applyEdit(b, placed, around)];
      if (ra.ok) a = ra.definition;
      if (rb.ok) b = rb.definition;
    }
    return { ...e, edits };
  }
  if (!("after" in e) || e.after === null) return e;
  const there = listOf(now, e, around);
  if (!there || there.includes(e.after)) return e;
  const before = listOf(own, e, around) ?? [];
  const upTo = before.slice(0, before.indexOf(e.after) + 1);
  // What is moved cannot stand behind itself.
  const moved = movedBy(e);
  return { ...e, after: upTo.findLast((id) => id !== moved && there.includes(id)) ?? null };
}

/** What is put whole, a sample, a letter or a template: of one that others changed too, only what was changed of it is put. */
function mergedPut(base: ProcessDefinition, head: ProcessDefinition, e: Edit): Edit {
  if (e.op === "batch") return { ...e, edits: e.edits.map((x) => mergedPut(base, head, x)) };
  if (e.op === "sample.put") {
    const both = bothOf(base.samples, head.samples, e.sample.id);
    return both ? { ...e, sample: mergedSample(...both, e.sample) } : e;
  }
  if (e.op === "letter.put") {
    const both = bothOf(base.letters, head.letters, e.letter.id);
    return both ? { ...e, letter: mergedLetter(...both, e.letter) } : e;
  }
  if (e.op === "document.put") {
    const both = bothOf(base.documents, head.documents, e.document.id);
    return both ? { ...e, document: mergedDocument(...both, e.document) } : e;
  }
  return e;
}

function mergedSample(base: Sample, head: Sample, mine: Sample): Sample {
  return { ...merged(base, mine, head), data: merged(base.data, mine.data, head.data) };
}

function mergedLetter(base: Letter, head: Letter, mine: Letter): Letter {
  const by = ({ texts }: Letter) => Object.fromEntries(texts.map((t) => [t.language, t]));
  const texts = Object.values(merged(by(base), by(mine), by(head)));
  return { ...merged(base, mine, head), texts: texts.length > 0 ? texts : mine.texts };
}

/** Tags are told by their place in one file; of another they are others. */
function mergedDocument(
  base: DocumentTemplate,
  head: DocumentTemplate,
  mine: DocumentTemplate,
): DocumentTemplate {
  const same = [base, head].every((x) => x.file.sha256 === mine.file.sha256);
  const tags = same
    ? head.tags.map((t, i) => (alike(base.tags[i], mine.tags[i]) ? t : mine.tags[i]!))
    : mine.tags;
  return { ...merged(base, mine, head), tags };
}

const alike = (a: unknown, b: unknown): boolean => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** A thing as it was, and as others have made it; null where they changed nothing of it. */
function bothOf<T extends { id: string }>(
  base: readonly T[] | undefined,
  head: readonly T[] | undefined,
  id: string,
): [T, T] | null {
  const was = base?.find((x) => x.id === id);
  const now = head?.find((x) => x.id === id);
  return was && now && was !== now ? [was, now] : null;
}

/** The properties as others have made them, but for those that are changed. */
function merged<T extends object>(was: T, mine: T, onto: T): T {
  const of = (x: T, k: string) => (x as Record<string, unknown>)[k];
  const keys = [...new Set([...Object.keys(onto), ...Object.keys(mine)])];
  const all = keys.map((k) => [k, alike(of(was, k), of(mine, k)) ? of(onto, k) : of(mine, k)]);
  return Object.fromEntries(all.filter(([, v]) => v !== undefined)) as T;
}

/**
 * Edits without what they do at some paths, for somebody who takes the others' values there. An edit that does more than
 * set properties goes as a whole.
 */
export function withoutPaths(
  base: ProcessDefinition,
  mine: readonly Edit[],
  paths: readonly (readonly string[])[],
  around: Surrounding,
): Edit[] {
  const gone = new Set(paths.map((p) => p.join("\n")));
  const out: Edit[] = [];
  let d = base;
  const strip = (e: Edit): Edit | null => {
    if (e.op === "batch") {
      const edits = e.edits.flatMap((x) => strip(x) ?? []);
      return edits.length > 0 ? { ...e, edits } : null;
    }
    const touched = touchesOf(d, e, around.kinds);
    const hit = touched.filter((t) => gone.has(t.path.join("\n")));
    if (hit.length === 0) return e;
    if (!("patch" in e)) return null;
    const props = new Set(hit.map((t) => t.path.at(-1)!));
    const patch = Object.fromEntries(Object.entries(e.patch).filter(([k]) => !props.has(k)));
    return Object.keys(patch).length > 0 ? ({ ...e, patch } as Edit) : null;
  };
  for (const e of mine) {
    const kept = strip(e);
    if (kept) out.push(kept);
    const r = applyEdit(d, e, around);
    if (r.ok) d = r.definition;
  }
  return out;
}
