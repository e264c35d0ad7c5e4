import type { Limit, Rung, Step } from "../route";
import { isOpen, NEW_REQUEST, replay } from ".";
import { ans, decideBy, definitionOf, fin, harness, proceduresOf, T0 } from "./testRequest";

// It is Tuesday, 10:00 in Dublin.
const H = 3_600_000;
const hours = (amount: number) => ({ amount, unit: "hours" as const });
const limitOf = (amount: number, rungs: Rung[] = [], more: Partial<Limit> = {}): Limit => ({
  otherwise: hours(amount),
  rungs,
  ...more,
});
const REMIND: Rung = { id: "late", when: "at", action: { do: "remind" } };
const part = (id: string, limit: Limit | undefined, ...steps: Step[]): Step =>
  ({
    id,
    name: `Part ${id}`,
    kind: "part",
    bodies: [{ id: `${id}-b`, steps }],
    ...(limit ? { limit } : {}),
  }) as Step;
const ask = (id: string, person: string, back: Step[] = []): Step =>
  decideBy(id, { by: "person", person }, [
    ans("yes", "agree"),
    ans("no", "refuse", [fin(`no-${id}`, "refused", "refuse")]),
    ans("again", "plain", back),
  ]);
const jump = (id: string, to: string): Step => ({ id, name: "Jump", kind: "jump", to }) as Step;
const run = (route: Step[], more: object = {}) => {
  const h = harness(definitionOf(route, more));
  h.start();
  const spans = () =>
    Object.values(h.state.spans ?? {}).map((s) => [s.step, s.due === null ? null : (s.due - T0) / H]);
  const due = () => {
    const t = Object.values(h.state.timers).sort((a, b) => a.at - b.at)[0]!;
    h.at(t.at);
    return h.send({ type: "time reached", timer: t.id });
  };
  const told = () =>
    h.events.flatMap((e) =>
      e.type === "effect asked" && e.effect.kind === "tell" ? [[e.effect.subject, e.effect.people]] : [],
    );
  return { h, spans, due, told };
};

