import { ans, definitionOf, decideBy, fin, harness, YES_NO } from "./testRequest";
import type { Step } from "../route";

it("who comes late is told which colleague answered, not that the task was closed", () => {
  const step = decideBy("check", { by: "group", group: "registry" }, YES_NO("1"));
  const first = {
    ...step,
    who: { ...(step as Extract<Step, { kind: "decide" }>).who, how: "first" },
  } as Step;
  const h = harness(definitionOf([first, fin("end", "approved")]));
  h.start();
  const [mine, other] = h.open().map((t) => ({ task: t.id, person: t.candidates[0]!.person }));
  expect(h.answer(mine!.person, "approve").ok).toBe(true);
  const late = {
    type: "answer",
    actor: other!.person,
    task: other!.task,
    answer: "approve",
    note: "",
    data: {},
  } as const;
  expect(h.send(late)).toMatchObject({
    ok: false,
    refusal: { code: "already-answered", data: { by: mine!.person, answer: "approve" } },
  });
  expect(h.send({ ...late, task: "t99" })).toMatchObject({ ok: false, refusal: { code: "ended" } });
});

it("what is stuck is tried again, or left out: two different things", () => {
  const nobody = decideBy("check", { by: "formula", formula: "null" }, [ans("approve", "agree")]);
  const h = harness(definitionOf([nobody, fin("end", "approved")]));
  h.start();
  const { token } = h.state.stuck[0]!;
  h.send({ type: "retry", actor: "una", token });
  expect(h.state.status).toBe("stuck");
  expect(h.events.filter((e) => e.type === "got unstuck")).toMatchObject([{ how: "retried" }]);
  const without = { type: "skip", actor: "piet", token: h.state.stuck[0]!.token } as const;
  expect(h.send({ ...without, way: "approve", note: "Agreed by telephone." })).toMatchObject({ ok: true });
  expect(h.state.status).toBe("finished");
  expect(h.events.filter((e) => e.type === "got unstuck").at(-1)).toMatchObject({ how: "chosen" });
});
