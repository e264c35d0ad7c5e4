import { compileRelease, NEW_REQUEST, newsOf, replay, type RequestState } from "@/core/engine";
import { newsLine, pathOf } from "@/core/words";
import { ans, definitionOf, decideBy, fin, harness } from "@/core/engine/testRequest";
import type { Field, FormData } from "@/core/form";
import { problemsOf } from "@/core/problems";
import { applyEdit, type Edit, type ProcessDefinition, type Step } from "@/core/route";
import { KINDS } from "@/kinds";

const LINES: Field = {
  id: "lines",
  name: "Objects",
  kind: "lines",
  fields: [
    { id: "what", name: "What", kind: "text" },
    { id: "price", name: "Price", kind: "money" },
    { id: "keeper", name: "Keeper", kind: "person" },
  ],
};
const FIELDS: Field[] = [
  { id: "total", name: "Total", kind: "money", needed: "true" },
  { id: "reason", name: "Reason", kind: "long text" },
  LINES,
];
const ROWS = [
  { "#": "r1", what: "Rope", price: "10", keeper: "carmel" },
  { "#": "r2", what: "Lantern", price: "20", keeper: "declan" },
  { "#": "r3", what: "Anchor", price: "30", keeper: "carmel" },
];
const each = (more: object = {}, steps: Step[] = []): Step =>
  ({
    ...KINDS.steps["for each"].blank("f"),
    name: "Outcomes",
    over: { lines: "lines" },
    item: "Thing",
    ...more,
    bodies: [{ id: "b", steps }],
  }) as Step;
const set = (value: string, id = "w"): Step => ({
  id,
  name: "Work out",
  kind: "work out",
  set: [{ field: "reason", value }],
});
const asks = (formula: string, id = "d", answers = [ans("yes", "agree"), ans("no", "refuse")]): Step =>
  decideBy(id, { by: "formula", formula }, answers);
const process = (route: Step[]): ProcessDefinition =>
  definitionOf([...route, fin("e", "x")], { fields: FIELDS });
const drive = (...route: Step[]) => harness(process(route));
const begin = (h: ReturnType<typeof drive>, rows: unknown = ROWS) =>
  h.start({ total: "100", lines: rows } as unknown as Record<string, string>);
/** Everything open, by what it is about. */
const about = (h: ReturnType<typeof drive>) => h.open().map((t) => t.about);
const answer = (h: ReturnType<typeof drive>, thing: string, way: string, data: FormData = {}) => {
  const t = h.open().find((x) => x.about?.includes(thing))!;
  const actor = t.holder ?? t.candidates[0]!.person;
  return h.send({ type: "answer", actor, task: t.id, answer: way, note: "because", data });
};
const codes = (d: ProcessDefinition) =>
  problemsOf(d, { kinds: KINDS, registers: {} }).map((p) => `${p.where.id} ${p.code}`);
const folds = (h: ReturnType<typeof drive>) =>
  expect(replay(h.events, NEW_REQUEST)).toEqual<RequestState>(h.state);