describe("the limit of a part", () => {
  it("runs from when it is come to until it is left, whatever is answered in it", () => {
    const { h, spans } = run([
      ask("a", "carmel"),
      part("p", limitOf(48), ask("b", "declan"), ask("c", "fergus")),
      ask("d", "eithne"),
      fin("z", "done"),
    ]);
    expect(spans()).toEqual([]);
    h.at(T0 + H);
    h.answer("carmel", "yes");
    expect(spans()).toEqual([["p", 49]]);
    h.at(T0 + 9 * H);
    h.answer("declan", "yes");
    expect(spans()).toEqual([["p", 49]]);
    h.answer("fergus", "yes");
    expect(spans()).toEqual([]);
    h.answer("eithne", "yes");
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });

  it("is closed by a jump out of it, by the end in it, and by a withdrawal; and opened by a jump into its middle", () => {
    const out = run([
      part("p", limitOf(9, [REMIND]), ask("b", "declan", [jump("j", "d")])),
      ask("d", "eithne"),
      fin("z", "done"),
    ]);
    out.h.answer("declan", "again");
    expect([out.spans(), out.h.state.timers]).toEqual([[], {}]);
    const end = run([part("p", limitOf(9, [REMIND]), ask("b", "declan")), fin("z", "done")]);
    end.h.answer("declan", "no");
    expect([end.h.state.status, end.spans(), end.h.state.timers]).toEqual(["finished", [], {}]);
    const gone = run([part("p", limitOf(9, [REMIND]), ask("b", "declan")), fin("z", "done")]);
    gone.h.send({ type: "withdraw", actor: "una", note: "" });
    expect([gone.spans(), gone.h.state.timers]).toEqual([[], {}]);
    const into = run([
      ask("a", "carmel", [jump("j", "c")]),
      part("p", limitOf(9), ask("b", "declan"), ask("c", "fergus")),
      fin("z", "done"),
    ]);
    into.h.answer("carmel", "again");
    expect([into.h.asked(), into.spans()]).toEqual([["fergus"], [["p", 9]]]);
  });

  it("goes on where it is gone back within it, and begins anew where it is come to again", () => {
    const { h, spans } = run([
      part("p", limitOf(9), ask("b", "declan"), ask("c", "fergus", [jump("j", "b")])),
      ask("d", "eithne", [jump("k", "p")]),
      fin("z", "done"),
    ]);
    h.answer("declan", "yes");
    h.at(T0 + 2 * H);
    h.answer("fergus", "again");
    expect([h.asked(), spans()]).toEqual([["declan"], [["p", 9]]]);
    h.answer("declan", "yes");
    h.answer("fergus", "yes");
    h.at(T0 + 5 * H);
    h.answer("eithne", "again");
    expect([h.asked(), spans()]).toEqual([["declan"], [["p", 14]]]);
  });

  it("holds for branches within it together, and for parts in parts each for itself", () => {
    const both = {
      id: "t",
      name: "Both",
      kind: "together",
      branches: [
        { id: "l", name: "Left", steps: [part("q", limitOf(2), ask("b", "declan"))] },
        { id: "r", name: "Right", steps: [ask("c", "fergus")] },
      ],
    } as unknown as Step;
    const { h, spans } = run([part("p", limitOf(9), both), fin("z", "done")]);
    expect(spans().sort()).toEqual([
      ["p", 9],
      ["q", 2],
    ]);
    h.answer("declan", "yes");
    expect(spans()).toEqual([["p", 9]]);
    h.answer("fergus", "yes");
    expect(h.state.status).toBe("finished");
  });

  it("reminds all who have something in it, once, and hands over what waits in it", () => {
    const both = {
      id: "t",
      name: "Both",
      kind: "together",
      branches: [
        { id: "l", name: "Left", steps: [ask("b", "declan")] },
        { id: "r", name: "Right", steps: [ask("c", "fergus")] },
      ],
    } as unknown as Step;
    const over: Rung = {
      id: "over",
      when: "after",
      length: hours(1),
      action: { do: "hand over", to: { by: "person", person: "eithne" } },
    };
    const { h, due, told } = run([
      part("p", limitOf(9, [REMIND, over]), both),
      ask("d", "carmel"),
      fin("z", "done"),
    ]);
    expect(due().ok).toBe(true);
    expect(told()).toEqual([["Reminder: Part p for TEST-0001", ["declan", "fergus"]]]);
    due();
    expect(h.asked()).toEqual(["eithne", "eithne"]);
    // A second worker has the same job.
    const { seq } = h.state;
    h.send({ type: "time reached", timer: "n1.over.1" });
    expect(h.state.seq).toBe(seq);
  });

  it("is over when the route has left it, though something is done beside still", () => {
    const errand = {
      id: "e",
      name: "Clean up",
      kind: "complete",
      button: "Done",
      who: { rule: { by: "person", person: "carmel" }, how: "one" },
      beside: "stays",
    } as unknown as Step;
    const { h, spans } = run([
      part("p", limitOf(9), errand, ask("b", "declan")),
      ask("d", "eithne"),
      fin("z", "done"),
    ]);
    expect([h.asked(), spans()]).toEqual([["carmel", "declan"], [["p", 9]]]);
    h.answer("declan", "yes");
    expect([h.asked(), spans()]).toEqual([["carmel", "eithne"], []]);
  });

  it("is about what waits in it alone, and about the steps, not about what is asked beside them", () => {
    const both = {
      id: "t",
      name: "Both",
      kind: "together",
      branches: [
        { id: "l", name: "Left", steps: [part("q", limitOf(9, [REMIND]), ask("b", "declan"))] },
        { id: "r", name: "Right", steps: [ask("c", "fergus")] },
      ],
    } as unknown as Step;
    const { h, due, told } = run([both, fin("z", "done")]);
    const task = h.open().find((t) => t.step === "b")!.id;
    h.send({ type: "ask", actor: "declan", task, to: null, note: "Which?" });
    due();
    expect(told()).toEqual([["Reminder: Part q for TEST-0001", ["declan"]]]);
  });

  it("hands over to nobody who may not answer, and says so", () => {
    const over: Rung = { id: "over", when: "at", action: { do: "hand over", to: { by: "requester" } } };
    const { h, due } = run([part("p", limitOf(9, [over]), ask("b", "declan")), fin("z", "done")]);
    due();
    expect(h.asked()).toEqual(["declan"]);
    expect(h.events.at(-1)).toMatchObject({ type: "rung fired", found: false });
  });

  it("tells why it cannot be worked out, and keeps nobody from going on", () => {
    const odd = limitOf(9, [REMIND], {
      rules: [{ when: "true", length: { by: "count", formula: "1 / 0", unit: "hours" } }],
    });
    const { h, spans } = run([part("p", odd, ask("b", "declan")), fin("z", "done")]);
    expect([spans(), h.state.timers, h.asked()]).toEqual([[["p", null]], {}, ["declan"]]);
    expect(h.events.find((e) => e.type === "span opened")).toMatchObject({ unclear: { code: "unclear" } });
    h.answer("declan", "yes");
    expect(h.state.status).toBe("finished");
  });
});

