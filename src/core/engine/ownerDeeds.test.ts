import type { Step } from "../route";
import { ans, decideBy, definitionOf, fin, harness, T0, YES_NO } from "./testRequest";

const HOUR = 3_600_000;
const by = { actor: "owner", note: "Away till May" };
const nobody = { by: "formula", formula: "null" } as const;

describe("a request that is stuck", () => {
  const stuck = (more: Step[] = []) => {
    const h = harness(definitionOf([decideBy("d", nobody, YES_NO("d")), ...more, fin("end", "approved")]));
    h.start();
    return h;
  };
  const token = (h: ReturnType<typeof harness>) => h.state.stuck[0]!.token;

  it("goes on once somebody is named, who then decides", () => {
    const h = stuck();
    expect(h.send({ type: "name", token: token(h), to: "carmel", ...by }).ok).toBe(true);
    expect(h.asked()).toEqual(["carmel"]);
    expect(h.state).toMatchObject({ status: "under way", stuck: [] });
    h.answer("carmel", "decline");
    expect(h.state.result?.name).toBe("declined");
  });
  it("asks the cover of who is named, and never the requester", () => {
    const h = harness(definitionOf([decideBy("d", nobody, YES_NO("d"))]), {
      carmel: "fergus",
      declan: "una",
    });
    h.start();
    const name = (to: string) => h.send({ type: "name", token: token(h), to, ...by });
    expect(name("una")).toMatchObject({ refusal: { code: "own-request" } });
    expect(name("declan")).toMatchObject({ refusal: { code: "own-request" } });
    expect(name("nobody")).toMatchObject({ refusal: { code: "same-person" } });
    expect(h.send({ type: "name", token: token(h), to: "carmel", actor: "owner", note: " " })).toMatchObject({
      refusal: { code: "note-needed" },
    });
    expect(name("carmel").ok).toBe(true);
    expect(h.open()[0]!.candidates).toEqual([{ person: "fergus", for: "carmel" }]);
  });
  it("is not decided by leaving a decision out: the way is chosen, and stands as the answer", () => {
    const h = stuck();
    const skip = { type: "skip", token: token(h), ...by } as const;
    expect(h.send({ ...skip, way: null })).toMatchObject({
      refusal: { code: "choose-way", data: { ways: ["approve", "decline"] } },
    });
    expect(h.send({ ...skip, way: "toString" })).toMatchObject({ refusal: { code: "choose-way" } });
    expect(h.send({ ...skip, way: "decline", note: "" })).toMatchObject({ refusal: { code: "note-needed" } });
    expect(h.send({ ...skip, way: "decline", actor: "una" })).toMatchObject({
      refusal: { code: "own-request" },
    });
    expect(h.send({ ...skip, way: "decline" }).ok).toBe(true);
    expect(h.state.result?.name).toBe("declined");
    expect(h.state.outcomes["d"]).toMatchObject({ answer: "decline", by: "owner", note: "Away till May" });
  });
  it("takes the way of a Choose that is chosen", () => {
    const choose: Step = {
      id: "c",
      name: "By size",
      kind: "choose",
      ways: [
        { id: "w1", name: "small", when: "Total < 1", steps: [fin("s", "small")] },
        { id: "w2", name: "large", when: "Total > 1000", steps: [fin("l", "large")] },
      ],
    };
    const h = harness(definitionOf([choose]));
    h.start();
    const skip = { type: "skip", token: token(h), ...by } as const;
    expect(h.send({ ...skip, way: null })).toMatchObject({ refusal: { code: "choose-way" } });
    expect(h.send({ ...skip, way: "w2" }).ok).toBe(true);
    expect(h.state.result?.name).toBe("large");
  });
  it("asks nobody at a step that asks nobody", () => {
    const choose: Step = {
      id: "c",
      name: "C",
      kind: "choose",
      ways: [{ id: "w", name: "w", when: "false", steps: [] }],
    };
    const h = harness(definitionOf([choose]));
    h.start();
    expect(h.send({ type: "name", token: token(h), to: "carmel", ...by })).toMatchObject({
      refusal: { code: "asks-nobody" },
    });
  });
});

