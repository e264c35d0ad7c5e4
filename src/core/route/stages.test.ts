import fc from "fast-check";
import { KINDS } from "@/kinds";
import { NEW_REQUEST, stageNow, type Token } from "../engine";
import { ans, decideBy, fin } from "../engine/testRequest";
import type { Step } from "./definition";
import { stagesOf } from "./stages";

const named = (s: Step, stage?: string): Step => ({ ...s, ...(stage === undefined ? {} : { stage }) });
const step = (id: string, stage?: string, yes: Step[] = []) =>
  named(
    decideBy(id, { by: "person", person: "una" }, [ans("yes", "agree", yes), ans("no", "refuse")]),
    stage,
  );
const told = (route: Step[]) => {
  const { names, of } = stagesOf({ route }, KINDS);
  return { names, of: Object.fromEntries([...of].map(([id, at]) => [id, names[at]])) };
};

it("a stage holds from its step on, inside it and after it; before the first there is none", () => {
  const inner = [step("c"), step("d", "Looked at twice"), step("e")];
  expect(told([step("a"), step("b", "Being checked", inner), step("f"), fin("g", "done")])).toEqual({
    names: ["Being checked", "Looked at twice"],
    of: {
      b: "Being checked",
      c: "Being checked",
      d: "Looked at twice",
      e: "Looked at twice",
      f: "Being checked",
      g: "Being checked",
    },
  });
});
it("inside something inside something it is that of what is nearest around it", () => {
  const deep = step("b", "Inside", [step("c", undefined, [step("d")])]);
  expect(told([step("a", "Around", [deep])]).of).toMatchObject({ c: "Inside", d: "Inside" });
});
it("one that is come to early by some and late by others stands where it is named last", () => {
  const refused = [named(fin("r", "refused"), "Decided")];
  const route = [
    step("a", "Received", refused),
    step("b", "Being checked"),
    named(fin("e", "ok"), " Decided "),
  ];
  expect(told(route)).toEqual({
    names: ["Received", "Being checked", "Decided"],
    of: { a: "Received", r: "Decided", b: "Being checked", e: "Decided" },
  });
});
it("there are none where none is named, and a blank names none", () => {
  expect(told([step("a"), step("b", "  ")])).toEqual({ names: [], of: {} });
});

const NAMES = ["Received", "Being checked", "Decided", undefined];
const routes = fc
  .array(fc.constantFrom(...NAMES), { minLength: 1, maxLength: 8 })
  .map((list) => list.map((stage, i) => step(`s${i}`, stage)));
it("is what somebody reading the sheet downwards would say", () => {
  fc.assert(
    fc.property(routes, (route) => {
      const { names, of } = told(route);
      let now: string | undefined;
      for (const s of route) {
        now = s.stage ?? now;
        expect(of[s.id]).toBe(now);
      }
      expect([...names].sort()).toEqual([...new Set(route.flatMap((s) => s.stage ?? []))].sort());
    }),
    { endOnFailure: true },
  );
});

describe("where a request stands", () => {
  const stages = stagesOf(
    {
      route: [step("a"), step("b", "Received"), step("c", "Being checked"), named(fin("e", "ok"), "Decided")],
    },
    KINDS,
  );
  const at = (tokens: Partial<Token>[], status: "under way" | "finished" | "withdrawn" = "under way") =>
    stageNow(
      stages,
      {
        ...NEW_REQUEST,
        status,
        tokens: Object.fromEntries(
          tokens.map((t, i) => [`t${i}`, { id: `t${i}`, step: "a", parent: null, branch: null, ...t }]),
        ),
      },
      status === "finished" ? "e" : null,
    );
  it("is at the earliest of the steps that are not done, in whatever order they are kept", () => {
    expect(at([{ step: "c" }])).toBe(1);
    expect(at([{ step: "c" }, { step: "b" }])).toBe(0);
    expect(at([{ step: "b" }, { step: "c" }])).toBe(0);
    expect(at([{ step: "a" }, { step: "c" }])).toBe(null);
    expect(at([{ step: "c" }, { step: "a" }])).toBe(null);
  });
  it("goes by none that waits for others, and by none that holds nothing up", () => {
    expect(at([{ step: "b", waitsFor: 1 }, { step: "c" }])).toBe(1);
    expect(at([{ step: "c" }, { step: "b", beside: true }])).toBe(1);
  });
  it("at random steps is the first stage, from the top, that anybody still stands in", () => {
    const token = fc.record({
      step: fc.constantFrom("a", "b", "c", "e"),
      waits: fc.boolean(),
      beside: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(token, { maxLength: 5 }), (all) => {
        const here = all.filter((t) => !t.waits && !t.beside).map((t) => t.step);
        // Read from the top: whoever stands above all stages keeps the request there.
        const first = (["a", "b", "c", "e"] as const).find((s) => here.includes(s));
        const expected = first === undefined || first === "a" ? null : ["b", "c", "e"].indexOf(first);
        const tokens = all.map((t) => ({
          step: t.step,
          ...(t.waits ? { waitsFor: 2 } : {}),
          ...(t.beside ? { beside: true as const } : {}),
        }));
        expect(at(tokens)).toBe(expected);
      }),
      { endOnFailure: true },
    );
  });
  it("is where it finished, and nowhere once it was given up", () => {
    expect(at([], "finished")).toBe(2);
    expect(at([], "withdrawn")).toBe(null);
    expect(stageNow(stages, { ...NEW_REQUEST, status: "finished" }, "gone")).toBe(null);
  });
});
