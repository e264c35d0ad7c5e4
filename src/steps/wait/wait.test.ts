import { newsOf, NEW_REQUEST, replay, samplePath } from "@/core/engine";
import { officeFacts } from "@/core/engine/testOffice";
import { ans, definitionOf, decideBy, fin, harness, proceduresOf, T0 } from "@/core/engine/testRequest";
import type { FactsData, Field, RegisterShape } from "@/core/form";
import { problemsOf } from "@/core/problems";
import { pathOf } from "@/core/words";
import type { Step } from "@/core/route";
import { compileRelease } from "@/core/engine";
import { KINDS } from "@/kinds";

const HOUR = 3_600_000;
const FIELDS: Field[] = [
  { id: "total", name: "Total", kind: "money", needed: "true" },
  { id: "day", name: "Day", kind: "date" },
  { id: "reason", name: "Reason", kind: "text" },
];
const wait = (...what: object[]): Step =>
  ({
    id: "w",
    name: "Pause",
    kind: "wait",
    for: what.map((a, i) => ({ id: `a${i}`, ...a })),
    ways: [],
  }) as unknown as Step;
const LATE = {
  id: "late",
  steps: [{ id: "l", name: "Late", kind: "work out", set: [{ field: "reason", value: '"late"' }] }],
};
/** For a day, or until the reason says so; with a way for when it does not come. */
const awaited = (): Step =>
  ({
    ...wait({ length: { amount: 1, unit: "days" } }, { holds: 'Reason = "here"' }),
    ways: [LATE],
  }) as Step;
const drive = (...route: Step[]) => harness(definitionOf([...route, fin("e", "done")], { fields: FIELDS }));
const sleeps = (h: ReturnType<typeof drive>) => Object.values(h.state.sleeps);
const fire = (h: ReturnType<typeof drive>) =>
  h.send({ type: "time reached", timer: Object.values(h.state.timers)[0]!.id });
const folds = (h: ReturnType<typeof drive>) => expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);

