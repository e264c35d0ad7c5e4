import { KINDS } from "../../src/kinds";
import {
  prepareForm,
  type Field,
  type FormData,
  type RegisterShape,
  type StoredRow,
} from "../../src/core/form";

const PRICES: RegisterShape = {
  format: "cobble-step/register@1",
  key: "prices",
  name: "Prices",
  one: "price",
  purpose: "",
  title: ["item"],
  columns: [
    { id: "item", name: "Item", kind: "text" },
    { id: "price", name: "Price", kind: "money" },
  ],
};

/**
 * A form of 100 fields with a table of 500 lines, every kind of formula in it.
 * @param asking how many of its fields ask something of a register
 */
export function largeForm(
  lines = 500,
  asking = 0,
): { form: ReturnType<typeof prepareForm>["form"]; data: FormData } {
  const fields: Field[] = Array.from({ length: 24 }, (_, s) => ({
    id: `s${s}`,
    name: `Section ${s}`,
    kind: "section" as const,
    fields: [
      { id: `t${s}`, name: `Text ${s}`, kind: "text" as const, needed: `Number ${s} > 3` },
      {
        id: `n${s}`,
        name: `Number ${s}`,
        kind: "number" as const,
        min: "0",
        max: "1000",
        ...(s < asking
          ? {
              checks: [
                {
                  must: `Price > Number ${s} and Item = Text ${s}`,
                  say: "There is one.",
                  records: { register: "prices", there: "none" as const },
                },
              ],
            }
          : {}),
      },
      {
        id: `w${s}`,
        name: `Worked ${s}`,
        kind: "money" as const,
        worked: s === 0 ? "Number 0 * 1.21" : `Worked ${s - 1} + Number ${s} * 1.21`,
      },
      {
        id: `d${s}`,
        name: `Detail ${s}`,
        kind: "text" as const,
        shown: `Worked ${s} > 100 and Number ${s} > 2`,
      },
    ],
  }));
  fields.push({
    id: "lines",
    name: "Lines",
    kind: "lines",
    needed: "true",
    fields: [
      { id: "item", name: "Item", kind: "text", needed: "true" },
      { id: "qty", name: "Quantity", kind: "number", needed: "true", min: "1" },
      { id: "price", name: "Price", kind: "money", needed: "true" },
      { id: "sum", name: "Line total", kind: "money", worked: "Quantity * Price" },
    ],
  });
  fields.push({ id: "total", name: "Total", kind: "money", worked: "sum(Lines.Line total)" });
  fields.push({ id: "many", name: "Large lines", kind: "number", worked: "count(Lines[Quantity > 5])" });
  fields.push({ id: "why", name: "Why", kind: "long text", shown: "Total > 1000", needed: "true" });
  const rows: StoredRow[] = Array.from({ length: lines }, (_, i) => ({
    "#": String(i),
    item: `item ${i}`,
    qty: String(1 + (i % 9)),
    price: `${(i * 37) % 400}.${String(i % 100).padStart(2, "0")}`,
  }));
  const data: Record<string, FormData[string]> = { lines: rows };
  for (let s = 0; s < 24; s++) {
    data[`t${s}`] = "abc";
    data[`n${s}`] = String(s);
  }
  return { form: prepareForm(fields, { registers: { prices: PRICES }, kinds: KINDS }).form, data };
}
