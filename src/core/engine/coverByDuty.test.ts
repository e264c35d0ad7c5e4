import type { Assignment, Rule, Step } from "../route";
import { ans, decideBy, definitionOf, fin, harness, YES_NO } from "./testRequest";

const GUARD: Rule = { by: "duty", duty: "Guard" };
const begun = (who: Partial<Assignment> & { rule: Rule }, away: Record<string, string>) => {
  const step = { ...decideBy("check", who.rule, YES_NO("1")), who: { how: "one", ...who } } as Step;
  const h = harness(definitionOf([step, fin("end", "approved")]), away);
  h.start();
  return h;
};
const people = (h: ReturnType<typeof begun>) => h.open().flatMap((t) => t.candidates);

it("somebody asked by a duty is covered for by who answers in that, and else by who answers otherwise", () => {
  const away = { declan: "carmel", "declan as Guard": "fergus" };
  expect(people(begun({ rule: GUARD }, away))).toEqual([{ person: "fergus", for: "declan" }]);
  const named: Rule = { by: "person", person: "declan" };
  expect(people(begun({ rule: named }, away))).toEqual([{ person: "carmel", for: "declan" }]);
  // Of several rules each says by what it found them.
  const several: Rule = { by: "several", take: "first", of: [{ by: "group", group: "none" }, GUARD] };
  expect(people(begun({ rule: several }, away))).toEqual([{ person: "fergus", for: "declan" }]);
  // Another duty of theirs is nobody's business here.
  const other = { "declan as Director": "fergus" };
  expect(people(begun({ rule: GUARD }, other))).toEqual([{ person: "declan" }]);
});

it("the cover in a duty is away as well: then who answers for them in it, or otherwise", () => {
  const away = { "declan as Guard": "fergus", fergus: "eithne" };
  expect(people(begun({ rule: GUARD }, away))).toEqual([{ person: "eithne", for: "declan" }]);
  expect(people(begun({ rule: GUARD }, { ...away, "fergus as Guard": "carmel" }))).toEqual([
    { person: "carmel", for: "declan" },
  ]);
  // In a circle it ends.
  expect(people(begun({ rule: GUARD }, { "declan as Guard": "fergus", fergus: "declan" }))).toHaveLength(1);
});

it("whoever covers in the duty decides whether a rule finds somebody who may be asked", () => {
  // una made the request: nobody is asked by the first rule, and not declan by it either.
  const first: Rule = { by: "several", take: "first", of: [GUARD, { by: "person", person: "carmel" }] };
  expect(people(begun({ rule: first }, { "declan as Guard": "una" }))).toEqual([{ person: "carmel" }]);
});

it("holds for who is asked next, for a fallback, and for whom a ladder hands over to", () => {
  const away: Record<string, string> = {};
  const order: Rule = { by: "several", take: "all", of: [{ by: "person", person: "carmel" }, GUARD] };
  const next = begun({ rule: order, how: "order" }, away);
  away["declan as Guard"] = "fergus";
  next.answer("carmel", "approve");
  expect(people(next)).toEqual([{ person: "fergus", for: "declan" }]);

  const later: Record<string, string> = {};
  const saved = begun({ rule: { by: "group", group: "none" }, fallback: GUARD }, later);
  expect(people(saved)).toEqual([{ person: "declan" }]);
  later["declan as Guard"] = "fergus";
  saved.send({ type: "ask others" });
  expect(people(saved)).toEqual([{ person: "fergus", for: "declan" }]);

  const rungs = [{ id: "r", when: "at" as const, action: { do: "hand over" as const, to: GUARD } }];
  const limit = { otherwise: { amount: 1, unit: "hours" as const }, rungs };
  const step = decideBy("check", { by: "person", person: "carmel" }, YES_NO("1"), { limit });
  const h = harness(definitionOf([step, fin("end", "approved")]), { "declan as Guard": "fergus" });
  h.start();
  const [timer] = Object.values(h.state.timers);
  h.at(timer!.at);
  h.send({ type: "time reached", timer: timer!.id });
  expect(people(h)).toEqual([{ person: "fergus", for: "declan" }]);
});

