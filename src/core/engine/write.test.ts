import type { Field, RegisterShape } from "../form";
import type { Step } from "../route";
import { definitionOf, fin, harness } from "./testRequest";

const FIELDS: Field[] = [
  { id: "total", name: "Total", kind: "money" },
  {
    id: "lines",
    name: "Lines",
    kind: "lines",
    fields: [
      { id: "item", name: "Item", kind: "text" },
      { id: "qty", name: "Total", kind: "number" },
    ],
  },
];
const OBJECTS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "objects",
  name: "Objects",
  one: "object",
  purpose: "",
  columns: [
    { id: "title", name: "Title", kind: "text" },
    { id: "amount", name: "Amount", kind: "money" },
  ],
  title: ["title"],
};
const write = (more: object): Step =>
  ({
    id: "w",
    name: "Write",
    kind: "write",
    op: "add",
    register: "objects",
    values: [
      { column: "title", value: "Item" },
      { column: "amount", value: "Total" },
    ],
    ...more,
  }) as Step;
const asked = (step: Step, data: object) => {
  const h = harness(definitionOf([step, fin("end", "done")], { fields: FIELDS }), {}, { objects: OBJECTS });
  const d = h.start(data as Record<string, string>);
  if (!d.ok) throw new Error(d.refusal.code);
  return { h, effect: d.effects.find((e) => e.kind === "write") };
};
const ROWS = [
  { "#": "1", item: "frost", qty: "2" },
  { "#": "2", item: "rime", qty: "3" },
];

describe("a Write that goes through line items", () => {
  it("asks for one record a line, a line's own columns before the names of the route", () => {
    const { effect } = asked(write({ each: "lines" }), { total: "100", lines: ROWS });
    expect(effect).toMatchObject({
      rows: [
        { record: null, values: { title: "frost", amount: "2" } },
        { record: null, values: { title: "rime", amount: "3" } },
      ],
    });
  });
  it("reads the route's names where it goes through nothing", () => {
    const values = [{ column: "amount", value: "Total" }];
    const { effect } = asked(write({ values }), { total: "100", lines: ROWS });
    expect(effect).toMatchObject({ rows: [{ record: null, values: { amount: "100" } }] });
  });
  it("rounds as the column does, and is stuck where the column cannot keep it", () => {
    const third = asked(write({ values: [{ column: "amount", value: "Total / 3" }] }), {
      total: "100",
      lines: [],
    });
    expect(third.effect).toMatchObject({ rows: [{ values: { amount: "33.33" } }] });
    const text = asked(write({ values: [{ column: "amount", value: '"many"' }] }), {
      total: "100",
      lines: [],
    });
    expect(text.effect).toBeUndefined();
    expect(text.h.state.stuck[0]!.reason).toMatchObject({
      code: "unclear",
      data: { why: "many cannot be kept as “Amount” (money)." },
    });
  });
  it("without a line asks for nothing and goes on", () => {
    const { h, effect } = asked(write({ each: "lines" }), { total: "100", lines: [] });
    expect(effect).toBeUndefined();
    expect(h.state.status).toBe("finished");
  });
  it("goes on once when its records are there; the same news a second time changes nothing", () => {
    const { h, effect } = asked(write({ each: "lines" }), { total: "100", lines: ROWS });
    const done = {
      type: "effect done",
      effect: effect!,
      result: { records: [{ register: "objects", id: "9", title: "frost", did: "added" }] },
    } as never;
    expect(h.state.status).toBe("under way");
    expect(h.send(done)).toMatchObject({ ok: true });
    expect(h.state.status).toBe("finished");
    const before = h.events.length;
    h.send(done);
    expect(h.events).toHaveLength(before);
  });
});
