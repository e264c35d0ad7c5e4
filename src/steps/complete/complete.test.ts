import { compileRelease, NEW_REQUEST, replay } from "@/core/engine";
import { ans, decideBy, definitionOf, fin, harness, T0 } from "@/core/engine/testRequest";
import { nextInWords, pathOf } from "@/core/words";
import { problemsOf } from "@/core/problems";
import type { Step, StepOf } from "@/core/route";
import { KINDS } from "@/kinds";

const task = (beside: StepOf<"complete">["beside"], more: object = {}): Step => ({
  id: "pack",
  name: "Pack it",
  kind: "complete",
  who: { rule: { by: "person", person: "carmel" }, how: "one" },
  button: "Packed",
  ...(beside ? { beside } : {}),
  ...more,
});
const asks = (id: string, person: string): Step =>
  decideBy(id, { by: "person", person }, [ans("yes", "agree"), ans("no", "refuse")]);
function begun(...route: Step[]) {
  const access = { pack: { reason: "edit" as const, total: "edit" as const } };
  const h = harness(definitionOf([...route, fin("e", "done")], { access }));
  h.start();
  return h;
}
const at = (h: ReturnType<typeof begun>) =>
  h
    .open()
    .map((t) => t.step)
    .sort();
const holds = (h: ReturnType<typeof begun>) => expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);

it("the route goes on; what is filled in meanwhile counts, and it is called off when the request ends first", () => {
  const h = begun(task("called off"), asks("d", "declan"));
  expect(at(h)).toEqual(["d", "pack"]);
  h.answer("carmel", "done", "", { reason: "Packed well." });
  expect(h.state.data["reason"]).toBe("Packed well.");
  expect(at(h)).toEqual(["d"]);
  h.answer("declan", "yes");
  expect(h.state.status).toBe("finished");
  const late = begun(task("called off"), asks("d", "declan"));
  late.answer("declan", "yes");
  expect(at(late)).toEqual([]);
  expect(late.state).toMatchObject({ status: "finished", tokens: {}, visits: {} });
  holds(late);
});

it("one that stays is done after the end, is told, and changes nothing", () => {
  const limit = {
    otherwise: { amount: 1, unit: "hours" },
    rungs: [{ id: "r", when: "at", action: { do: "remind" } }],
  };
  const h = begun(task("stays", { limit }), asks("d", "declan"));
  h.answer("declan", "yes");
  expect(h.state).toMatchObject({ status: "finished", result: { name: "done" } });
  expect(at(h)).toEqual(["pack"]);
  const [t] = h.open();
  // Its ladder goes on, and so does what people may do with it.
  h.at(T0 + 2 * 3_600_000);
  h.send({ type: "time reached", timer: Object.keys(h.state.timers)[0]! });
  expect(h.events.at(-1)).toMatchObject({ type: "effect done" });
  h.send({ type: "hand over", actor: "carmel", task: t!.id, to: "fergus", note: "" });
  const before = h.state.data;
  const d = h.send({
    type: "answer",
    actor: "fergus",
    task: t!.id,
    answer: "done",
    note: "At last.",
    data: { total: "999", reason: "x" },
  });
  expect(d.ok).toBe(true);
  expect(h.state.data).toBe(before);
  expect(h.state).toMatchObject({ status: "finished", result: { name: "done" }, tokens: {}, timers: {} });
  expect(h.events.some((e) => e.type === "answer given" && e.note === "At last.")).toBe(true);
  expect(
    h.send({ type: "answer", actor: "fergus", task: t!.id, answer: "done", note: "", data: {} }),
  ).toMatchObject({ ok: false, refusal: { code: "already-answered" } });
  holds(h);
});

it("path and answer say that nobody waits for it, and where the request has ended", () => {
  const d = definitionOf([asks("d", "declan"), task("stays")]);
  const release = compileRelease(d, {}, KINDS);
  expect(nextInWords(release, "pack")).toEqual([{ answer: "Packed", then: "nothing waits for it" }]);
  const h = harness(d);
  h.start();
  h.answer("declan", "yes");
  const stops = () => pathOf(release, h.state, h.events).map((s) => [s.step, s.state, s.outcome]);
  // The route ends behind it: two stops of one step, and only at the first somebody is asked.
  expect(stops().slice(-2)).toEqual([
    ["pack", "here", ""],
    ["pack", "done", "Done"],
  ]);
  h.answer("carmel", "done");
  expect(stops().slice(-2)).toEqual([
    ["pack", "done", "Packed"],
    ["pack", "done", "Done"],
  ]);
});

