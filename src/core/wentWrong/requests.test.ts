import { personParty } from "../form";
import { KINDS } from "@/kinds";
import { addLength, workingBetween, type WorkingCalendar } from "../calendar";
import type { Field } from "../form";
import { compileRelease, decide, NEW_REQUEST } from "../engine";
import { officeFacts, OFFICE_HOURS } from "../engine/testOffice";
import { ans, decideBy, definitionOf, fin, harness, T0, YES_NO } from "../engine/testRequest";
import { problemsOf } from "../problems";
import type { Step } from "../route";

/** Requests that were once decided wrongly, or by nobody. */
const REGISTRY = { by: "group", group: "registry" } as const;
const all = (answers = YES_NO("1"), how: object = { how: "all" }): Step =>
  ({ ...decideBy("check", REGISTRY, answers), who: { rule: REGISTRY, ...how } }) as Step;
const asked = (step: Step, more = {}) => {
  const h = harness(definitionOf([step, fin("end", "approved")], more));
  h.start();
  const hand = (actor: string, to: string) => {
    const task = h.open().find((t) => t.candidates.some((c) => c.person === actor))!;
    return h.send({ type: "hand over", actor, task: task.id, to, note: "" });
  };
  return { h, hand };
};

it("tasks handed to one person give them one vote", () => {
  const { h, hand } = asked(all());
  hand("carmel", "declan");
  hand("fergus", "declan");
  expect(h.asked()).toEqual(["declan"]);
  h.answer("declan", "approve");
  expect(h.state.result?.name).toBe("approved");
  expect(Object.values(h.state.tasks).filter((t) => t.status === "answered")).toHaveLength(1);
});

it("all of three, the refusal first on the sheet: one yes of three decides nothing", () => {
  const { h } = asked(
    all([ans("decline", "refuse", [fin("no", "declined", "refuse")]), ans("approve", "agree")]),
  );
  h.answer("carmel", "approve");
  expect(h.state.status).toBe("under way");
});

it("a rung that hands three open tasks to one person leaves one", () => {
  const limit = {
    otherwise: { amount: 1, unit: "working days" },
    rungs: [{ id: "r", when: "at", action: { do: "hand over", to: { by: "duty", duty: "Director" } } }],
  };
  const { h } = asked({ ...all(), limit } as Step);
  const timer = Object.values(h.state.timers)[0]!;
  h.at(timer.at);
  h.send({ type: "time reached", timer: timer.id });
  expect(h.asked()).toEqual(["eithne"]);
});

it("a share is of those asked now", () => {
  const limit = {
    otherwise: { amount: 1, unit: "working days" },
    rungs: [{ id: "r", when: "at", action: { do: "add", who: { by: "duty", duty: "Director" } } }],
  };
  const { h } = asked({ ...all(YES_NO("1"), { how: "share", share: 60 }), limit } as Step);
  const timer = Object.values(h.state.timers)[0]!;
  h.at(timer.at);
  h.send({ type: "time reached", timer: timer.id });
  h.answer("carmel", "approve");
  h.answer("declan", "approve");
  // 60% of four are three.
  expect(h.state.status).toBe("under way");
  h.answer("eithne", "approve");
  expect(h.state.status).toBe("finished");
});

it("a rung whose people cannot be worked out says why, and leaves the task where it is", () => {
  const fields: Field[] = [
    { id: "total", name: "Total", kind: "money" },
    {
      id: "finder",
      name: "Finder",
      kind: "person",
      worked: "if 1 / (Total - Total) > 0 then Requester else null",
    },
  ];
  const to = { by: "formula", formula: "Finder" };
  const limit = {
    otherwise: { amount: 1, unit: "working days" },
    rungs: [{ id: "r", when: "at", action: { do: "hand over", to } }],
  };
  const { h } = asked({ ...decideBy("check", { by: "manager" }, YES_NO("1")), limit } as Step, { fields });
  const timer = Object.values(h.state.timers)[0]!;
  h.at(timer.at);
  h.send({ type: "time reached", timer: timer.id });
  expect(h.asked()).toEqual(["brendan"]);
  expect(h.events.at(-1)).toMatchObject({ type: "rung fired", found: false, unclear: { code: "unclear" } });
});

it("a rung does not ask again whoever has answered", () => {
  const limit = {
    otherwise: { amount: 1, unit: "working days" },
    rungs: [{ id: "r", when: "at", action: { do: "add", who: REGISTRY } }],
  };
  const { h } = asked({ ...all(), limit } as Step);
  h.answer("carmel", "approve");
  const timer = Object.values(h.state.timers)[0]!;
  h.at(timer.at);
  h.send({ type: "time reached", timer: timer.id });
  expect(h.asked()).toEqual(["declan", "fergus"]);
});

it("a refusal keeps what was filled in with it", () => {
  const access = { check: { reason: "edit" } };
  const { h } = asked(decideBy("check", { by: "manager" }, YES_NO("1")), { access });
  h.answer("brendan", "decline", "no", { reason: "frost" });
  expect(h.state.data["reason"]).toBe("frost");
});

