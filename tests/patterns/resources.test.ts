import { isOpen } from "@/core/engine";
import { ans, decideBy, definitionOf, fin, harness, T0 } from "@/core/engine/testRequest";
import { loadsKey, type LoadsAsked } from "@/core/engine";
import type { Assignment, Rule, Step } from "@/core/route";

/**
 * One small process for each resource pattern of the Workflow Patterns catalogue (N. Russell, W.M.P. van der Aalst, A.H.M.
 * ter Hofstede, D. Edmond: Workflow Resource Patterns, 2005) that a route can say; docs/patterns.md lists the others with
 * the reason. In the office of tests una asks; her manager is brendan, his eithne; carmel, declan and fergus are a group.
 */
const REGISTRY: Rule = { by: "group", group: "registry" };
const YES = [ans("yes", "agree")];
const asks = (id: string, rule: Rule, who: Partial<Assignment> = {}, more: object = {}): Step =>
  ({ ...decideBy(id, rule, YES, more), who: { rule, how: "one", ...who } }) as Step;
const FIELDS = [{ id: "who", name: "Who", kind: "person" as const }];
function play(
  route: Step[],
  data: Record<string, string> = {},
  more: Parameters<typeof harness>[3] = () => ({}),
) {
  const h = harness(definitionOf([...route, fin("end", "done")], { fields: FIELDS }), {}, {}, more);
  h.start(data);
  const at = (step: string) => h.open().find((t) => t.step === step)!;
  return {
    h,
    at,
    asked: (step: string) => at(step).candidates.map((c) => c.person),
    answer: (actor: string, step: string, answer = "yes") =>
      h.send({ type: "answer", actor, task: at(step).id, answer, note: "", data: {} }).ok,
    deed: (type: "take" | "put back", actor: string, step: string) =>
      h.send({ type, actor, task: at(step).id }).ok,
    done: () => h.state.status === "finished" && Object.values(h.state.tasks).every((t) => !isOpen(t)),
  };
}
const PERSON: Rule = { by: "person", person: "carmel" };
const together = (...steps: Step[]): Step =>
  ({
    id: "both",
    name: "Both",
    kind: "together",
    branches: steps.map((s, i) => ({ id: `b${i}`, name: `B${i}`, steps: [s] })),
  }) as unknown as Step;

describe("creation", () => {
  it("1 direct distribution: a person by name", () => {
    expect(play([asks("a", PERSON)]).asked("a")).toEqual(["carmel"]);
  });
  it("2 role-based distribution: whoever holds a duty, or is in a group", () => {
    expect(play([asks("a", { by: "duty", duty: "Guard" })]).asked("a")).toEqual(["declan"]);
    expect(play([asks("a", REGISTRY)]).asked("a")).toEqual(["carmel", "declan", "fergus"]);
  });
  it("3 deferred distribution: whom a field says when it comes there", () => {
    const rule: Rule = { by: "formula", formula: "Who" };
    expect(play([asks("a", rule)], { who: "fergus" }).asked("a")).toEqual(["fergus"]);
  });
  it("5 separation of duties: never whoever answered before", () => {
    const p = play([asks("a", REGISTRY), asks("b", REGISTRY, { never: [{ by: "answered", step: "a" }] })]);
    p.answer("declan", "a");
    expect(p.asked("b")).toEqual(["carmel", "fergus"]);
  });
  it("6 case handling: whoever took it up does all of it", () => {
    const again: Rule = { by: "answered", step: "a" };
    const p = play([asks("a", REGISTRY), asks("b", again), asks("c", again)]);
    for (const step of ["a", "b", "c"]) expect(p.answer("fergus", step)).toBe(true);
    expect(p.done()).toBe(true);
  });
  it("7 retain familiar: whoever answered the step before, else others", () => {
    const rule = { by: "several", take: "first", of: [{ by: "answered", step: "a" }, REGISTRY] } as Rule;
    const p = play([asks("a", REGISTRY), asks("b", rule)]);
    p.answer("declan", "a");
    expect(p.asked("b")).toEqual(["declan"]);
    expect(play([asks("b", rule)]).asked("b")).toEqual(["carmel", "declan", "fergus"]);
  });
  it("8 capability-based distribution: by what is known of people", () => {
    const rule: Rule = { by: "people", where: 'Department = "Security" and list contains(Duties, "Guard")' };
    expect(play([asks("a", rule)]).asked("a")).toEqual(["declan"]);
  });
  it("10 organisational distribution: by who manages whom, and who heads what", () => {
    expect(play([asks("a", { by: "manager", until: { level: 1 } })]).asked("a")).toEqual(["eithne"]);
    expect(play([asks("a", { by: "head" })]).asked("a")).toEqual(["brendan"]);
  });
  it("11 automatic execution: steps without people", () => {
    const work = {
      id: "w",
      name: "w",
      kind: "work out",
      set: [{ field: "who", value: "Requester" }],
    } as Step;
    expect(play([work]).done()).toBe(true);
  });
});

