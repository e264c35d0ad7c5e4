import { z } from "zod";
import { oneOf } from "@/contracts/pieces";
import { samplePath, type Effect } from "@/core/engine";
import { compileRelease, decide, engineFacts, NEW_REQUEST, type Command } from "@/core/engine";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  fieldsFromRows,
  prepareForm,
  type Field,
  personParty,
} from "@/core/form";
import { startKind, type AnyStep, type FieldBehaviour, type Kinds } from "@/core/kinds";
import { problemsOf } from "@/core/problems";
import { applyEdit, type ProcessDefinition, type Step } from "@/core/route";
import { pathOf, stuckSentence, trailLine } from "@/core/words";
import { KINDS } from "@/kinds";
import { STEP_SCHEMAS } from "@/steps/schemas";
import { Temporal } from "temporal-polyfill";

/* The made-up kinds are no part of the program; the compiler is asked about them in compiles.test.ts. */
type Loose = Record<string, unknown>;
const load = <T>(path: string, name: string): T =>
  (jest.requireActual(`./made-up/${path}`) as Loose)[name] as T;
const kinds: Kinds = {
  ...KINDS,
  steps: { ...KINDS.steps, ripen: load<AnyStep>("steps/ripen/kind", "ripen") } as Kinds["steps"],
  fields: { ...KINDS.fields, angle: load<FieldBehaviour>("fields/angle/kind", "angle") } as Kinds["fields"],
  starts: { ...KINDS.starts, bell: load("starts/bell/kind", "bell") } as Kinds["starts"],
};
const things = {
  format: "cobble-step/register@1" as const,
  key: "things",
  name: "Things",
  one: "thing",
  purpose: "",
  columns: [],
  title: ["x"],
};
const ripen = (more: Loose = {}): Step =>
  ({ id: "r", name: "Cellar", kind: "ripen", register: "things", days: "Days", ...more }) as unknown as Step;
const definition = (...route: Step[]): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key: "t",
  name: "Cheese",
  purpose: "",
  owners: ["una"],
  numbering: { prefix: "CHEESE", digits: 4 },
  title: "",
  starts: [{ id: "b", kind: "bell", rings: "Days > 1" } as never],
  fields: [
    { id: "days", name: "Days", kind: "number" },
    { id: "turn", name: "Turn", kind: "angle" as Field["kind"] },
  ],
  access: {},
  route: [...route, { id: "end", name: "Finish", kind: "finish", result: "eaten", tone: "agree" }],
  samples: [],
});
const AROUND = { registers: { things }, kinds };
const codes = (d: ProcessDefinition) =>
  problemsOf(d, AROUND).map((p) => `${p.code} ${p.where.place ?? ""}`.trim());

it("the checker reads the formulas and asks the kind", () => {
  expect(codes(definition(ripen()))).toEqual([]);
  expect(codes(definition(ripen({ days: "Dayz" })))).toEqual(["unknown-name days"]);
  expect(codes(definition(ripen({ days: "Days >>> ((" })))).not.toEqual([]);
  expect(codes(definition(ripen({ register: "nowhere" })))).toEqual(["no-register register"]);
  const d = definition(ripen());
  expect(codes({ ...d, starts: [{ ...d.starts[0]!, rings: "Dayz > 1" } as never] })).toEqual([
    "unknown-name rings",
  ]);
  expect(codes({ ...d, fields: d.fields.map((f) => (f.id === "turn" ? { ...f, min: "5" } : f)) })).toEqual([
    "no-least min",
  ]);
});

it("renaming reaches every formula of the kinds", () => {
  const r = applyEdit(definition(ripen()), { op: "field.rename", id: "days", name: "Weeks" }, AROUND);
  expect(r.ok && r.definition.route[0]).toMatchObject({ days: "Weeks" });
  expect(r.ok && r.definition.starts[0]).toMatchObject({ rings: "Weeks > 1" });
});

