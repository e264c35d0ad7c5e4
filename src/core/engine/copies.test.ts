import { prices } from "../form/testForm";
import type { Field, RegisterShape, StoredRow } from "../form";
import type { ProcessDefinition, Step } from "../route";
import { ans, decideBy, definitionOf, fin, harness, YES_NO } from "./testRequest";

const FIELDS: Field[] = [
  {
    id: "lines",
    name: "Lines",
    kind: "lines",
    fields: [
      { id: "item", name: "Item", kind: "look-up", register: "prices" },
      { id: "price", name: "Price", kind: "money", worked: "Item.Price", copied: true },
    ],
  },
  { id: "total", name: "Total", kind: "money", worked: "sum(Lines.Price)" },
  { id: "link", name: "Link", kind: "look-up", register: "prices" },
  { id: "linked", name: "Linked", kind: "money", worked: "Link.Price", copied: true },
];
const NOBODY = { approver: { link: "hide" } } as const;

/** A request over a price list that moves. */
function priced(
  route: Step[],
  fields = FIELDS,
  access: ProcessDefinition["access"] = NOBODY,
  shape: RegisterShape = prices,
) {
  const price = { "1": "300", "2": "50" } as Record<string, string>;
  const records = () =>
    Object.fromEntries(Object.entries(price).map(([id, p]) => [id, { id, item: `Item ${id}`, price: p }]));
  const h = harness(definitionOf(route, { fields, access }), {}, { prices: shape }, () => ({
    registers: { prices: shape },
    records: { prices: records() },
  }));
  return { h, price };
}
const start = (h: ReturnType<typeof harness>, ...items: string[]) =>
  h.start({ lines: items.map((item, i) => ({ "#": String(i + 1), item })) } as never);
const approve = decideBy("approver", { by: "person", person: "carmel" }, [
  ...YES_NO("approver"),
  ans("return", "plain", [], { returns: true }),
]);
const byTotal: Step = {
  id: "by",
  name: "By total",
  kind: "choose",
  ways: [
    { id: "large", name: "large", when: "Total > 500", steps: [fin("l", "large")] },
    { id: "small", name: "small", steps: [] },
  ],
};
const pricesOf = (h: ReturnType<typeof harness>) =>
  (h.state.data["lines"] as StoredRow[]).map((r) => r["price"]);

it("what was agreed to is what counts, however often prices move meanwhile", () => {
  const { h, price } = priced([approve, byTotal, fin("end", "small")]);
  start(h, "1", "2");
  price["1"] = "9000";
  h.answer("carmel", "approve");
  expect(h.state.result?.name).toBe("small");
  expect(pricesOf(h)).toEqual(["300", "50"]);
  // A link that is not copied moves: that is what the problem "live-amount" warns of.
  const live = FIELDS.map((f) =>
    f.id === "lines" ? { ...f, fields: f.fields!.map(({ copied: _, ...c }) => c) } : f,
  );
  const other = priced([approve, byTotal, fin("end", "small")], live);
  start(other.h, "1", "2");
  other.price["1"] = "9000";
  other.h.answer("carmel", "approve");
  expect(other.h.state.result?.name).toBe("large");
});

it("a requester who is asked for changes keeps prices but of the items they change", () => {
  const { h, price } = priced([approve, byTotal, fin("end", "small")]);
  start(h, "1", "2");
  h.answer("carmel", "return", "why?");
  Object.assign(price, { "1": "310", "2": "60" });
  h.answer("una", "sent", "", {
    lines: [
      { "#": "1", item: "1", price: "0.01" },
      { "#": "2", item: "1" },
      { "#": "3", item: "2" },
    ],
  });
  expect(pricesOf(h)).toEqual(["300", "310", "60"]);
});

describe("a step that sets what is copied from", () => {
  const work: Step = {
    id: "w",
    name: "Pick",
    kind: "work out",
    set: [{ field: "link", value: "Lines[1].Item" }],
  };
  it("takes the copy with it, and only that one", () => {
    const { h, price } = priced([approve, work, approveAgain, fin("end", "done")]);
    start(h, "1");
    price["1"] = "400";
    h.answer("carmel", "approve");
    expect(h.state.data["linked"]).toBe("400");
    expect(pricesOf(h)).toEqual(["300"]);
    price["1"] = "500";
    h.answer("carmel", "approve");
    expect(h.state.data["linked"]).toBe("400");
    expect(h.state.status).toBe("finished");
  });
  it("is stuck where the copy cannot be worked out", () => {
    const broken = FIELDS.map((f) => (f.id === "linked" ? { ...f, worked: "Link.Price / 0" } : f));
    const { h } = priced([work, fin("end", "done")], broken);
    start(h, "1");
    expect(h.state.status).toBe("stuck");
    expect(h.state.stuck[0]!.reason).toMatchObject({ code: "unclear", data: { step: "Pick" } });
    expect(h.state.data["link"]).toBeNull();
    // The reason may tell of a link that somebody may not see; where everybody may, it is kept.
    const why = (x: typeof h) => (x.state.stuck[0]!.reason.data as { why: string | null }).why;
    expect(why(h)).toBeNull();
    const open = priced([work, fin("end", "done")], broken, {}).h;
    start(open, "1");
    expect(why(open)).toContain("divided by zero");
  });
});
const approveAgain = decideBy("again", { by: "person", person: "carmel" }, YES_NO("again"));