describe("the limit of the whole", () => {
  const ROUTE = [ask("a", "carmel"), ask("b", "declan"), fin("z", "done")];
  it("runs from when it was made until it ends, and its ladder is about whoever has something by then", () => {
    const tell: Rung = {
      id: "tell",
      when: "before",
      length: hours(1),
      if: 'Reason = "urgent"',
      action: { do: "tell", who: { by: "requester" }, text: "{Request.number} is late." },
    };
    const { h, spans, due, told } = run(ROUTE, { limit: limitOf(48, [tell, REMIND]) });
    expect(spans()).toEqual([["", 48]]);
    h.at(T0 + 20 * H);
    h.answer("carmel", "yes");
    expect(spans()).toEqual([["", 48]]);
    due();
    expect(told()).toEqual([]);
    expect(h.events.at(-1)).toMatchObject({ type: "rung fired", unmet: true });
    due();
    expect(told()).toEqual([["Reminder: Test for TEST-0001", ["declan"]]]);
    h.answer("declan", "yes");
    expect([h.state.status, spans(), h.state.timers]).toEqual(["finished", [], {}]);
  });

  it("is one of its own in a procedure, which ends with it", () => {
    const inner = definitionOf([ask("i", "declan")], {
      key: "inner",
      procedure: true,
      starts: [],
      fields: [],
      limit: limitOf(5, [REMIND]),
    });
    const call = {
      id: "h",
      name: "Hand",
      kind: "hand to",
      procedure: "inner",
      takes: [],
      gives: [],
      values: [],
    };
    const outer = definitionOf([call as unknown as Step, fin("z", "done")], { limit: limitOf(9) });
    const h = harness(outer, {}, {}, undefined, proceduresOf({ inner: [inner] }));
    h.start();
    const [c] = Object.values(h.state.calls);
    expect(Object.values(c!.state.spans!).map((s) => (s.due! - T0) / H)).toEqual([5]);
    h.at(T0 + 5 * H);
    expect(h.send({ type: "time reached", timer: `${c!.id}~${Object.keys(c!.state.timers)[0]}` }).ok).toBe(
      true,
    );
    h.answer("declan", "yes");
    expect(h.state.status).toBe("finished");
    const again = harness(outer, {}, {}, undefined, proceduresOf({ inner: [inner] }));
    again.start();
    again.send({ type: "cancel", actor: "una", note: "no" });
    expect(Object.values(again.state.calls).every((x) => Object.keys(x.state.timers).length === 0)).toBe(
      true,
    );
    expect(Object.values(again.state.tasks).some(isOpen)).toBe(false);
  });
});
