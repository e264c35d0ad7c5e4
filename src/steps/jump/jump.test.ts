import { ans, decideBy, definitionOf, fin, harness } from "@/core/engine/testRequest";
import { NEW_REQUEST, replay, compileRelease } from "@/core/engine";
import type { Field } from "@/core/form";
import { problemsOf } from "@/core/problems";
import { flowOf, placesOf, type Step } from "@/core/route";
import { nextInWords } from "@/core/words";
import { KINDS } from "@/kinds";

const FIELDS: Field[] = [
  { id: "total", name: "Total", kind: "money", needed: "true" },
  { id: "count", name: "Count", kind: "number" },
];
const jump = (to: string, when?: string, id = "j"): Step =>
  ({ id, name: "Jump", kind: "jump", to, ...(when === undefined ? {} : { when }) }) as Step;
const add: Step = {
  id: "w",
  name: "Add",
  kind: "work out",
  set: [{ field: "count", value: "if Count = null then 1 else Count + 1" }],
};
const ask: Step = {
  ...decideBy("d", { by: "person", person: "carmel" }, [ans("yes", "agree")]),
  name: "Look",
};
const process = (...route: Step[]) => definitionOf([...route, fin("e", "done")], { fields: FIELDS });
const drive = (...route: Step[]) => harness(process(...route));
const codes = (...route: Step[]) =>
  problemsOf(process(...route), { kinds: KINDS, registers: {} }).map(
    (p) => `${p.severity} ${p.where.id} ${p.code}`,
  );

describe("a Jump with a condition", () => {
  it("goes back for as long as it holds, then on; and says why", () => {
    const h = drive(add, jump("w", "Count < 3"));
    h.start();
    expect(h.state).toMatchObject({ status: "finished", data: { count: "3" } });
    const did = h.events.flatMap((e) => (e.type === "step did" ? [e.did] : []));
    expect(did).toMatchObject([{ to: "w" }, { to: "w" }, { to: null, why: [{ result: "no" }] }]);
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });

  it("goes forward past what is not needed", () => {
    const h = drive(jump("e", "Total < 500"), ask);
    h.start({ total: "499" });
    expect(h.state.status).toBe("finished");
    const asked = drive(jump("e", "Total < 500"), ask);
    asked.start({ total: "500" });
    expect(asked.asked()).toEqual(["carmel"]);
  });

  it("over nothing it does not hold; where it cannot be told it stops", () => {
    const h = drive(jump("w", "Count > 1"), add);
    h.start();
    expect(h.state).toMatchObject({ status: "finished", data: { count: "1" } });
    const stuck = drive(add, jump("w", "1 / (Count - 1) > 0"));
    stuck.start();
    expect(stuck.state.stuck).toMatchObject([{ step: "j", reason: { code: "unclear" } }]);
  });

  it("that never ends is found when it runs, and warned of before", () => {
    const h = drive(add, jump("w", "true"));
    h.start();
    expect(h.state.stuck).toMatchObject([{ reason: { code: "runaway" } }]);
    expect(codes(add, jump("w", "Count < 3"))).toEqual(["warning j endless"]);
    expect(codes(add, jump("w"))).toContain("error j endless");
    expect(codes(ask, jump("d", "Count < 3"))).toEqual([]);
  });

  it("a circle that sleeps is none", () => {
    const pause = { ...KINDS.steps.wait.blank("p") } as Step;
    expect(codes(pause, jump("p", "Count < 3"))).toEqual([]);
  });

  it("leads both ways, for checks and for whoever asks what comes next", () => {
    const d = process(ask, jump("d", "Count < 3"), add);
    const flow = flowOf(d, placesOf(d, KINDS), KINDS);
    expect([...flow.next.get("j")!].sort()).toEqual(["d", "w"]);
    expect(codes(ask, jump("d", "Count < 3"), add)).toEqual([]);
    expect(codes(ask, jump("d", "Nothing"))).toContain("error j unknown-name");
    const release = compileRelease(d, {}, KINDS);
    expect(nextInWords(release, "d")).toEqual([
      { answer: "yes", then: "then it ends as “done” or Look again" },
    ]);
  });
});