it("somebody who types nothing changes nothing, in whatever order a row's columns are kept", () => {
  const lines: Field = {
    id: "lines",
    name: "Lines",
    kind: "lines",
    fields: [
      { id: "quantity", name: "Quantity", kind: "number" },
      { id: "item", name: "Item", kind: "text" },
    ],
  };
  const d = definitionOf([decideBy("check", { by: "manager" }, YES_NO("1")), fin("end", "done")], {
    fields: [lines],
  });
  const release = compileRelease(d, {}, KINDS);
  const facts = officeFacts(T0);
  const data = { lines: [{ "#": "1", quantity: "2", item: "frost" }] };
  const start = { type: "start", actor: "una", requester: personParty("una"), number: "T-1", data } as const;
  const first = decide(release, NEW_REQUEST, start, facts);
  if (!first.ok) throw new Error(first.refusal.code);
  const state = { ...first.state, data: { lines: [{ "#": "1", item: "frost", quantity: "2" }] } };
  const task = Object.keys(state.tasks)[0]!;
  const answer = { type: "answer", actor: "brendan", task, answer: "approve", note: "", data: {} } as const;
  const r = decide(release, state, answer, facts);
  expect(r.ok && r.events.map((e) => e.type)).not.toContain("data changed");
});

it("two steps of one id, and rungs, are problems", () => {
  const twice = definitionOf([
    decideBy("d", { by: "manager" }, YES_NO("1")),
    decideBy("d", { by: "manager" }, YES_NO("2")),
    fin("end", "done"),
  ]);
  expect(problemsOf(twice, { kinds: KINDS, registers: {} }).map((p) => p.code)).toContain("step-twice");
});

it("work out rounds money, and keeps no text in a number", () => {
  const fields: Field[] = [
    { id: "total", name: "Total", kind: "money" },
    { id: "part", name: "Part", kind: "money" },
  ];
  const set = (value: string) => {
    const step = { id: "w", name: "W", kind: "work out", set: [{ field: "part", value }] } as Step;
    const h = harness(definitionOf([step, fin("end", "done")], { fields }));
    h.start({ total: "100" });
    return h;
  };
  expect(set("Total / 3").state.data["part"]).toBe("33.33");
  expect(set('"many"').state.stuck[0]!.reason.code).toBe("unclear");
});

it("an empty field called like a step does not read as what the step came to", () => {
  const fields: Field[] = [{ id: "director", name: "Director", kind: "text" }];
  const step = { ...decideBy("d", { by: "manager" }, YES_NO("1")), name: "Director" } as Step;
  const choose: Step = {
    id: "c",
    name: "C",
    kind: "choose",
    ways: [
      { id: "empty", name: "empty", when: "Director = null", steps: [fin("e", "empty")] },
      { id: "other", name: "other", steps: [] },
    ],
  };
  const h = harness(definitionOf([step, choose, fin("end", "other")], { fields }));
  h.start({});
  h.answer("brendan", "approve");
  expect(h.state.result?.name).toBe("empty");
});

it("empty branches in a circle do not exhaust the stack", () => {
  const together = {
    id: "t",
    name: "T",
    kind: "together",
    branches: [{ id: "a", name: "A", steps: [] }],
  } as Step;
  const d = definitionOf([
    together,
    { id: "j", name: "J", kind: "jump", to: "t" } as Step,
    fin("end", "done"),
  ]);
  const start = {
    type: "start",
    actor: "una",
    requester: personParty("una"),
    number: "T-1",
    data: { total: "1" },
  } as const;
  const r = decide(compileRelease(d, {}, KINDS), NEW_REQUEST, start, officeFacts(T0));
  expect(r).toMatchObject({ ok: true, state: { status: "stuck" } });
});

it("two rungs of one moment are two timers", () => {
  const rungs = ["a", "b"].map((id) => ({ id, when: "at", action: { do: "remind" } }));
  const limit = { otherwise: { amount: 1, unit: "working days" }, rungs };
  const { h } = asked({ ...decideBy("check", { by: "manager" }, YES_NO("1")), limit } as Step);
  expect(Object.keys(h.state.timers)).toHaveLength(2);
});

describe("calendars", () => {
  const on = (spans: [string, string][]): WorkingCalendar => ({
    ...OFFICE_HOURS,
    week: { ...OFFICE_HOURS.week, "2": spans },
  });
  const from = Date.UTC(2026, 2, 3, 8);
  const hours = (c: WorkingCalendar, n: number) => addLength(c, from, { amount: n, unit: "working hours" });
  it("with spans in any order, overlapping, or over midnight", () => {
    const unsorted = on([
      ["13:00", "17:00"],
      ["09:00", "12:00"],
    ]);
    expect(hours(unsorted, 2)).toBe(Date.UTC(2026, 2, 3, 11));
    const overlapping = on([
      ["09:00", "15:00"],
      ["13:00", "17:00"],
    ]);
    expect(workingBetween(overlapping, from, from + 24 * 3_600_000) / 3_600_000).toBe(8);
    expect(workingBetween(on([["22:00", "06:00"]]), from, Date.UTC(2026, 2, 4, 8)) / 3_600_000).toBe(8);
  });
  it("over many years", () => {
    expect(addLength(OFFICE_HOURS, from, { amount: 3000, unit: "working days" })).not.toBeNull();
    const open: WorkingCalendar = {
      ...OFFICE_HOURS,
      zone: "UTC",
      holidays: [],
      week: Object.fromEntries(
        Array.from({ length: 7 }, (_, i) => [String(i + 1), [["00:00", "24:00"]]]),
      ) as unknown as WorkingCalendar["week"],
    };
    const year = (y: number) => Date.UTC(y, 0, 1);
    expect(workingBetween(open, year(2011), year(2026)) / 3_600_000).toBe(
      (year(2026) - year(2011)) / 3_600_000,
    );
  });
});
