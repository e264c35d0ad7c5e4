import { KINDS } from "@/kinds";
import type { AfterSending, RegisterShape } from "@/core/form";
import { startKind } from "@/core/kinds";
import { problemsOf } from "@/core/problems";
import type { ProcessDefinition, Start, StartOf } from "@/core/route";

const crates: RegisterShape = {
  format: "cobble-step/register@1",
  key: "crates",
  name: "Crates",
  one: "crate",
  purpose: "",
  title: ["code"],
  columns: [
    { id: "code", name: "Code", kind: "text" },
    { id: "size", name: "Size", kind: "number" },
    { id: "due", name: "Due", kind: "date" },
  ],
};
const told = (start: Start): string[] => {
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: "t",
    name: "T",
    purpose: "",
    owners: ["una"],
    numbering: { prefix: "TTT", digits: 4 },
    title: "",
    starts: [start],
    fields: [
      { id: "crate", name: "Crate", kind: "look-up", register: "crates", needed: "true" },
      { id: "why", name: "Why", kind: "text" },
      { id: "sum", name: "Sum", kind: "number", worked: "1 + 1" },
    ],
    access: {},
    route: [{ id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" }],
    samples: [],
  };
  return problemsOf(d, { registers: { crates }, kinds: KINDS })
    .filter((p) => p.where.kind === "start")
    .map((p) => `${p.where.place} ${p.code}`);
};
const record = (more: Partial<StartOf<"record">>): Start => ({
  id: "s",
  kind: "record",
  register: "crates",
  on: "changed",
  when: "Size > 1",
  values: [],
  ...more,
});
const press = (more: Partial<StartOf<"press">>): Start => ({
  id: "s",
  kind: "press",
  who: { by: "everybody" },
  register: "crates",
  says: "Open it",
  values: [],
  ...more,
});
const days = (each: NonNullable<StartOf<"timetable">["each"]>): Start => ({
  id: "s",
  kind: "timetable",
  days: { every: "working day" },
  closed: "skip",
  at: "08:00",
  each,
});
const date = (more: Partial<StartOf<"date">>): Start => ({
  id: "s",
  kind: "date",
  register: "crates",
  column: "due",
  days: -7,
  at: "02:00",
  values: [],
  ...more,
});

it("has nothing to say of starts that are right", () => {
  expect(told(record({ into: "crate", values: [{ field: "why", value: "Code" }] }))).toEqual([]);
  expect(told(record({ each: true, when: "Size > Before.Size" }))).toEqual([]);
  expect(told(date({ when: "Size > 1", into: "crate" }))).toEqual([]);
  expect(told(press({ when: "Size > 1", into: "crate", atOnce: true }))).toEqual([]);
  expect(told(press({ values: [{ field: "crate", value: "null" }], atOnce: true }))).toEqual([]);
  expect(told(press({}))).toEqual([]);
  expect(told(days({ register: "crates", when: "Size > 1", into: "crate", values: [] }))).toEqual([]);
  expect(
    told({ id: "s", kind: "timetable", days: { every: "working day" }, closed: "skip", at: "08:00" }),
  ).toEqual([]);
});

it.each<[Start, string]>([
  [record({ register: "gone" }), "register no-register"],
  [record({ columns: ["gone"] }), "columns no-column"],
  [record({ into: "why" }), "into bad-into"],
  [record({ on: "removed", into: "crate" }), "into into-removed"],
  [record({ when: "Size > Before.Size" }), "when before-newly"],
  [record({ when: "Sise > 1" }), "when unknown-name"],
  [record({ values: [{ field: "gone", value: "1" }] }), "value gone no-field"],
  [record({ values: [{ field: "sum", value: "1" }] }), "value sum worked-out"],
  [record({ values: [{ field: "why", value: " " }] }), "value why no-value"],
  [date({ column: "size" }), "column no-date-column"],
  [date({ column: "" }), "column no-date-column"],
  [date({ register: "gone" }), "register no-register"],
  [date({ into: "why" }), "into bad-into"],
  [date({ when: "Before.Size > 1" }), "when unknown-name"],
  [days({ register: "gone", values: [] }), "register no-register"],
  [days({ register: "crates", into: "why", values: [] }), "into bad-into"],
  [days({ register: "crates", when: "Sise > 1", values: [] }), "when unknown-name"],
  [days({ register: "crates", values: [{ field: "gone", value: "1" }] }), "value gone no-field"],
  [press({ register: "gone" }), "register no-register"],
  [press({ register: "" }), "register no-register"],
  [press({ says: " " }), "says no-words"],
  [press({ into: "why" }), "into bad-into"],
  [press({ when: "Before.Size > 1" }), "when unknown-name"],
  [press({ values: [{ field: "gone", value: "1" }] }), "value gone no-field"],
  [press({ atOnce: true }), "atOnce at-once-needs"],
  [
    { id: "s", kind: "timetable", days: { every: "week", days: [] }, closed: "skip", at: "08:00" },
    "days no-day",
  ],
  [
    { id: "s", kind: "timetable", days: { every: "month", nth: 6, of: 1 }, closed: "skip", at: "08:00" },
    "days no-such-day",
  ],
])("tells what is wrong: %#", (start, problem) => {
  expect(told(start)).toContain(problem);
});

it("says of what comes once a form is sent where it leads nowhere, or a value would say where", () => {
  const sent = (leads: AfterSending["leads"]): Start => ({
    id: "s",
    kind: "form",
    who: { by: "everybody" },
    sent: { says: "Thank you.", ...(leads ? { leads } : {}) },
  });
  const at = (address: string) => told(sent({ to: "address", address }));
  expect(told(sent(undefined))).toEqual([]);
  expect(told(sent({ to: "form", process: "", values: [] }))).toEqual(["sent process no-form"]);
  expect(told(sent({ to: "form", process: "p", values: [{ name: "Crate", value: "" }] }))).toEqual([
    "sent value Crate no-value",
  ]);
  expect(at("https://quillhaven.example/thanks?for={Why}")).toEqual([]);
  expect(at("https://quillhaven.example")).toEqual([]);
  for (const bad of ["", "quillhaven.example", "https://{Why}/", "https://quillhaven.example{Why}", "{Why}"])
    expect(at(bad)).toContain("sent address no-address");
  // Its formulas are looked at like any other, and read the form alone: no step has come to anything then.
  expect(at("https://quillhaven.example/{Finish}")).toHaveLength(1);
  expect(at("https://quillhaven.example/{Nowhere}")).toHaveLength(1);
});
it("warns where every change of every record would start one", () => {
  const { when: _, ...every } = record({}) as StartOf<"record">;
  expect(told(every)).toEqual(["when every-change"]);
  expect(told({ ...every, columns: ["size"] })).toEqual([]);
});

it("is pressed by those it says", () => {
  const may = (who: StartOf<"press">["who"], asker: { department: string; groups: string[] }) =>
    startKind(KINDS, press({ who })).mayPress?.(press({ who }), asker);
  const una = { department: "Registry", groups: ["porters"] };
  expect(may({ by: "everybody" }, una)).toBe(true);
  expect(may({ by: "department", department: "Registry" }, una)).toBe(true);
  expect(may({ by: "department", department: "porters" }, una)).toBe(false);
  expect(may({ by: "group", group: "porters" }, una)).toBe(true);
  expect(may({ by: "group", group: "Registry" }, una)).toBe(false);
});

it("is not started through the form by anybody, and says itself in a sentence", () => {
  const asker = { department: "", groups: [] };
  for (const s of [record({}), press({}), date({ days: 3, working: true })]) {
    expect(startKind(KINDS, s).mayStart(s, asker)).toBe(false);
    expect(startKind(KINDS, s).words(s).length).toBeGreaterThan(10);
  }
  const monthly: Start = {
    id: "s",
    kind: "timetable",
    days: { every: "month", nth: -1, of: "working day" },
    closed: "skip",
    at: "08:00",
  };
  expect(startKind(KINDS, monthly).words(monthly)).toBe("on the last working day of each month, at 08:00");
  const early = date({ working: true });
  expect(startKind(KINDS, early).words(early)).toContain("7 working days before due of crates");
});
