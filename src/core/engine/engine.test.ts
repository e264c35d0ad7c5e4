import type { Step } from "../route";
import { NEW_REQUEST, replay } from ".";
import { ans, decideBy, definitionOf, fin, harness, T0, YES_NO } from "./testRequest";

const H = 3_600_000;

describe("deciding", () => {
  it("asks the manager, and ends as the answer says", () => {
    const h = harness(
      definitionOf([decideBy("check", { by: "manager" }, YES_NO("1")), fin("end", "approved")]),
    );
    expect(h.start().ok).toBe(true);
    expect(h.asked()).toEqual(["brendan"]);
    expect(h.answer("carmel", "approve")).toMatchObject({ ok: false, refusal: { code: "not-yours" } });
    h.answer("brendan", "approve");
    expect(h.state).toMatchObject({ status: "finished", result: { name: "approved" } });
  });

  it("gives the second of two answers a clear refusal", () => {
    const h = harness(
      definitionOf([
        decideBy("check", { by: "group", group: "registry" }, YES_NO("1")),
        fin("end", "approved"),
      ]),
    );
    h.start();
    const task = h.open()[0]!.id;
    h.send({ type: "answer", actor: "carmel", task, answer: "approve", note: "", data: {} });
    expect(
      h.send({ type: "answer", actor: "declan", task, answer: "decline", note: "", data: {} }),
    ).toMatchObject({
      ok: false,
      refusal: { code: "already-answered", data: { by: "carmel", answer: "approve" } },
    });
    expect(h.events.filter((e) => e.type === "answer given")).toHaveLength(1);
  });

  it("keeps a taken task for whoever took it, until it is put back", () => {
    const h = harness(
      definitionOf([
        decideBy("check", { by: "group", group: "registry" }, YES_NO("1")),
        fin("end", "approved"),
      ]),
    );
    h.start();
    const task = h.open()[0]!.id;
    h.send({ type: "take", actor: "carmel", task });
    expect(h.send({ type: "take", actor: "declan", task })).toMatchObject({
      refusal: { code: "taken-by-other" },
    });
    h.send({ type: "put back", actor: "carmel", task });
    expect(h.send({ type: "take", actor: "declan", task }).ok).toBe(true);
  });

  it.each([
    ["all", undefined, ["approve", "approve", "approve"], "finished", "approved"],
    ["all", undefined, ["approve", "decline"], "finished", "declined"],
    ["share", 60, ["approve", "approve"], "finished", "approved"],
    ["share", 60, ["approve", "decline", "decline"], "finished", "declined"],
    ["share", 60, ["approve", "decline"], "under way", undefined],
    ["first", undefined, ["decline"], "finished", "declined"],
  ] as const)("%s (%p): %p gives %s %s", (how, share, given, status, result) => {
    const step = {
      ...decideBy("vote", { by: "group", group: "registry" }, YES_NO("1")),
      who: { rule: { by: "group", group: "registry" }, how, ...(share ? { share } : {}) },
    } as Step;
    const h = harness(definitionOf([step, fin("end", "approved")]));
    h.start();
    const people = ["carmel", "declan", "fergus"];
    given.forEach((a, i) => h.answer(people[i]!, a));
    expect(h.state.status).toBe(status);
    expect(h.state.result?.name).toBe(result);
    if (status === "finished") expect(h.open()).toHaveLength(0);
  });

  it("sends back for changes and comes to the same step again with the changed form", () => {
    const h = harness(
      definitionOf([
        decideBy("check", { by: "manager" }, [
          ...YES_NO("1"),
          ans("back", "plain", [], { returns: true, note: "must" }),
        ]),
        fin("end", "approved"),
      ]),
    );
    h.start();
    expect(h.answer("brendan", "back")).toMatchObject({ ok: false, refusal: { code: "note-needed" } });
    h.answer("brendan", "back", "Which store?");
    expect(h.asked()).toEqual(["una"]);
    expect(h.answer("una", "sent", "", { total: "" })).toMatchObject({
      ok: false,
      refusal: { code: "form" },
    });
    h.answer("una", "sent", "", { total: "250" });
    expect(h.asked()).toEqual(["brendan"]);
    expect(h.state.data["total"]).toBe("250");
  });

  it("never lets requesters decide their own request, also not by cover or handing over", () => {
    const h = harness(
      definitionOf([
        decideBy("check", { by: "person", person: "una" }, YES_NO("1"), {
          who: {
            rule: { by: "person", person: "una" },
            how: "one",
            fallback: { by: "duty", duty: "Director" },
          },
        }),
        fin("end", "approved"),
      ]),
      { eithne: "una" },
    );
    h.start();
    expect(h.state.status).toBe("stuck");
    expect(h.state.stuck[0]!.reason).toMatchObject({ code: "nobody" });
    const g = harness(
      definitionOf([decideBy("check", { by: "manager" }, YES_NO("1")), fin("end", "approved")]),
    );
    g.start();
    expect(
      g.send({ type: "hand over", actor: "brendan", task: g.open()[0]!.id, to: "una", note: "" }),
    ).toMatchObject({ refusal: { code: "own-request" } });
  });

  it("asks the cover of someone away, and says for whom", () => {
    const h = harness(
      definitionOf([decideBy("check", { by: "manager" }, YES_NO("1")), fin("end", "approved")]),
      { brendan: "declan" },
    );
    h.start();
    expect(h.open()[0]!.candidates).toEqual([{ person: "declan", for: "brendan" }]);
    h.answer("declan", "approve");
    expect(h.events.find((e) => e.type === "answer given")).toMatchObject({ for: "brendan", by: "declan" });
  });

  it("keeps fields a step may not edit, whatever is sent", () => {
    const d = definitionOf([decideBy("check", { by: "manager" }, YES_NO("1")), fin("end", "approved")], {
      access: { start: { secret: "hide" }, check: { reason: "edit", secret: "hide" } },
    });
    const h = harness(d);
    h.start({ total: "100", secret: "mine" });
    expect(h.state.data["secret"]).toBeNull();
    h.answer("brendan", "approve", "", { total: "1", reason: "fine", secret: "x" });
    expect(h.state.data).toMatchObject({ total: "100", reason: "fine", secret: null });
  });
});