describe("a For each", () => {
  it("asks for each line, with what it is about, and leaves behind what each round came to, in their order", () => {
    const h = drive(
      each({ collect: "{what: Thing.What, said: d.answer, n: Thing number}" }, [asks("Thing.Keeper")]),
      set('string join(for o in Outcomes return if o.said = "yes" then o.what + string(o.n) else "-", ", ")'),
    );
    begin(h);
    expect(about(h)).toEqual(["Thing 1 of 3: Rope", "Thing 2 of 3: Lantern", "Thing 3 of 3: Anchor"]);
    expect(h.asked()).toEqual(["carmel", "carmel", "declan"]);
    // In another order than they stand.
    answer(h, "Anchor", "yes");
    answer(h, "Rope", "no");
    expect(h.state.status).toBe("under way");
    answer(h, "Lantern", "yes");
    expect(h.state.status).toBe("finished");
    expect(h.state.data["reason"]).toBe("-, Lantern2, Anchor3");
    expect(h.state).toMatchObject({ scopes: {}, runs: {}, tokens: {} });
    folds(h);
  });

  it("what one round came to is nobody else's", () => {
    const h = drive(
      each({}, [
        asks("Thing.Keeper", "first"),
        asks("Thing.Keeper", "second", [ans("yes", "agree")]),
        set(
          'if first.answer = "no" then first.by.name + string(count(first.answers)) + first.answers[1].answer else "it was yes"',
        ),
      ]),
    );
    begin(h);
    answer(h, "Rope", "no");
    answer(h, "Lantern", "yes");
    answer(h, "Lantern", "yes");
    expect(h.state.data["reason"]).toBe("it was yes");
    answer(h, "Rope", "yes");
    expect(h.state.data["reason"]).toBe("Carmel1no");
    expect(h.state.outcomes).toEqual({});
  });

  it("goes one after another, or at most so many at a time, as the sheet says", () => {
    const h = drive(each({ atOnce: 1 }, [asks("Thing.Keeper")]));
    begin(h);
    expect(about(h)).toEqual(["Thing 1 of 3: Rope"]);
    answer(h, "Rope", "no");
    expect(about(h)).toEqual(["Thing 2 of 3: Lantern"]);
    const two = drive(each({ atOnce: 2 }, [asks("Thing.Keeper")]));
    begin(two);
    expect(about(two)).toEqual(["Thing 1 of 3: Rope", "Thing 2 of 3: Lantern"]);
    answer(two, "Lantern", "no");
    expect(about(two)).toEqual(["Thing 1 of 3: Rope", "Thing 3 of 3: Anchor"]);
    folds(two);
  });

  it("goes through those for which a condition holds, and nothing where there are none", () => {
    const h = drive(each({ only: "Thing.Price > 15" }, [asks("Thing.Keeper")]));
    begin(h);
    expect(about(h)).toEqual(["Thing 1 of 2: Lantern", "Thing 2 of 2: Anchor"]);
    for (const rows of [[], [{ "#": "r1", what: "Rope", price: "1" }]]) {
      const none = drive(
        each({ only: "Thing.Price > 15", collect: "Thing.What" }, [asks("Thing.Keeper")]),
        set("string(count(Outcomes))"),
      );
      begin(none, rows);
      expect(none.state).toMatchObject({ status: "finished", data: { reason: "0" } });
    }
  });

  it("gathers those that are alike: once per keeper, with all of theirs", () => {
    const h = drive(
      each(
        { gather: { by: "Thing.Keeper", as: "Keeper" }, collect: "Keeper.name + string(sum(Thing.Price))" },
        [asks("Keeper")],
      ),
      set('string join(Outcomes, ", ")'),
    );
    begin(h);
    expect(about(h)).toEqual(["Keeper 1 of 2: Carmel", "Keeper 2 of 2: Declan"]);
    answer(h, "Declan", "yes");
    answer(h, "Carmel", "yes");
    expect(h.state.data["reason"]).toBe("Carmel40, Declan20");
    folds(h);
  });

  it("a round reads its line as it is now, and ends with it", () => {
    const h = drive(
      each({ collect: "Thing.What" }, [asks("Thing.Keeper")]),
      set('string join(Outcomes, ", ")'),
    );
    const may = { access: { d: { lines: "edit" as const } } };
    const g = harness({
      ...process([
        each({ collect: "Thing.What" }, [asks("Thing.Keeper")]),
        set('string join(Outcomes, ", ")'),
      ]),
      ...may,
    });
    begin(h);
    begin(g);
    // Carmel takes the lantern away and calls the rope a cable.
    answer(g, "Rope", "yes", { lines: [{ ...ROWS[0]!, what: "Cable" }, ROWS[2]!] });
    expect(about(g)).toEqual(["Thing 3 of 3: Anchor"]);
    expect(g.events.filter((e) => e.type === "task closed")).toMatchObject([{ reason: "gone" }]);
    answer(g, "Anchor", "yes");
    expect(g.state).toMatchObject({ status: "finished", data: { reason: "Cable, Anchor" } });
    folds(g);
  });

  it("whoever takes away the last line that is waited for sets the request going", () => {
    const may = { access: { d: { lines: "edit" as const } } };
    const h = harness({ ...process([each({}, [asks("Thing.Keeper")])]), ...may });
    begin(h);
    // Their own line goes, too: there is nothing left to decide about.
    answer(h, "Rope", "yes", { lines: [] });
    expect(h.state.status).toBe("finished");
    folds(h);
  });

  it("leaves out lines that went before their round was opened", () => {
    const may = { access: { d: { lines: "edit" as const } } };
    const h = harness({ ...process([each({ atOnce: 1 }, [asks("Thing.Keeper")])]), ...may });
    begin(h);
    answer(h, "Rope", "yes", { lines: [ROWS[0]!, ROWS[2]!] });
    expect(about(h)).toEqual(["Thing 3 of 3: Anchor"]);
    answer(h, "Anchor", "yes");
    expect(h.state.status).toBe("finished");
  });

  it("ends when enough is known, and calls the others off", () => {
    const h = drive(
      each({ until: 'd.answer = "no"', collect: "Thing.What" }, [asks("Thing.Keeper")]),
      set('string join(Outcomes, ", ")'),
    );
    begin(h);
    answer(h, "Anchor", "yes");
    expect(h.open()).toHaveLength(2);
    answer(h, "Lantern", "no");
    expect(h.state).toMatchObject({ status: "finished", data: { reason: "Lantern, Anchor" } });
    expect(h.events.filter((e) => e.type === "task closed")).toMatchObject([{ reason: "enough" }]);
    folds(h);
  });

  it("stands in rounds of another: each reads its own, and those around it", () => {
    const inner = each(
      { over: { times: "Thing.Price / 10" }, item: "Turn", collect: "Thing.What + string(Turn number)" },
      [set("Thing.What", "w1")],
    );
    const h = drive(
      each({ collect: 'string join(Inner, "")' }, [{ ...inner, id: "g", name: "Inner" }]),
      set('string join(Outcomes, ", ")', "w2"),
    );
    begin(h);
    expect(h.state.data["reason"]).toBe("Rope1, Lantern1Lantern2, Anchor1Anchor2Anchor3");
    folds(h);
  });

  it("is stuck with the reason where it cannot be told what it goes over, or how it ends", () => {
    const stuck = (more: object, steps: Step[] = []) => {
      const h = drive(each(more, steps));
      begin(h);
      return h.state.stuck.map((s) => [s.step, s.reason.code]);
    };
    expect(stuck({ over: { list: "Total" } })).toEqual([["f", "no-list"]]);
    expect(stuck({ over: { times: "1.5" } })).toEqual([["f", "too-many-rounds"]]);
    expect(stuck({ over: { times: "-1" } })).toEqual([["f", "too-many-rounds"]]);
    expect(stuck({ over: { list: "for i in 1..5001 return i" } })).toEqual([["f", "too-many-rounds"]]);
    expect(stuck({ over: { times: "1000001" } })).toEqual([["f", "too-many-rounds"]]);
    expect(stuck({ only: "1 / (Thing.Price - 10) > 0" })).toEqual([["f", "unclear"]]);
    expect(stuck({ gather: { by: "1 / (Thing.Price - 10)", as: "K" } })).toEqual([["f", "unclear"]]);
    // A condition over nothing is not met, here as everywhere.
    expect(stuck({ only: "null" })).toEqual([]);
  });

  it("a round that cannot say what it leaves behind is tried again, or let go without", () => {
    const steps = [asks("Thing.Keeper")];
    const h = harness({
      ...process([each({ collect: "100 / (Thing.Price - 10)" }, steps), set("string(count(Outcomes))")]),
      access: { d: { lines: "edit" } },
    });
    begin(h);
    answer(h, "Rope", "yes");
    expect(h.state.stuck).toMatchObject([{ step: "f", reason: { code: "unclear" } }]);
    const { token } = h.state.stuck[0]!;
    h.send({ type: "retry", actor: "una", token });
    expect(h.state.stuck).toMatchObject([{ token, step: "f" }]);
    expect(h.open()).toHaveLength(2);
    // The line is mended by whoever is asked about another; then it can be told.
    answer(h, "Anchor", "yes", { lines: [{ ...ROWS[0]!, price: "11" }, ...ROWS.slice(1)] });
    const mended = h.state;
    h.send({ type: "retry", actor: "una", token });
    expect(h.state.stuck).toEqual([]);
    answer(h, "Lantern", "yes");
    expect(h.state).toMatchObject({ status: "finished", data: { reason: "3" } });
    folds(h);
    expect(mended.stuck).toHaveLength(1);

    const without = drive(each({ collect: "1 / 0" }, []), set("string(count(Outcomes))"));
    begin(without);
    expect(without.state.stuck).toHaveLength(3);
    for (const [i, s] of without.state.stuck.entries()) {
      without.send({ type: "skip", actor: "una", token: s.token, way: null, note: "never mind" });
      expect([i, without.state.status]).toEqual([i, i < 2 ? "stuck" : "finished"]);
    }
    expect(without.state).toMatchObject({ status: "finished", data: { reason: "0" } });
    folds(without);
  });

  it("what an owner decides in a round is known in that round alone", () => {
    const h = drive(
      each({ collect: "d.answer" }, [asks('if Thing.What = "Rope" then null else Thing.Keeper')]),
      set('string join(Outcomes, ", ")'),
    );
    begin(h);
    const { token } = h.state.stuck[0]!;
    h.send({ type: "skip", actor: "eithne", token, way: "no", note: "nobody is there" });
    expect(h.state.outcomes).toEqual({});
    answer(h, "Lantern", "yes");
    answer(h, "Anchor", "yes");
    expect(h.state.data["reason"]).toBe("no, yes, yes");
    folds(h);
  });

  it("calls off whatever stands in a round, however deep", () => {
    const deep: Step = {
      id: "t",
      name: "Together",
      kind: "together",
      branches: [
        { id: "t1", name: "one", steps: [asks("Thing.Keeper", "x")] },
        {
          id: "t2",
          name: "two",
          steps: [
            {
              ...each({ over: { times: "2" }, item: "Turn" }, [asks("Thing.Keeper", "y")]),
              id: "g",
              name: "Inner",
            },
          ],
        },
      ],
    };
    const h = drive(each({ until: 'Thing.What = "Rope"' }, [deep]));
    begin(h);
    expect(h.open()).toHaveLength(9);
    for (let i = 0; i < 3; i++) answer(h, "Thing 1 of 3", "yes");
    expect(h.open()).toEqual([]);
    expect(h.state).toMatchObject({ status: "finished", tokens: {}, runs: {}, scopes: {}, visits: {} });
    folds(h);
  });

  it("one that gets stuck later lets the next begin, where it does not hold", () => {
    const h = drive(each({ atOnce: 1 }, [asks("Thing.Keeper"), set("string(1 / (Thing.Price - 10))")]));
    begin(h);
    answer(h, "Rope", "yes");
    expect(h.state.stuck).toMatchObject([{ step: "w" }]);
    expect(about(h)).toEqual(["Thing 2 of 3: Lantern"]);
    folds(h);
  });

  it("what it gathered the time before is not taken for what it does now", () => {
    const h = drive(
      each({ over: { list: 'if Reason = "0" then 1 else [1, 2]' }, collect: "Thing" }, []),
      { ...set("string(count(Outcomes))", "w1") },
      {
        id: "c",
        name: "Again",
        kind: "choose",
        ways: [
          {
            id: "again",
            name: "again",
            when: 'Reason = "2"',
            steps: [set('"0"', "w0"), { id: "j", name: "Jump", kind: "jump", to: "f" }],
          },
          { id: "on", name: "on", steps: [] },
        ],
      },
    );
    begin(h);
    expect(h.state.stuck).toMatchObject([{ step: "f", reason: { code: "no-list" } }]);
    h.send({ type: "skip", actor: "eithne", token: h.state.stuck[0]!.token, way: null, note: "nothing" });
    expect(h.state).toMatchObject({ status: "finished", data: { reason: "0" } });
  });

  it("things are alike by what they are, however they are written", () => {
    const list =
      '[{at: @"2026-01-01T10:00:00Z"}, {at: @"2026-01-01T11:00:00+01:00"}, {at: null}, {at: null}, {at: 1}, {at: 1.0}, {at: "1"}]';
    const h = drive(
      each({ over: { list }, gather: { by: "Thing.at", as: "Moment" }, collect: "count(Thing)" }, []),
      set('string join(for n in Outcomes return string(n), ", ")'),
    );
    begin(h);
    expect(h.state.data["reason"]).toBe("2, 2, 2, 1");
  });

  it("people are told which of the rounds it is about, and those called off too", () => {
    const h = drive(each({ until: 'd.answer = "no"' }, [asks("Thing.Keeper")]));
    const release = compileRelease(process([each({}, [asks("Thing.Keeper")])]), {}, KINDS);
    begin(h);
    const news = newsOf(release, NEW_REQUEST, h.state, h.events);
    const names = { person: (id: string) => id, time: String };
    expect(news.map((n) => [n.to, newsLine(n.kind, n.facts, names)])).toContainEqual([
      "declan",
      "d (Thing 2 of 3: Lantern): it waits for you",
    ]);
    const [before, from] = [h.state, h.events.length];
    answer(h, "Rope", "no");
    const after = newsOf(release, before, h.state, h.events.slice(from));
    expect(after).toContainEqual(
      expect.objectContaining({
        kind: "called off",
        to: "declan",
        facts: { step: "d", about: "Thing 2 of 3: Lantern", why: "enough" },
      }),
    );
    const path = pathOf(release, h.state, h.events);
    expect(path.find((s) => s.step === "f")!.rounds).toMatchObject({
      of: 3,
      ended: 1,
      off: 2,
      each: [{ state: "done" }, { state: "off", stops: [{ outcome: "called off" }] }, { state: "off" }],
    });
  });

  it("one that is stuck is passed by, or holds up the next, as the sheet says", () => {
    const rule = 'if Thing.What = "Rope" then null else Thing.Keeper';
    for (const stuckHolds of [undefined, true]) {
      const h = drive(each({ atOnce: 1, stuckHolds }, [asks(rule)]));
      begin(h);
      expect(h.state.stuck).toMatchObject([{ step: "d", reason: { code: "nobody" } }]);
      expect(about(h)).toEqual(stuckHolds ? [] : ["Thing 2 of 3: Lantern"]);
      const { token } = h.state.stuck[0]!;
      h.send({ type: "name", actor: "una", token, to: "eithne", note: "knows ropes" });
      answer(h, "Rope", "yes");
      for (const t of ["Lantern", "Anchor"]) answer(h, t, "yes");
      expect(h.state.status).toBe("finished");
      folds(h);
    }
  });

  it("a command opens so many rounds and parks the others; a job goes on, however many there are", () => {
    const h = drive(
      each({ over: { times: "5000" }, item: "Turn", collect: "Turn number" }, [set("string(Turn number)")]),
      set("string(sum(Outcomes))", "w2"),
    );
    h.start();
    let commands = 1;
    for (; h.state.status === "under way" && commands < 100; commands++) {
      expect(Object.values(h.state.runs)).toMatchObject([{ parked: true }]);
      // Nothing is waited for meanwhile but the job.
      expect(h.open()).toEqual([]);
      h.send({ type: "go on" });
    }
    expect(h.state).toMatchObject({ status: "finished", data: { reason: "12502500" } });
    expect(commands).toBeGreaterThan(15);
    expect(Math.max(...Object.values(countsByCommand(h.events)))).toBeLessThan(2100);
    // A job that comes twice does nothing.
    const { seq } = h.state;
    h.send({ type: "go on" });
    expect(h.state.seq).toBe(seq);
  });

  it("a circle in a round is found, and a circle around rounds too", () => {
    const h = drive(
      each({ over: { times: "2" } }, [set("Reason"), { id: "j", name: "Jump", kind: "jump", to: "w" }]),
    );
    h.start();
    // It went so far that the other round is left to a job.
    expect(h.state.stuck).toMatchObject([{ reason: { code: "runaway" } }]);
    h.send({ type: "go on" });
    expect(h.state.stuck).toMatchObject([{ reason: { code: "runaway" } }, { reason: { code: "runaway" } }]);
    const around = drive(set("Reason", "a"), each({ over: { times: "3" } }, []), {
      id: "j",
      name: "Jump",
      kind: "jump",
      to: "a",
    });
    around.start();
    for (let i = 0; i < 100 && around.state.stuck.length === 0; i++) around.send({ type: "go on" });
    expect(around.state.stuck).toMatchObject([{ reason: { code: "runaway" } }]);
  });

  it("jumps stay in their round", () => {
    const h = drive(
      each({}, [
        asks("Thing.Keeper", "d", [
          ans("again", "plain", [{ id: "j", name: "Jump", kind: "jump", to: "d" }]),
          ans("yes", "agree"),
        ]),
      ]),
    );
    begin(h);
    answer(h, "Rope", "again");
    expect(about(h).sort()).toEqual(["Thing 1 of 3: Rope", "Thing 2 of 3: Lantern", "Thing 3 of 3: Anchor"]);
    const out = codes(
      process([set("Reason", "a"), each({}, [{ id: "j", name: "Jump", kind: "jump", to: "a" }])]),
    );
    expect(out).toContain("j jump-across");
  });

  it("is withdrawn, cancelled and finished from inside, and nothing is left", () => {
    const end = [asks("Thing.Keeper", "d", [ans("stop", "refuse", [fin("stop", "stopped", "refuse")])])];
    const h = drive(each({}, end));
    begin(h);
    answer(h, "Lantern", "stop");
    expect(h.state).toMatchObject({
      status: "finished",
      tokens: {},
      scopes: {},
      runs: {},
      result: { name: "stopped" },
    });
    expect(h.open()).toEqual([]);
    for (const type of ["withdraw", "cancel"] as const) {
      const w = drive(each({}, end));
      begin(w);
      w.send({ type, actor: "una", note: "no" });
      expect([w.open(), w.state.scopes, w.state.runs]).toEqual([[], {}, {}]);
      folds(w);
    }
  });
});

