import { ans, decideBy, definitionOf, fin } from "../engine/testRequest";
import type { Field, Registers } from "../form";
import { KINDS } from "@/kinds";
import { comesWithout, flowOf, placesOf, type ProcessDefinition, type Step } from "../route";
import { problemsOf } from ".";

const registers: Registers = {
  objects: {
    format: "cobble-step/register@1",
    key: "objects",
    name: "Objects",
    one: "object",
    purpose: "",
    title: ["name"],
    columns: [{ id: "name", name: "Name", kind: "text" }],
  },
};
const FIELDS: Field[] = [
  { id: "total", name: "Total", kind: "money" },
  { id: "word", name: "Word", kind: "text" },
  { id: "other", name: "Other", kind: "text" },
  { id: "thing", name: "Thing", kind: "look-up", register: "objects" },
];
const HIDDEN = { start: { word: "see", other: "see" } } as const;
const set = (id: string, field = "word", value = '"x"'): Step =>
  ({ id, name: id, kind: "work out", set: [{ field, value }] }) as Step;
const read = (id: string, value = "Word"): Step => set(id, "other", value);
const ask = (id: string, yes: Step[] = [], no: Step[] = []): Step =>
  decideBy(id, { by: "person", person: "carmel" }, [
    ans(`${id}-y`, "agree", yes),
    ans(`${id}-n`, "refuse", no),
  ]);
const together = (id: string, branches: Step[][], more: object = {}): Step =>
  ({
    ...KINDS.steps.together.blank(id),
    branches: branches.map((steps, i) => ({ id: `${id}-${i}`, name: `B${i}`, steps })),
    ...more,
  }) as Step;
const each = (id: string, ...steps: Step[]): Step =>
  ({
    ...KINDS.steps["for each"].blank(id),
    over: { times: "3" },
    bodies: [{ id: `${id}-b`, steps }],
  }) as Step;
const jump = (id: string, to: string, when?: string): Step =>
  ({ id, name: "Jump", kind: "jump", to, ...(when ? { when } : {}) }) as Step;
const find = (more: object = {}): Step =>
  ({
    ...KINDS.steps.find.blank("f"),
    name: "Found",
    register: "objects",
    where: "Name = Word",
    ...more,
  }) as Step;

const process = (route: Step[], more: Partial<ProcessDefinition> = {}): ProcessDefinition =>
  definitionOf([...route, fin("e", "done")], { fields: FIELDS, access: HIDDEN as never, ...more });
const codes = (route: Step[], more: Partial<ProcessDefinition> = {}) =>
  problemsOf(process(route, more), { kinds: KINDS, registers })
    .filter((p) => ["not-every-way", "may-be-nothing", "nothing-ends", "back-empty"].includes(p.code))
    .map((p) => `${p.where.id} ${p.code}`);

describe("steps one can come to without others", () => {
  const without = (route: Step[], ...ids: string[]) => {
    const places = placesOf({ route }, KINDS);
    return [...comesWithout({ route }, places, flowOf({ route }, places, KINDS), KINDS, new Set(ids))].sort();
  };
  it.each<[string, Step[], string[], boolean]>([
    ["in a row", [set("s"), read("r")], ["s"], false],
    ["one answer only", [ask("a", [set("s")]), read("r")], ["s"], true],
    ["both answers", [ask("a", [set("s")], [set("t")]), read("r")], ["s", "t"], false],
    ["an answer that ends", [ask("a", [set("s")], [fin("no", "no")]), read("r")], ["s"], false],
    ["a jump over it", [ask("a", [], [jump("j", "r")]), set("s"), read("r")], ["s"], true],
    ["a jump back behind it", [set("s"), ask("a", [], [jump("j", "s")]), read("r")], ["s"], false],
    ["a jump on a condition", [jump("j", "r", "Total > 1"), set("s"), read("r")], ["s"], true],
    ["one branch of those waited for", [together("t", [[set("s")], [ask("a")]]), read("r")], ["s"], false],
    [
      "a branch in a branch",
      [together("t", [[together("u", [[set("s")], []])], []]), read("r")],
      ["s"],
      false,
    ],
    ["one way in a branch", [together("t", [[ask("a", [set("s")])], []]), read("r")], ["s"], true],
    [
      "a branch that need not be waited for",
      [together("t", [[set("s")], [ask("a")]], { needs: 1 }), read("r")],
      ["s"],
      true,
    ],
    ["the branch beside", [together("t", [[set("s")], [read("r")]])], ["s"], true],
    ["rounds", [each("f", set("s")), read("r")], ["s"], false],
    ["one way in rounds", [each("f", ask("a", [set("s")])), read("r")], ["s"], true],
  ])("%s", (_, route, ids, comes) => {
    expect(without([...route, fin("e", "done")], ...ids).includes("r")).toBe(comes);
  });
});

