import { KINDS } from "@/kinds";
import { Temporal } from "temporal-polyfill";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  prepareForm,
  type Access,
  type FactsData,
  type Field,
  type FormData,
  type RegisterShape,
} from ".";

export const prices: RegisterShape = {
  format: "cobble-step/register@1",
  key: "prices",
  name: "Prices",
  one: "price",
  purpose: "",
  title: ["item"],
  columns: [
    { id: "item", name: "Item name", kind: "text" },
    { id: "price", name: "Price", kind: "money" },
  ],
};
export const facts: FactsData = {
  people: { una: { id: "una", name: "Una", email: "", jobTitle: "", department: "Registry", site: "" } },
  registers: { prices },
  records: {
    prices: {
      "1": { id: "1", item: "Gloves", price: "3.15" },
      "2": { id: "2", item: "Tissue", price: "14.00" },
    },
  },
};
export const FIELDS: Field[] = [
  {
    id: "s",
    name: "Order",
    kind: "section",
    fields: [
      { id: "urgent", name: "Urgent", kind: "yes or no" },
      { id: "by", name: "Needed by", kind: "date", shown: "Urgent = true", needed: "true" },
    ],
  },
  {
    id: "lines",
    name: "Items",
    kind: "lines",
    needed: "true",
    fields: [
      { id: "item", name: "Item", kind: "look-up", register: "prices", needed: "true" },
      { id: "qty", name: "Quantity", kind: "number", needed: "true", min: "1", max: "50" },
      { id: "sum", name: "Line total", kind: "money", worked: "Quantity * Item.Price" },
    ],
  },
  { id: "total", name: "Total", kind: "money", worked: "sum(Items.Line total)" },
  { id: "tax", name: "With tax", kind: "money", worked: "Total * 1.23" },
  { id: "why", name: "Why", kind: "long text", shown: "Total > 500", needed: "true" },
  { id: "who", name: "Who", kind: "person" },
];
export const edit = () => "edit" as Access;
export const made = () =>
  factsFrom(facts, { now: Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]") }, KINDS.fields);
export const prepared = prepareForm(FIELDS, { registers: { prices }, kinds: KINDS });
export const program = compileForm(prepared.form, KINDS.fields);
export const run = (data: FormData, access: (id: string) => Access = edit) =>
  evaluateForm(program, data, access, made());
export const codes = (data: FormData, access?: (id: string) => Access) =>
  run(data, access).problems.map((p) => `${p.path} ${p.code}`);
export const row = (n: string, item: string | null, qty: string | null) => ({ "#": n, item, qty });
