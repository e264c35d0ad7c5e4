import type { Field } from "../form";
import {
  checkOfPass,
  compileForm,
  evaluateForm,
  formForReader,
  MAX_REASON,
  passedShown,
  prepareForm,
  type Access,
} from "../form";
import { KINDS } from "@/kinds";
import { officeFacts } from "./testOffice";
import type { ProcessDefinition, Step } from "../route";
import { ans, decideBy, definitionOf, fin, harness, YES_NO } from "./testRequest";

const FIELDS: Field[] = [
  {
    id: "when",
    name: "When",
    kind: "section",
    // A check of the whole form: it stands at a section, and is told where something can be done about it.
    checks: [
      { must: "From < Until", say: "It ends before it begins.", about: ["until", "from", "hidden"] },
      { must: "Seats <= 10", say: "That is more than the room holds.", passable: true },
    ],
    fields: [
      { id: "from", name: "From", kind: "number" },
      { id: "until", name: "Until", kind: "number" },
      { id: "hidden", name: "Hidden", kind: "number", shown: "From = 99" },
    ],
  },
  { id: "seats", name: "Seats", kind: "number" },
  {
    id: "groups",
    name: "Groups",
    kind: "lines",
    fields: [
      { id: "size", name: "Size", kind: "number" },
      {
        id: "age",
        name: "Age",
        kind: "number",
        checks: [
          { must: "Size < 30", say: "Too many.", passable: true, about: ["size"] },
          { must: "Age > 3", say: "Too young." },
        ],
      },
    ],
  },
];
const approve: Step = decideBy("approver", { by: "person", person: "carmel" }, [
  ...YES_NO("approver"),
  ans("return", "plain", [], { returns: true }),
]);
const route = (access: ProcessDefinition["access"] = {}) =>
  harness(definitionOf([approve, fin("end", "done")], { fields: FIELDS, access }));
const DATA = { from: "1", until: "2", seats: "12", groups: [{ "#": "a", size: "31", age: "5" }] };
const start = (h: ReturnType<typeof harness>, data: object, passed: Record<string, string> = {}) =>
  h.send({
    type: "start",
    actor: "una",
    requester: { kind: "person", id: "una" } as never,
    number: "T-1",
    data: data as never,
    passed,
  });
const problems = (r: ReturnType<typeof start>) =>
  !r.ok && r.refusal.code === "form"
    ? r.refusal.data.problems.map((p) => [p.path, p.data.say, p.also ?? null, p.pass ?? null])
    : [];

it("a check of the whole form is told where it is said to be, of what is shown there", () => {
  expect(problems(start(route(), { ...DATA, until: "0", seats: "1", groups: [] }))).toEqual([
    ["until", "It ends before it begins.", ["from"], null],
  ]);
});

it("is told at its own place where all it is about is kept from whoever fills it in", () => {
  const access = { start: { until: "hide", from: "hide", when: "edit", seats: "edit" } } as never;
  const checks = [{ must: "Seats < 3", say: "Full.", about: ["until", "from"] }];
  const fields = FIELDS.map((f) => (f.id === "seats" ? { ...f, checks } : f));
  const h = harness(definitionOf([approve, fin("end", "done")], { fields, access }));
  expect(problems(start(h, { seats: "5" }))).toEqual([["seats", "Full.", null, null]]);
});

it("is told in the row of its own, whatever its sender calls that", () => {
  const groups = [{ "#": "a/b", size: "31", age: "5" }];
  expect(problems(start(route(), { ...DATA, seats: "1", groups }))).toEqual([
    ["groups/a/b/size", "Too many.", null, "groups/a/b/age#0"],
  ]);
  const why = { "groups/a/b/age#0": "Two buses." };
  expect(start(route(), { ...DATA, seats: "1", groups }, why).ok).toBe(true);
});

it("what may be passed is passed by a reason of its own, and nothing else is", () => {
  const keys = { "when#1": "Chairs come along.", "groups/a/age#0": "They come in two buses." };
  expect(problems(start(route(), DATA))).toEqual([
    ["when", "That is more than the room holds.", null, "when#1"],
    ["groups/a/size", "Too many.", null, "groups/a/age#0"],
  ]);
  expect(problems(start(route(), DATA, { "when#1": "Chairs come along." }))).toHaveLength(1);
  // A blank is no reason, and what may not be passed is not, by whatever name.
  expect(problems(start(route(), DATA, { ...keys, "when#1": "  " }))).toHaveLength(1);
  const worse = { ...DATA, until: "0", groups: [{ "#": "a", size: "31", age: "1" }] };
  const all = { ...keys, "when#0": "x", "groups/a/age#1": "x", "until#0": "x" };
  expect(problems(start(route(), worse, all)).map((p) => p[1])).toEqual([
    "It ends before it begins.",
    "Too young.",
  ]);
  const h = route();
  expect(start(h, DATA, { ...keys, "seats#0": "of nothing" }).ok).toBe(true);
  expect(h.events.filter((e) => e.type === "check passed")).toMatchObject([
    { key: "when#1", say: "That is more than the room holds.", note: "Chairs come along.", by: "una" },
    { key: "groups/a/age#0", note: "They come in two buses.", fields: ["age", "size"] },
  ]);
});

