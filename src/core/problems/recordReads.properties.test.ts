import * as fc from "fast-check";
import { definitionOf, fin, harness } from "../engine/testRequest";
import type { RegisterShape, Registers, StoredRecord } from "../form";
import type { ProcessDefinition, Step } from "../route";
import { KINDS } from "@/kinds";
import { columnsRead, registersRead } from ".";

const THINGS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "things",
  name: "Things",
  one: "thing",
  purpose: "",
  columns: [
    { id: "label", name: "Label", kind: "text" },
    { id: "price", name: "Price", kind: "money" },
    { id: "due", name: "Due", kind: "date" },
    { id: "store", name: "Store", kind: "look-up", register: "stores" },
    { id: "spare", name: "Spare", kind: "look-up", register: "stores" },
  ],
  title: ["label"],
};
const STORES: RegisterShape = {
  format: "cobble-step/register@1",
  key: "stores",
  name: "Stores",
  one: "store",
  purpose: "",
  columns: [
    { id: "called", name: "Called", kind: "text" },
    { id: "code", name: "Code", kind: "text" },
    // Of the same name as one of the other register.
    { id: "price", name: "Price", kind: "money" },
  ],
  title: ["called"],
};
const REGISTERS = { things: THINGS, stores: STORES };
const ROWS: Record<string, Record<string, StoredRecord>> = {
  things: {
    "1": { id: "1", label: "Lamp", price: "40", due: "2026-03-05", store: "1", spare: "2" },
    "2": { id: "2", label: "Rope", price: "2", due: null, store: "2", spare: null },
    "3": { id: "3", label: "Bell", price: null, due: "2026-02-01", store: null, spare: "1" },
  },
  stores: {
    "1": { id: "1", called: "Cold room", code: "C1", price: "7" },
    "2": { id: "2", called: "Attic", code: null, price: "9" },
  },
};

/** Records as they are fetched by shapes: only those columns, and only what they link to. */
function fetched(shapes: Registers): Record<string, Record<string, StoredRecord>> {
  const out: Record<string, Record<string, StoredRecord>> = { things: {}, stores: {} };
  const one = (key: string, id: string) => {
    const row = ROWS[key]?.[id];
    if (!row || out[key]![id]) return;
    const kept: Record<string, string | boolean | null> & { id: string } = { id };
    for (const c of shapes[key]!.columns) kept[c.id] = row[c.id] ?? null;
    out[key]![id] = kept;
    for (const c of shapes[key]!.columns)
      if (c.register && typeof row[c.id] === "string") one(c.register, String(row[c.id]));
  };
  for (const id of Object.keys(ROWS["things"]!)) one("things", id);
  return out;
}

