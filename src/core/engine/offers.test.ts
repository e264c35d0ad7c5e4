import { applyEdit, type Step, type StepOf } from "../route";
import { problemsOf } from "../problems";
import { personParty, type Field, type FormData, type RegisterShape, type StoredRecord } from "../form";
import { KINDS } from "@/kinds";
import { compileRelease, decide, forgetEvents, NEW_REQUEST, replay, samplePath, type EngineFacts } from ".";
import { MOST_OFFERED } from "./offers";
import { officeFacts } from "./testOffice";
import { definitionOf, fin, harness, proceduresOf, T0 } from "./testRequest";

const ROOMS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "rooms",
  name: "Rooms",
  one: "room",
  purpose: "",
  columns: [
    { id: "called", name: "Called", kind: "text" },
    { id: "seats", name: "Seats", kind: "number" },
  ],
  title: ["called"],
};
const ROWS: Record<string, StoredRecord> = Object.fromEntries(
  ["1", "2", "3"].map((id) => [id, { id, called: `Room ${id}`, seats: `${Number(id) * 10}` }]),
);
const FIELDS: Field[] = [
  { id: "seats", name: "Why", kind: "number" },
  { id: "room", name: "Room", kind: "look-up", register: "rooms" },
  { id: "who", name: "Who", kind: "person" },
  { id: "way", name: "Way", kind: "choice", options: ["by hand", "by post", "by van"] },
  {
    id: "days",
    name: "Days",
    kind: "lines",
    fields: [
      { id: "day", name: "Day", kind: "text" },
      { id: "where", name: "Where", kind: "look-up", register: "rooms" },
    ],
  },
];
const FIND: Step = { ...KINDS.steps.find.blank("f"), name: "Free", register: "rooms" } as Step;
const pick = (offers: { field: string; of: string }[], more: object = {}): Step =>
  ({
    id: "c",
    name: "Pick",
    kind: "complete",
    who: { rule: { by: "person", person: "carmel" }, how: "one" },
    button: "Done",
    offers,
    ...more,
  }) as Step;
const EDIT = { room: "edit", who: "edit", way: "edit", days: "edit" } as const;
/** Nothing of it is filled in at the start. */
const SEE = { room: "see", who: "see", way: "see", days: "see" } as const;
const ACCESS = { start: SEE, c: EDIT, d: EDIT };
const drive = (route: Step[], fields = FIELDS, more = {}) =>
  harness(
    definitionOf([...route, fin("e", "done")], { fields, access: ACCESS, ...more }),
    {},
    { rooms: ROOMS },
    () => ({
      registers: { rooms: ROOMS },
      records: { rooms: ROWS },
    }),
  );
function found(h: ReturnType<typeof drive>, ids: string[]) {
  const effect = { ...Object.values(h.state.pending)[0]!, kind: "find" as const };
  h.send({ type: "effect done", effect, result: { register: "rooms", ids, titles: [], more: false } });
}
const offered = (h: ReturnType<typeof drive>) => Object.values(h.state.visits)[0]?.offers;
const send = (h: ReturnType<typeof drive>, data: FormData, answer = "done") =>
  h.answer("carmel", answer, "x", data);

const DECIDE: StepOf<"decide"> = {
  id: "d",
  name: "Decide",
  kind: "decide",
  who: { rule: { by: "person", person: "carmel" }, how: "one" },
  offers: [{ field: "room", of: "Free" }],
  answers: [
    { id: "yes", label: "Yes", tone: "agree", steps: [] },
    { id: "no", label: "No", tone: "refuse", steps: [] },
  ],
};

