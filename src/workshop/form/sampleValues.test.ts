import { Temporal } from "temporal-polyfill";
import {
  factsFrom,
  type FactsData,
  type Field,
  type FieldKind,
  type Stored,
  type StoredRow,
} from "@/core/form";
import type { ProcessDefinition } from "@/core/route";
import { applyEdit } from "@/core/route";
import { KINDS } from "@/kinds";
import { kindChange } from "./kindChange";
import { samplesConverted } from "./sampleValues";

const data: FactsData = {
  people: {
    una: { id: "una", name: "Una Finch", email: "" } as FactsData["people"][string],
    piet: { id: "piet", name: "Piet Hanlon", email: "" } as FactsData["people"][string],
  },
  registers: {},
  records: {},
  files: {
    a: { id: "a", name: "A.pdf", size: 1, type: "x", at: 0 },
    b: { id: "b", name: "B.pdf", size: 1, type: "x", at: 0 },
  },
};
const facts = factsFrom(
  data,
  { now: Temporal.ZonedDateTime.from("2026-03-12T10:00[Europe/Dublin]") },
  KINDS.fields,
);
const base: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "x",
  name: "X",
  purpose: "",
  owners: [],
  numbering: { prefix: "XYZ", digits: 4 },
  title: "",
  starts: [],
  fields: [],
  access: {},
  route: [],
  samples: [],
};
/** What a change of kind makes of values in samples: of each before → after, and what is kept. */
function change(field: Field, kind: FieldKind, values: readonly Stored[], into: Partial<Field> = {}) {
  const d: ProcessDefinition = {
    ...base,
    fields: [field],
    samples: values.map((v, i) => ({
      id: `s${i}`,
      name: `S${i}`,
      requester: "una",
      data: { [field.id]: v, other: "kept" },
    })),
  };
  const around = { kinds: KINDS, registers: {} };
  const changed = applyEdit(d, kindChange(d.fields, field, kind), around);
  if (!changed.ok) throw new Error(JSON.stringify(changed));
  const next = { ...changed.definition.fields[0]!, ...into };
  const { changes, edits } = samplesConverted(d, field, next, { facts, data });
  const after = applyEdit(changed.definition, { op: "batch", edits }, around);
  if (!after.ok) throw new Error(JSON.stringify(after));
  const back = applyEdit(after.definition, after.inverse, around);
  expect(back.ok && back.definition.samples).toEqual(d.samples);
  return {
    said: changes.map((c) => `${c.sample}: ${c.before} → ${c.lost ? "(lost)" : c.after}`),
    kept: after.definition.samples.map((s) => s.data[field.id] ?? null),
  };
}
const field = (kind: FieldKind, more: Partial<Field> = {}): Field => ({ id: "f", name: "F", kind, ...more });

it.each<[FieldKind, FieldKind, Stored[], Stored[], string[], Partial<Field>?]>([
  // The same text as a number: nobody need be asked.
  ["text", "number", ["12", null], ["12", null], []],
  ["text", "number", ["+7", "many"], ["7", null], ["S0: +7 → 7", "S1: many → (lost)"]],
  ["number", "money", ["12.5"], ["12.5"], []],
  ["number", "text", ["12.5"], ["12.5"], []],
  ["number", "whole number", ["12.5", "12"], [null, "12"], ["S0: 12.5 → (lost)"]],
  [
    "text",
    "date",
    ["3 April 2026", "soon"],
    ["2026-04-03", null],
    ["S0: 3 April 2026 → Fri 3 Apr 2026", "S1: soon → (lost)"],
  ],
  ["date", "text", ["2026-04-03"], ["2026-04-03"], []],
  ["yes or no", "text", [true, false], ["Yes", "No"], []],
  ["text", "yes or no", ["Yes", "perhaps"], [true, null], ["S1: perhaps → (lost)"]],
  ["person", "text", ["una"], ["Una Finch"], []],
  [
    "text",
    "person",
    ["una finch", "Nobody"],
    ["una", null],
    ["S0: una finch → Una Finch", "S1: Nobody → (lost)"],
  ],
  ["file", "files", ["a"], ["a"], []],
  ["files", "file", ["a\nb", "b"], ["a", "b"], ["S0: A.pdf, B.pdf → A.pdf"]],
  ["file", "text", ["a"], ["A.pdf"], []],
  ["file", "number", ["a"], [null], ["S0: A.pdf → (lost)"]],
  ["choice", "several choices", ["small"], ["small"], [], { options: ["small", "large"] }],
  [
    "several choices",
    "choice",
    ["small\nlarge", "large"],
    [null, "large"],
    ["S0: small, large → (lost)"],
    { options: ["small", "large"] },
  ],
  ["text", "section", ["words"], [null], ["S0: words → (lost)"]],
  ["number", "money", ["99"], ["99"], [], { min: "1", max: "9" }],
  ["text", "text", ["same"], ["same"], []],
])("%s becomes %s: %j is kept as %j", (from, to, values, kept, said, more = {}) => {
  const r = change(field(from, more), to, values, more);
  expect(r.kept).toEqual(kept);
  expect(r.said).toEqual(said);
});

it("goes through the rows of a column, and leaves what else stands in them", () => {
  const lines: Field = {
    id: "l",
    name: "L",
    kind: "lines",
    fields: [field("text"), { ...field("text"), id: "g", name: "G" }],
  };
  const rows: StoredRow[] = [
    { "#": "1", f: "7", g: "x" },
    { "#": "2", f: "seven" },
    { "#": "3", g: "y" },
  ];
  const d: ProcessDefinition = {
    ...base,
    fields: [lines],
    samples: [
      { id: "s", name: "S", requester: "una", data: { l: rows } },
      { id: "t", name: "T", requester: "una", data: {} },
    ],
  };
  const r = samplesConverted(d, lines.fields![0]!, field("number"), { facts, data });
  expect(r.changes).toEqual([{ sample: "S", line: 2, before: "seven", after: "", lost: true }]);
  expect(r.edits).toEqual([
    {
      op: "sample.put",
      after: null,
      sample: { ...d.samples[0], data: { l: [rows[0], { "#": "2", f: null }, rows[2]] } },
    },
  ]);
});
it("tells how many lines go with a table that becomes a field", () => {
  const lines: Field = { id: "l", name: "L", kind: "lines", fields: [field("text")] };
  const d: ProcessDefinition = {
    ...base,
    fields: [lines],
    samples: [{ id: "s", name: "S", requester: "una", data: { l: [{ "#": "1", f: "x" }, { "#": "2" }] } }],
  };
  const r = samplesConverted(d, lines, { id: "l", name: "L", kind: "text" }, { facts, data });
  expect(r.changes).toEqual([{ sample: "S", line: null, before: "2 lines", after: "", lost: true }]);
});
