import type { Assignment, Rule, Step } from "../route";
import { ans, decideBy, definitionOf, fin, harness, YES_NO } from "./testRequest";

const MANAGER: Rule = { by: "manager" };
const GUARD: Rule = { by: "duty", duty: "Guard" };
const ONE = YES_NO("1");

/** A request with one decision, asked of `who`; una's manager is brendan, his is eithne. */
const asked = (who: Partial<Assignment> & { rule: Rule }, away: Record<string, string> = {}, data = {}) => {
  const step: Step = { ...decideBy("check", who.rule, ONE), who: { how: "one", ...who } } as Step;
  const h = harness(definitionOf([step, fin("end", "approved")]), away);
  h.start({ total: "100", ...data });
  return h;
};

describe("whose manager", () => {
  it("is the requester's, unless the rule says of whom", () => {
    expect(asked({ rule: MANAGER }).asked()).toEqual(["brendan"]);
    expect(asked({ rule: { by: "manager", of: "Requester" } }).asked()).toEqual(["brendan"]);
    const step = decideBy("check", { by: "manager", of: "Finder" }, ONE);
    const h = harness(
      definitionOf([step, fin("end", "approved")], {
        fields: [{ id: "finder", name: "Finder", kind: "person" }],
      }),
    );
    h.start({ finder: "fergus" });
    expect(h.asked()).toEqual(["carmel"]);
  });
  it("of nobody is nobody, never the requester's", () => {
    const step = decideBy("check", { by: "manager", of: "Finder" }, ONE);
    const h = harness(
      definitionOf([step, fin("end", "approved")], {
        fields: [{ id: "finder", name: "Finder", kind: "person" }],
      }),
    );
    h.start({});
    expect(h.state.status).toBe("stuck");
  });
  it("goes up as many levels as the rule says, and asks nobody where there are not so many", () => {
    expect(asked({ rule: { by: "manager", levels: 2 } }).asked()).toEqual(["eithne"]);
    expect(asked({ rule: { by: "manager", levels: 3 } }).state.status).toBe("stuck");
  });
});

describe("covers", () => {
  it("are followed over several people away", () => {
    const h = asked({ rule: MANAGER }, { brendan: "carmel", carmel: "declan" });
    expect(h.open()[0]!.candidates).toEqual([{ person: "declan", for: "brendan" }]);
  });
  it("that run in a circle end with the last one before it closes", () => {
    const h = asked({ rule: MANAGER }, { brendan: "carmel", carmel: "brendan" });
    expect(h.open()[0]!.candidates).toEqual([{ person: "carmel", for: "brendan" }]);
  });
  it("make one of two people with the same cover", () => {
    const h = asked(
      { rule: { by: "group", group: "registry" }, how: "all" },
      { carmel: "brendan", declan: "brendan" },
    );
    expect(h.asked()).toEqual(["brendan", "fergus"]);
  });
});

describe("the requester", () => {
  it("is not asked about their own request, not even as somebody's cover: the fallback is", () => {
    expect(asked({ rule: { by: "requester" }, fallback: GUARD }).asked()).toEqual(["declan"]);
    expect(asked({ rule: MANAGER, fallback: GUARD }, { brendan: "una" }).asked()).toEqual(["declan"]);
    expect(asked({ rule: MANAGER }, { brendan: "una" }).state.status).toBe("stuck");
  });
  it("is where the step says so", () => {
    expect(asked({ rule: { by: "requester" }, requesterToo: true, fallback: GUARD }).asked()).toEqual([
      "una",
    ]);
    expect(asked({ rule: MANAGER, requesterToo: true }, { brendan: "una" }).asked()).toEqual(["una"]);
  });
  it("is not handed a decision about their own request, unless the step says so", () => {
    const own = asked({ rule: MANAGER });
    const hand = (h: typeof own, actor: string, to: string) =>
      h.send({ type: "hand over", actor, task: h.open()[0]!.id, to, note: "" });
    expect(hand(own, "brendan", "una")).toMatchObject({ ok: false, refusal: { code: "own-request" } });
    // Nor through somebody away whose cover they are.
    const covered = asked({ rule: MANAGER }, { carmel: "una" });
    expect(hand(covered, "brendan", "carmel")).toMatchObject({
      ok: false,
      refusal: { code: "own-request" },
    });
    const too = asked({ rule: MANAGER, requesterToo: true });
    expect(hand(too, "brendan", "una").ok).toBe(true);
    expect(too.asked()).toEqual(["una"]);
  });
  it("is given changes back that were handed over: they are the requester's own work", () => {
    const back = [ans("yes", "agree"), ans("back", "plain", [], { returns: true })];
    const h = harness(definitionOf([decideBy("check", MANAGER, back), fin("end", "approved")]));
    h.start();
    h.answer("brendan", "back");
    const task = h.open()[0]!.id;
    expect(h.send({ type: "hand over", actor: "una", task, to: "carmel", note: "" }).ok).toBe(true);
    expect(h.asked()).toEqual(["carmel"]);
    expect(h.send({ type: "hand over", actor: "carmel", task, to: "una", note: "" }).ok).toBe(true);
    expect(h.asked()).toEqual(["una"]);
  });
});

