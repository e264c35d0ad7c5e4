import { definitionOf, fin } from "@/core/engine/testRequest";
import type { Step } from "@/core/route";
import { z } from "zod";
import { notTooDeep, sentDefinition } from ".";

/** A route of so many steps within one another. */
function nested(levels: number) {
  let steps: Step[] = [fin("end", "done")];
  for (let i = 0; i < levels; i++) {
    const ways = [
      { id: "a", name: "a", when: "true", steps },
      { id: "b", name: "b", steps: [] },
    ];
    steps = [{ id: `c${i}`, name: `C${i}`, kind: "choose", ways } as Step];
  }
  return definitionOf(steps);
}

it("a route as deep as anybody can read is taken; one without end is refused with a sentence", () => {
  expect(sentDefinition.safeParse(nested(40)).success).toBe(true);
  for (const levels of [70, 450, 5000]) {
    const r = sentDefinition.safeParse(nested(levels));
    expect(r.error?.issues.map((i) => i.message)).toEqual(["It is nested more than 200 levels deep."]);
  }
});

it("counts lists and objects alike, and nothing else", () => {
  const wrapped = (n: number, wrap: (x: unknown) => unknown) => {
    let v: unknown = "x";
    for (let i = 0; i < n; i++) v = wrap(v);
    return notTooDeep(z.unknown()).safeParse(v).success;
  };
  for (const wrap of [(x: unknown) => [x], (x: unknown) => ({ x })])
    expect([wrapped(200, wrap), wrapped(201, wrap), wrapped(100_000, wrap)]).toEqual([true, false, false]);
  expect(notTooDeep(z.unknown()).safeParse(Array.from({ length: 5000 }, () => [1])).success).toBe(true);
});
