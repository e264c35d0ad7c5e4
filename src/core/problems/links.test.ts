import { KINDS } from "@/kinds";
import { decideBy, definitionOf, fin, YES_NO } from "../engine/testRequest";
import type { Field } from "../form";
import { prices } from "../form/testForm";
import { applyEdit, type Step } from "../route";
import { problemsOf } from ".";

const column = (more: Partial<Field> & { worked: string }): Field => ({
  id: "price",
  name: "Cost",
  kind: "money",
  ...more,
});
const fields = (c: Field): Field[] => [
  {
    id: "lines",
    name: "Lines",
    kind: "lines",
    fields: [
      { id: "item", name: "Item", kind: "look-up", register: "prices" },
      { id: "qty", name: "Quantity", kind: "number" },
      c,
    ],
  },
];
const asked = decideBy("d", { by: "person", person: "carmel" }, YES_NO("d"));
const about = (c: Field, route: Step[] = [asked]) => {
  const d = definitionOf([...route, fin("end", "done")], { fields: fields(c) });
  const all = problemsOf(d, { kinds: KINDS, registers: { prices } });
  return { d, found: all.filter((p) => p.code === "live-amount" || p.code === "copied-anew") };
};
const codes = (c: Field, route?: Step[]) => about(c, route).found.map((p) => `${p.where.id} ${p.code}`);

describe("amounts that move after the start", () => {
  it("are warned of, with the mend where the formula only reads the link", () => {
    const { d, found } = about(column({ worked: "Item.Price" }));
    expect(found).toMatchObject([{ severity: "warning", code: "live-amount", where: { id: "price" } }]);
    const mended = applyEdit(d, found[0]!.mend!.edit as never, { registers: { prices }, kinds: KINDS });
    if (!mended.ok) throw new Error(mended.refusal.code);
    expect(problemsOf(mended.definition, { kinds: KINDS, registers: { prices } })).toEqual([]);
    expect(found[0]!.message).toContain("Keep it as it was when the form was filled in.");
    const more = about(column({ worked: "Quantity * Item.Price" })).found[0]!;
    expect(more.mend).toBeUndefined();
    expect(more.message).toContain("Copy the amount into a field of its own");
  });
  it("not where they are copied, hold no money, or nobody is asked", () => {
    expect(codes(column({ worked: "Item.Price", copied: true }))).toEqual([]);
    expect(codes(column({ worked: "Item.Item name", kind: "text" }))).toEqual([]);
    expect(codes(column({ worked: "Item.Price" }), [])).toEqual([]);
    expect(codes(column({ worked: "Quantity * 2" }))).toEqual([]);
  });
  it("also where a copy is taken anew with another field, or a condition reads the link", () => {
    expect(codes(column({ worked: "Quantity * Item.Price", copied: true }))).toEqual(["price copied-anew"]);
    const choose: Step = {
      id: "c",
      name: "By price",
      kind: "choose",
      ways: [
        { id: "a", name: "a", when: "sum(Lines.Item.Price) > 500", steps: [fin("x", "large")] },
        { id: "b", name: "b", steps: [] },
      ],
    };
    expect(codes(column({ worked: "Quantity * 2" }), [asked, choose])).toEqual(["c live-amount"]);
  });
});
