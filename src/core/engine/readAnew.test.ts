import { prices } from "../form/testForm";
import type { Field, StoredRow } from "../form";
import type { ProcessDefinition, Step } from "../route";
import { refusalSentence } from "../words";
import { ans, decideBy, definitionOf, fin, harness, YES_NO } from "./testRequest";

const FIELDS: Field[] = [
  {
    id: "lines",
    name: "Lines",
    kind: "lines",
    fields: [
      { id: "item", name: "Item", kind: "look-up", register: "prices" },
      { id: "quantity", name: "Quantity", kind: "number" },
      { id: "price", name: "Price", kind: "money", worked: "Item.Price", copied: true },
      { id: "quoted", name: "Quoted", kind: "money", worked: "Item.Price", fixed: true },
      { id: "amount", name: "Amount", kind: "money", worked: "Price * Quantity" },
    ],
  },
  { id: "total", name: "Total", kind: "money", worked: "sum(Lines.Amount)" },
  { id: "rate", name: "Rate", kind: "number" },
  { id: "agreed", name: "Agreed", kind: "money", worked: "Total * Rate", fixed: true },
];
const ACCESS: ProcessDefinition["access"] = {
  approver: { lines: "see", rate: "see", total: "see", agreed: "see" },
};
const approve = (anew: string[]): Step =>
  decideBy("approver", { by: "person", person: "carmel" }, [
    ...YES_NO("approver").map((a) => (a.id === "approve" ? { ...a, anew } : a)),
    ans("return", "plain", [], { returns: true }),
  ]);

/** A request for two of one thing and one of another, over a price list that moves. */
function priced(anew: string[], fields = FIELDS, access = ACCESS) {
  const price = { "1": "11.20", "2": "50" } as Record<string, string>;
  const records = () =>
    Object.fromEntries(Object.entries(price).map(([id, p]) => [id, { id, item: `Item ${id}`, price: p }]));
  const route = [approve(anew), fin("end", "done")];
  const h = harness(definitionOf(route, { fields, access }), {}, { prices }, () => ({
    registers: { prices },
    records: { prices: records() },
  }));
  const row = (n: string, item: string, quantity: string) => ({ "#": n, item, quantity });
  h.start({ lines: [row("a", "1", "2"), row("b", "2", "1")], rate: "2" } as never);
  const press = (
    seen?: Record<string, string | null> | true,
    answer = "approve",
    note = "",
    data: object = {},
  ) =>
    h.send({
      type: "answer",
      actor: "carmel",
      task: h.open()[0]!.id,
      answer,
      note,
      data: data as never,
      ...(seen === undefined ? {} : { anew: seen }),
    });
  return { h, price, press };
}
const cells = (h: ReturnType<typeof harness>, column: string) =>
  (h.state.data["lines"] as StoredRow[]).map((r) => r[column]);

it("what is read anew is seen first, with what follows from it, and counts only as it was seen", () => {
  const { h, price, press } = priced(["price"]);
  expect([cells(h, "price"), h.state.data["total"], h.state.data["agreed"]]).toEqual([
    ["11.2", "50"],
    "72.4",
    "144.8",
  ]);
  price["1"] = "12.40";
  const first = press();
  expect(first).toMatchObject({
    ok: false,
    refusal: {
      code: "read-anew",
      data: {
        answer: "approve",
        stays: [],
        changes: [
          { path: "lines/a/price", name: "Price of Item 1", from: "11.20", to: "12.40", value: "12.4" },
          { path: "lines/a/amount", from: "22.40", to: "24.80", value: "24.8" },
          { path: "total", name: "Total", from: "72.40", to: "74.80", value: "74.8" },
        ],
      },
    },
  });
  if (first.ok) throw new Error("went through unseen");
  expect(refusalSentence(first.refusal, (id) => id)).toContain("Price of Item 1 11.20 → 12.40");
  const saw = { "lines/a/price": "12.4", "lines/a/amount": "24.8", total: "74.8" };
  // It moved once more between looking and pressing.
  price["1"] = "13";
  expect(press(saw)).toMatchObject({ ok: false, refusal: { code: "read-anew" } });
  price["1"] = "12.40";
  expect(press({ ...saw, rate: "3" })).toMatchObject({ ok: false, refusal: { code: "read-anew" } });
  expect(press(saw).ok).toBe(true);
  expect([cells(h, "price"), cells(h, "quoted"), h.state.data["total"], h.state.data["agreed"]]).toEqual([
    ["12.4", "50"],
    ["11.2", "50"],
    "74.8",
    "144.8",
  ]);
  expect(h.events.filter((e) => e.type === "data changed")).toMatchObject([{ anew: ["price"] }]);
});

