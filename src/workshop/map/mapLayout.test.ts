import type { ProcessDefinition, Step } from "@/core/route";
import { KINDS } from "@/kinds";
import { mapLayout, UNFOLDED, type Folds } from "./mapLayout";

const tell = (id: string): Step => ({ ...KINDS.steps.tell.blank(id), name: id }) as Step;
const each = (id: string, steps: Step[]): Step =>
  ({ ...KINDS.steps["for each"].blank(id), name: id, bodies: [{ id: `${id}-b`, steps }] }) as Step;
const part = (id: string, steps: Step[]): Step =>
  ({ ...KINDS.steps.part.blank(id), name: id, bodies: [{ id: `${id}-b`, steps }] }) as Step;
const hand = (id: string, procedure: string): Step =>
  ({ ...KINDS.steps["hand to"].blank(id), name: id, procedure }) as Step;
const choose = (id: string, steps: Step[]): Step =>
  ({
    ...KINDS.steps.choose.blank(id),
    name: id,
    ways: [
      { id: `${id}-a`, name: "a", when: "true", steps },
      { id: `${id}-b`, name: "b", steps: [] },
    ],
  }) as Step;

const PROCEDURES: Record<string, Pick<ProcessDefinition, "route">> = {
  close: { route: [tell("x"), hand("again", "deeper")] },
  deeper: { route: [tell("y")] },
  round: { route: [hand("r", "round")] },
};
const draw = (route: Step[], more: Partial<Folds> = {}) => {
  const { nodes, edges } = mapLayout(
    { route },
    { ...UNFOLDED, procedure: (k) => PROCEDURES[k] ?? null, ...more },
  );
  return { nodes, edges, ids: nodes.map((n) => n.id), by: new Map(nodes.map((n) => [n.id, n])) };
};
const set = (...ids: string[]) => new Set(ids);

it("what is done where a mail comes back stands beside the way, which leads past it", () => {
  const mail = { ...tell("m"), ways: [{ id: "m-w", steps: [tell("a")] }] } as Step;
  const { by, edges } = draw([mail, tell("z")]);
  expect(edges.map((x) => [x.fromStep, x.toStep])).toEqual([
    ["start", "m"],
    ["m", "a"],
    ["m", "z"],
  ]);
  expect(by.get("a")!.x).toBe(1);
  expect(by.get("z")!.x).toBe(0);
});

it("rounds fold away with all that stands in them, and the way goes on behind them", () => {
  const route = [each("e", [tell("a"), choose("c", [tell("b")])]), tell("z")];
  expect(draw(route).ids).toEqual(["start", "e", "a", "c", "b", "z"]);
  expect(draw(route).by.get("e")!.under).toEqual({ steps: 3, folded: false });
  // Ways are what the map is about.
  expect(draw(route).by.get("c")!.under).toBeNull();
  const folded = draw(route, { turned: set("e") });
  expect(folded.ids).toEqual(["start", "e", "z"]);
  expect(folded.by.get("e")!.under).toEqual({ steps: 3, folded: true });
  expect(folded.edges.map((x) => [x.fromStep, x.toStep])).toEqual([
    ["start", "e"],
    ["e", "z"],
  ]);
});

it("a part is drawn as a stone of its own only where the sheet folds it", () => {
  const route = [part("p", [tell("a"), tell("b")]), tell("z")];
  expect(draw(route).ids).toEqual(["start", "a", "b", "z"]);
  const folded = draw(route, { parts: set("p") });
  expect(folded.ids).toEqual(["start", "p", "z"]);
  expect(folded.by.get("p")).toMatchObject({ number: "", under: { steps: 2, folded: true } });
  expect(folded.edges.map((x) => [x.fromStep, x.toStep])).toEqual([
    ["start", "p"],
    ["p", "z"],
  ]);
});

it("steps of a procedure are drawn where it is unfolded, each for the row that hands to it", () => {
  const route = [hand("h", "close"), tell("z")];
  expect(draw(route).ids).toEqual(["start", "h", "z"]);
  expect(draw(route).by.get("h")!.under).toEqual({ steps: 2, folded: true });
  const once = draw(route, { turned: set("h") });
  expect(once.ids).toEqual(["start", "h", "h~x", "h~again", "z"]);
  expect(once.by.get("h~x")).toMatchObject({ row: "h", number: "2" });
  // What ends the procedure, on whatever way, goes on behind what handed to it.
  const finish = { ...KINDS.steps.finish.blank("f"), name: "f" } as Step;
  PROCEDURES["ends"] = { route: [choose("c", [finish]), { ...finish, id: "g" } as Step] };
  const ends = draw([hand("h", "ends"), tell("z")], { turned: set("h") });
  expect(ends.edges.filter((x) => x.toStep === "z").map((x) => x.fromStep)).toEqual(["h~f", "h~g"]);
  const twice = draw(route, { turned: set("h", "h~again") });
  expect(twice.ids).toEqual(["start", "h", "h~x", "h~again", "h~again~y", "z"]);
  expect(twice.by.get("h~again~y")!.row).toBe("h");
  // One that hands to itself is drawn as deep as somebody unfolds it, and not without end.
  const ids = Array.from({ length: 40 }, (_, i) => ["h", ...Array<string>(i).fill("r")].join("~"));
  expect(draw([hand("h", "round")], { turned: new Set(ids) }).nodes.length).toBeLessThan(10);
  expect(draw([hand("h", "gone")]).by.get("h")!.under).toBeNull();
});

it("never draws two stones in one place, whatever is folded", () => {
  const route = [
    each("e", [
      choose("c", [tell("a"), hand("h", "close")]),
      part("p", [tell("b"), each("e2", [tell("d")])]),
    ]),
    hand("h2", "close"),
    tell("z"),
  ];
  const all = ["e", "h", "h~again", "e2", "h2", "h2~again"];
  for (let n = 0; n < 2 ** all.length; n++) {
    const turned = new Set(all.filter((_, i) => (n >> i) & 1));
    for (const parts of [set(), set("p")]) {
      const { nodes } = draw(route, { turned, parts });
      const places = nodes.map((x) => `${x.x} ${x.y}`);
      expect([[...turned], new Set(places).size]).toEqual([[...turned], places.length]);
    }
  }
});