describe("push", () => {
  it("13 offer to several: one task that any of them may take", () => {
    const p = play([asks("a", REGISTRY)]);
    expect(p.h.open()).toHaveLength(1);
    expect(p.at("a").holder).toBeNull();
  });
  it("14 allocation to one: it is theirs from the start", () => {
    expect(play([asks("a", PERSON)]).at("a")).toMatchObject({ holder: "carmel", status: "open" });
  });
  const people = ["carmel", "declan", "fergus"];
  const loads = (by: LoadsAsked["by"], all: Record<string, { open: number; last: number | null }>) => () => ({
    loads: { [loadsKey({ by, process: "test", step: "a", people })]: all },
  });
  it("16 round robin: whoever had it least lately", () => {
    const known = loads("in turn", {
      carmel: { open: 0, last: 3 },
      declan: { open: 9, last: 1 },
      fergus: { open: 0, last: 2 },
    });
    expect(play([asks("a", REGISTRY, { turns: "in turn" })], {}, known).asked("a")).toEqual(["declan"]);
  });
  it("17 shortest queue: who has the fewest open tasks", () => {
    const known = loads("fewest open", {
      carmel: { open: 4, last: 1 },
      declan: { open: 3, last: 2 },
      fergus: { open: 2, last: 9 },
    });
    expect(play([asks("a", REGISTRY, { turns: "fewest open" })], {}, known).asked("a")).toEqual(["fergus"]);
  });
  it("19 distribution on enablement: asked when it comes there, and not before", () => {
    const p = play([asks("a", PERSON), asks("b", PERSON)]);
    expect(p.h.open().map((t) => t.step)).toEqual(["a"]);
    p.answer("carmel", "a");
    expect(p.h.open().map((t) => t.step)).toEqual(["b"]);
  });
});

describe("pull", () => {
  it("21 resource-initiated allocation: one of them takes it, and answers later", () => {
    const p = play([asks("a", REGISTRY)]);
    expect(p.deed("take", "fergus", "a")).toBe(true);
    expect(p.answer("carmel", "a")).toBe(false);
    expect(p.answer("fergus", "a")).toBe(true);
  });
  it("22 resource-initiated execution of what is theirs: when they like", () => {
    const p = play([asks("a", PERSON)]);
    p.h.at(T0 + 30 * 86_400_000);
    expect(p.answer("carmel", "a")).toBe(true);
  });
  it("23 resource-initiated execution of what is offered: answered without taking it first", () => {
    expect(play([asks("a", REGISTRY)]).answer("declan", "a")).toBe(true);
  });
  it("26 selection autonomy: of several tasks in whatever order", () => {
    const p = play([together(asks("a", PERSON), asks("b", PERSON))]);
    expect(p.answer("carmel", "b")).toBe(true);
    expect(p.answer("carmel", "a")).toBe(true);
    expect(p.done()).toBe(true);
  });
});