it("nothing is asked where nothing has moved, nor by an answer that reads nothing anew", () => {
  const still = priced(["price"]);
  expect(still.press().ok).toBe(true);
  expect(still.h.events.some((e) => e.type === "data changed")).toBe(false);
  const other = priced(["price"]);
  other.price["1"] = "99";
  expect(other.press(undefined, "decline", "no").ok).toBe(true);
  expect(cells(other.h, "price")).toEqual(["11.2", "50"]);
});

it("fixed values move by their name alone, whoever fills in what they read", () => {
  const { h, price, press } = priced(["quoted", "agreed"]);
  press(undefined, "return", "why?");
  price["2"] = "60";
  const lines = [
    { "#": "a", item: "2", quantity: "1" },
    { "#": "b", item: "2", quantity: "1" },
    { "#": "c", item: "2", quantity: "1" },
  ];
  h.answer("una", "sent", "", { lines, rate: "5" });
  // What was there is as it was; a row that came later begins with what holds then.
  expect(cells(h, "quoted")).toEqual(["11.2", "50", "60"]);
  expect(h.state.data["agreed"]).toBe("144.8");
  const r = press();
  expect(r).toMatchObject({
    refusal: {
      data: {
        changes: [
          { name: "Quoted, line 1 (Item 2)", to: "60.00" },
          { name: "Quoted, line 2 (Item 2)", to: "60.00" },
          { name: "Agreed", from: "144.80", to: "850.00" },
        ],
      },
    },
  });
});

it("what a page sends does not fix anything, and what is fixed stays empty where it was", () => {
  const { h } = priced([]);
  const own = harness(definitionOf([approve([]), fin("end", "done")], { fields: FIELDS, access: ACCESS }));
  own.start({ agreed: "1", rate: "2" } as never);
  expect(own.state.data["agreed"]).toBeNull();
  expect(h.state.data["agreed"]).toBe("144.8");
});

it("a fixed value that cannot be worked out holds the form: it would be empty for good", () => {
  const fields = FIELDS.map((f) => (f.id === "agreed" ? { ...f, worked: "Rate / 0" } : f));
  const h = harness(definitionOf([approve([]), fin("end", "done")], { fields, access: ACCESS }));
  expect(h.start({ rate: "2", lines: [{ "#": "a", quantity: "1" }] } as never)).toMatchObject({
    ok: false,
    refusal: { code: "form", data: { problems: [{ code: "unclear", path: "agreed" }] } },
  });
});

it("what cannot be read any more stays, and is named", () => {
  const { h, price, press } = priced(["price", "agreed"]);
  // Whatever hangs on it goes by what stays.
  delete price["1"];
  price["2"] = "55";
  const r = press();
  expect(r).toMatchObject({
    refusal: { data: { changes: [{ path: "lines/b/price" }, {}, { path: "total" }, { path: "agreed" }] } },
  });
  if (r.ok || r.refusal.code !== "read-anew") throw new Error("went through unseen");
  expect(r.refusal.data.stays).toEqual(["Price, line 1"]);
  press(Object.fromEntries(r.refusal.data.changes.map((c) => [c.path, c.value as string])));
  expect(cells(h, "price")).toEqual(["11.2", "55"]);
});

it("a line whose sender called it by a slash is found like any other", () => {
  const { h, price, press } = priced(["price"]);
  press(undefined, "return", "more");
  h.answer("una", "sent", "", { lines: [{ "#": "x/y", item: "1", quantity: "1" }] });
  delete price["1"];
  const r = press();
  // Also where nothing else moved they are told before it counts.
  if (r.ok || r.refusal.code !== "read-anew") throw new Error("went through without a word");
  expect(r.refusal.data).toMatchObject({ changes: [], stays: ["Price, line 1"] });
  expect(refusalSentence(r.refusal, (id) => id)).toContain("Not to be read, and as before: Price, line 1.");
  expect(press({}).ok).toBe(true);
  expect(cells(h, "price")).toEqual(["11.2"]);
});

it("of what is hidden from whoever answers nothing is told, and it is read all the same", () => {
  const { h, price, press } = priced(["price", "agreed"], FIELDS, {
    approver: { ...ACCESS["approver"], price: "hide", total: "hide", amount: "hide", agreed: "hide" },
  });
  price["1"] = "12.40";
  expect(press({}).ok).toBe(true);
  expect([cells(h, "price"), h.state.data["agreed"]]).toEqual([["12.4", "50"], "149.6"]);
});