/** How many events each command had, by the moment and who: here by runs of one seq block. */
function countsByCommand(events: readonly { type: string }[]): Record<string, number> {
  const out: Record<string, number> = {};
  let n = 0;
  for (const e of events) {
    if (e.type === "run went on") n++;
    out[n] = (out[n] ?? 0) + 1;
  }
  return out;
}

describe("what stands on the sheet of a For each", () => {
  const sheet = (more: object = {}, steps: Step[] = [asks("Thing.Keeper")], behind: Step[] = []) =>
    process([each(more, steps), ...behind]);

  it("names of a round are known in its steps, and nowhere else", () => {
    expect(codes(sheet())).toEqual([]);
    expect(codes(sheet({ collect: "d.answer" }, undefined, [set("Outcomes[1]", "w2")]))).toEqual([]);
    // Behind the rounds neither their things nor what their steps came to.
    expect(codes(sheet({}, undefined, [set("Thing.What", "w2")]))).toContain("w2 unknown-name");
    expect(codes(sheet({}, undefined, [set("d.answer", "w2")]))).toContain("w2 unknown-name");
    // What they leave behind is not there before they end.
    expect(codes(sheet({ collect: "1" }, [asks("Outcomes[1]")]))).toContain("d unknown-name");
    // Which ones it goes through is found out before any round.
    expect(codes(sheet({ only: "Thing number = 1" }))).toContain("f unknown-name");
    expect(codes(sheet({ only: 'd.answer = "yes"' }))).toContain("f unknown-name");
  });

  it("types are known: of a line, of a list, of what is gathered and of what is left behind", () => {
    expect(codes(sheet({ only: "Thing.Price + 1" }))).toContain("f wrong-type");
    expect(codes(sheet({ over: { list: "[1, 2]" }, only: "Thing > 1" }, []))).not.toContain("f wrong-type");
    const gathered = { gather: { by: "Thing.Keeper", as: "Keeper" } };
    expect(codes(sheet(gathered, [asks("Keeper")]))).toEqual([]);
    expect(codes(sheet(gathered, [set("Keeper + 1")]))).toContain("w wrong-type");
    expect(codes(sheet({ collect: "Thing.Price" }, [], [set("string(sum(Outcomes))", "w2")]))).toEqual([
      "f empty-rounds",
    ]);
    expect(codes(sheet({ collect: "Thing.What" }, [], [set("sum(Outcomes)", "w2")]))).toContain(
      "w2 wrong-type",
    );
  });

  it("says what is missing, and names that could not be told apart", () => {
    expect(codes(sheet({ over: { lines: "gone" } }))).toContain("f no-lines");
    expect(codes(sheet({ over: { list: " " } }))).toContain("f no-list");
    expect(codes(sheet({ item: "Total" }))).toContain("f name-twice");
    expect(codes(sheet({ item: "a-b" }))).toContain("f bad-name");
    expect(codes(sheet({ gather: { by: "1", as: "Thing" } }))).toContain("f name-twice");
    expect(codes(sheet({}, [{ ...each({}, []), id: "g", name: "Inner" }]))).toContain("g name-twice");
  });

  it("renaming what rounds call things rewrites what reads them, all names at once, and can be undone", () => {
    const d = sheet(
      { only: "Thing.Price > 1", collect: 'if Thing number = Thing count then Thing.What else "x"' },
      [asks("Thing.Keeper"), set("for Thing in [1] return Thing", "w3")],
      [set("Outcomes[1]", "w2")],
    );
    const around = { registers: {}, kinds: KINDS };
    const edit: Edit = { op: "step.set", id: "f", patch: { item: "Old thing", name: "Found out" } };
    const r = applyEdit(d, edit, around);
    if (!r.ok) throw new Error(JSON.stringify(r.refusal));
    const f = r.definition.route[0] as Extract<Step, { kind: "for each" }>;
    expect(f).toMatchObject({
      item: "Old thing",
      only: "Old thing.Price > 1",
      collect: 'if Old thing number = Old thing count then Old thing.What else "x"',
    });
    expect(f.bodies[0]!.steps).toMatchObject([
      { who: { rule: { formula: "Old thing.Keeper" } } },
      { set: [{ value: "for Thing in [1] return Thing" }] },
    ]);
    expect(r.definition.route[1]).toMatchObject({ set: [{ value: "Found out[1]" }] });
    const back = applyEdit(r.definition, r.inverse, around);
    expect(back.ok && back.definition).toEqual(d);
  });
});
