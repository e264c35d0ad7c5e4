import type { ProcessDefinition } from "./definition";

/** An id that cannot be: where the thing stands that has it, and why. */
export interface IdMistake {
  kind: "field" | "step" | "start" | "letter" | "ladder" | "document" | "process";
  /** Of the row of a sheet on which it stands. */
  row: string;
  id: string;
  why: "twice" | "reserved";
  /** What has it, in words: "step", "answer, way or branch", "rung" ... */
  what: string;
}

/** Ids that mean something else already: to the engine, or to whatever keeps values by id. */
const RESERVED = new Set([...Object.getOwnPropertyNames(Object.prototype), "prototype", "#"]);
/** Rows of the table of access that belong to no step. */
const NO_STEP = new Set(["start", "watch"]);

interface WithId {
  id: string;
}
const isWithId = (v: unknown): v is WithId & Record<string, unknown> =>
  typeof v === "object" && v !== null && typeof (v as Partial<WithId>).id === "string";

/**
 * Ids that two things share, or that are reserved. Steps share theirs over the whole route, fields and columns over the
 * whole form; lists and rungs over their step; starts and samples over the process. Kinds need not be known for it:
 * what holds a list named `steps` is a list of its step, and what stands in such a list is a step.
 */
export function idMistakes(
  d: Pick<ProcessDefinition, "fields" | "route" | "starts" | "samples" | "letters" | "ladders" | "documents">,
): IdMistake[] {
  const out: IdMistake[] = [];
  const check = (seen: Set<string>, id: string, at: Omit<IdMistake, "why" | "id">) => {
    if (RESERVED.has(id) || (at.what === "step" && NO_STEP.has(id))) out.push({ ...at, id, why: "reserved" });
    else if (seen.has(id)) out.push({ ...at, id, why: "twice" });
    seen.add(id);
  };
  const fields = new Set<string>();
  const form = (list: readonly unknown[]) => {
    for (const f of list.filter(isWithId)) {
      check(fields, f.id, { kind: "field", row: f.id, what: "field" });
      if (Array.isArray(f["fields"])) form(f["fields"]);
    }
  };
  form(d.fields);

  const rungs = (list: readonly unknown[], at: Pick<IdMistake, "kind" | "row">) => {
    const seen = new Set<string>();
    for (const r of list.filter(isWithId)) check(seen, r.id, { ...at, what: "rung" });
  };
  const steps = new Set<string>();
  const route = (list: readonly unknown[]) => {
    for (const s of list.filter(isWithId)) {
      check(steps, s.id, { kind: "step", row: s.id, what: "step" });
      for (const value of Object.values(s)) if (Array.isArray(value)) lists(s.id, value);
      const limit = s["limit"] as { rungs?: unknown } | undefined;
      if (Array.isArray(limit?.rungs)) rungs(limit.rungs, { kind: "step", row: s.id });
    }
  };
  const lists = (step: string, list: readonly unknown[]) => {
    const seen = new Set<string>();
    for (const l of list.filter(isWithId)) {
      check(seen, l.id, { kind: "step", row: step, what: "answer, way or branch" });
      if (Array.isArray(l["steps"])) route(l["steps"]);
    }
  };
  route(d.route);

  const starts = new Set<string>();
  for (const s of d.starts) check(starts, s.id, { kind: "start", row: s.id, what: "start" });
  const letters = new Set<string>();
  for (const l of d.letters ?? []) check(letters, l.id, { kind: "letter", row: l.id, what: "letter" });
  const ladders = new Set<string>();
  for (const l of d.ladders ?? []) {
    check(ladders, l.id, { kind: "ladder", row: l.id, what: "ladder" });
    rungs(l.rungs, { kind: "ladder", row: l.id });
  }
  const documents = new Set<string>();
  for (const x of d.documents ?? [])
    check(documents, x.id, { kind: "document", row: x.id, what: "template" });
  const samples = new Set<string>();
  for (const s of d.samples) check(samples, s.id, { kind: "process", row: s.id, what: "sample" });
  return out;
}

/** What is wrong, in a sentence. */
export const idSentence = (m: IdMistake): string =>
  m.why === "reserved"
    ? `"${m.id}" cannot be the id of a ${m.what}: it means something else already. Give it another, for example "${m.id}-1".`
    : `Two things of the kind ${m.what} have the id "${m.id}"; only one of them would ever be reached. Give one another.`;
