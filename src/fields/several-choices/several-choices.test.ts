import { Temporal } from "temporal-polyfill";
import { isList, valueText } from "@/core/expression";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  keptAs,
  prepareForm,
  type Field,
  type FormData,
} from "@/core/form";
import { registerProblems, shapeChange } from "@/core/records";
import { KINDS } from "@/kinds";
import { severalChoices } from "./kind";

const wants: Field = {
  id: "w",
  name: "Wants",
  kind: "several choices",
  options: ["Crate", "Courier", "Mount, padded"],
};
const around = { registers: {}, kinds: KINDS };
const facts = factsFrom(
  { people: {}, registers: {}, records: {} },
  { now: Temporal.ZonedDateTime.from("2026-03-12T10:00[Europe/Dublin]") },
  KINDS.fields,
);
const form = (fields: Field[], data: FormData) =>
  evaluateForm(compileForm(prepareForm(fields, around).form, KINDS.fields), data, () => "edit", facts);
const worked = (formula: string, kind: Field["kind"]): Field => ({
  id: "x",
  name: "X",
  kind,
  worked: formula,
});

it.each<[string, Field["kind"], string | null, string | boolean | null]>([
  ["count(Wants)", "number", "Crate\nCourier", "2"],
  // None chosen is none, not unknown.
  ["count(Wants)", "number", null, "0"],
  ['list contains(Wants, "Crate")', "yes or no", "Courier", false],
  ['not(list contains(Wants, "Crate"))', "yes or no", null, true],
  ["is empty(Wants)", "yes or no", null, true],
  ["is empty(Wants)", "yes or no", "Crate", false],
  ["Wants[1]", "text", "Courier\nCrate", "Courier"],
  ['string join(Wants, " and ")', "text", "Crate\nMount, padded", "Crate and Mount, padded"],
  ['some w in Wants satisfies starts with(w, "M")', "yes or no", "Crate\nMount, padded", true],
])("%s, as %s, of %j is %j", (formula, kind, raw, is) => {
  const fields = [wants, worked(formula, kind)];
  expect(prepareForm(fields, around).problems).toEqual([]);
  const r = form(fields, { w: raw });
  expect(r.data["x"]).toBe(is);
  expect([...r.failed]).toEqual([]);
});
it("also where it is hidden, and in rows", () => {
  const hidden = form([{ ...wants, shown: "false" }, worked("count(Wants)", "number")], { w: "Crate" });
  expect(hidden.data).toMatchObject({ w: null, x: "0" });
  const lines: Field = {
    id: "l",
    name: "Lines",
    kind: "lines",
    fields: [wants, { id: "n", name: "N", kind: "number", worked: "count(Wants)" }],
  };
  const rows = form([lines], {
    l: [
      { "#": "1", w: "Crate\nCourier" },
      { "#": "2", w: null },
    ],
  });
  expect(rows.data["l"]).toMatchObject([{ n: "2" }, { n: "0" }]);
});
it.each([
  ["Crate\nBarge", "Barge"],
  ["crate", "crate"],
  ["Crate, Courier", "Crate, Courier"],
])("%j holds something that is not offered", (raw, odd) => {
  expect(form([wants], { w: raw }).problems).toMatchObject([{ code: "not-an-option", data: { value: odd } }]);
});
it("is needed as anything else is, and the same twice is it once", () => {
  expect(form([{ ...wants, needed: "true" }], { w: null }).problems).toMatchObject([{ code: "needed" }]);
  expect(form([{ ...wants, needed: "true" }], { w: "" }).problems).toMatchObject([{ code: "needed" }]);
  const v = severalChoices.value(wants, "Crate\nCrate\n\nCourier", facts);
  expect(isList(v) && v.map(valueText)).toEqual(["Crate", "Courier"]);
});
it.each<[string, string | null]>([
  ['["Courier", "Crate"]', "Courier\nCrate"],
  ['"Crate"', "Crate"],
  ["[]", null],
  ["null", null],
  ['[null, "Crate", "Crate"]', "Crate"],
])("worked out as %s it is kept as %j", (formula, kept) => {
  const r = form([{ ...wants, worked: formula }], {});
  expect(r.data["w"]).toBe(kept);
});
it("what is none of them is not kept", () => {
  expect(keptAs(wants, ["Barge"], KINDS.fields, facts)).toHaveProperty("why");
  expect(keptAs(wants, [], KINDS.fields, facts)).toEqual({ kept: null });
  expect(keptAs(wants, null, KINDS.fields, facts)).toEqual({ kept: null });
});
it.each<[string, string[], string | null]>([
  ["crate; Courier", ["Crate", "Courier"], "Crate\nCourier"],
  ["Courier, crate", ["Crate", "Courier"], "Crate\nCourier"],
  ["Mount, padded; Crate", wants.options!, "Crate\nMount, padded"],
  ["Crate\nBarge", ["Crate"], "Crate\nBarge"],
  ["", ["Crate"], null],
])("a cell with %j, of %j, is %j", (text, options, kept) => {
  expect(
    severalChoices.cell!(
      { ...wants, options },
      { text },
      { reading: { dates: "day", decimal: "." }, named: () => ({ why: "none" }) },
    ),
  ).toEqual({ kept });
});
it("as a column says what is wrong, and tells choices that go", () => {
  const shape = (options: string[]) => ({
    format: "cobble-step/register@1" as const,
    key: "r",
    name: "R",
    one: "r",
    purpose: "",
    title: ["t"],
    columns: [
      { id: "t", name: "T", kind: "text" as const },
      { id: "w", name: "W", kind: "several choices" as const, options },
    ],
  });
  expect(registerProblems(shape([]), around).map((p) => p.code)).toEqual(["no-options"]);
  expect(registerProblems(shape(["a\nb"]), around).map((p) => p.code)).toEqual(["bad-option"]);
  expect(shapeChange(shape(["a", "b"]), shape(["b"])).gone).toMatchObject([{ options: ["a"] }]);
});