describe("what a step offers", () => {
  it("is what was found, in its order and each once, and nothing else is taken", () => {
    const h = drive([FIND, pick([{ field: "room", of: "concatenate(Free, [Free[1]])" }])]);
    h.start({ seats: "10" });
    found(h, ["3", "1"]);
    expect(offered(h)).toEqual({ room: ["3", "1"] });
    expect(send(h, { room: "2" })).toMatchObject({
      ok: false,
      refusal: { code: "form", data: { problems: [{ code: "not-offered", path: "room" }] } },
    });
    expect(send(h, { room: "1" })).toMatchObject({ ok: true });
    expect(h.state).toMatchObject({ status: "finished", data: { room: "1" } });
  });

  it("is held against each of several, however many there must be of them", () => {
    const several = FIELDS.map((f): Field =>
      f.id === "room" ? { ...f, kind: "several records", min: "2", max: "2" } : f,
    );
    const route = [FIND, pick([{ field: "room", of: "Free" }])];
    const d = definitionOf([...route, fin("e", "done")], { fields: several, access: ACCESS });
    const wrong = problemsOf(d, { registers: { rooms: ROOMS }, kinds: KINDS });
    expect(wrong.filter((p) => p.where.place === "offers room")).toEqual([]);
    for (const [room, takes] of [
      ["3\n1", true],
      ["1\n3", true],
      ["1", false],
      ["1\n2", false],
    ] as const) {
      const h = drive(route, several);
      h.start({ seats: "10" });
      found(h, ["3", "1"]);
      expect(offered(h)).toEqual({ room: ["3", "1"] });
      expect([room, send(h, { room }).ok]).toEqual([room, takes]);
    }
  });

  it("may be left out where the form allows that, and must be picked where it does not", () => {
    for (const needed of [undefined, "true"]) {
      const fields = FIELDS.map((f) => (f.id === "room" && needed ? { ...f, needed: "true" } : f));
      const h = drive([FIND, pick([{ field: "room", of: "Free" }])], fields);
      h.start({ seats: "10" });
      found(h, []);
      expect(offered(h)).toEqual({ room: [] });
      expect(send(h, {}).ok).toBe(needed === undefined);
    }
  });

  it("is fixed when somebody is asked, however the records are by then", () => {
    const seats: Record<string, StoredRecord> = { ...ROWS };
    const h = harness(
      definitionOf([FIND, pick([{ field: "room", of: "Free[Seats >= 20]" }]), fin("e", "done")], {
        fields: FIELDS,
        access: ACCESS,
      }),
      {},
      { rooms: ROOMS },
      () => ({ registers: { rooms: ROOMS }, records: { rooms: seats } }),
    );
    h.start({});
    found(h, ["1", "2", "3"]);
    expect(offered(h)).toEqual({ room: ["2", "3"] });
    seats["2"] = { ...ROWS["2"]!, seats: "1" };
    expect(send(h, { room: "2" }).ok).toBe(true);
  });

  it("holds for people, choices and columns of line items, row by row", () => {
    const h = drive([
      FIND,
      pick([
        { field: "who", of: "[Requester]" },
        { field: "way", of: '["by van", "by hand"]' },
        { field: "where", of: "Free[1]" },
      ]),
    ]);
    h.start({});
    found(h, ["2", "1"]);
    expect(offered(h)).toEqual({ who: ["una"], way: ["by van", "by hand"], where: ["2"] });
    const days = (where: string[]) => where.map((w, i) => ({ "#": `${i + 1}`, day: "x", where: w }));
    expect(send(h, { who: "carmel", way: "by post", days: days(["2", "1"]) })).toMatchObject({
      refusal: {
        data: {
          problems: [
            { code: "not-offered", path: "who" },
            { code: "not-offered", path: "way" },
            { code: "not-offered", path: "days/2/where", data: { row: 2 } },
          ],
        },
      },
    });
    expect(send(h, { who: "una", way: "by hand", days: days(["2", "2"]) }).ok).toBe(true);
  });

  it("counts for what stood there before, too, and not where the field is not filled in there", () => {
    const access = { c: { room: "edit", way: "see" } } as const;
    const offers = [
      { field: "room", of: "Free" },
      { field: "way", of: '["by van"]' },
    ];
    const h = drive([FIND, pick(offers)], FIELDS, { access });
    h.start({ room: "2", way: "by post" });
    found(h, ["1"]);
    expect(send(h, {})).toMatchObject({
      refusal: { data: { problems: [{ code: "not-offered", path: "room" }] } },
    });
    expect(send(h, { room: "1" }).ok).toBe(true);
    expect(h.state.data["way"]).toBe("by post");
  });

  it("is nothing to whoever is asked for changes: they fill in what a start would", () => {
    const decide = {
      ...DECIDE,
      answers: [...DECIDE.answers, { id: "back", label: "Back", tone: "plain", returns: true, steps: [] }],
    } as Step;
    const h = drive([FIND, decide], FIELDS, { access: { start: EDIT, d: EDIT } });
    h.start({ room: "1" });
    found(h, ["1"]);
    expect(offered(h)).toEqual({ room: ["1"] });
    expect(send(h, {}, "back").ok).toBe(true);
    expect(offered(h)).toBeUndefined();
    expect(h.answer("una", "sent", "", { room: "3" }).ok).toBe(true);
    expect(h.state.data["room"]).toBe("3");
  });

  it("does not hold up who refuses, and what was not offered is not kept", () => {
    const h = drive([FIND, DECIDE]);
    h.start({});
    found(h, ["1"]);
    expect(send(h, { room: "2", way: "by van" }, "yes").ok).toBe(false);
    expect(send(h, { room: "2", way: "by van" }, "no").ok).toBe(true);
    expect(h.state.data).toMatchObject({ way: "by van" });
    expect(h.state.data["room"] ?? null).toBeNull();
  });
});

