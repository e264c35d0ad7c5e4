import { z } from "zod";
import { field, processDefinition, start, step } from "@/contracts";
import { problemsOf } from "@/core/problems";
import { applyEdit, formulaPlaces, mapFormulas, usesOfField, type ProcessDefinition } from "@/core/route";
import type { Registers } from "@/core/form";
import { KINDS } from "@/kinds";
import { RULE_SCHEMAS } from "@/rules/schemas";
import { RUNG_SCHEMAS } from "@/rungs/schemas";
import { STEP_SCHEMAS } from "@/steps/schemas";
import { fromSchema, type Filling } from "./fromSchema";

const registers: Registers = {
  x: {
    format: "cobble-step/register@1",
    key: "x",
    name: "Things",
    one: "thing",
    purpose: "",
    columns: [{ id: "x", name: "X", kind: "text" }],
    title: ["x"],
  },
};
const AROUND = { registers, kinds: KINDS };
const NAME = "Total asked for";
const schemaOf = (s: z.ZodType) =>
  z.toJSONSchema(s, { unrepresentable: "any", io: "input" }) as Record<string, unknown>;
const schemas = { field: schemaOf(field), step: schemaOf(step), start: schemaOf(start) };

/** A definition with one of every kind, every formula of which reads the one field there is. */
function everything(turn: number): ProcessDefinition {
  let last = 0;
  const fill = (first?: number): Filling => {
    let asked = 0;
    return {
      formula: NAME,
      template: `about {${NAME}}`,
      choose: (n) => (asked++ === 0 && first !== undefined ? first : (turn + asked) % n),
      id: () => `id-${++last}`,
    };
  };
  const all = <T>(schema: Record<string, unknown>, kinds: number): T[] =>
    Array.from({ length: kinds }, (_, k) => fromSchema(schema, fill(k)) as T);
  const fields = all<ProcessDefinition["fields"][number]>(schemas.field, Object.keys(KINDS.fields).length);
  return {
    format: "cobble-step/process@2",
    key: "all",
    name: "All",
    purpose: "",
    owners: ["una"],
    numbering: { prefix: "ALL", digits: 4 },
    title: `about {${NAME}}`,
    starts: [fromSchema(schemas.start, fill()) as ProcessDefinition["starts"][number]],
    fields: [
      { id: "total", name: NAME, kind: "number" },
      ...fields.map((f, i) => ({ ...f, name: `Field ${i}`, fields: [] })),
    ],
    access: {},
    route: all(schemas.step, Object.keys(KINDS.steps).length),
    samples: [],
  };
}
// Every alternative of rules, rungs and limits is met in one turn or another.
const TURNS = Math.max(...[RULE_SCHEMAS, RUNG_SCHEMAS, STEP_SCHEMAS].map((s) => Object.keys(s).length)) * 2;
const turns = Array.from({ length: TURNS }, (_, i) => i);

it.each(turns)("what is made is a definition, with every kind of step and field in it (%d)", (turn) => {
  const d = everything(turn);
  const checked = processDefinition.safeParse(d);
  expect(checked.success ? [] : checked.error.issues.slice(0, 3)).toEqual([]);
  expect(new Set(d.route.map((s) => s.kind)).size).toBe(Object.keys(KINDS.steps).length);
  expect(new Set(d.fields.map((f) => f.kind)).size).toBe(Object.keys(KINDS.fields).length);
});

it("all kinds of rules and rungs are met", () => {
  const text = turns.map((t) => JSON.stringify(everything(t))).join();
  for (const by of Object.keys(KINDS.rules)) expect(text).toContain(`"by":"${by}"`);
  for (const rung of Object.keys(KINDS.rungs)) expect(text).toContain(`"do":"${rung}"`);
});

/** Conditions over a record's own columns read nothing of the process. */
const withoutRecords = (d: ProcessDefinition) =>
  mapFormulas(d, AROUND, { formula: (p) => (p.ofRecord ? "true" : p.formula) });

it.each(turns)("after a rename no place reads the old name, whatever its kind (%d)", (turn) => {
  const d = withoutRecords(everything(turn));
  const r = applyEdit(d, { op: "field.rename", id: "total", name: "Sum" }, AROUND);
  if (!r.ok) throw new Error(r.refusal.code);
  expect(JSON.stringify(r.definition)).not.toContain(NAME);
  // As many places read the new name as read the old one.
  const count = (x: ProcessDefinition, name: string) => JSON.stringify(x).split(name).length - 1;
  expect(count(r.definition, "Sum")).toBe(count(d, NAME));
  const back = applyEdit(r.definition, r.inverse, AROUND);
  expect(back.ok && back.definition).toEqual(d);
});

it.each(turns)("after a removal every place is named by a problem (%d)", (turn) => {
  const d = withoutRecords(everything(turn));
  const r = applyEdit(d, { op: "field.remove", id: "total" }, AROUND);
  if (!r.ok) throw new Error(r.refusal.code);
  const told = new Set(
    problemsOf(r.definition, AROUND)
      .filter((p) => p.formula)
      .map((p) => `${p.where.kind} ${p.where.kind === "process" ? "" : p.where.id} ${p.where.place}`),
  );
  const places = formulaPlaces(d, AROUND).filter((p) => !p.ofRecord);
  expect(places.length).toBeGreaterThan(40);
  expect(places.map((p) => `${p.owner.kind} ${p.owner.id} ${p.place}`).filter((p) => !told.has(p))).toEqual(
    [],
  );
});

it.each(turns)(
  "every place has a scope, a type and a sentence, and is the only one of its name (%d)",
  (turn) => {
    const places = formulaPlaces(everything(turn), AROUND);
    for (const p of places) {
      expect(p.says.length).toBeGreaterThan(5);
      expect(Object.keys(p.scope).length).toBeGreaterThan(0);
      expect(p.type.t.length).toBeGreaterThan(0);
    }
    const names = places.map((p) => `${p.owner.kind} ${p.owner.id} ${p.place}`);
    expect(names.filter((n, i) => names.indexOf(n) !== i)).toEqual([]);
  },
);

it.each(turns)("whatever reads a field is told where the field is used (%d)", (turn) => {
  const d = everything(turn);
  const told = usesOfField(d, AROUND, "total").map((u) => `${u.owner.kind} ${u.owner.id}`);
  const reading = formulaPlaces(d, AROUND).filter((p) => !p.ofRecord && p.formula === NAME && !isOther(p));
  expect(reading.length).toBeGreaterThan(20);
  for (const p of reading) expect(told).toContain(`${p.owner.kind} ${p.owner.id}`);
});
/** Where the name means something else. */
const isOther = (p: { declared(name: string): string | null }) => p.declared(NAME) !== "field total";