describe("a Wait", () => {
  it("sleeps for a length, by working hours or by the clock, and goes on", () => {
    // Tuesday 3 March 2026, 10:00 in Dublin; offices close at 17:00.
    for (const [amount, unit, hours] of [
      [90, "minutes", 1.5],
      [8, "working hours", 24],
      [2, "working days", 48],
      [3, "days", 72],
    ] as const) {
      const h = drive(wait({ length: { amount, unit } }));
      h.start();
      expect([unit, sleeps(h)[0]?.until]).toEqual([unit, T0 + hours * HOUR]);
      expect(h.state).toMatchObject({ status: "under way", visits: {} });
      h.at(T0 + hours * HOUR);
      fire(h);
      expect(h.state).toMatchObject({ status: "finished", sleeps: {}, timers: {} });
      folds(h);
    }
  });

  it("sleeps until a date begins where the office is, or until a moment", () => {
    const h = drive(wait({ date: "Day" }));
    // Summer time has begun by then: the day begins an hour earlier than in Greenwich.
    h.start({ total: "1", day: "2026-04-01" });
    expect(sleeps(h)[0]!.until).toBe(Date.UTC(2026, 2, 31, 23, 0));
    const g = drive(wait({ moment: 'date and time(Day, time("09:30:00"))' }));
    g.start({ total: "1", day: "2026-04-01" });
    expect(sleeps(g)[0]!.until).toBe(Date.UTC(2026, 3, 1, 8, 30));
    const zoned = drive(wait({ moment: '@"2026-04-01T09:30:00@America/Halifax"' }));
    zoned.start();
    expect(sleeps(zoned)[0]!.until).toBe(Date.UTC(2026, 3, 1, 12, 30));
  });

  it("of several the first counts, and those that are empty do not come", () => {
    const h = drive(
      wait({ length: { amount: 9, unit: "days" } }, { date: "Day" }, { length: { amount: 2, unit: "days" } }),
    );
    h.start();
    expect(sleeps(h)[0]!.until).toBe(T0 + 48 * HOUR);
    expect(Object.keys(h.state.timers)).toHaveLength(1);
  });

  it("does not sleep where the moment has come, and says so", () => {
    for (const day of ["2026-03-03", "2020-01-01"]) {
      const h = drive(wait({ date: "Day" }));
      h.start({ total: "1", day });
      expect(h.state).toMatchObject({ status: "finished", timers: {} });
      expect(h.events.filter((e) => e.type === "step did")).toHaveLength(1);
    }
  });

  it("is stuck with the reason where it would never wake, or that cannot be told", () => {
    const stuck = (what: object) => {
      const h = drive(wait(what));
      h.start();
      return h.state.stuck.map((s) => s.reason.code);
    };
    expect(stuck({ date: "Day" })).toEqual(["no-moment"]);
    expect(stuck({ date: "Day + duration(string(1 / 0))" })).toEqual(["unclear"]);
  });

  it("takes a way of its own where the time is over first, and no other where it came", () => {
    const writer = decideBy("d", { by: "person", person: "carmel" }, [ans("yes", "agree")]);
    const here = { id: "s", name: "Set", kind: "work out", set: [{ field: "reason", value: '"here"' }] };
    const route = (): Step[] => [
      {
        id: "t",
        name: "Beside",
        kind: "together",
        branches: [
          {
            id: "b1",
            name: "one",
            steps: [awaited(), { ...here, id: "n", set: [{ field: "day", value: '@"2026-05-05"' }] }],
          },
          { id: "b2", name: "two", steps: [writer, here] },
        ],
      } as Step,
    ];
    const late = drive(...route());
    late.start();
    late.at(T0 + 24 * HOUR);
    fire(late);
    expect(late.state.data["reason"]).toBe("late");
    late.answer("carmel", "yes");
    expect(late.state).toMatchObject({ status: "finished", data: { reason: "here" } });
    folds(late);
    const came = drive(...route());
    came.start();
    came.answer("carmel", "yes");
    expect(came.state).toMatchObject({ status: "finished", data: { reason: "here" } });
    expect(came.events.some((e) => e.type === "values set" && e.step === "l")).toBe(false);
    // Held already: nothing is late.
    const held = drive(awaited());
    held.start({ total: "1", reason: "here" });
    expect(held.state).toMatchObject({ status: "finished", data: { reason: "here" } });
    // The moment has passed before it was come to, and what is waited for is not so.
    const passed = drive({
      ...(wait({ date: "Day" }, { holds: 'Reason = "here"' }) as Extract<Step, { kind: "wait" }>),
      ways: [LATE],
    } as Step);
    passed.start({ total: "1", day: "2026-01-01" });
    expect(passed.state).toMatchObject({ status: "finished", data: { reason: "late" } });
  });

  it("an owner who lets it go on says which way, where there are two", () => {
    for (const [way, reason] of [
      ["late", "late"],
      ["-on", null],
    ] as const) {
      const h = drive(awaited());
      h.start();
      const { token } = sleeps(h)[0]!;
      const skip = (chosen: string | null) =>
        h.send({ type: "skip", actor: "eithne", token, way: chosen, note: "It came by word of mouth." });
      expect(skip(null)).toMatchObject({ ok: false, refusal: { code: "choose-way" } });
      expect(skip("nothing")).toMatchObject({ ok: false });
      expect(skip(way).ok).toBe(true);
      expect(h.state).toMatchObject({ status: "finished", sleeps: {}, timers: {} });
      expect(h.state.data["reason"]).toBe(reason);
      folds(h);
    }
  });

  it("a timer that comes twice or late wakes once; an owner lets it go on; who withdraws wakes nothing", () => {
    const h = drive(
      wait({ length: { amount: 1, unit: "days" } }),
      decideBy("d", { by: "person", person: "carmel" }, [ans("yes", "agree")]),
    );
    h.start();
    const timer = Object.keys(h.state.timers)[0]!;
    for (let i = 0; i < 2; i++) h.send({ type: "time reached", timer });
    expect(h.events.filter((e) => e.type === "woke")).toHaveLength(1);
    expect(h.asked()).toEqual(["carmel"]);
    const owner = drive(wait({ length: { amount: 1, unit: "days" } }));
    owner.start();
    const { token } = sleeps(owner)[0]!;
    expect(owner.send({ type: "skip", actor: "eithne", token, way: null, note: "" })).toMatchObject({
      ok: false,
    });
    owner.send({ type: "skip", actor: "eithne", token, way: null, note: "It came early." });
    expect(owner.state).toMatchObject({ status: "finished", sleeps: {}, timers: {} });
    folds(owner);
    const gone = drive(wait({ length: { amount: 1, unit: "days" } }));
    gone.start();
    const late = Object.keys(gone.state.timers)[0]!;
    gone.send({ type: "withdraw", actor: "una", note: "" });
    gone.send({ type: "time reached", timer: late });
    expect(gone.state).toMatchObject({ status: "withdrawn", sleeps: {}, timers: {} });
    folds(gone);
  });

  it("sleeps in every round by itself, and is called off with its round", () => {
    const each = {
      ...KINDS.steps["for each"].blank("f"),
      over: { times: "3" },
      until: "Item number = 2",
      bodies: [
        { id: "b", steps: [wait({ moment: 'now() + duration("PT" + string(4 - Item number) + "H")' })] },
      ],
    } as Step;
    const h = drive(each);
    h.start();
    const untils = sleeps(h).map((z) => (z.until! - T0) / HOUR);
    expect(untils).toEqual([3, 2, 1]);
    const by = (until: number) => sleeps(h).find((z) => z.until === T0 + until * HOUR)!;
    h.at(T0 + HOUR);
    h.send({ type: "time reached", timer: `${by(1).id}.wake` });
    expect(sleeps(h)).toHaveLength(2);
    h.at(T0 + 2 * HOUR);
    h.send({ type: "time reached", timer: `${by(2).id}.wake` });
    expect(h.state).toMatchObject({ status: "finished", sleeps: {}, timers: {} });
    folds(h);
  });

  it("a circle that sleeps is none, however often it goes round", () => {
    const h = drive(wait({ length: { amount: 1, unit: "minutes" } }), {
      id: "j",
      name: "Jump",
      kind: "jump",
      to: "w",
    });
    h.start();
    for (let i = 0; i < 1100; i++) fire(h);
    expect(h.state.stuck).toEqual([]);
    expect(sleeps(h)).toHaveLength(1);
  });

  it("is shown as sleeping, and nobody is told of it", () => {
    const definition = definitionOf([wait({ length: { amount: 1, unit: "days" } }), fin("e", "done")], {
      fields: FIELDS,
    });
    const release = compileRelease(definition, {}, KINDS);
    const h = harness(definition);
    h.start();
    expect(pathOf(release, h.state, h.events).at(-1)).toMatchObject({
      step: "w",
      state: "here",
      until: T0 + 24 * HOUR,
    });
    expect(newsOf(release, NEW_REQUEST, h.state, h.events)).toEqual([]);
  });

  it("its sheet says what is missing, and of which kind things are", () => {
    const codes = (step: Step) =>
      problemsOf(definitionOf([step, fin("e", "done")], { fields: FIELDS }), { kinds: KINDS, registers: {} })
        .filter((p) => p.where.id === "w")
        .map((p) => p.code);
    expect(codes(wait())).toEqual(["waits-for-nothing"]);
    expect(codes(wait({ date: " " }))).toContain("no-moment");
    expect(codes(wait({ date: "Total" }))).toContain("wrong-type");
    expect(codes(wait({ moment: "Day" }))).toContain("wrong-type");
    expect(codes(wait({ date: "Day" }, { length: { amount: 1, unit: "days" } }))).toEqual([]);
  });
});