it("whoever ends a request before its time ends what would stay as well", () => {
  const h = begun(task("stays"), asks("d", "declan"));
  h.send({ type: "cancel", actor: "una", note: "" });
  expect([h.open(), h.state.tokens]).toEqual([[], {}]);
  holds(h);
});

it("what rounds ask for beside them outlives them, each by itself", () => {
  const each = {
    ...KINDS.steps["for each"].blank("f"),
    over: { list: '["a", "b", "c"]' },
    item: "Thing",
    bodies: [{ id: "body", steps: [task("stays")] }],
  } as Step;
  const h = begun(each, asks("d", "declan"));
  expect(at(h)).toEqual(["d", "pack", "pack", "pack"]);
  expect(h.open().map((t) => [t.about ?? null, t.scope ?? null])).toContainEqual(["Thing 2 of 3: b", null]);
  expect(h.state.scopes).toEqual({});
  h.answer("carmel", "done");
  h.answer("declan", "yes");
  expect(at(h)).toEqual(["pack", "pack"]);
  h.answer("carmel", "done");
  h.answer("carmel", "done");
  expect(h.state.tokens).toEqual({});
  holds(h);
});

it("where nobody is found it stands stuck beside the route, which goes on", () => {
  const nobody = { who: { rule: { by: "duty", duty: "Nobody" }, how: "one" } };
  const h = begun(task("called off", nobody), asks("d", "declan"));
  expect(h.state.stuck).toMatchObject([{ step: "pack" }]);
  expect(at(h)).toEqual(["d"]);
  const { token } = h.state.stuck[0]!;
  h.send({ type: "retry", actor: "una", token });
  expect(h.state.stuck).toHaveLength(1);
  h.send({ type: "name", actor: "una", token, to: "fergus", note: "There is nobody." });
  expect(at(h)).toEqual(["d", "pack"]);
  h.answer("fergus", "done");
  expect(at(h)).toEqual(["d"]);
  holds(h);
});

it("one that is stuck beside a round makes no room for another round: its own goes on", () => {
  const nobody = { who: { rule: { by: "duty", duty: "Nobody" }, how: "one" } };
  const each = {
    ...KINDS.steps["for each"].blank("f"),
    over: { list: '["a", "b", "c"]' },
    item: "Thing",
    atOnce: 1,
    bodies: [{ id: "body", steps: [task("called off", nobody), asks("in", "fergus")] }],
  } as Step;
  const h = begun(each, asks("d", "declan"));
  expect(h.state.stuck).toHaveLength(1);
  expect(at(h)).toEqual(["in"]);
  h.answer("fergus", "yes");
  expect(at(h)).toEqual(["in"]);
  h.answer("fergus", "yes");
  h.answer("fergus", "yes");
  expect(at(h)).toEqual(["d"]);
  expect(h.state.stuck).toHaveLength(3);
  holds(h);
});

it("people who leave after the end are followed by others, or it ends where nobody is left", () => {
  const rule = { who: { rule: { by: "person", person: "carmel" }, how: "one" } };
  const h = begun(task("stays", rule), asks("d", "declan"));
  h.answer("declan", "yes");
  h.left.add("carmel");
  h.send({ type: "ask others" });
  expect(h.state).toMatchObject({ status: "finished", stuck: [], tokens: {} });
  holds(h);
});

it("a circle that only sends people on errands is one", () => {
  const back: Step = { id: "j", name: "Back", kind: "jump", to: "pack" };
  const codes = (beside: StepOf<"complete">["beside"]) =>
    problemsOf(definitionOf([task(beside), back]), { kinds: KINDS, registers: {} }).map((p) => p.code);
  expect(codes("stays").filter((c) => !codes(undefined).includes(c))).not.toEqual([]);
  const h = begun(task("stays"), back);
  expect(h.state.stuck).toMatchObject([{ reason: { code: "runaway" } }]);
});