it("the schema takes the step, and nothing else of its kind", () => {
  const schema = oneOf("kind", {
    ...Object.fromEntries(Object.entries(STEP_SCHEMAS).map(([k, s]) => [k, s(z.array(z.any()) as never)])),
    ripen: load<() => z.ZodType>("steps/ripen/schema", "schema")(),
  });
  expect(schema.safeParse(ripen()).success).toBe(true);
  expect(schema.safeParse(ripen({ colour: "blue" })).success).toBe(false);
});

const office = {
  people: [{ id: "una", name: "Una", manager: null, calendar: null, active: true }],
  groups: [],
  duties: [],
  absences: [],
  mailboxes: [],
  calendars: [{ key: "office", name: "Office", zone: "Europe/Dublin", week: {}, holidays: [] }],
};
const facts = engineFacts(office, { people: {}, registers: {}, records: {} }, 0, kinds.fields);

it("the engine asks, waits, goes on or is stuck, and keeps the effect's id when it is tried again", () => {
  const release = compileRelease(definition(ripen()), AROUND.registers, kinds);
  let state = NEW_REQUEST;
  const events: Parameters<typeof trailLine>[0][] = [];
  const send = (c: Command): Effect[] => {
    const d = decide(release, state, c, facts);
    if (!d.ok) throw new Error(d.refusal.code);
    state = d.state;
    events.push(...d.events);
    return d.effects;
  };
  const [asked] = send({
    type: "start",
    actor: "una",
    requester: personParty("una"),
    number: "C-1",
    data: { days: "40" },
  });
  expect(asked).toMatchObject({ kind: "ripen", days: "40" });
  const failed = { code: "went-off", data: { step: "Cellar" } } as never;
  send({ type: "effect failed", effect: asked!.id, reason: failed });
  expect(stuckSentence(state.stuck[0]!.reason, kinds)).toBe(
    '"Cellar" went off. Throw it away and start again.',
  );
  const [again] = send({ type: "retry", actor: "una", token: state.stuck[0]!.token });
  expect(again!.id).toBe(asked!.id);
  send({ type: "effect done", effect: again!, result: { taste: "good" } as never });
  expect(state.result?.name).toBe("eaten");
  const names = {
    person: (id: string) => id,
    step: () => "Cellar",
    time: () => "",
    task: () => null,
    mends: true,
    namesRecords: () => true,
    inCall: () => null,
  };
  const lines = events.flatMap((e) => trailLine(e, names, kinds)?.text ?? []);
  expect(lines).toEqual(expect.arrayContaining(["Cellar: tastes good", "Cellar was good"]));
  expect(pathOf(release, state, events).map((s) => s.outcome)).toContain("good");
  // The result that comes a second time means nothing any more.
  expect(send({ type: "effect done", effect: again!, result: { taste: "good" } as never })).toEqual([]);
});

it("a sample is followed through it", () => {
  const release = compileRelease(definition(ripen()), AROUND.registers, kinds);
  expect(samplePath(release, "una", { days: "2" }, facts)).toMatchObject({ result: "eaten", stop: null });
});

it("the form evaluates, checks and guesses the field", () => {
  const form = prepareForm(definition().fields, AROUND).form;
  const around = factsFrom(
    { people: {}, registers: {}, records: {} },
    { now: Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]") },
    kinds.fields,
  );
  const r = evaluateForm(compileForm(form, kinds.fields), { turn: "400" }, () => "edit", around);
  expect(r.problems).toMatchObject([{ path: "turn", code: "too-large" }]);
  expect(
    fieldsFromRows(
      "Angle of the date",
      kinds.fields,
      (n) => n,
      () => false,
    ).fields[0]!.kind,
  ).toBe("angle");
});

it("the start says who may start", () => {
  const start = definition().starts[0]!;
  expect(startKind(kinds, start).mayStart(start, { department: "", groups: ["ringers"] })).toBe(true);
  expect(startKind(kinds, start).mayStart(start, { department: "", groups: [] })).toBe(false);
});

it("a kind that is in no list is a mistake that is said, not passed over", () => {
  expect(() => compileRelease(definition(ripen()), {}, { ...kinds, steps: KINDS.steps })).toThrow(
    'there is no step of the kind "ripen"',
  );
});