const column = fc.constantFrom("Label", "Price", "Due", "Store", "Spare");
const store = fc.constantFrom("Store", "Spare");
const ofStore = fc.constantFrom("Code", "Called", "Price", "name");
const test = fc.oneof(
  fc.constantFrom("Price > 5", "Due != null", 'Store.Code = "C1"', "Spare.Price > 8", 'item.Label = "Rope"'),
  fc.tuple(store, ofStore).map(([s, c]) => `${s}.${c} != null`),
);
const { record, list, value } = fc.letrec<{ record: string; list: string; value: string }>((tie) => ({
  record: fc.oneof(
    { depthSize: "small", withCrossShrink: true },
    fc.constantFrom("One", "Found[1]", "Found[-1]", "Kept.Thing"),
    tie("list").map((l) => `(${l})[1]`),
    fc
      .tuple(test, tie("record"), tie("record"))
      .map(([, a, b]) => `(if count(Found) > 2 then ${a} else ${b})`),
    tie("record").map((r) => `{a: ${r}}.a`),
    tie("record").map((r) => `(function(x) x)(${r})`),
  ),
  list: fc.oneof(
    { depthSize: "small", withCrossShrink: true },
    fc.constantFrom("Found", "[One]", "Kept.List"),
    fc.tuple(tie("list"), test).map(([l, t]) => `(${l})[${t}]`),
    tie("list").map((l) => `sort(${l}, function(a, b) a.Price < b.Price)`),
    tie("list").map((l) => `reverse(${l})`),
    fc.tuple(tie("list"), tie("record")).map(([l, r]) => `concatenate(${l}, [${r}])`),
    tie("list").map((l) => `(for r in ${l} return r)`),
  ),
  value: fc.oneof(
    { depthSize: "small", withCrossShrink: true },
    fc.tuple(tie("record"), column).map(([r, c]) => `${r}.${c}`),
    fc.tuple(tie("record"), store, ofStore).map(([r, s, c]) => `${r}.${s}.${c}`),
    fc.tuple(tie("list"), column).map(([l, c]) => `(${l}).${c}`),
    fc.tuple(tie("list"), column).map(([l, c]) => `(for r in ${l} return r.${c})`),
    fc.tuple(tie("list"), column).map(([l, c]) => `(some r in ${l} satisfies r.${c} != null)`),
    fc.tuple(tie("record"), column).map(([r, c]) => `get value(${r}, "${c}")`),
    fc.tuple(tie("record"), ofStore).map(([r, c]) => `get value(${r}.Store, "Co" + substring("${c}", 3))`),
    fc.tuple(tie("record"), column).map(([r, c]) => `(function(x) x.${c})(${r})`),
    tie("record").map((r) => `get entries(${r})`),
    tie("record").map((r) => `count(get entries(${r}.Store))`),
    tie("record").map((r) => `context put(${r}, "more", 1)`),
    tie("record").map((r) => `string(${r})`),
    tie("record").map((r) => `string(${r}.Store)`),
    tie("record").map((r) => `{inner: ${r}, n: 1}`),
    fc.tuple(tie("record"), tie("record")).map(([a, b]) => `${a} = ${b}`),
    fc.tuple(tie("list"), tie("record")).map(([l, r]) => `list contains(${l}, ${r})`),
    tie("list").map((l) => `distinct values(${l})`),
    tie("list").map((l) => `string join(for r in ${l} return r.name, ", ")`),
    tie("record"),
    tie("list"),
  ),
}));

const find = (id: string, name: string, more: object): Step =>
  ({ ...KINDS.steps.find.blank(id), name, register: "things", ...more }) as Step;

/** Finds all things and one, keeps both, works something out, and reads what that came to once more. */
const definition = (formula: string): ProcessDefinition =>
  definitionOf([
    find("f", "Found", { take: "some" }),
    find("o", "One", { take: "first" }),
    {
      id: "k",
      name: "Kept",
      kind: "work out",
      set: [],
      own: [
        { name: "Thing", value: "Found[2]" },
        { name: "List", value: "Found[Price != null or true]" },
      ],
    },
    { id: "w", name: "Sums", kind: "work out", set: [], own: [{ name: "It", value: formula }] },
    { id: "x", name: "More", kind: "work out", set: [], own: [{ name: "Text", value: "string(Sums.It)" }] },
    fin("e", "done"),
  ]);

function came(d: ProcessDefinition, records: Record<string, Record<string, StoredRecord>>) {
  const h = harness(d, {}, REGISTERS, () => ({ registers: REGISTERS, records }));
  h.start();
  for (const ids of [["1", "2", "3"], ["2"]]) {
    const [pending] = Object.values(h.state.pending);
    if (pending)
      h.send({
        type: "effect done",
        effect: { ...pending, kind: "find" },
        result: { register: "things", ids, titles: [], more: false },
      });
  }
  return { kept: h.state.kept, stuck: h.state.stuck, status: h.state.status };
}

it("whatever a formula asks of records, it comes to the same with only those columns fetched that are read", () => {
  let worked = 0;
  let fewer = 0;
  fc.assert(
    fc.property(fc.oneof(value, record, list), (formula) => {
      const d = definition(formula);
      const shapes = registersRead(REGISTERS, [columnsRead(d, { registers: REGISTERS, kinds: KINDS })]);
      const whole = came(d, ROWS);
      expect(came(d, fetched(shapes))).toEqual(whole);
      if (whole.status === "finished") worked++;
      if (Object.values(shapes).some((s) => s.columns.length < REGISTERS[s.key as "things"].columns.length))
        fewer++;
    }),
    { numRuns: 500, endOnFailure: true },
  );
  // Most must come to something, and with less than all, or nothing was held against anything.
  expect(worked).toBeGreaterThan(230);
  expect(fewer).toBeGreaterThan(160);
});
