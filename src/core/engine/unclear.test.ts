import type { Field } from "../form";
import type { ProcessDefinition, Step } from "../route";
import { KINDS } from "@/kinds";
import { compileRelease, samplePath } from ".";
import { officeFacts } from "./testOffice";
import { ans, decideBy, definitionOf, fin, harness, T0 } from "./testRequest";

/** A value that could not be worked out is not an empty one: where it decides, the request stops with the reason. */
const FIELDS: Field[] = [
  { id: "total", name: "Total", kind: "money" },
  { id: "count", name: "Count", kind: "number" },
  { id: "rate", name: "Rate", kind: "number", worked: "Total / Count" },
  {
    id: "lines",
    name: "Lines",
    kind: "lines",
    fields: [
      { id: "price", name: "Price", kind: "money" },
      { id: "qty", name: "Qty", kind: "number" },
      { id: "each", name: "Each", kind: "money", worked: "Price / Qty" },
    ],
  },
];
const choose = (when: string): Step =>
  ({
    id: "c",
    name: "Large?",
    kind: "choose",
    ways: [
      { id: "large", name: "large", when, steps: [fin("f1", "looked at", "plain")] },
      { id: "other", name: "otherwise", steps: [] },
    ],
  }) as Step;
function come(route: Step[], data: object, more: Partial<ProcessDefinition> = {}) {
  const h = harness(definitionOf([...route, fin("end", "passed")], { fields: FIELDS, ...more }));
  const d = h.start(data as Record<string, string>);
  if (!d.ok) throw new Error(JSON.stringify(d.refusal));
  const [stuck] = h.state.stuck;
  return { h, came: stuck ? stuck.reason.code : h.state.result?.name, stuck };
}
const row = (price: string | null, qty: string | null, id = "1") => ({ "#": id, price, qty, each: null });

describe("a choice over something that cannot be worked out", () => {
  it.each([
    ["Total / Count > 2", { total: "900", count: "0" }],
    ["Rate > 2", { total: "900", count: "0" }],
    ["not(Rate > 2)", { total: "900", count: "0" }],
    ["if Rate > 2 then true else false", { total: "900", count: "0" }],
    ["sum(Lines.Each) > 500", { total: "900", lines: [row("900", "0")] }],
    ["sum(Lines[Price / Qty > 2].Price) > 500", { total: "1", lines: [row("900", "0"), row("5", "1", "2")] }],
    ["count(Lines[Each > 2]) > 0", { total: "1", lines: [row("900", "0")] }],
    ["some l in Lines satisfies l.Each > 2", { total: "1", lines: [row("900", "0")] }],
    ["Total > 500 and Rate > 2", { total: "900", count: "0" }],
    ["count(for i in 1..99999 return (i / 7) ** 0.37) > 9999999", { total: "900" }],
  ])("%s is stuck with the reason, and never goes to “otherwise”", (when, data) => {
    const { came, stuck } = come([choose(when)], data);
    expect(came).toBe("unclear");
    expect(stuck!.reason).toMatchObject({ data: { step: "Large?", formula: when } });
    expect((stuck!.reason.data as { why: string }).why).toMatch(/zero|more work/);
  });
  it.each([
    ["Rate != null and Rate > 2", { total: "900", count: "0" }, "passed"],
    ["if Rate = null then true else Rate > 2", { total: "900", count: "0" }, "looked at"],
    ["Total < 500 and Rate > 2", { total: "900", count: "0" }, "passed"],
    ["Total > 500", {}, "passed"],
    ["Rate > 2", { total: "900" }, "passed"],
    ["sum(Lines.Price) > 5", { lines: [row("9", null), row(null, "1", "2")] }, "passed"],
    ["Rate > 2", { total: "900", count: "3" }, "looked at"],
  ])("%s of %j: empty is empty, and what the formula itself asks for is its own business", (when, data, to) =>
    expect(come([choose(when)], data).came).toBe(to),
  );
  it("a condition over something empty is not met, and the trail says what is empty", () => {
    const { h } = come([choose("Total > 500")], {});
    const did = h.events.find((e) => e.type === "step did");
    expect(JSON.stringify(did)).toContain("Total");
    expect(did).toMatchObject({ did: { way: "other" } });
  });
  it("the reason is kept back where it might tell of a field that somebody may not see", () => {
    const { stuck } = come(
      [choose("Rate > 2")],
      { total: "900", count: "0" },
      { access: { c: { count: "hide" } } },
    );
    expect(stuck!.reason).toMatchObject({ data: { why: null } });
  });
  it("once it can be worked out a retry goes on", () => {
    const { h } = come([choose("Rate > 2")], { total: "900", count: "0" });
    expect(h.state.status).toBe("stuck");
    h.send({ type: "retry", actor: "una", token: h.state.stuck[0]!.token });
    expect(h.state.stuck[0]!.reason.code).toBe("unclear");
  });
});

