import { newsOf, NEW_REQUEST, replay } from "@/core/engine";
import { ans, definitionOf, decideBy, fin, harness, T0 } from "@/core/engine/testRequest";
import type { Field } from "@/core/form";
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
  ({ id: "w", name: "Pause", kind: "wait", for: what.map((a, i) => ({ id: `a${i}`, ...a })) }) as Step;
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
    const untils = sleeps(h).map((z) => (z.until - T0) / HOUR);
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