describe("a task that waits", () => {
  const limit = {
    otherwise: { amount: 8, unit: "hours", counts: "working" },
    rungs: [
      {
        id: "r1",
        when: "before",
        length: { amount: 1, unit: "hours", counts: "working" },
        action: { do: "remind" },
      },
      { id: "r2", when: "at", action: { do: "remind" } },
    ],
  };
  const back = ans("back", "plain", [], { returns: true });
  const waiting = (more: object = { limit }) => {
    const who = { by: "person", person: "brendan" } as const;
    const h = harness(
      definitionOf([decideBy("d", who, [...YES_NO("d"), back], more), fin("end", "approved")]),
    );
    h.start();
    return h;
  };
  const change = (h: ReturnType<typeof harness>, due: number, task = h.open()[0]!.id) =>
    h.send({ type: "change limit", task, due, ...by });

  it("gets another limit, and its ladder falls on the days of that", () => {
    const h = waiting();
    const before = Object.values(h.state.timers);
    const due = T0 + 7 * 24 * HOUR;
    expect(change(h, due).ok).toBe(true);
    expect(h.open()[0]!.due).toBe(due);
    expect(Object.values(h.state.visits)[0]!.due).toBe(due);
    const timers = Object.values(h.state.timers).sort((a, b) => a.at - b.at);
    expect(timers.map((t) => t.at)).toEqual([due - HOUR, due]);
    // A job of the old ladder that is still about finds nothing to do.
    for (const t of before) {
      const had = h.events.length;
      h.send({ type: "time reached", timer: t.id });
      expect(h.events.length).toBe(had);
    }
    expect(h.send({ type: "time reached", timer: timers[0]!.id }).ok).toBe(true);
    expect(h.events.findLast((e) => e.type === "rung fired")).toMatchObject({ rung: "r1", found: true });
    expect(change(h, due + HOUR).ok).toBe(true);
    expect(Object.keys(h.state.timers)).toHaveLength(2);
  });
  it("takes no limit that is over, endless or no moment", () => {
    const h = waiting();
    for (const due of [T0, T0 - 1, T0 + 20 * 366 * 24 * HOUR, Number.NaN, 1.5])
      expect(change(h, due)).toMatchObject({ refusal: { code: "bad-limit" } });
    expect(change(h, T0 + HOUR, "t99")).toMatchObject({ refusal: { code: "unknown-task" } });
    h.answer("brendan", "approve");
    expect(change(h, T0 + HOUR, "t3")).toMatchObject({ ok: false });
  });
  it("gets one where it had none", () => {
    const h = waiting({});
    expect(change(h, T0 + HOUR).ok).toBe(true);
    expect(h.open()[0]!.due).toBe(T0 + HOUR);
    expect(h.state.timers).toEqual({});
  });
  it("is let go on by a chosen answer; nobody is left to answer", () => {
    const h = waiting();
    const { token } = h.open()[0]!;
    expect(h.send({ type: "skip", token, way: "back", ...by })).toMatchObject({
      refusal: { code: "choose-way", data: { ways: ["approve", "decline"] } },
    });
    expect(h.send({ type: "skip", token, way: "approve", ...by }).ok).toBe(true);
    expect(h.state.result?.name).toBe("approved");
    expect(h.open()).toEqual([]);
    expect(h.state.timers).toEqual({});
  });
  it("goes on without the changes that were asked for, to whoever asked for them", () => {
    const h = waiting();
    h.answer("brendan", "back", "more, please");
    expect(h.asked()).toEqual(["una"]);
    expect(h.send({ type: "skip", token: h.open()[0]!.token, way: "approve", ...by })).toMatchObject({
      refusal: { code: "choose-way" },
    });
    expect(h.send({ type: "skip", token: h.open()[0]!.token, way: null, ...by }).ok).toBe(true);
    expect(h.asked()).toEqual(["brendan"]);
    expect(h.state.result).toBeNull();
  });
  it("is reminded of, and nothing else changes", () => {
    const h = waiting();
    const { seq: _seq, ...before } = h.state;
    expect(h.send({ type: "remind", task: h.open()[0]!.id, actor: "owner", note: "" }).ok).toBe(true);
    const { seq: _now, ...after } = h.state;
    expect(after).toEqual(before);
  });
});
