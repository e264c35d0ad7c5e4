import type { Field, FormData } from "../form";
import { definitionOf, fin, harness } from "./testRequest";

const FIELDS: Field[] = [
  {
    id: "lines",
    name: "Lines",
    kind: "lines",
    fields: [
      { id: "price", name: "Price", kind: "money" },
      { id: "qty", name: "Qty", kind: "number" },
      { id: "each", name: "Each", kind: "money", worked: "Price / Qty" },
    ],
  },
  { id: "total", name: "Total", kind: "money", worked: "sum(Lines.Price)" },
  { id: "half", name: "Half", kind: "money", worked: "sum(Lines.Price) / 2" },
  { id: "split", name: "Split", kind: "money", worked: "sum(Lines.Each)" },
];
const row = (price: string | null, qty: string | null) => ({ "#": "1", price, qty, each: null });

function titled(title: string, data: object): string {
  const h = harness(definitionOf([fin("end", "done")], { fields: FIELDS, title }));
  const d = h.start(data as Record<string, string>);
  if (!d.ok) throw new Error(JSON.stringify(d.refusal));
  return h.title();
}

it.each<[string, object, string]>([
  ["{Total}", {}, "0.00"],
  ["{sum(Lines.Price)} of {Total}", {}, "0 of 0.00"],
  ["{ sum(Lines.Price) }", { lines: [] }, "0"],
  ["{Total}", { lines: [row("12.5", "1")] }, "12.50"],
  // Only a sum is 0 of nothing: what is worked out of one comes to nothing, as everywhere.
  ["<{Half}>", {}, "<>"],
  ["<{sum(Lines.Price) * 2}>", {}, "<>"],
  ["<{max(Lines.Price)}>", {}, "<>"],
  // What could not be worked out is not 0.
  ["<{Split}>", { lines: [row("12.5", "0")] }, "<>"],
  ["<{sum(Lines.Each)}>", { lines: [row("12.5", "0")] }, "<>"],
])("a text %s over %j reads %s", (title, data, reads) => {
  expect(titled(title, data as FormData)).toBe(reads);
});
