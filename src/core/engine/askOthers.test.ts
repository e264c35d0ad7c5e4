import type { Assignment, Rule } from "../route";
import type { Step } from "../route";
import { ans, decideBy, definitionOf, fin, harness, YES_NO } from "./testRequest";

const MANAGER: Rule = { by: "manager" };
const REGISTRY: Rule = { by: "group", group: "registry" };
const GUARD: Rule = { by: "duty", duty: "Guard" };

function asked(who: Partial<Assignment> & { rule: Rule }) {
  const away: Record<string, string> = {};
  const back = ans("back", "plain", [], { returns: true });
  const step = {
    ...decideBy("check", who.rule, [...YES_NO("1"), back]),
    who: { how: "one", ...who },
  } as Step;
  const h = harness(definitionOf([step, fin("end", "approved")]), away);
  h.start();
  /** Looks who is there, and once more, which must change nothing. */
  const look = () => {
    const d = h.send({ type: "ask others" });
    const again = h.send({ type: "ask others" });
    if (!d.ok || !again.ok) throw new Error("refused");
    expect(again.events).toEqual([]);
    return d.events.map((e) => e.type);
  };
  return { h, away, look };
}

describe("somebody who goes away after being asked", () => {
  it("is covered for, and the trail says why", () => {
    const { h, away, look } = asked({ rule: MANAGER });
    expect(look()).toEqual([]);
    away["brendan"] = "carmel";
    expect(look()).toEqual(["task handed over"]);
    expect(h.open()[0]!.candidates).toEqual([{ person: "carmel", for: "brendan" }]);
    expect(h.events.at(-1)).toMatchObject({ gone: "away", by: null });
    expect(h.answer("brendan", "approve").ok).toBe(false);
    expect(h.answer("carmel", "approve").ok).toBe(true);
  });
  it("keeps the task without a cover, or where covers run in a circle", () => {
    const { h, away, look } = asked({ rule: MANAGER });
    away["brendan"] = "carmel";
    away["carmel"] = "brendan";
    expect(look()).toEqual([]);
    away["carmel"] = "declan";
    expect(look()).toEqual(["task handed over"]);
    expect(h.asked()).toEqual(["declan"]);
  });
  it("with the requester for a cover, the fallback is asked; without one they keep it", () => {
    const one = asked({ rule: MANAGER, fallback: GUARD });
    one.away["brendan"] = "una";
    one.look();
    expect(one.h.asked()).toEqual(["declan"]);
    const other = asked({ rule: MANAGER });
    other.away["brendan"] = "una";
    expect(other.look()).toEqual([]);
    expect(other.h.asked()).toEqual(["brendan"]);
  });
  it("keeps what a colleague has taken as it is, and gives back what they took themselves", () => {
    const { h, away, look } = asked({ rule: REGISTRY });
    h.send({ type: "take", actor: "carmel", task: h.open()[0]!.id });
    away["declan"] = "eithne";
    expect(look()).toEqual([]);
    away["carmel"] = "brendan";
    look();
    expect(h.asked()).toEqual(["brendan|eithne|fergus"]);
    expect(h.open()[0]!.holder).toBeNull();
  });
  it("gives no second vote to a cover who has one", () => {
    const { h, away, look } = asked({ rule: REGISTRY, how: "all" });
    h.answer("declan", "approve");
    away["carmel"] = "declan";
    look();
    expect(h.asked()).toEqual(["fergus"]);
    h.answer("fergus", "approve");
    expect(h.state.result?.name).toBe("approved");
  });
});

it("among those who left, whoever is only away keeps the task where nobody else is found", () => {
  const { h, away, look } = asked({ rule: REGISTRY });
  h.left.add("carmel").add("fergus");
  away["declan"] = "una";
  expect(look()).toEqual([]);
  delete away["declan"];
  look();
  expect(h.asked()).toEqual(["declan"]);
});

describe("somebody who has left", () => {
  it("is replaced by whoever the rule finds now, else by the fallback", () => {
    const { h, look } = asked({ rule: MANAGER, fallback: GUARD });
    h.left.add("brendan");
    expect(look()).toEqual(["task handed over"]);
    expect(h.events.at(-1)).toMatchObject({ gone: "left" });
    expect(h.asked()).toEqual(["declan"]);
  });
  it("leaves the request stuck where nobody is found; trying again asks anew", () => {
    const { h, look } = asked({ rule: MANAGER });
    h.left.add("brendan");
    look();
    expect(h.state.stuck[0]!.reason.code).toBe("nobody");
    expect([h.open(), h.state.visits, h.state.timers]).toEqual([[], {}, {}]);
    h.left.clear();
    h.send({ type: "retry", actor: "una", token: h.state.stuck[0]!.token });
    expect(h.asked()).toEqual(["brendan"]);
  });
  it("of several leaves the others to decide", () => {
    const { h, look } = asked({ rule: REGISTRY, how: "all" });
    h.answer("declan", "approve");
    h.answer("fergus", "approve");
    h.left.add("carmel");
    expect(look()).toContain("task closed");
    expect(h.state.result?.name).toBe("approved");
  });
  it("of several who all left makes the step ask anew", () => {
    const { h, look } = asked({ rule: REGISTRY, how: "all", fallback: GUARD });
    ["carmel", "declan", "fergus"].forEach((p) => h.left.add(p));
    look();
    expect(h.state.stuck[0]!.reason.code).toBe("nobody");
    const other = asked({ rule: REGISTRY, how: "all", fallback: { by: "duty", duty: "Director" } });
    ["carmel", "declan", "fergus"].forEach((p) => other.h.left.add(p));
    other.look();
    expect(other.h.asked()).toEqual(["eithne"]);
    expect(Object.keys(other.h.state.visits)).toHaveLength(1);
  });
  it("and had asked for it: changes are asked of their manager, and of the next one up", () => {
    const { h, look } = asked({ rule: MANAGER });
    h.answer("brendan", "back", "why?");
    expect(h.asked()).toEqual(["una"]);
    h.left.add("una").add("brendan");
    look();
    expect(h.asked()).toEqual(["eithne"]);
    const late = asked({ rule: GUARD });
    late.h.left.add("una");
    late.h.answer("declan", "back", "why?");
    expect(late.h.asked()).toEqual(["brendan"]);
  });
});

it("whom the ladder has asked besides goes on being asked when the first has left", () => {
  const limit = {
    otherwise: { amount: 1, unit: "working days" },
    rungs: [{ id: "r", when: "at", action: { do: "add", who: { by: "duty", duty: "Director" } } }],
  };
  const step = { ...decideBy("check", MANAGER, YES_NO("1")), limit } as Step;
  const h = harness(definitionOf([step, fin("end", "approved")]));
  h.start();
  const timer = Object.values(h.state.timers)[0]!;
  h.at(timer.at);
  h.send({ type: "time reached", timer: timer.id });
  h.left.add("brendan");
  h.send({ type: "ask others" });
  expect([h.state.status, h.asked()]).toEqual(["under way", ["eithne"]]);
  h.answer("eithne", "approve");
  expect(h.state.result?.name).toBe("approved");
});

it("does nothing once a request has ended", () => {
  const { h, look } = asked({ rule: MANAGER });
  h.answer("brendan", "approve");
  h.left.add("brendan");
  expect(look()).toEqual([]);
});