it("is shown to whoever sees all it reads, until that changes", () => {
  const h = route({ approver: { seats: "edit" } });
  start(h, DATA, { "when#1": "x".repeat(MAX_REASON + 9), "groups/a/age#0": "Two buses." });
  const shown = (hide: string) =>
    passedShown(
      FIELDS,
      h.state.passed!,
      (id) => (id === hide ? "hide" : "see"),
      (id) => id,
    ).map((p) => [p.key, p.by, p.why.length]);
  expect(shown("")).toEqual([
    ["when#1", "una", MAX_REASON],
    ["groups/a/age#0", "una", 10],
  ]);
  expect(shown("seats")).toEqual([["groups/a/age#0", "una", 10]]);
  expect(shown("groups")).toHaveLength(1);
  expect(shown("size")).toHaveLength(1);
  // Whoever changes what it hangs on is asked for a reason of their own.
  const task = h.open()[0]!.id;
  const press = (seats: string, passed = {}) =>
    h.send({ type: "answer", actor: "carmel", task, answer: "approve", note: "", data: { seats }, passed });
  expect(press("15").ok).toBe(false);
  expect(press("15", { "when#1": "I have counted." }).ok).toBe(true);
  expect(h.state.passed).toMatchObject({ "when#1": { by: "carmel", why: "I have counted." } });
});

it("goes when what it hung on comes to be another value, and a refusal passes nothing", () => {
  const h = route({ approver: { seats: "edit" } });
  start(h, DATA, { "when#1": "Chairs.", "groups/a/age#0": "Two buses." });
  h.answer("carmel", "return", "why so many?");
  h.answer("una", "sent", "", { ...DATA, seats: "3", groups: [{ "#": "a", size: "3", age: "5" }] });
  expect(h.state.passed).toBeUndefined();
  const other = route({ approver: { seats: "edit" } });
  start(other, { ...DATA, seats: "1", groups: [] });
  other.send({
    type: "answer",
    actor: "carmel",
    task: other.open()[0]!.id,
    answer: "decline",
    note: "no",
    data: { seats: "77" },
    passed: { "when#1": "whatever" },
  });
  expect(other.events.some((e) => e.type === "check passed")).toBe(false);
});

it("keys tell a check of a field or a cell, and nothing else is one", () => {
  expect(checkOfPass("when#1")).toEqual({ field: "when", check: 1 });
  expect(checkOfPass("groups/a/age#0")).toEqual({ field: "age", check: 0 });
  // A row is called by whoever sends it.
  expect(checkOfPass("groups/new 1/age#12")).toEqual({ field: "age", check: 12 });
  expect(checkOfPass("groups/a#1/b\n/age#0")).toEqual({ field: "age", check: 0 });
  for (const bad of ["when", "when#", "when#x", "#1", "when#1234"]) expect(checkOfPass(bad)).toBeNull();
});

it("where a check is told says nothing of fields that are kept back", () => {
  const { form } = prepareForm(FIELDS, { registers: {}, kinds: KINDS });
  const result = evaluateForm(compileForm(form, KINDS.fields), {}, () => "see", officeFacts(0));
  const access = (id: string) => (id === "hidden" ? "hide" : "edit") as Access;
  const reader = formForReader(form, result, access, () => false);
  expect(reader.form.fields[0]!.checks![0]!.about).toEqual(["until", "from"]);
  expect(JSON.stringify(reader.form)).not.toContain("hidden");
});

it("a row that was worked out before is told anew where a field outside it has come to be shown", () => {
  const fields: Field[] = [
    { id: "more", name: "More", kind: "yes or no" },
    { id: "room", name: "Room", kind: "text", shown: "More" },
    {
      id: "rows",
      name: "Rows",
      kind: "lines",
      fields: [
        { id: "n", name: "N", kind: "number", checks: [{ must: "N < 3", say: "Full.", about: ["room"] }] },
      ],
    },
  ];
  const { form } = prepareForm(fields, { registers: {}, kinds: KINDS });
  const program = compileForm(form, KINDS.fields);
  const facts = officeFacts(0);
  const rows = [{ "#": "a", n: "5" }];
  const edit = () => "edit" as const;
  const paths = (more: boolean) =>
    evaluateForm(program, { more, rows }, edit, facts, new Map(), {}).problems.map((p) => p.path);
  expect([paths(false), paths(true), paths(false)]).toEqual([["rows/a/n"], ["room"], ["rows/a/n"]]);
});
