import { KINDS } from "@/kinds";
import { Temporal } from "temporal-polyfill";
import type { WorkingCalendar } from "../calendar";
import { valueText } from "../expression";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  holdersOf,
  prepareForm,
  recordScope,
  type FactsData,
  type Field,
  type FormData,
  type RegisterShape,
} from ".";

const hours: [string, string][] = [["09:00", "17:00"]];
const calendar: WorkingCalendar = {
  key: "office",
  name: "Office",
  zone: "Europe/Dublin",
  week: { "1": hours, "2": hours, "3": hours, "4": hours, "5": hours },
  holidays: ["2026-03-17"],
};
const person = (id: string, department: string) => ({
  id,
  name: id[0]!.toUpperCase() + id.slice(1),
  email: `${id}@quillhaven.example`,
  jobTitle: "Officer",
  department,
  site: "Tower House",
});
const facts: FactsData = {
  people: {
    una: person("una", "Registry"),
    brendan: person("brendan", "Registry"),
    eithne: person("eithne", "Directorate"),
    carmel: person("carmel", "Conservation"),
  },
  registers: {},
  records: {},
  office: {
    managers: { una: "brendan", brendan: "eithne" },
    duties: [
      { duty: "Budget holder", person: "carmel", place: "Conservation" },
      { duty: "Budget holder", person: "eithne", place: null },
    ],
    calendar,
  },
};
const FIELDS: Field[] = [
  { id: "who", name: "For whom", kind: "person" },
  { id: "boss", name: "Manager", kind: "person", worked: "manager of(For whom)" },
  { id: "boss2", name: "Manager above", kind: "text", worked: "manager of(manager of(For whom)).name" },
  {
    id: "budget",
    name: "Budget holder",
    kind: "text",
    worked: 'string join(holders of("Budget holder", For whom.department).name, ", ")',
  },
  { id: "from", name: "From", kind: "date" },
  { id: "ready", name: "Ready by", kind: "date", worked: "add working days(From, 3)" },
  { id: "days", name: "Working days", kind: "number", worked: "working days between(today(), From)" },
  {
    id: "items",
    name: "Items",
    kind: "lines",
    fields: [
      { id: "kind", name: "Kind", kind: "choice", options: ["paper", "textile"] },
      { id: "price", name: "Price", kind: "money" },
    ],
  },
  {
    id: "paper",
    name: "Paper total",
    kind: "money",
    worked: 'total by(Items, "Kind", "Price")[key = "paper"][1].total',
  },
  { id: "many", name: "Kinds", kind: "number", worked: "count(distinct values(Items.Kind))" },
];
const { form, problems } = prepareForm(FIELDS, { registers: {}, kinds: KINDS });
const evaluate = (data: FormData, known = facts) =>
  evaluateForm(
    compileForm(form, KINDS.fields),
    data,
    () => "edit",
    factsFrom(known, { now: Temporal.ZonedDateTime.from("2026-03-12T10:00[Europe/Dublin]") }, KINDS.fields),
  ).data;
const DATA: FormData = {
  who: "una",
  from: "2026-03-16",
  items: [
    { "#": "1", kind: "paper", price: "10.10" },
    { "#": "2", kind: "textile", price: "5" },
    { "#": "3", kind: "paper", price: "0.20" },
  ],
};

it("formulas of a form ask the office: managers, duties, the working calendar", () => {
  expect(problems).toEqual([]);
  expect(evaluate(DATA)).toMatchObject({
    boss: "brendan",
    boss2: "Eithne",
    budget: "Eithne",
    ready: "2026-03-20",
    days: "2",
    paper: "10.3",
    many: "2",
  });
  expect(evaluate({ ...DATA, who: "carmel" })).toMatchObject({ boss: null, boss2: null, budget: "Carmel" });
});

it("a place that comes to nothing is no place, and not every place", () => {
  expect(evaluate({ ...DATA, who: null })).toMatchObject({ budget: "Eithne" });
  const all = FIELDS.map((f) =>
    f.id === "budget" ? { ...f, worked: 'string join(holders of("Budget holder").name, ", ")' } : f,
  );
  const { form: other } = prepareForm(all, { registers: {}, kinds: KINDS });
  const made = factsFrom(
    facts,
    { now: Temporal.ZonedDateTime.from("2026-03-12T10:00[Europe/Dublin]") },
    KINDS.fields,
  );
  const { data } = evaluateForm(compileForm(other, KINDS.fields), DATA, () => "edit", made);
  expect(data["budget"]).toBe("Carmel, Eithne");
});

it("a browser, which has the office as plain JSON, comes to the same", () => {
  expect(evaluate(DATA, JSON.parse(JSON.stringify(facts)) as FactsData)).toEqual(evaluate(DATA));
});

it("without an office such formulas come to nothing, and the rest goes on", () => {
  const { office: _office, ...bare } = facts;
  expect(evaluate(DATA, bare)).toMatchObject({ boss: null, ready: null, days: null, paper: "10.3" });
});

it("who holds a duty for the place comes before who holds it everywhere", () => {
  const duties = facts.office!.duties;
  expect(holdersOf(duties, "Budget holder", "Conservation")).toEqual(["carmel"]);
  expect(holdersOf(duties, "Budget holder", "Registry")).toEqual(["eithne"]);
  expect(holdersOf(duties, "Budget holder", null)).toEqual(["carmel", "eithne"]);
  expect(holdersOf(duties, "Porter", null)).toEqual([]);
});

it("a choice held against what it does not offer is a mistake with a mend, also inside lines", () => {
  const wrong = prepareForm(
    [...FIELDS, { id: "c", name: "C", kind: "number", worked: 'count(Items[Kind = "papre"])' }],
    { registers: {}, kinds: KINDS },
  ).problems;
  expect(wrong.map((p) => [p.problem.message, p.problem.mend?.insert])).toEqual([
    ['"papre" is none of its choices: paper, textile.', 'count(Items[Kind = "paper"])'],
  ]);
});

it("the columns of a register are names with their kinds, links followed", () => {
  const makers: RegisterShape = {
    format: "cobble-step/register@1",
    key: "makers",
    name: "Makers",
    one: "maker",
    purpose: "",
    title: ["n"],
    columns: [{ id: "n", name: "Name", kind: "text" }],
  };
  const things: RegisterShape = {
    ...makers,
    key: "things",
    columns: [
      { id: "m", name: "Maker", kind: "look-up", register: "makers" },
      { id: "s", name: "State", kind: "choice", options: ["new", "old"] },
    ],
  };
  const scope = recordScope(things, { registers: { makers, things }, kinds: KINDS });
  expect(scope["State"]).toEqual({ t: "text", options: ["new", "old"] });
  expect(scope["Maker"]).toMatchObject({ t: "context", what: "makers", fields: { Name: { t: "text" } } });
});

it("a value of a formula is shown in words that a person would use", () => {
  const around = factsFrom(
    facts,
    { now: Temporal.ZonedDateTime.from("2026-03-12T10:00[Europe/Dublin]") },
    KINDS.fields,
  );
  expect(valueText(around.person("una"))).toBe("Una");
  expect(valueText(around.person("nobody"))).toBe("nobody");
});