describe("routes", () => {
  const choose = (id: string): Step => ({
    id,
    name: "By amount",
    kind: "choose",
    ways: [
      { id: "small", name: "up to 500", when: "Total <= 500", steps: [fin("auto", "passed")] },
      { id: "large", name: "above", steps: [] },
    ],
  });
  it("chooses by condition and remembers why", () => {
    const h = harness(
      definitionOf([choose("c"), decideBy("check", { by: "manager" }, YES_NO("1")), fin("end", "approved")]),
    );
    h.start({ total: "500" });
    expect(h.state.result?.name).toBe("passed");
    expect(h.events.find((e) => e.type === "step did")).toMatchObject({
      did: { why: [{ text: "Total <= 500", values: "500 <= 500", result: "yes" }] },
    });
    const g = harness(
      definitionOf([choose("c"), decideBy("check", { by: "manager" }, YES_NO("1")), fin("end", "approved")]),
    );
    g.start({ total: "500.01" });
    expect(g.asked()).toEqual(["brendan"]);
  });

  const together: Step = {
    id: "both",
    name: "Both",
    kind: "together",
    branches: [
      { id: "a", name: "A", steps: [decideBy("one", { by: "person", person: "carmel" }, YES_NO("a"))] },
      {
        id: "b",
        name: "B",
        when: "Total > 1000",
        steps: [decideBy("two", { by: "person", person: "declan" }, YES_NO("b"))],
      },
    ],
  };
  it("waits for every branch that was opened, and only for those", () => {
    const h = harness(definitionOf([together, fin("end", "approved")]));
    h.start({ total: "5000" });
    expect(h.asked()).toEqual(["carmel", "declan"]);
    h.answer("carmel", "approve");
    expect(h.state.status).toBe("under way");
    h.answer("declan", "approve");
    expect(h.state.status).toBe("finished");
    const g = harness(definitionOf([together, fin("end", "approved")]));
    g.start({ total: "1000" });
    expect(g.asked()).toEqual(["carmel"]);
    g.answer("carmel", "approve");
    expect(g.state.status).toBe("finished");
  });
  it("a Finish inside a branch ends all of it", () => {
    const h = harness(definitionOf([together, fin("end", "approved")]));
    h.start({ total: "5000" });
    h.answer("declan", "decline");
    expect(h.state).toMatchObject({ status: "finished", result: { name: "declined" } });
    expect(h.open()).toHaveLength(0);
  });
  it("stops a route that runs in circles", () => {
    const h = harness(
      definitionOf([
        { id: "w", name: "Set", kind: "work out", set: [] },
        { id: "j", name: "Again", kind: "jump", to: "w" },
      ]),
    );
    h.start();
    expect(h.state.stuck[0]!.reason.code).toBe("runaway");
  });
  it("withdraws cleanly, by the requester only", () => {
    const h = harness(definitionOf([together, fin("end", "approved")]));
    h.start({ total: "5000" });
    expect(h.send({ type: "withdraw", actor: "carmel", note: "" })).toMatchObject({
      refusal: { code: "not-requester" },
    });
    h.send({ type: "withdraw", actor: "una", note: "no need" });
    expect(h.state.status).toBe("withdrawn");
    expect(h.open()).toHaveLength(0);
    expect(h.answer("carmel", "approve")).toMatchObject({ ok: false });
  });
  it("waits for a write and goes on with its result, or gets stuck and can be retried", () => {
    const write: Step = {
      id: "w",
      name: "Mark it",
      kind: "write",
      op: "change",
      register: "stores",
      record: "Reason",
      values: [],
      must: "true",
    };
    const h = harness(definitionOf([write, fin("end", "approved")]));
    const d = h.start({ total: "1", reason: "17" });
    const effect = d.ok ? d.effects.find((e) => e.kind === "write") : undefined;
    expect(effect).toMatchObject({ kind: "write", rows: [{ record: "17" }] });
    const id = effect?.kind === "write" ? effect.id : "";
    h.send({
      type: "effect failed",
      effect: id,
      reason: { code: "must-not", data: { step: "Mark it", record: "Key 17", condition: "true" } },
    });
    expect(h.state.status).toBe("stuck");
    const again = h.send({ type: "retry", actor: "una", token: h.state.stuck[0]!.token });
    const second = again.ok ? again.effects.find((e) => e.kind === "write") : undefined;
    // What is tried again is asked for under the same id: nobody takes it for new.
    expect(second?.id).toBe(id);
    h.send({ type: "effect done", effect: second!, result: { records: [] } });
    expect(h.state.status).toBe("finished");
    expect(h.send({ type: "effect done", effect: second!, result: { records: [] } })).toMatchObject({
      ok: true,
      events: [],
    });
  });
});

