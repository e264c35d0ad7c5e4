import {
  targetsOf,
  walkFields,
  type Facts,
  type Field,
  type FieldBehaviour,
  type FactsData,
  type FormData,
  type Stored,
  type StoredRow,
} from "@/core/form";
import type { Edit, ProcessDefinition, Sample } from "@/core/route";
import { shownValue } from "@/forms";
import { KINDS } from "@/kinds";

/** A value of a sample that another kind of field makes another one. */
export interface ValueConverted {
  sample: string;
  /** Of a column: in which line, from 1. */
  line: number | null;
  before: string;
  /** Empty where the value cannot be kept. */
  after: string;
  lost: boolean;
}

export interface SamplesConverted {
  changes: ValueConverted[];
  /** What makes the samples so. */
  edits: Edit[];
}

/** As texts are read where they can be read in more than one way. */
const READING = { dates: "day", decimal: "." } as const;

/**
 * What becomes of the values of samples where a field is made another kind.
 * @param next the field as it will be
 */
export function samplesConverted(
  definition: ProcessDefinition,
  field: Field,
  next: Field,
  around: { facts: Facts; data: FactsData },
): SamplesConverted {
  const lines = linesOf(definition.fields, field.id);
  const out: SamplesConverted = { changes: [], edits: [] };
  const one = (sample: Sample, raw: Stored | undefined, line: number | null): Stored => {
    const before = said(field, raw, around.data);
    const kept = raw === undefined || raw === null || raw === "" ? null : converted(field, next, raw, around);
    const after = said(next, kept, around.data);
    // What is kept as it was, and only reads another way, loses nothing.
    if (before !== "" && before !== after && kept !== raw)
      out.changes.push({ sample: sample.name, line, before, after, lost: after === "" });
    return kept;
  };
  definition.samples.forEach((sample, i) => {
    const data = withValue(sample.data, field.id, lines, (raw, line) => one(sample, raw, line));
    if (JSON.stringify(data) !== JSON.stringify(sample.data))
      out.edits.push({
        op: "sample.put",
        after: definition.samples[i - 1]?.id ?? null,
        sample: { ...sample, data },
      });
  });
  return out;
}

/** The id of the line items a field is a column of; null for none. */
function linesOf(fields: readonly Field[], id: string): string | null {
  let lines: string | null = null;
  walkFields(fields, (f, parents) => {
    if (f.id === id) lines = parents.find((p) => p.kind === "lines")?.id ?? null;
  });
  return lines;
}

/** The same data with the value of one field, or column, put through something. */
function withValue(
  data: FormData,
  id: string,
  lines: string | null,
  put: (raw: Stored | undefined, line: number | null) => Stored,
): FormData {
  if (lines === null) {
    if (data[id] === undefined || data[id] === null) return data;
    return { ...data, [id]: put(data[id], null) };
  }
  const rows = data[lines];
  if (!Array.isArray(rows)) return data;
  return {
    ...data,
    [lines]: rows.map((row, i): StoredRow => {
      if (row[id] === undefined || row[id] === null) return row;
      return { ...row, [id]: put(row[id], i + 1) as StoredRow[string] };
    }),
  };
}

const said = (f: Field, v: Stored | undefined, data: FactsData): string => {
  if (!Array.isArray(v)) return shownValue(f, v, data);
  if (v.length === 0) return "";
  return v.length === 1 ? "1 line" : `${v.length} lines`;
};

/** A value as a field of another kind keeps it; null where it cannot. */
function converted(
  field: Field,
  next: Field,
  raw: Exclude<Stored, null>,
  around: { facts: Facts; data: FactsData },
): Stored {
  const [from, to] = [KINDS.fields[field.kind], KINDS.fields[next.kind]];
  if (Array.isArray(raw)) return next.kind === "lines" ? raw : null;
  const kept = keptAs({ from, to }, field, next, raw, around.data);
  if (kept === null || kept === "") return null;
  const v = to.value(next, kept, around.facts);
  // A value beyond what is least or most is one all the same: a sample may show just that.
  const { min: _, max: __, ...bare } = next;
  return v === null || to.mistakes(bare, kept, v).length > 0 ? null : kept;
}

function keptAs(
  { from, to }: Record<"from" | "to", FieldBehaviour>,
  field: Field,
  next: Field,
  raw: string | boolean,
  data: FactsData,
): string | boolean | null {
  if (from.links && to.links && typeof raw === "string") {
    const { pointer, registers } = to.links;
    const at = targetsOf(field, raw, KINDS.fields).filter((x) => registers(next).includes(x.register));
    if (to.many) return at.map(pointer).join("\n");
    return at[0] ? pointer(at[0]) : null;
  }
  if (from.idOf === "file" && to.idOf === "file" && typeof raw === "string") {
    const ids = from.many?.texts(raw) ?? [raw];
    return to.many ? ids.join("\n") : (ids[0] ?? null);
  }
  if (!to.cell) return null;
  const people = Object.values(data.people);
  const named = (text: string) => {
    const found = people.filter((p) => p.name.toLowerCase() === text.toLowerCase());
    return found.length === 1 ? { id: found[0]!.id } : ({ why: "none" } as const);
  };
  // What stands there as a number or a day is one, however such are written elsewhere.
  const exact = typeof raw === "string" && from.idOf === null && from.many === null && !isFree(from, field);
  const text = exact ? raw : shownValue(field, raw, data);
  const read = to.cell(
    next,
    { text, ...(exact ? { typed: true as const } : {}) },
    { reading: READING, named },
  );
  return "why" in read ? null : read.kept;
}

/** Whether any text can stand in it. */
const isFree = (kind: FieldBehaviour, f: Field): boolean => kind.type(f, () => ({ t: "any" })).t === "text";