describe("a Wait until something is so", () => {
  const OBJECTS: RegisterShape = {
    format: "cobble-step/register@1",
    key: "objects",
    name: "Objects",
    one: "object",
    title: ["number"],
    columns: [
      { id: "number", name: "Number", kind: "text" },
      { id: "status", name: "Status", kind: "text" },
    ],
  } as unknown as RegisterShape;
  const THING: Field = { id: "thing", name: "Thing", kind: "look-up", register: "objects" };
  const fields = [...FIELDS, THING];
  const until = (holds: string, ...more: object[]) => wait({ holds }, ...more);
  const say: Step = {
    id: "s",
    name: "Say",
    kind: "work out",
    set: [{ field: "reason", value: 'if Pause.came then "came" else "late"' }],
  };
  const ask = decideBy("ask", { by: "person", person: "carmel" }, [ans("yes", "agree"), ans("no", "agree")]);
  const beside = (...branches: Step[][]): Step =>
    ({
      id: "t",
      name: "Both",
      kind: "together",
      branches: branches.map((steps, i) => ({ id: `b${i}`, name: `B${i}`, steps })),
    }) as Step;
  const set = (id: string, value: string): Step => ({
    id,
    name: id,
    kind: "work out",
    set: [{ field: "reason", value }],
  });

  it("goes on once it is so, by whatever makes it so; and not before", () => {
    const h = drive(
      beside([until('Reason = "go"'), say], [ask, set("x", 'if ask.answer = "yes" then "go" else "no"')]),
    );
    h.start();
    expect(sleeps(h)).toMatchObject([{ until: null, watches: [] }]);
    expect(h.state.timers).toEqual({});
    const no = drive(beside([until('Reason = "go"'), say], [ask, set("x", '"no"')]));
    no.start();
    no.answer("carmel", "yes");
    expect(no.state.status).toBe("under way");
    h.answer("carmel", "yes");
    expect(h.state).toMatchObject({ status: "finished", data: { reason: "came" }, sleeps: {} });
    expect(h.state.awaits).toBeUndefined();
    folds(h);
    folds(no);
    no.send({ type: "withdraw", actor: "una", note: "" });
    expect(no.state.awaits).toBeUndefined();
    folds(no);
  });

  it("reads what steps come to, and passes by what is so already", () => {
    const h = drive(
      beside(
        [until('ask.answer = "yes"')],
        [ask, decideBy("b", { by: "person", person: "declan" }, [ans("k", "agree")])],
      ),
    );
    h.start();
    h.answer("carmel", "yes");
    expect(sleeps(h)).toEqual([]);
    expect(h.state.status).toBe("under way");
    const now = drive(until("Total > 50"), say);
    now.start();
    expect(now.state).toMatchObject({ status: "finished", data: { reason: "came" } });
    expect(now.events.filter((e) => e.type === "fell asleep")).toEqual([]);
    // Over something empty it does not hold; where it cannot be told it stops.
    const empty = drive(until('Day > @"2026-01-01"'));
    empty.start();
    expect(sleeps(empty)).toHaveLength(1);
    const unclear = drive(until("1 / (Total - 100) > 0"));
    unclear.start();
    expect(unclear.state.stuck).toMatchObject([{ step: "w", reason: { code: "unclear" } }]);
  });

  it("a sample stops at what no sample brings about", () => {
    const d = definitionOf([until('Reason = "go"'), fin("e", "done")], { fields: FIELDS });
    const path = samplePath(compileRelease(d, {}, KINDS), "una", { total: "1" }, officeFacts(T0));
    expect(path).toMatchObject({ steps: ["w"], stop: "waits", result: null });
  });

  it("no longer than its limit, and tells by its name which of them it was", () => {
    const h = drive(until('Reason = "go"', { length: { amount: 1, unit: "days" } }), say);
    h.start();
    expect(sleeps(h)).toMatchObject([{ until: T0 + 24 * HOUR, watches: [] }]);
    h.at(T0 + 24 * HOUR);
    fire(h);
    expect(h.state).toMatchObject({ status: "finished", data: { reason: "late" } });
    folds(h);
  });

  it("looks at its records again when they change, and only then wakes", () => {
    const record = { id: "7", number: "Q.7", status: "on loan" };
    const known = () => ({ records: { objects: { "7": { ...record } } }, registers: { objects: OBJECTS } });
    const d = definitionOf([until('Thing.Status = "in store"'), say, fin("e", "done")], { fields });
    const h = harness(d, {}, { objects: OBJECTS }, known);
    h.start({ total: "1", thing: "7" });
    expect(sleeps(h)).toMatchObject([{ watches: [{ register: "objects", id: "7" }] }]);
    const before = h.events.length;
    h.send({ type: "look" });
    expect(h.events).toHaveLength(before);
    record.status = "in store";
    h.send({ type: "look" });
    expect(h.state).toMatchObject({ status: "finished", data: { reason: "came" } });
    folds(h);
    // One that comes later finds nothing to do.
    expect(h.send({ type: "look" })).toMatchObject({ ok: true, events: [] });
  });

  it("knows by which records it is told: those behind a field that is worked out, and those they link to", () => {
    const MAKERS = { ...OBJECTS, key: "makers", name: "Makers" };
    const linked = {
      ...OBJECTS,
      columns: [...OBJECTS.columns, { id: "maker", name: "Maker", kind: "look-up", register: "makers" }],
    } as unknown as RegisterShape;
    const registers = { objects: linked, makers: MAKERS };
    const known = (): Partial<FactsData> => ({
      records: {
        objects: {
          "7": { id: "7", number: "Q.7", status: "on loan", maker: "3" },
          "9": { id: "9", number: "Q.9", status: "on loan" },
        },
        makers: { "3": { id: "3", number: "M.3", status: "away" } },
      },
      registers,
    });
    const state: Field = { id: "state", name: "State", kind: "text", worked: "Thing.Maker.Status" };
    const other: Field = { id: "other", name: "Other", kind: "look-up", register: "objects" };
    const watches = (holds: string) => {
      const d = definitionOf([until(holds), fin("e", "done")], { fields: [...fields, state, other] });
      const h = harness(d, {}, registers, known);
      h.start({ total: "1", thing: "7", other: "9" });
      return sleeps(h)[0]!.watches!.map((w) => `${w.register}/${w.id}`);
    };
    expect(watches('Thing.Maker.Status = "here"')).toEqual(["makers/3", "objects/7"]);
    expect(watches('State = "here"')).toEqual(["makers/3", "objects/7"]);
    // Of what is not asked nothing is watched.
    expect(watches("Total > 5")).toEqual([]);
  });

  it("forgets that it came the first time when the second time it is too late", () => {
    const no = set("x", '"no"');
    const back = decideBy("again", { by: "person", person: "declan" }, [
      ans("once", "agree", [{ id: "j", name: "Back", kind: "jump", to: "w" } as Step]),
      ans("end", "agree"),
    ]);
    const g = drive(
      until('Reason != "no"', { length: { amount: 1, unit: "days" } }),
      {
        ...say,
        set: [{ field: "day", value: 'if Pause.came then @"2026-01-01" else @"2026-12-31"' }],
      } as Step,
      no,
      back,
    );
    g.start({ total: "1", reason: "yes" });
    expect(g.state.data["day"]).toBe("2026-01-01");
    g.answer("declan", "once");
    g.at(T0 + 24 * HOUR);
    fire(g);
    expect(g.state.data["day"]).toBe("2026-12-31");
  });

  it("a record that is gone stops it with the reason, and nothing is taken for no", () => {
    let there = true;
    const known = (): Partial<FactsData> => ({
      records: { objects: there ? { "7": { id: "7", number: "Q.7", status: "on loan" } } : {} },
      registers: { objects: OBJECTS },
    });
    const d = definitionOf([until('Thing.Status = "in store"'), fin("e", "done")], { fields });
    const h = harness(d, {}, { objects: OBJECTS }, known);
    h.start({ total: "1", thing: "7" });
    there = false;
    h.send({ type: "look" });
    expect(h.state).toMatchObject({
      status: "stuck",
      sleeps: {},
      stuck: [{ step: "w", reason: { code: "unclear" } }],
    });
    expect(h.state.awaits).toBeUndefined();
    there = true;
    h.send({ type: "retry", actor: "una", token: h.state.stuck[0]!.token });
    expect(sleeps(h)).toHaveLength(1);
    folds(h);
  });

  it("in a round waits for that round, and in a procedure for what is so there", () => {
    const each = {
      ...KINDS.steps["for each"].blank("f"),
      over: { list: '["no", "go"]' },
      bodies: [{ id: "b", steps: [until("Item = Reason")] }],
    } as Step;
    const h = drive(beside([each], [ask, set("x", '"go"'), { ...ask, id: "ask2", name: "ask2" } as Step]));
    h.start();
    expect(sleeps(h)).toHaveLength(2);
    h.answer("carmel", "yes");
    expect(sleeps(h)).toHaveLength(1);
    expect(Object.values(h.state.scopes)).toMatchObject([{ index: 0 }]);
    folds(h);

    const inner = definitionOf([beside([until('Reason = "go"')], [ask, set("x", '"go"')]), fin("pe", "ok")], {
      key: "p",
      fields: FIELDS.map((f) => ({ ...f, ...(f.id === "total" ? { hand: "in" as const } : {}) })),
      procedure: true,
      starts: [],
    });
    const hand = {
      ...KINDS.steps["hand to"].blank("h"),
      procedure: "p",
      takes: [{ id: "total", name: "Total", kind: "money", needed: true }],
      values: [{ port: "total", value: "Total" }],
    } as Step;
    const outer = definitionOf([beside([hand], [set("y", '"go"')]), fin("e", "done")], { fields: FIELDS });
    const g = harness(outer, {}, {}, () => ({}), proceduresOf({ p: [inner] }));
    g.start();
    // What is so of the request is not so in the procedure.
    expect(g.state).toMatchObject({ status: "under way", data: { reason: "go" } });
    g.answer("carmel", "yes");
    expect(g.state.status).toBe("finished");
    folds(g);
  });

  it("two that wake each other for ever are stopped", () => {
    const back = (id: string, to: string): Step => ({ id, name: id, kind: "jump", to }) as Step;
    const one = { ...until('Reason = "a"'), id: "w1", name: "W1" } as Step;
    const two = { ...until('Reason = "b"'), id: "w2", name: "W2" } as Step;
    const h = drive(
      beside(
        [one, set("s1", '"b"'), back("j1", "w1")],
        [two, set("s2", '"a"'), back("j2", "w2")],
        [ask, set("s0", '"a"')],
      ),
    );
    h.start();
    h.answer("carmel", "yes");
    expect(h.state.stuck).toMatchObject([{ reason: { code: "runaway" } }]);
    expect(h.events.length).toBeLessThan(3000);
    folds(h);
  });

  it("its sheet says where its way would never be taken", () => {
    const codes = (...what: object[]) =>
      problemsOf(
        definitionOf([{ ...(wait(...what) as object), ways: [LATE] } as Step, fin("e", "done")], {
          fields: FIELDS,
        }),
        { registers: {}, kinds: KINDS },
      )
        .filter((p) => p.severity === "error")
        .map((p) => p.code);
    const [length, holds] = [{ length: { amount: 1, unit: "days" } }, { holds: 'Reason = "here"' }];
    expect(codes(length)).toEqual(["way-never-taken"]);
    expect(codes(holds)).toEqual(["way-never-taken"]);
    expect(codes(length, holds)).toEqual([]);
  });

  it("its sheet refuses what the clock would make so, also by way of a field", () => {
    const codes = (step: Step, more: Field[] = []) =>
      problemsOf(definitionOf([step, fin("e", "done")], { fields: [...FIELDS, ...more] }), {
        kinds: KINDS,
        registers: {},
      })
        .filter((p) => p.where.id === "w")
        .map((p) => p.code);
    const limit = { length: { amount: 1, unit: "days" } };
    expect(codes(until("Total > 5", limit))).toEqual([]);
    expect(codes(until("Total > 5"))).toEqual(["may-never-come", "nothing-ends"]);
    expect(codes(until(" ", limit))).toContain("no-condition");
    expect(codes(until("Total", limit))).toContain("wrong-type");
    expect(codes(until("Day < today()", limit))).toContain("clock-in-condition");
    expect(codes(until("if Total > 5 then true else Day < today()", limit))).toContain("clock-in-condition");
    const late: Field = { id: "late", name: "Late", kind: "yes or no", worked: "Later" };
    const later: Field = { id: "later", name: "Later", kind: "yes or no", worked: "Day < today()" };
    expect(codes(until("Late", limit), [late, later])).toContain("clock-in-condition");
  });
});