describe("values that may not be there", () => {
  it("are said where a request can come past what sets them", () => {
    expect(codes([ask("a", [set("s")]), read("r")])).toEqual(["r not-every-way"]);
    expect(codes([ask("a", [set("s")], [set("t")]), read("r")])).toEqual([]);
    expect(codes([ask("a", [ask("b")]), read("r", "b.note")])).toEqual(["r not-every-way"]);
    expect(codes([ask("a"), read("r", "a.note")])).toEqual([]);
    // Whoever says what counts then has thought of it; a text leaves it out.
    expect(codes([ask("a", [set("s")]), read("r", 'if Word = null then "" else Word')])).toEqual([]);
    const tell = { ...KINDS.steps.tell.blank("t"), text: "{Word}" } as Step;
    expect(codes([ask("a", [set("s")]), tell])).toEqual([]);
  });

  it("what is found may be nothing, where it goes on with that", () => {
    expect(codes([find({ take: "first" }), read("r", "Found.Name")])).toEqual(["r may-be-nothing"]);
    expect(codes([find(), read("r", "Found[1].Name")])).toEqual(["r may-be-nothing"]);
    expect(codes([find(), read("r", "Found[-1].Name")])).toEqual(["r may-be-nothing"]);
    expect(codes([find(), read("r", 'string join(Found.Name, ", ")')])).toEqual([]);
    expect(codes([find({ nothing: "stop" }), read("r", "Found[1].Name")])).toEqual([]);
    expect(
      codes([
        find({ take: "first", ways: [{ id: "w", steps: [fin("n", "none")] }] }),
        read("r", "Found.Name"),
      ]),
    ).toEqual([]);
    expect(codes([find(), read("r", 'if count(Found) = 0 then "" else Found[1].Name')])).toEqual([]);
  });

  it("nothing ends a wait for what nobody sets beside it", () => {
    const wait = (holds: string, more: object[] = []): Step =>
      ({ id: "w", name: "Wait", kind: "wait", for: [{ id: "c", holds }, ...more], ways: [] }) as Step;
    expect(codes([set("s"), wait('Word = "y"')])).toEqual(["w nothing-ends"]);
    expect(codes([set("s"), wait('Word = "y"', [{ id: "l", length: { amount: 1, unit: "days" } }])])).toEqual(
      [],
    );
    expect(codes([wait('Thing.Name = "y"')])).toEqual([]);
    expect(codes([together("t", [[set("s")], [wait('Word = "x"')]])])).toEqual([]);
    expect(codes([together("t", [[ask("a")], [wait('a.answer = "y"')]])])).not.toContain("w nothing-ends");
    expect(codes([together("t", [[set("s", "other")], [wait('Word = "x"')]])])).toEqual(["w nothing-ends"]);
    // Somebody in a branch beside may fill it in.
    const edits = { access: { start: { word: "see" }, a: { word: "edit" } } as never };
    expect(codes([together("t", [[ask("a")], [wait('Word = "x"')]])], edits)).toEqual([]);
  });

  it("what is handed back is set, on every way to an end", () => {
    const back = (route: Step[]) =>
      codes(route, {
        procedure: true,
        starts: [],
        fields: FIELDS.map((f) => (f.id === "word" ? { ...f, hand: "out" as const } : f)),
      });
    expect(back([set("s")])).toEqual([]);
    expect(back([read("r", '"x"')])).toEqual(["word back-empty"]);
    expect(back([ask("a", [set("s")])])).toEqual(["word back-empty"]);
    expect(back([ask("a", [set("s")], [set("t")])])).toEqual([]);
    expect(back([ask("a", [], [fin("n", "no")]), set("s")])).toEqual(["word back-empty"]);
  });
});