describe("what cannot be offered", () => {
  it.each([
    ["what cannot be worked out", { field: "way", of: '["by van"][1 / 0 = 1]' }],
    ["what is no choice of the field", { field: "way", of: '["by air"]' }],
    ["somebody who is nobody here", { field: "who", of: 'get value({a: Free[1]}, "a")' }],
  ])("%s leaves the step stuck instead of offering less", (_, offer) => {
    const h = drive([FIND, pick([offer])]);
    h.start({});
    found(h, ["1"]);
    expect(h.state.visits).toEqual({});
    expect(h.state.stuck).toMatchObject([{ step: "c", reason: { code: "unclear" } }]);
  });

  it("too much is said with the limit", () => {
    const many = Array.from({ length: MOST_OFFERED + 1 }, (_, i) => `o${i}`);
    const fields = FIELDS.map((f) => (f.id === "way" ? { ...f, options: many } : f));
    const of = `for i in 0..${MOST_OFFERED} return "o" + string(i)`;
    const stuck = drive([pick([{ field: "way", of }])], fields);
    stuck.start({});
    expect(stuck.state.stuck).toMatchObject([
      { reason: { code: "too-many-offered", data: { field: "Way", limit: MOST_OFFERED } } },
    ]);
    const fits = drive([pick([{ field: "way", of: of.replace("0..", "1..") }])], fields);
    fits.start({});
    expect(offered(fits)!["way"]).toHaveLength(MOST_OFFERED);
  });

  it("somebody named by an owner is asked only where that is known; else it is stuck as before", () => {
    const step = pick([{ field: "way", of: '["by van"][1 / 0 = 1]' }], {
      who: { rule: { by: "person", person: "gone" }, how: "one" },
    });
    const h = drive([step]);
    h.start({});
    const { token, reason } = h.state.stuck[0]!;
    expect(reason.code).toBe("nobody");
    expect(h.send({ type: "name", actor: "brendan", token, to: "carmel", note: "x" }).ok).toBe(true);
    expect(h.state.stuck).toMatchObject([{ token, reason: { code: "unclear" } }]);
    expect(h.open()).toEqual([]);
  });
});

it("is said by the checker: a field that is not there, is not picked, or is not filled in", () => {
  const codes = (offers: { field: string; of: string }[], access: object = ACCESS) =>
    problemsOf(definitionOf([pick(offers), fin("e", "done")], { fields: FIELDS, access } as never), {
      kinds: KINDS,
      registers: { rooms: ROOMS },
    })
      .filter((p) => p.where.place?.startsWith("offers"))
      .map((p) => p.code);
  expect(codes([{ field: "way", of: '["by van"]' }])).toEqual([]);
  expect(codes([{ field: "gone", of: '["by van"]' }])).toContain("no-field");
  expect(codes([{ field: "seats", of: "1" }])).toContain("not-picked");
  const van = { field: "way", of: '["by van"]' };
  expect(codes([van, { ...van, of: '["by hand"]' }])).toEqual(["offered-twice"]);
  expect(codes([{ field: "way", of: " " }])).toContain("no-offer");
  expect(codes([{ field: "room", of: '["by van"]' }])).toContain("wrong-type");
  expect(codes([{ field: "way", of: '["by van"]' }], {})).toContain("offered-to-nobody");
});