describe("ladders", () => {
  const limit = {
    rules: [{ when: "Total > 1000", length: { amount: 4, unit: "working hours" as const } }],
    otherwise: { amount: 2, unit: "working days" as const },
    rungs: [
      {
        id: "r1",
        when: "before" as const,
        length: { amount: 1, unit: "working days" as const },
        action: { do: "remind" as const },
      },
      { id: "r2", when: "at" as const, action: { do: "hand over" as const, to: { by: "manager" as const } } },
      {
        id: "r3",
        when: "after" as const,
        length: { amount: 1, unit: "working days" as const },
        action: { do: "answer" as const, answer: "decline", note: "No answer in time" },
      },
    ],
  };
  const ladder = () =>
    harness(
      definitionOf([decideBy("check", { by: "manager" }, YES_NO("1"), { limit }), fin("end", "approved")]),
    );
  const fire = (h: ReturnType<typeof harness>, rung: string) => {
    const timer = Object.values(h.state.timers).find((t) => t.rung === rung)!;
    h.at(timer.at);
    return h.send({ type: "time reached", timer: timer.id });
  };
  it("reminds before, hands over at, and answers after the limit", () => {
    const h = ladder();
    h.start();
    expect(h.open()[0]!.due).toBe(T0 + 48 * H);
    const d = fire(h, "r1");
    expect(d.ok && d.effects.find((e) => e.kind === "tell")).toMatchObject({ people: ["brendan"] });
    // Kept with the request, it is done where it stands on the trail, and nothing waits for it.
    expect(d.ok && d.events.filter((e) => e.type.startsWith("effect"))).toMatchObject([
      { type: "effect asked", token: null, by: null },
      { type: "effect done", kind: "tell", result: { people: ["brendan"] }, by: null },
    ]);
    fire(h, "r2");
    expect(h.asked()).toEqual(["eithne"]);
    fire(h, "r3");
    expect(h.state).toMatchObject({ status: "finished", result: { name: "declined" } });
    expect(h.events.find((e) => e.type === "answer given")).toMatchObject({ automatic: true, by: null });
  });
  it("takes the length of the first rule that holds, with the reason", () => {
    const h = ladder();
    h.start({ total: "2000" });
    expect(h.open()[0]!.due).toBe(T0 + 4 * H);
    // A working day before a limit of four hours lies before the start: that rung is left out.
    expect(Object.values(h.state.timers).map((t) => t.rung)).toEqual(["r2", "r3"]);
    expect(h.events.find((e) => e.type === "visit opened")).toMatchObject({
      why: [{ text: "Total > 1000" }],
    });
  });
  it("clears its timers once answered; a late one does nothing", () => {
    const h = ladder();
    h.start();
    const timer = Object.keys(h.state.timers)[0]!;
    h.answer("brendan", "approve");
    expect(h.state.timers).toEqual({});
    expect(h.send({ type: "time reached", timer })).toMatchObject({ ok: true, events: [] });
  });
});

it("state is the fold of the events", () => {
  const h = harness(
    definitionOf([decideBy("check", { by: "manager" }, YES_NO("1")), fin("end", "approved")]),
  );
  h.start();
  h.answer("brendan", "decline", "no");
  expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
});