it("mistakes of the one who answers come first, what new values make wrong comes when they were seen", () => {
  const check = { must: "Total < 73", say: "Too much." };
  const fields = FIELDS.map((f) => (f.id === "total" ? { ...f, checks: [check] } : f));
  const access = { approver: { ...ACCESS["approver"], lines: "edit", quantity: "edit" } } as const;
  const { price, press } = priced(["price"], fields, access);
  price["1"] = "12.40";
  const r = press();
  if (r.ok || r.refusal.code !== "read-anew") throw new Error("not told first");
  const lines = [{ "#": "a", item: "1", quantity: "two" }];
  expect(press({}, "approve", "", { lines })).toMatchObject({
    refusal: { code: "form", data: { problems: [{ code: "not-a-number" }] } },
  });
  const saw = Object.fromEntries(r.refusal.data.changes.map((c) => [c.path, c.value as string]));
  expect(press(saw)).toMatchObject({ refusal: { code: "form", data: { problems: [{ path: "total" }] } } });
});

it("rows that a step adds begin fixed, and a value that cannot be worked out holds the step", () => {
  const add = (field: Field[]): Step[] => [
    {
      id: "add",
      name: "Add a row",
      kind: "work out",
      set: [],
      rows: [
        {
          id: "r",
          lines: "lines",
          do: "add",

          values: [{ column: "item", value: "Lines[1].Item" }],
        },
      ],
    } as unknown as Step,
    approve([]),
    fin("end", field.length > 0 ? "done" : ""),
  ];
  const run = (fields: Field[]) => {
    const price = { "1": "5" } as Record<string, string>;
    const h = harness(definitionOf(add(fields), { fields, access: ACCESS }), {}, { prices }, () => ({
      registers: { prices },
      records: { prices: { "1": { id: "1", item: "Item 1", price: price["1"]! } } },
    }));
    h.start({ lines: [{ "#": "a", item: "1", quantity: "1" }], rate: "1" } as never);
    return { h, price };
  };
  const { h, price } = run(FIELDS);
  expect(cells(h, "quoted")).toEqual(["5", "5"]);
  price["1"] = "9";
  h.answer("carmel", "decline", "no");
  expect(cells(h, "quoted")).toEqual(["5", "5"]);
  const broken = FIELDS.map((f) =>
    f.id === "lines"
      ? {
          ...f,
          fields: f.fields!.map((c) =>
            c.id === "quoted" ? { ...c, worked: "if Quantity = 1 then 1 else Item.Price / 0" } : c,
          ),
        }
      : f,
  );
  expect(run(broken).h.state.status).toBe("stuck");
});

it("after the end nothing is read anew: what is answered then changes nothing", () => {
  const beside = {
    id: "later",
    name: "Later",
    kind: "complete",
    who: { rule: { by: "person", person: "carmel" }, how: "one" },
    button: "Done",
    beside: "stays",
    anew: ["price"],
  } as Step;
  const price = { "1": "5" };
  const h = harness(
    definitionOf([beside, fin("end", "done")], { fields: FIELDS, access: {} }),
    {},
    { prices },
    () => ({
      registers: { prices },
      records: { prices: { "1": { id: "1", item: "Item 1", price: price["1"] } } },
    }),
  );
  h.start({ lines: [{ "#": "a", item: "1", quantity: "1" }], rate: "1" } as never);
  expect(h.state.status).toBe("finished");
  price["1"] = "6";
  expect(h.answer("carmel", "done").ok).toBe(true);
  expect(cells(h, "price")).toEqual(["5"]);
});

it("names two thousand lines that moved by looking at each of them a few times only", () => {
  const { h, price, press } = priced(["price"]);
  press(undefined, "return", "more");
  const lines = Array.from({ length: 2000 }, (_, i) => ({
    "#": `r${i}`,
    item: i % 2 === 0 ? "1" : "2",
    quantity: "1",
  }));
  h.answer("una", "sent", "", { lines });
  Object.assign(price, { "1": "20", "2": "60" });
  const r = press();
  if (r.ok || r.refusal.code !== "read-anew") throw new Error("went through unseen");
  // Each line's price and amount, and the total.
  expect(r.refusal.data.changes).toHaveLength(4001);
  expect(r.refusal.data.changes[0]!.name).toBe("Price, line 1 (Item 1)");
});
