import { KINDS } from "@/kinds";
import { definitionOf, fin } from "../engine/testRequest";
import type { Field, RegisterShape } from "../form";
import { columnsRead, problemsOf } from ".";

const paints: RegisterShape = {
  format: "cobble-step/register@1",
  key: "paints",
  name: "Paints",
  one: "paint",
  purpose: "",
  columns: [
    { id: "name", name: "Name", kind: "text" },
    { id: "tone", name: "Tone", kind: "choice", options: ["warm", "cold"] },
    { id: "tones", name: "Tones", kind: "several choices", options: ["warm", "cold"] },
    { id: "price", name: "Price", kind: "money" },
    { id: "maker", name: "Maker", kind: "person" },
  ],
  title: ["name"],
};
const around = { registers: { paints }, kinds: KINDS };
const told = (more: Partial<Field>, beside: Field[] = []) =>
  problemsOf(
    definitionOf([fin("e", "done")], {
      fields: [
        ...beside,
        { id: "tone", name: "Tone", kind: "choice", among: { register: "paints", column: "tone" }, ...more },
      ] as Field[],
    }),
    around,
  )
    .filter((p) => p.where.id === "tone")
    .map((p) => `${p.where.place} ${p.code}`);
const among = (column: string, register = "paints") => ({ among: { register, column } });
const price: Field = { id: "price", name: "Price", kind: "money" };

it.each<[string, Partial<Field>, string[]]>([
  ["a choice among texts", {}, []],
  ["several of them", { kind: "several choices", ...among("name") }, []],
  ["by a condition over its columns and the form", { offered: "Price < Form.Price" }, []],
  ["no such register", among("tone", "gone"), ["register no-register"]],
  ["no such column", among("gone"), ["register no-column"]],
  ["a column of numbers", among("price"), ["register no-texts"]],
  ["of people", among("maker"), ["register no-texts"]],
  ["of several texts", among("tones"), ["register no-texts"]],
  ["choices of its own as well", { options: ["x"] }, ["options both-choices"]],
  ["worked out", { worked: '"warm"' }, ["worked worked-among"]],
  ["nothing that is chosen", { kind: "text" }, ["register not-among"]],
])("%s", (_, more, codes) => {
  expect(told(more, [price])).toEqual(codes);
});
it("a condition may read a column called like the field, and not what was chosen in the field itself", () => {
  expect(told({ offered: 'Tone != "cold"' })).toEqual([]);
  expect(told({ offered: "Tone != Form.Tone" })).toEqual(["offered reads-itself"]);
  expect(told({ offered: "string length(string(Form)) > 5" })).toEqual(["offered reads-itself"]);
  const lined = (offered: string) =>
    problemsOf(
      definitionOf([fin("e", "done")], {
        fields: [
          {
            id: "rows",
            name: "Rows",
            kind: "lines",
            fields: [price, { id: "tone", name: "Tone", kind: "choice", ...among("tone"), offered }],
          },
        ] as Field[],
      }),
      around,
    ).map((p) => p.code);
  expect(lined("Price < Form.Price")).not.toContain("reads-itself");
  expect(lined("Price < Form.Price and Tone != Form.Tone")).toContain("reads-itself");
});
it("counts as reading its column, so that nobody takes that out unseen", () => {
  const d = definitionOf([fin("e", "done")], {
    fields: [{ id: "tone", name: "Tone", kind: "choice", ...among("tone") }] as Field[],
  });
  expect(JSON.stringify(columnsRead(d, around))).toContain("tone");
});
