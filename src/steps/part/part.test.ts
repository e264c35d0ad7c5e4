import { compileRelease, NEW_REQUEST, replay, samplePath } from "@/core/engine";
import { officeFacts } from "@/core/engine/testOffice";
import { ans, decideBy, definitionOf, fin, harness, T0 } from "@/core/engine/testRequest";
import { problemsOf } from "@/core/problems";
import { applyEdit, placesOf, type Step } from "@/core/route";
import { nextInWords, pathOf } from "@/core/words";
import { KINDS } from "@/kinds";

const part = (id: string, name: string, ...steps: Step[]): Step =>
  ({ id, name, kind: "part", bodies: [{ id: `${id}-body`, steps }] }) as Step;
const ask = (id: string, person: string, more: Step[] = []): Step =>
  decideBy(id, { by: "person", person }, [
    ans("approve", "agree", more),
    ans("decline", "refuse", [fin(`no-${id}`, "declined", "refuse")]),
  ]);
const jump = (id: string, to: string): Step => ({ id, name: "Jump", kind: "jump", to }) as Step;

const ROUTE = [
  ask("a", "carmel"),
  part("p", "Checks", ask("b", "declan", [ask("b1", "eithne")]), part("q", "Inner", ask("c", "fergus"))),
  ask("d", "brendan"),
  fin("e", "done"),
];
const codes = (...route: Step[]) =>
  problemsOf(definitionOf(route), { kinds: KINDS, registers: {} }).map(
    (p) => `${p.severity} ${p.where.id} ${p.code}`,
  );

describe("a part", () => {
  it("has no number: what stands under it is numbered on", () => {
    const numbers = [...placesOf({ route: ROUTE }, KINDS)].map(([id, p]) => `${id} ${p.number}`);
    expect(numbers.filter((n) => !n.startsWith("no-"))).toEqual([
      "a 2",
      "p 3",
      "b 3",
      "b1 3a.1",
      "q 4",
      "c 4",
      "d 5",
      "e 6",
    ]);
    expect(
      [...placesOf({ route: [part("p", "Empty"), ask("a", "carmel")] }, KINDS).values()].map((p) => p.number),
    ).toEqual(["2", "2", "2b.1"]);
  });

  it("changes nothing of what a request goes through", () => {
    const flat = [
      ROUTE[0]!,
      ask("b", "declan", [ask("b1", "eithne")]),
      ask("c", "fergus"),
      ROUTE[2]!,
      ROUTE[3]!,
    ];
    const run = (route: Step[]) => {
      const h = harness(definitionOf(route));
      h.start();
      const asked: string[] = [];
      for (let i = 0; i < 9 && h.asked().length > 0; i++) {
        asked.push(...h.asked());
        h.answer(h.asked()[0]!, "approve");
      }
      expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
      const release = compileRelease(definitionOf(route), {}, KINDS);
      return {
        asked,
        result: h.state.result,
        path: pathOf(release, h.state, h.events).map((s) => `${s.number} ${s.name}`),
      };
    };
    expect(run(ROUTE)).toEqual(run(flat));
  });

  it("is passed by jumps, into it, out of it and over it", () => {
    const again = ask("c", "fergus", [jump("j", "b")]);
    const route = [
      ask("a", "carmel", [jump("in", "c")]),
      part("p", "Checks", ask("b", "declan"), again),
      fin("e", "done"),
    ];
    expect(codes(...route).filter((c) => c.includes("jump"))).toEqual([]);
    const h = harness(definitionOf(route));
    h.start();
    h.answer("carmel", "approve");
    expect(h.asked()).toEqual(["fergus"]);
    h.answer("fergus", "approve");
    expect(h.asked()).toEqual(["declan"]);
  });

  it("is said to be empty, or to have no heading, and is seen through by the checks", () => {
    expect(codes(part("p", "Checks"), fin("e", "done"))).toEqual(["warning p empty-part"]);
    expect(codes(part("p", " ", fin("e", "done")))).toEqual(["error p no-name"]);
    expect(codes(part("p", "Checks", fin("e", "done")), ask("a", "carmel"))).toContain("error a unreachable");
    // What is decided under it is read behind it.
    const read: Step = { id: "w", name: "W", kind: "work out", set: [{ field: "reason", value: "b.note" }] };
    expect(codes(part("p", "Checks", ask("b", "carmel")), read, fin("e", "done"))).toEqual([]);
  });

  it("is told by what stands under it where somebody asks what comes next", () => {
    const release = compileRelease(definitionOf(ROUTE), {}, KINDS);
    expect(nextInWords(release, "a")[0]).toEqual({ answer: "approve", then: "then b" });
    expect(nextInWords(release, "b1")[0]).toEqual({ answer: "approve", then: "then c" });
    const empty = compileRelease(
      definitionOf([ask("a", "carmel"), part("p", "P"), fin("e", "done")]),
      {},
      KINDS,
    );
    expect(nextInWords(empty, "a")[0]).toEqual({ answer: "approve", then: "then it ends as “done”" });
  });

  it("is moved with what stands under it, and back", () => {
    const around = { kinds: KINDS, registers: {} };
    const d = definitionOf(ROUTE);
    const r = applyEdit(
      d,
      { op: "step.move", id: "p", to: { owner: null, list: null }, after: null },
      around,
    );
    expect(r.ok && r.definition.route.map((s) => s.id)).toEqual(["p", "a", "d", "e"]);
    const back = r.ok && applyEdit(r.definition, r.inverse, around);
    expect(back && back.ok && back.definition).toEqual(d);
    const into = applyEdit(
      d,
      { op: "step.move", id: "d", to: { owner: "q", list: "q-body" }, after: "c" },
      around,
    );
    expect(into.ok && placesOf(into.definition, KINDS).get("d")!.number).toBe("5");
  });

  it("leaves a sample its way", () => {
    const release = compileRelease(definitionOf(ROUTE), {}, KINDS);
    const path = samplePath(release, "una", { total: "1" }, officeFacts(T0));
    expect(path).toMatchObject({ result: "done", stop: null });
    expect(path.steps).toEqual(expect.arrayContaining(["b", "c", "d"]));
  });
});