describe("a task that several share", () => {
  const shared = () => asked({ rule: { by: "group", group: "registry" } });
  const send = (h: ReturnType<typeof shared>, type: "take" | "put back", actor: string) =>
    h.send({ type, actor, task: Object.keys(h.state.tasks)[0]! });
  it("is taken and put back by those asked alone, and once taken by nobody else", () => {
    const h = shared();
    expect(send(h, "take", "brendan")).toMatchObject({ ok: false, refusal: { code: "not-yours" } });
    expect(send(h, "put back", "carmel")).toMatchObject({ ok: false, refusal: { code: "not-shared" } });
    expect(send(h, "take", "carmel").ok).toBe(true);
    expect(send(h, "take", "declan")).toMatchObject({ ok: false, refusal: { code: "taken-by-other" } });
    expect(send(h, "put back", "declan")).toMatchObject({ ok: false, refusal: { code: "taken-by-other" } });
    expect(send(h, "put back", "carmel").ok).toBe(true);
    expect(send(h, "take", "declan").ok).toBe(true);
    h.answer("declan", "approve");
    expect(send(h, "take", "carmel")).toMatchObject({ ok: false, refusal: { code: "already-answered" } });
  });
  it("of one person is not to be taken", () =>
    expect(send(asked({ rule: { by: "duty", duty: "Director" } }), "put back", "eithne")).toMatchObject({
      ok: false,
      refusal: { code: "not-shared" },
    }));
});

describe("a rung that asks somebody else too", () => {
  const limited = (how: Assignment["how"], rule: Rule) => {
    const limit = {
      otherwise: { amount: 1, unit: "working days" },
      rungs: [{ id: "more", when: "at", action: { do: "add", who: rule } }],
    };
    const step = decideBy("check", { by: "group", group: "registry" }, ONE, { limit });
    const h = harness(
      definitionOf([
        { ...step, who: { rule: { by: "group", group: "registry" }, how } } as Step,
        fin("end", "approved"),
      ]),
    );
    h.start();
    const timer = Object.values(h.state.timers)[0]!;
    h.at(timer.at);
    const d = h.send({ type: "time reached", timer: timer.id });
    return { h, d };
  };
  it("gives them a task of their own, whose answer counts like the others'", () => {
    const shared = limited("one", { by: "duty", duty: "Director" }).h;
    expect(shared.asked()).toEqual(["carmel|declan|fergus", "eithne"]);
    expect(shared.answer("eithne", "approve").ok).toBe(true);
    expect(shared.state.status).toBe("finished");
    const each = limited("all", { by: "duty", duty: "Director" }).h;
    expect(each.asked()).toEqual(["carmel", "declan", "eithne", "fergus"]);
  });
  it("asks nobody twice, and never the requester", () => {
    expect(limited("one", { by: "group", group: "registry" }).h.asked()).toEqual(["carmel|declan|fergus"]);
    expect(limited("all", { by: "requester" }).h.asked()).toEqual(["carmel", "declan", "fergus"]);
  });
});
