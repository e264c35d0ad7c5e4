import type { Assignment, Rule, Step } from "../route";
import { ans, decideBy, definitionOf, fin, harness, T0 } from "./testRequest";

const REGISTRY: Rule = { by: "group", group: "registry" };
const ANSWERS = [
  ans("yes", "agree"),
  ans("no", "refuse", [fin("ended", "declined", "refuse")]),
  ans("pass", "plain", [fin("left", "left")], { abstains: true }),
];
const LIMIT = {
  otherwise: { amount: 1, unit: "working days" },
  rungs: [
    {
      id: "late",
      when: "after",
      length: { amount: 1, unit: "working days" },
      action: { do: "add", who: { by: "duty", duty: "Director" } },
    },
  ],
};
/** Carmel, declan and fergus one after another. */
const started = (who: Partial<Assignment> = {}, away: Record<string, string> = {}, more: object = {}) => {
  const step = {
    ...decideBy("check", REGISTRY, ANSWERS, more),
    who: { rule: REGISTRY, how: "order", ...who },
  } as Step;
  const h = harness(definitionOf([step, fin("end", "approved")]), away);
  h.start();
  return h;
};

describe("one after another", () => {
  it("each is asked once the one before has agreed, and it is decided when all have", () => {
    const h = started();
    for (const person of ["carmel", "declan", "fergus"]) {
      expect(h.asked()).toEqual([person]);
      expect(h.state.status).toBe("under way");
      h.answer(person, "yes");
    }
    expect(h.state.result).toMatchObject({ name: "approved" });
    expect(h.open()).toEqual([]);
  });
  it("the first who does not agree ends it, unless everybody is heard", () => {
    const h = started();
    h.answer("carmel", "no");
    expect(h.state.result).toMatchObject({ name: "declined" });
    const all = started({ waits: true });
    all.answer("carmel", "no");
    expect(all.asked()).toEqual(["declan"]);
    all.answer("declan", "yes");
    all.answer("fergus", "yes");
    expect(all.state.result).toMatchObject({ name: "declined" });
  });
  it("whoever abstains is passed over; where all do, that is what it comes to", () => {
    const h = started();
    h.answer("carmel", "pass");
    h.answer("declan", "yes");
    h.answer("fergus", "pass");
    expect(h.state.result).toMatchObject({ name: "approved" });
    const none = started();
    for (const person of ["carmel", "declan", "fergus"]) none.answer(person, "pass");
    expect(none.state.result).toMatchObject({ name: "left" });
  });
  it("nobody is asked twice: to whom it was handed, and whose cover they are, have answered", () => {
    const h = started();
    h.send({ type: "hand over", actor: "carmel", task: h.open()[0]!.id, to: "fergus", note: "" });
    h.answer("fergus", "yes");
    h.answer("declan", "yes");
    expect(h.state.result).toMatchObject({ name: "approved" });
    const covered = started({}, { declan: "carmel" });
    covered.answer("carmel", "yes");
    expect(covered.asked()).toEqual(["fergus"]);
    covered.answer("fergus", "yes");
    expect(covered.state.result).toMatchObject({ name: "approved" });
  });
  it("who goes away or leaves before it comes to them is looked at by then", () => {
    const away: Record<string, string> = {};
    const h = started({}, away);
    away["declan"] = "brendan";
    h.left.add("fergus");
    h.answer("carmel", "yes");
    expect(h.open()[0]!.candidates).toEqual([{ person: "brendan", for: "declan" }]);
    h.answer("brendan", "yes");
    expect(h.state.result).toMatchObject({ name: "approved" });
  });
  it("whoever has it and leaves is passed over; where nobody is left it stands stuck, and is not decided by nobody", () => {
    const h = started();
    h.left.add("carmel");
    h.send({ type: "ask others" });
    expect(h.asked()).toEqual(["declan"]);
    // It goes on with those who come next, and does not begin anew.
    expect(h.events.filter((e) => e.type === "visit opened")).toHaveLength(1);
    h.left.add("declan");
    h.left.add("fergus");
    h.send({ type: "ask others" });
    expect(h.open()).toEqual([]);
    expect(h.state.stuck).toMatchObject([{ step: "check", reason: { code: "nobody" } }]);
    expect(h.state.visits).toEqual({});
    h.left.delete("fergus");
    h.send({ type: "retry", actor: "una", token: h.state.stuck[0]!.token });
    expect(h.asked()).toEqual(["fergus"]);
  });
  it("each has the whole limit from when it comes to them, and a ladder of their own", () => {
    const h = started({}, {}, { limit: LIMIT });
    const due = () => h.open()[0]!.due;
    const first = due()!;
    expect(first).toBe(T0 + 86_400_000);
    expect(Object.values(h.state.timers).map((t) => t.at)).toEqual([T0 + 2 * 86_400_000]);
    h.at(T0 + 86_400_000);
    const old = Object.keys(h.state.timers);
    h.answer("carmel", "yes");
    expect(due()).toBe(T0 + 2 * 86_400_000);
    const [timer] = Object.values(h.state.timers);
    expect(Object.values(h.state.timers)).toHaveLength(1);
    expect(timer!.at).toBe(T0 + 3 * 86_400_000);
    expect(old).not.toContain(timer!.id);
    // What was set for the one before comes late and does nothing.
    h.send({ type: "time reached", timer: old[0]! });
    expect(h.asked()).toEqual(["declan"]);
    h.at(T0 + 3 * 86_400_000);
    h.send({ type: "time reached", timer: timer!.id });
    // Whom the ladder asks too has a vote like all others, and the last is asked when both have answered.
    expect(h.asked()).toEqual(["declan", "eithne"]);
    h.answer("eithne", "yes");
    expect(h.asked()).toEqual(["declan"]);
    h.answer("declan", "yes");
    expect(h.asked()).toEqual(["fergus"]);
    h.answer("fergus", "yes");
    expect(h.state.result).toMatchObject({ name: "approved" });
  });
  it("whoever has come to be kept apart is passed over", () => {
    const route = [
      decideBy("first", REGISTRY, [ans("yes", "agree")]),
      {
        ...decideBy("check", REGISTRY, ANSWERS),
        who: { rule: REGISTRY, how: "order", never: [{ by: "answered", step: "first" }] },
      } as Step,
      fin("end", "approved"),
    ];
    const h = harness(definitionOf(route));
    h.start();
    h.answer("declan", "yes");
    h.answer("carmel", "yes");
    expect(h.asked()).toEqual(["fergus"]);
  });
});
