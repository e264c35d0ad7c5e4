import { readFileSync } from "node:fs";
import { applyEdit, type Edit, type ProcessDefinition } from "@/core/route";
import { edit, field, formData, processDefinition, step } from "@/contracts";
import { KINDS } from "@/kinds";

const AROUND = { registers: {}, kinds: KINDS };

const file = (name: string): ProcessDefinition =>
  JSON.parse(readFileSync(`demo/processes/${name}.json`, "utf8")) as ProcessDefinition;
const where = (r: { success: boolean; error?: { issues: { path: PropertyKey[] }[] } }) =>
  r.success ? [] : r.error!.issues.map((i) => i.path.join("."));

it.each(["store-key", "supplies", "object-loan", "shelf-audit"])(
  "%s is a process file, and stays one through every edit and back",
  (name) => {
    const d = file(name);
    expect(where(processDefinition.safeParse(d))).toEqual([]);
    const edits: Edit[] = [
      { op: "process.set", patch: { purpose: "Another" } },
      {
        op: "field.add",
        parent: null,
        after: null,
        field: { id: "new", name: "New", kind: "file", options: ["pdf"], max: "3" },
      },
      { op: "field.set", id: d.fields[0]!.id, patch: { help: "x", shown: null } },
      { op: "field.rename", id: d.fields[0]!.id, name: "Renamed" },
      { op: "access.set", step: "start", field: d.fields[0]!.id, access: "see" },
      {
        op: "step.add",
        to: { owner: null, list: null },
        after: null,
        step: KINDS.steps.decide.blank("fresh"),
      },
      { op: "step.remove", id: d.route[0]!.id },
      { op: "step.set", id: d.route.at(-1)!.id, patch: { name: "Renamed" } },
      { op: "start.put", after: "form", start: { id: "more", kind: "form", who: { by: "everybody" } } },
      { op: "process.replace", definition: { ...d, purpose: "Whole" } },
      { op: "field.remove", id: d.fields[0]!.id },
      {
        op: "sample.put",
        after: null,
        sample: { id: "s", name: "S", requester: "una", data: { a: null, b: [{ "#": "1", c: true }] } },
      },
    ];
    for (const e of edits) {
      expect(where(edit.safeParse(e))).toEqual([]);
      const r = applyEdit(d, e, AROUND);
      if (!r.ok) throw new Error(`${e.op}: ${r.refusal.code}`);
      expect(where(processDefinition.safeParse(r.definition))).toEqual([]);
      // What is stored to be taken back later is sent through the same door.
      expect(where(edit.safeParse(r.inverse))).toEqual([]);
      expect(applyEdit(r.definition, r.inverse, AROUND)).toMatchObject({ ok: true, definition: d });
    }
  },
);

it("knows every kind of step and field that can be made", () => {
  for (const k of Object.values(KINDS.steps)) expect(where(step.safeParse(k.blank("x")))).toEqual([]);
  for (const kind of Object.keys(KINDS.fields))
    expect(where(field.safeParse({ id: "x", name: "X", kind }))).toEqual([]);
});

it.each<[string, unknown, string[]]>([
  ["another format", { ...file("supplies"), format: "cobble-step/process@1" }, ["format"]],
  ["an id with capitals", { ...file("supplies"), key: "Supplies" }, ["key"]],
  [
    "a step of no kind",
    { ...file("supplies"), route: [{ id: "x", name: "X", kind: "ponder" }] },
    ["route.0.kind"],
  ],
  [
    "a word too many",
    {
      ...file("supplies"),
      route: [{ id: "x", name: "X", kind: "finish", result: "done", tone: "agree", colour: "red" }],
    },
    ["route.0"],
  ],
  [
    "an access that is none",
    { ...file("supplies"), access: { start: { project: "write" } } },
    ["access.start.project"],
  ],
  [
    "a formula beyond its length",
    { ...file("supplies"), fields: [{ id: "x", name: "X", kind: "text", worked: "1".repeat(4001) }] },
    ["fields.0.worked"],
  ],
])("says where %s stands", (_, document, at) =>
  expect(where(processDefinition.safeParse(document))).toEqual(at),
);

it.each<[unknown, boolean]>([
  [{ a: "x", b: true, c: null, d: [] }, true],
  [{ l: [{ "#": "1", q: "5" }] }, true],
  [{ a: 5 }, false],
  [{ a: { b: 1 } }, false],
  [{ l: [{ q: "5" }] }, false],
  [{ l: [{ "#": "1", q: ["deep"] }] }, false],
  [{ a: "x".repeat(20_001) }, false],
])("takes %j for a form's values: %s", (values, fine) =>
  expect(formData.safeParse(values).success).toBe(fine),
);