it("follows a renamed step, and in a procedure is its own", () => {
  const route = [FIND, pick([{ field: "room", of: "Free" }]), fin("e", "done")];
  const d = definitionOf(route, { fields: FIELDS, access: ACCESS });
  const around = { kinds: KINDS, registers: { rooms: ROOMS } };
  const renamed = applyEdit(d, { op: "step.set", id: "f", patch: { name: "Empty rooms" } } as never, around);
  expect(JSON.stringify(renamed)).toContain('"of":"Empty rooms"');
  const inner = { ...d, key: "p", procedure: true as const, starts: [] };
  const hand = { ...KINDS.steps["hand to"].blank("h"), name: "Inner", procedure: "p" } as Step;
  const h = harness(
    definitionOf([hand, fin("z", "done")], { fields: [] }),
    {},
    { rooms: ROOMS },
    () => ({ registers: { rooms: ROOMS }, records: { rooms: ROWS } }),
    proceduresOf({ p: [inner] }, { rooms: ROOMS }),
  );
  h.start({});
  const [asked] = h.events.flatMap((e) =>
    e.type === "in call" && e.event.type === "effect asked" ? [e.event.effect] : [],
  );
  const call = Object.keys(h.state.calls)[0]!;
  h.send({
    type: "effect done",
    effect: { id: `${call}~${asked!.id}`, step: asked!.step, kind: "find" },
    result: { register: "rooms", ids: ["2"], titles: [], more: false },
  });
  expect(h.answer("carmel", "done", "", { room: "1" })).toMatchObject({ ok: false });
  expect(h.answer("carmel", "done", "", { room: "2" })).toMatchObject({ ok: true });
  expect(h.state.status).toBe("finished");
});

it("a sample picks the first of what is offered, and goes on where nothing was looked for", () => {
  const needed = FIELDS.map((f) => (f.id === "way" ? { ...f, needed: "true" } : f));
  const path = (offers: { field: string; of: string }[]) => {
    const d = definitionOf([FIND, pick(offers), fin("e", "done")], { fields: needed, access: ACCESS });
    return samplePath(
      compileRelease(d, { rooms: ROOMS }, KINDS),
      "una",
      { room: "2" },
      officeFacts(T0, { registers: { rooms: ROOMS }, records: { rooms: ROWS } }),
    );
  };
  expect(
    path([
      { field: "room", of: "Free" },
      { field: "way", of: '["by van"]' },
    ]),
  ).toMatchObject({
    result: "done",
    stop: null,
  });
});

it("is forgotten with the field", () => {
  const h = drive([pick([{ field: "way", of: '["by van"]' }])]);
  h.start({});
  send(h, { way: "by van" });
  const gone = { fields: new Set(["way"]), inCalls: true, asker: true, notesOf: null };
  const release = compileRelease(definitionOf([fin("e", "done")], { fields: FIELDS }), {}, KINDS);
  const left = forgetEvents(h.events, release, gone);
  expect(JSON.stringify(left)).not.toContain("by van");
  expect(replay(left, NEW_REQUEST).status).toBe("finished");
});

it("a form is not sent before what it asks of records is known; a sample waits for nothing", () => {
  const asks = {
    ...FIELDS[0]!,
    hand: "in" as const,
    checks: [{ must: "Seats > 4", say: "Full.", records: { register: "rooms", there: "none" as const } }],
  };
  const release = compileRelease(
    definitionOf([fin("e", "done")], { fields: [asks], access: {} }),
    { rooms: ROOMS },
    KINDS,
  );
  const facts = officeFacts(T0, { registers: { rooms: ROOMS }, records: { rooms: ROWS } });
  const start = {
    type: "start" as const,
    actor: "una",
    requester: personParty("una"),
    number: "R-1",
    data: {},
  };
  const send = (known: EngineFacts) => decide(release, NEW_REQUEST, start, known);
  expect(send(facts)).toEqual({ ok: false, refusal: { code: "records-unasked", data: {} } });
  const answer = (there: boolean) => send({ ...facts, recordsThere: () => ({ there }) });
  expect(answer(true)).toMatchObject({ refusal: { data: { problems: [{ code: "check" }] } } });
  expect(answer(false)).toMatchObject({ ok: true });
  // What is handed over by another process is held as well.
  expect(decide(release, NEW_REQUEST, { ...start, handed: true }, facts)).toMatchObject({
    refusal: { code: "records-unasked" },
  });
  expect(samplePath(release, "una", {}, facts)).toMatchObject({ result: "done", stop: null });
});
