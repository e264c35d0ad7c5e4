import { replay, NEW_REQUEST } from "@/core/engine";
import { ans, decideBy, definitionOf, fin, harness } from "@/core/engine/testRequest";
import { pathOf } from "@/core/words";
import { problemsOf } from "@/core/problems";
import type { Step, StepOf } from "@/core/route";
import { KINDS } from "@/kinds";
import { compileRelease } from "@/core/engine";

const asks = (id: string, person: string): Step =>
  decideBy(id, { by: "person", person }, [ans("yes", "agree"), ans("no", "refuse")]);
const together = (more: Partial<StepOf<"together">>, ...branches: Step[][]): Step => ({
  id: "t",
  name: "Side by side",
  kind: "together",
  branches: branches.map((steps, i) => ({ id: `b${i}`, name: `branch ${i}`, steps })),
  ...more,
});
const THREE = [[asks("a", "carmel")], [asks("b", "declan")], [asks("c", "fergus")]];
const begun = (...route: Step[]) => {
  const h = harness(definitionOf([...route, fin("e", "done")]));
  h.start();
  return h;
};
const steps = (h: ReturnType<typeof begun>) =>
  h
    .open()
    .map((t) => t.step)
    .sort();

it("goes on once so many are in; the others are called off, and told so", () => {
  const h = begun(together({ needs: 2 }, ...THREE), asks("next", "eithne"));
  h.answer("declan", "no");
  expect(steps(h)).toEqual(["a", "c"]);
  h.answer("fergus", "yes");
  expect(steps(h)).toEqual(["next"]);
  expect(h.events.find((e) => e.type === "task closed")).toMatchObject({ reason: "enough" });
  expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  const release = compileRelease(
    definitionOf([together({ needs: 2 }, ...THREE), asks("next", "eithne")]),
    {},
    KINDS,
  );
  expect(pathOf(release, h.state, h.events).map((s) => [s.step, s.state])).toContainEqual(["a", "off"]);
});

it("the first that is in suffices, however deep the others stand", () => {
  const deep = together(
    { id: "t2" } as Partial<StepOf<"together">>,
    [asks("d", "carmel")],
    [asks("f", "fergus")],
  );
  const h = begun(together({ needs: 1 }, [deep], [asks("b", "declan")]), asks("next", "eithne"));
  expect(steps(h)).toEqual(["b", "d", "f"]);
  h.answer("declan", "yes");
  expect(steps(h)).toEqual(["next"]);
  expect(Object.keys(h.state.tokens)).toHaveLength(1);
});

it("the others may run on beside what follows, and end with the request", () => {
  const h = begun(together({ needs: 1, othersRunOn: true }, ...THREE), asks("next", "eithne"));
  h.answer("carmel", "yes");
  expect(steps(h)).toEqual(["b", "c", "next"]);
  h.answer("declan", "yes");
  expect(steps(h)).toEqual(["c", "next"]);
  h.answer("eithne", "yes");
  expect(h.state).toMatchObject({ status: "finished", tokens: {} });
  expect(h.open()).toEqual([]);
  expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
});

it("what runs on in a round goes no further than the round", () => {
  const each = {
    ...KINDS.steps["for each"].blank("f"),
    over: { list: "[1, 2]" },
    item: "Turn",
    bodies: [
      { id: "body", steps: [together({ needs: 1, othersRunOn: true }, ...THREE), asks("in", "eithne")] },
    ],
  } as Step;
  const h = begun(each, asks("next", "eithne"));
  const one = (step: string, scope: string) => h.open().find((t) => t.step === step && t.scope === scope)!;
  const [first, second] = Object.keys(h.state.scopes) as [string, string];
  const say = (step: string, scope: string) => {
    const t = one(step, scope);
    h.send({ type: "answer", actor: t.holder!, task: t.id, answer: "yes", note: "", data: {} });
  };
  say("a", first);
  say("in", first);
  // Its round has ended, and with it what ran on there; the other round stands as it did.
  expect(h.open().filter((t) => t.scope === first)).toEqual([]);
  expect(h.open().filter((t) => t.scope === second)).toHaveLength(3);
  say("b", second);
  say("in", second);
  expect(steps(h)).toEqual(["next"]);
});

it("goes on when its condition holds, whoever comes to it, and not before", () => {
  const until = 'a.answer = "yes" or (b.answer = "yes" and c.answer = "yes")';
  const h = begun(together({ until }, ...THREE), asks("next", "eithne"));
  h.answer("declan", "yes");
  h.answer("carmel", "no");
  expect(steps(h)).toEqual(["c"]);
  h.answer("fergus", "no");
  // All are in: nothing is left to be waited for.
  expect(steps(h)).toEqual(["next"]);
  const quick = begun(together({ until }, ...THREE), asks("next", "eithne"));
  quick.answer("carmel", "yes");
  expect(steps(quick)).toEqual(["next"]);
});

it("a condition that cannot be worked out holds the branch, and is asked anew", () => {
  const until = "number(Reason) > 1";
  const h = begun(together({ until }, ...THREE), asks("next", "eithne"));
  h.answer("declan", "yes");
  expect(h.state.stuck).toEqual([]);
  const bad = begun(together({ until: "1 / 0 > 1" }, ...THREE), asks("next", "eithne"));
  bad.answer("declan", "yes");
  expect(bad.state.stuck).toMatchObject([{ step: "t", reason: { code: "unclear" } }]);
  expect(steps(bad)).toEqual(["a", "c"]);
  const { token } = bad.state.stuck[0]!;
  bad.send({ type: "retry", actor: "una", token });
  // It does not begin anew: the branch that is stuck is one of the three still.
  expect(steps(bad)).toEqual(["a", "c"]);
  expect(bad.state.stuck).toHaveLength(1);
  bad.send({ type: "skip", actor: "owner", token, way: null, note: "Because." });
  expect(bad.state.stuck).toEqual([]);
  expect(steps(bad)).toEqual(["a", "c"]);
});

it("comes to it again with all of them, though some of the time before run on", () => {
  const again = decideBy("again", { by: "person", person: "eithne" }, [
    ans("yes", "agree"),
    ans("back", "plain", [{ id: "j", name: "Back", kind: "jump", to: "t" }]),
  ]);
  const h = begun(together({ needs: 2, othersRunOn: true }, ...THREE), again);
  h.answer("carmel", "yes");
  h.answer("declan", "yes");
  h.answer("eithne", "back");
  expect(steps(h)).toEqual(["a", "b", "c", "c"]);
  // That of the time before counts for nothing.
  const old = h.open().find((t) => t.step === "c")!;
  h.send({ type: "answer", actor: "fergus", task: old.id, answer: "yes", note: "", data: {} });
  h.answer("carmel", "yes");
  expect(steps(h)).toEqual(["b", "c"]);
  h.answer("declan", "yes");
  expect(steps(h)).toEqual(["again", "c"]);
  expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
});

it("more branches than there are cannot be waited for", () => {
  const d = definitionOf([together({ needs: 4 }, ...THREE), fin("e", "done")]);
  expect(problemsOf(d, { kinds: KINDS, registers: {} }).map((p) => p.code)).toContain("too-few-branches");
});
