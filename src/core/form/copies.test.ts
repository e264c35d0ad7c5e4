import { KINDS } from "@/kinds";
import {
  compileForm,
  evaluateForm,
  formForReader,
  prepareForm,
  type Access,
  type Field,
  type FormData,
  type StoredRow,
} from ".";
import { edit, facts, made, prices } from "./testForm";

const columns: Field[] = [
  { id: "item", name: "Item", kind: "look-up", register: "prices" },
  { id: "price", name: "Price", kind: "money", worked: "Item.Price", copied: true },
];
const form = (fields: Field[]) =>
  compileForm(prepareForm(fields, { registers: { prices }, kinds: KINDS }).form, KINDS.fields);
const program = form([{ id: "lines", name: "Lines", kind: "lines", fields: columns }]);
const lines = (...rows: [item: string | null, price?: string][]): FormData => ({
  lines: rows.map(([item, price], i) => ({ "#": String(i + 1), item, price: price ?? null })),
});
const priceOf = (data: FormData, row = 0) => (data["lines"] as StoredRow[])[row]!["price"];

describe("a copied column", () => {
  it("is taken where it was never taken", () => {
    expect(priceOf(evaluateForm(program, lines(["1"]), edit, made(), new Map(), {}).data)).toBe("3.15");
  });
  it("stays, whatever the register says by now", () => {
    const before = lines(["1", "2.00"]);
    expect(priceOf(evaluateForm(program, before, edit, made(), new Map(), before).data)).toBe("2.00");
  });
  it("is taken anew for another item, and is as it was when the first is picked again", () => {
    const before = lines(["1", "2.00"]);
    const other = evaluateForm(program, lines(["2", "2.00"]), edit, made(), new Map(), before);
    expect(priceOf(other.data)).toBe("14");
    const again = evaluateForm(program, lines(["1", "2.00"]), edit, made(), new Map(), before);
    expect(priceOf(again.data)).toBe("2.00");
  });
  it("follows its row, not its place, when rows are moved", () => {
    const before = lines(["1", "2.00"], ["2", "9.00"]);
    const moved = { lines: [...(before["lines"] as never[])].reverse() };
    const r = evaluateForm(program, moved, edit, made(), new Map(), before);
    expect([priceOf(r.data), priceOf(r.data, 1)]).toEqual(["9.00", "2.00"]);
  });
  it("of a record that is gone stays, and can still be reckoned with", () => {
    const before = lines(["gone", "2.00"]);
    const r = evaluateForm(program, before, () => "see", made());
    expect(priceOf(r.data)).toBe("2.00");
    expect(r.problems).toEqual([]);
  });
  it("is not taken from a row kept for other prices, or for somebody else", () => {
    const around = made();
    const typed = lines(["1", "2.00"]);
    expect(priceOf(evaluateForm(program, typed, edit, around, new Map(), {}).data)).toBe("3.15");
    expect(priceOf(evaluateForm(program, typed, edit, around, new Map(), typed).data)).toBe("2.00");
    const cleared = lines(["1"]);
    expect(priceOf(evaluateForm(program, cleared, () => "see", around).data)).toBeNull();
    expect(priceOf(evaluateForm(program, cleared, edit, around).data)).toBe("3.15");
  });
});

describe("a copy of several things", () => {
  const fields: Field[] = [
    { id: "main", name: "Main", kind: "look-up", register: "prices" },
    { id: "factor", name: "Factor", kind: "number" },
    { id: "both", name: "Both", kind: "money", worked: "Main.Price * Factor", copied: true },
    {
      id: "lines",
      name: "Lines",
      kind: "lines",
      fields: [
        { id: "item", name: "Item", kind: "look-up", register: "prices" },
        { id: "p", name: "P", kind: "money", worked: "if Item = null then 7 else Main.Price", copied: true },
      ],
    },
  ];
  const several = form(fields);
  const before = {
    main: "1",
    factor: "2",
    both: "1.00",
    lines: [
      { "#": "1", item: null, p: "5.00" },
      { "#": "2", item: "2", p: "6.00" },
    ],
  };
  const come = (typed: FormData, access: (id: string) => Access = edit) =>
    evaluateForm(several, { ...before, ...typed }, access, made(), new Map(), before).data;
  it("is taken anew by whoever may fill in one of them", () => {
    const onlyFactor = (id: string) => (id === "factor" ? "edit" : "see");
    expect(come({ factor: "3" }, onlyFactor)["both"]).toBe("9.45");
    expect(come({ factor: "2" }, onlyFactor)["both"]).toBe("1.00");
  });
  it("in a line follows a field outside it, and only where that is another", () => {
    const p = (d: FormData) => (d["lines"] as StoredRow[]).map((r) => r["p"]);
    expect(p(come({}))).toEqual(["5.00", "6.00"]);
    expect(p(come({ main: "2" }))).toEqual(["7", "14"]);
  });
});

it("a copied link keeps which record it was, even if that is gone", () => {
  const one = form([
    { id: "item", name: "Item", kind: "look-up", register: "prices" },
    { id: "was", name: "Was", kind: "look-up", register: "prices", worked: "Item", copied: true },
  ]);
  const before = { item: "1", was: "gone" };
  const r = evaluateForm(one, before, edit, made(), new Map(), before);
  expect(r.data["was"]).toBe("gone");
  expect(r.failed.get("was")).toMatch(/cannot be read/);
});

it("a copy that cannot be worked out holds the form of whoever picks what it comes from", () => {
  const one = form([
    { id: "qty", name: "Quantity", kind: "number" },
    { id: "each", name: "Each", kind: "money", worked: "100 / Quantity", copied: true, needed: "true" },
  ]);
  const r = evaluateForm(one, { qty: "0" }, edit, made(), new Map(), {});
  expect(r.problems.map((p) => `${p.path} ${p.code}`)).toEqual(["each unclear"]);
  expect(evaluateForm(one, { qty: "0" }, () => "see", made()).problems).toEqual([]);
});

it("what is copied over something hidden reaches the reader as a plain value", () => {
  const fields: Field[] = [{ id: "lines", name: "Lines", kind: "lines", fields: columns }];
  const { form: prepared } = prepareForm(fields, { registers: facts.registers, kinds: KINDS });
  const before = lines(["1", "2.00"]);
  const access = (id: string) => (id === "item" ? "hide" : "edit");
  const result = evaluateForm(program, before, access, made(), new Map(), before);
  const reader = formForReader(prepared, result, access, () => false);
  const column = reader.form.fields[0]!.fields![0]!;
  expect(column).toEqual({ id: "price", name: "Price", kind: "money" });
  expect(reader.access["price"]).toBe("see");
  expect(reader.data["lines"]).toEqual([{ "#": "1", price: "2.00" }]);
});