describe("who goes away while they have something", () => {
  it("has it go to who answers in the duty by which they were asked", () => {
    const away: Record<string, string> = {};
    const h = begun({ rule: GUARD }, away);
    Object.assign(away, { declan: "carmel", "declan as Guard": "fergus" });
    h.send({ type: "ask others" });
    expect(people(h)).toEqual([{ person: "fergus", for: "declan" }]);
    // It may come often.
    const { seq } = h.state;
    h.send({ type: "ask others" });
    expect(h.state.seq).toBe(seq);
  });

  it("keeps it where they said so, and what comes meanwhile goes to who covers", () => {
    const away: Record<string, string> = {};
    const steps = [decideBy("one", GUARD, [ans("ok", "agree")]), decideBy("two", GUARD, YES_NO("2"))];
    const h = harness(definitionOf([...steps, fin("end", "approved")]), away);
    h.start();
    Object.assign(away, { declan: "fergus", "declan keeps": "yes" });
    h.send({ type: "ask others" });
    expect(people(h)).toEqual([{ person: "declan" }]);
    h.answer("declan", "ok");
    expect(people(h)).toEqual([{ person: "fergus", for: "declan" }]);
  });

  it("keeps it though a colleague who was asked with them has left", () => {
    const away: Record<string, string> = {};
    const h = begun({ rule: { by: "group", group: "registry" } }, away);
    Object.assign(away, { declan: "eithne", "declan keeps": "yes" });
    h.left.add("carmel");
    h.send({ type: "ask others" });
    expect(h.asked()).toEqual(["declan|fergus"]);
  });
});

describe("whoever is back", () => {
  const covered = (who: Partial<Assignment> & { rule: Rule } = { rule: GUARD }) => {
    const away: Record<string, string> = { declan: "eithne" };
    const h = begun(who, away);
    const back = (actor = "declan") => h.send({ type: "take back", actor, task: h.open()[0]!.id });
    return { h, away, back };
  };
  const code = (d: { ok: boolean; refusal?: { code: string } }) => (d.ok ? null : d.refusal!.code);

  it("has again what is with their cover, who has it no more", () => {
    const { h, away, back } = covered();
    expect(code(back())).toBe("still-away");
    delete away["declan"];
    expect([code(back("eithne")), code(back("carmel"))]).toEqual(["not-yours", "not-yours"]);
    expect(code(back())).toBeNull();
    expect(people(h)).toEqual([{ person: "declan" }]);
    expect(code(h.answer("eithne", "approve"))).toBe("not-yours");
    expect(code(back())).toBe("not-yours");
    h.answer("declan", "approve");
    expect(
      code(h.send({ type: "take back", actor: "declan", task: Object.keys(h.state.tasks)[0]! })),
    ).not.toBeNull();
  });

  it("leaves alone whoever was asked with them", () => {
    const rule: Rule = { by: "group", group: "registry" };
    const { h, away, back } = covered({ rule });
    expect(h.asked()).toEqual(["carmel|eithne|fergus"]);
    delete away["declan"];
    h.send({ type: "take", actor: "carmel", task: h.open()[0]!.id });
    expect(code(back())).toBe("taken-by-other");
    h.send({ type: "put back", actor: "carmel", task: h.open()[0]!.id });
    expect(code(back())).toBeNull();
    expect(h.asked()).toEqual(["declan|carmel|fergus"]);
  });

  it("takes from a cover what they have taken already, and is one vote where each has one", () => {
    const { h, away, back } = covered({ rule: { by: "group", group: "registry" } });
    h.send({ type: "take", actor: "eithne", task: h.open()[0]!.id });
    delete away["declan"];
    expect(code(back())).toBeNull();
    const all = covered({ rule: { by: "group", group: "registry" }, how: "all" });
    delete all.away["declan"];
    const theirs = all.h.open().find((t) => t.holder === "eithne")!.id;
    expect(code(all.h.send({ type: "take back", actor: "declan", task: theirs }))).toBeNull();
    expect(all.h.asked()).toEqual(["carmel", "declan", "fergus"]);
  });

  it("has it though they are away still, where what is open stays with them", () => {
    const { h, away, back } = covered();
    away["declan keeps"] = "yes";
    expect(code(back())).toBeNull();
    h.send({ type: "ask others" });
    expect(people(h)).toEqual([{ person: "declan" }]);
  });

  it("is not given what they may not answer by now", () => {
    const away: Record<string, string> = { declan: "eithne" };
    const named: Rule = { by: "person", person: "declan" };
    const two = {
      ...decideBy("two", named, [ans("ok", "agree")]),
      who: { rule: named, how: "one", never: [{ by: "answered", step: "one" }] },
    } as Step;
    const both = {
      id: "t",
      name: "Both",
      kind: "together",
      branches: [
        { id: "l", name: "Left", steps: [decideBy("one", named, [ans("ok", "agree")])] },
        { id: "r", name: "Right", steps: [two] },
      ],
    } as unknown as Step;
    const h = harness(definitionOf([both, fin("end", "approved")]), away);
    h.start();
    delete away["declan"];
    const of = (step: string) => h.open().find((t) => t.step === step)!.id;
    expect(code(h.send({ type: "take back", actor: "declan", task: of("one") }))).toBeNull();
    const answer = { type: "answer", answer: "ok", note: "", data: {} } as const;
    expect(code(h.send({ ...answer, actor: "declan", task: of("one") }))).toBeNull();
    expect(code(h.send({ type: "take back", actor: "declan", task: of("two") }))).toBe("kept-apart");
  });
});