describe("detour", () => {
  it("27 delegation: handed over to somebody else", () => {
    const p = play([asks("a", PERSON)]);
    const task = p.at("a").id;
    expect(p.h.send({ type: "hand over", actor: "carmel", task, to: "eithne", note: "" }).ok).toBe(true);
    expect(p.answer("eithne", "a")).toBe(true);
  });
  it("28 escalation: a ladder hands it over when the limit has passed", () => {
    const rung = { id: "r", when: "at", action: { do: "hand over", to: { by: "manager" } } };
    const limit = { otherwise: { amount: 1, unit: "days" }, rungs: [rung] };
    const p = play([asks("a", PERSON, {}, { limit })]);
    p.h.at(T0 + 86_400_000);
    p.h.send({ type: "time reached", timer: Object.keys(p.h.state.timers)[0]! });
    expect(p.asked("a")).toEqual(["brendan"]);
  });
  it("29 deallocation: what was taken is put back for all of them", () => {
    const p = play([asks("a", REGISTRY)]);
    p.deed("take", "fergus", "a");
    expect(p.deed("put back", "fergus", "a")).toBe(true);
    expect(p.answer("carmel", "a")).toBe(true);
  });
  it("31 stateless reallocation: an owner gives it to somebody else", () => {
    const p = play([asks("a", PERSON)]);
    const task = p.at("a").id;
    expect(p.h.send({ type: "reassign", actor: "una", task, to: "declan", note: "ill" }).ok).toBe(true);
    expect(p.asked("a")).toEqual(["declan"]);
  });
  it("30 stateful reallocation: what somebody filled in for a while is there when it comes back", () => {
    const route = [asks("a", PERSON), fin("end", "done")];
    const h = harness(definitionOf(route, { fields: FIELDS, access: { a: { who: "edit" } } }));
    h.start({});
    const task = h.open()[0]!.id;
    h.send({ type: "hand over", actor: "carmel", task, to: "declan", note: "", back: true });
    h.send({ type: "answer", actor: "declan", task, answer: "yes", note: "", data: { who: "fergus" } });
    expect([h.asked(), h.state.data["who"]]).toEqual([["carmel"], "fergus"]);
    h.answer("carmel", "yes");
    expect(h.state.result?.name).toBe("done");
  });
  it("32 suspension and resumption: something is asked beside it, and its limit stands still meanwhile", () => {
    const limit = { otherwise: { amount: 1, unit: "days" }, rungs: [], still: "asker" };
    const p = play([asks("a", PERSON, {}, { limit })]);
    const { id: task, due } = p.at("a");
    p.h.send({ type: "ask", actor: "carmel", task, to: null, note: "Which?" });
    expect(p.h.state.tasks[task]!.due).toBeNull();
    p.h.at(T0 + 3_600_000);
    const q = p.h.open().find((t) => t.question)!.id;
    p.h.send({ type: "answer", actor: "una", task: q, answer: "said", note: "This.", data: {} });
    expect(p.h.state.tasks[task]!.due).toBe(due! + 3_600_000);
  });
  it("33 skip: an owner lets it go on without", () => {
    const p = play([asks("a", PERSON)]);
    const { token } = p.at("a");
    expect(p.h.send({ type: "skip", actor: "brendan", token, way: "yes", note: "late" }).ok).toBe(true);
    expect(p.done()).toBe(true);
  });
  it("34 redo: an answer leads back to a step that was answered before", () => {
    const back = ans("again", "plain", [{ id: "j", name: "Jump", kind: "jump", to: "a" } as Step]);
    const b = { ...asks("b", PERSON), answers: [...YES, back] } as Step;
    const p = play([asks("a", REGISTRY), b]);
    p.answer("declan", "a");
    p.answer("carmel", "b", "again");
    expect(p.asked("a")).toEqual(["carmel", "declan", "fergus"]);
  });
});

describe("starting and several people", () => {
  it("37 commencement on allocation: whoever alone is asked need not take it", () => {
    const p = play([asks("a", PERSON)]);
    expect(p.deed("take", "carmel", "a")).toBe(true);
    expect(p.h.events.some((e) => e.type === "task taken")).toBe(false);
  });
  it("42 simultaneous execution: one person has several tasks at a time", () => {
    const p = play([together(asks("a", PERSON), asks("b", PERSON))]);
    expect(p.h.open().map((t) => t.holder)).toEqual(["carmel", "carmel"]);
  });
  it("43 additional resources: a ladder asks somebody else too, and both are heard", () => {
    const rung = { id: "r", when: "at", action: { do: "add", who: { by: "duty", duty: "Director" } } };
    const limit = { otherwise: { amount: 1, unit: "days" }, rungs: [rung] };
    const p = play([asks("a", PERSON, { how: "all" }, { limit })]);
    p.h.at(T0 + 86_400_000);
    p.h.send({ type: "time reached", timer: Object.keys(p.h.state.timers)[0]! });
    expect(p.h.open().map((t) => t.holder)).toEqual(["carmel", "eithne"]);
    p.answer("carmel", "a");
    expect(p.done()).toBe(false);
    p.answer("eithne", "a");
    expect(p.done()).toBe(true);
  });
});
