import { KINDS } from "@/kinds";
import { decideBy, definitionOf, fin, YES_NO } from "../engine/testRequest";
import type { Limit, ProcessDefinition, Step } from "../route";
import { problemsOf } from ".";

const LIMIT: Limit = { otherwise: { amount: 2, unit: "days" }, rungs: [] };
const ASK = decideBy("a", { by: "person", person: "carmel" }, YES_NO("1"));
const part = (limit: Limit, ...steps: Step[]): Step =>
  ({ id: "p", name: "Checks", kind: "part", bodies: [{ id: "b", steps }], limit }) as Step;
const codes = (route: Step[], more: Partial<ProcessDefinition> = {}) =>
  problemsOf(definitionOf([...route, fin("z", "done")], more), { kinds: KINDS, registers: {} })
    .filter((p) => p.severity === "error")
    .map((p) => `${p.where.kind} ${p.where.id} ${p.code}`);
const both = (limit: Limit) => [codes([part(limit, ASK)]), codes([ASK], { limit })];

it("a limit of several steps has what is about several, and is told where it stands", () => {
  expect(both(LIMIT)).toEqual([[], []]);
  const rungs = (action: object): Limit => ({ ...LIMIT, rungs: [{ id: "r", when: "at", action } as never] });
  const of = (code: string) => [[`step p ${code}`], [`process  ${code}`]];
  for (const fine of [
    { do: "remind" },
    { do: "hand over", to: { by: "manager" } },
    { do: "tell", who: { by: "requester" }, text: "Late" },
  ])
    expect(both(rungs(fine))).toEqual([[], []]);
  expect(both(rungs({ do: "add", who: { by: "manager" } }))).toEqual(of("rung-of-one"));
  expect(both({ ...LIMIT, still: "anybody" })).toEqual(of("never-still"));
  expect(both({ ...LIMIT, otherwise: { amount: 0, unit: "days" } })).toEqual(of("bad-limit"));
  expect(both({ ...LIMIT, from: { by: "day", formula: "Reason" } })[0]).toHaveLength(1);
});

it("a part in rounds has none, however deep it stands there", () => {
  const each = (...steps: Step[]): Step =>
    ({
      id: "e",
      name: "Each",
      kind: "for each",
      over: { times: "2" },
      item: "Thing",
      bodies: [{ id: "eb", steps }],
    }) as never;
  const outer = (inner: Step): Step =>
    ({ id: "o", name: "Outer", kind: "part", bodies: [{ id: "ob", steps: [inner] }] }) as Step;
  expect(codes([each(part(LIMIT, ASK))])).toEqual(["step p limit-in-rounds"]);
  expect(codes([each(outer(part(LIMIT, ASK)))])).toEqual(["step p limit-in-rounds"]);
  expect(codes([outer(each({ ...part(LIMIT, ASK), limit: undefined } as never))])).toEqual([]);
});

it("formulas of it are checked and renamed with the others", () => {
  const rules = [{ when: "Nothing > 1", length: { amount: 1, unit: "days" as const } }];
  expect(both({ ...LIMIT, rules }).map((c) => c.length)).toEqual([1, 1]);
});