describe("whatever else decides", () => {
  const nobody = (formula: string) => decideBy("d", { by: "formula", formula }, [ans("ok", "agree")]);
  it("whom to ask", () => {
    const { came, h } = come([nobody("if Rate > 2 then Requester else null")], { total: "900", count: "0" });
    expect(came).toBe("unclear");
    expect(h.open()).toEqual([]);
  });
  it("whom to ask, with a fallback: it stands in for nobody found, not for nobody knows", () => {
    const who = {
      rule: { by: "formula", formula: "if Rate > 2 then Requester else null" },
      fallback: { by: "person", person: "declan" },
      how: "one",
    };
    expect(come([{ ...nobody("null"), who } as Step], { total: "900", count: "0" }).came).toBe("unclear");
  });
  it("how long it may take", () => {
    const limit = {
      rules: [{ when: "Rate > 2", length: { amount: 1, unit: "days" } }],
      otherwise: { amount: 9, unit: "days" },
      rungs: [],
    };
    const step = decideBy("d", { by: "person", person: "declan" }, [ans("ok", "agree")], { limit });
    const { came, h } = come([step], { total: "900", count: "0" });
    expect([came, h.open(), Object.keys(h.state.timers)]).toEqual(["unclear", [], []]);
  });
  it("what is worked out: it sets nothing, not even what could be", () => {
    const set = [
      { field: "total", value: "5" },
      { field: "count", value: "Total / Count" },
    ];
    const { came, h } = come([{ id: "w", name: "Work", kind: "work out", set }], {
      total: "900",
      count: "0",
    });
    expect(came).toBe("unclear");
    expect(h.state.data).toMatchObject({ total: "900", count: "0" });
  });
  it("what is worked out is rounded as its field is, or not kept", () => {
    const work = (field: string, value: string): Step => ({
      id: "w",
      name: "W",
      kind: "work out",
      set: [{ field, value }],
    });
    expect(come([work("total", "100 / 3")], {}).h.state.data).toMatchObject({ total: "33.33" });
    expect(come([work("count", '"many"')], {}).came).toBe("unclear");
    expect(come([work("count", '"5"')], {}).came).toBe("passed");
  });
});

describe("the way of a sample", () => {
  const way = (route: Step[], data: object) =>
    samplePath(
      compileRelease(definitionOf([...route, fin("end", "passed")], { fields: FIELDS }), {}, KINDS),
      "una",
      data as Record<string, string>,
      officeFacts(T0),
    );
  it("tells where it gets stuck, and why", () =>
    expect(way([choose("Rate > 2")], { total: "900", count: "0" })).toMatchObject({
      stop: "stuck",
      stuck: { code: "unclear", data: { formula: "Rate > 2" } },
    }));
  it("is that of everybody agreeing, wherever that answer stands", () => {
    const refuseFirst = [ans("no", "refuse", [fin("f", "declined", "refuse")]), ans("ok", "agree")];
    expect(way([decideBy("d", { by: "person", person: "declan" }, refuseFirst)], {}).result).toBe("passed");
  });
});
