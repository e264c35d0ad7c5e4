import { definitionOf, fin, harness, YES_NO } from "@/core/engine/testRequest";
import type { Field, FormData } from "@/core/form";
import { problemsOf } from "@/core/problems";
import { applyEdit, type ProcessDefinition, type Step, type StepOf } from "@/core/route";
import { compileRelease } from "@/core/engine";
import { KINDS } from "@/kinds";

type Apply = StepOf<"apply">;

const FIELDS: Field[] = [
  { id: "total", name: "Total", kind: "money", needed: "true", min: "0" },
  { id: "kind", name: "Kind", kind: "choice", options: ["rope", "sail"], needed: "true" },
  { id: "urgent", name: "Urgent", kind: "yes or no", needed: "true" },
  { id: "cap", name: "Cap", kind: "money" },
  { id: "pieces", name: "Pieces", kind: "number" },
  { id: "each", name: "Each", kind: "money", worked: "Total / Pieces" },
  {
    id: "lines",
    name: "Lines",
    kind: "lines",
    fields: [
      { id: "what", name: "What", kind: "text" },
      { id: "price", name: "Price", kind: "money" },
    ],
  },
];
/** A rule by the tests of its inputs in order ("" for any), and what its outputs come to. */
const rule = (id: string, tests: string[], values: string[]): Apply["rules"][number] => ({
  id,
  when: tests.flatMap((test, i) => (test ? [{ input: `i${i + 1}`, test }] : [])),
  then: values.flatMap((value, i) => (value ? [{ output: `o${i + 1}`, value }] : [])),
});
const table = (more: Partial<Apply> = {}): Apply => ({
  id: "t",
  name: "Handling",
  kind: "apply",
  inputs: [
    { id: "i1", formula: "Total" },
    { id: "i2", formula: "Kind" },
  ],
  outputs: [
    { id: "o1", name: "Way", kind: "text" },
    { id: "o2", name: "Days", kind: "number" },
  ],
  hits: "unique",
  rules: [
    rule("r1", ["<= 500"], ['"alone"', "0"]),
    rule("r2", ["> 500", '"rope"'], ['"holder"', "2"]),
    rule("r3", ["> 500", '"sail"'], ['"director"', "1 + 1 + 1"]),
  ],
  ...more,
});
const process = (steps: Step[], more: Partial<ProcessDefinition> = {}): ProcessDefinition =>
  definitionOf([...steps, fin("e", "done")], { fields: FIELDS, ...more });
const around = { registers: {}, kinds: KINDS };
const problems = (s: Apply, more: Partial<ProcessDefinition> = {}) =>
  problemsOf(process([s], more), around).filter((p) => p.where.id === "t");
const said = (s: Apply) => problems(s).map((p) => `${p.severity}: ${p.message}`);

function run(s: Apply, data: FormData, after: Step[] = []) {
  const h = harness(process([s, ...after]));
  h.start(data);
  return h;
}
const kept = (h: ReturnType<typeof run>) => h.state.kept["t"];
const DATA = { total: "620.50", kind: "sail", urgent: false };

it("comes to the outputs of the rule that holds, with the rule and its inputs on the trail", () => {
  const h = run(table(), DATA);
  expect(kept(h)).toEqual({
    value: {
      entries: [
        ["Way", "director"],
        ["Days", { num: "3" }],
      ],
    },
  });
  const did = h.events.find((e) => e.type === "step did")!;
  expect(did).toMatchObject({ step: "t", did: { kind: "apply", rules: [3] } });
  expect(did.type === "step did" && did.did.kind === "apply" && did.did.why).toEqual([
    { text: "Total", values: "620.5", result: "620.5", reads: ["Total"] },
    { text: "Kind", values: "sail", result: "sail", reads: ["Kind"] },
  ]);
});

it("is read by its name by whatever comes behind: ways, people, limits, texts", () => {
  const after: Step[] = [
    {
      id: "c",
      name: "C",
      kind: "choose",
      ways: [
        { id: "a", name: "alone", when: 'Handling.Way = "alone"', steps: [fin("f", "passed")] },
        { id: "b", name: "else", steps: [] },
      ],
    },
    {
      id: "d",
      name: "d",
      kind: "decide",
      who: {
        rule: { by: "formula", formula: 'if Handling.Way = "director" then Requester else null' },
        how: "one",
        requesterToo: true,
      },
      answers: YES_NO("d"),
    },
  ];
  const small = run(table(), { ...DATA, total: "500" }, after);
  expect(small.state.result?.name).toBe("passed");
  expect(run(table(), DATA, after).asked()).toEqual(["una"]);
  expect(run(table(), { ...DATA, kind: "rope" }, after).asked()).toEqual([]);
});

it("what decides and cannot be worked out stops, in an input, a test and an output; what is empty only holds for nothing", () => {
  const stuck = (s: Apply, data: FormData = DATA) => run(s, data).state.stuck[0]?.reason;
  expect(
    stuck(
      table({
        inputs: [
          { id: "i1", formula: "Each" },
          { id: "i2", formula: "Kind" },
        ],
      }),
      { ...DATA, pieces: "0" },
    ),
  ).toMatchObject({ code: "unclear" });
  expect(
    stuck(table({ rules: [rule("r1", ["> Each"], ['"x"', "1"])] }), { ...DATA, pieces: "0" }),
  ).toMatchObject({ code: "unclear" });
  expect(stuck(table({ rules: [rule("r1", [], ['"x"', "Each"])] }), { ...DATA, pieces: "0" })).toMatchObject({
    code: "unclear",
  });
  expect(stuck(table({ rules: [rule("r1", ["> Cap"], ['"x"', "1"])] }))).toEqual({
    code: "no-rule",
    data: { step: "Handling" },
  });
  const byCap = table({
    inputs: [{ id: "i1", formula: "Cap" }],
    rules: [rule("r1", ["null"], ['"none"', "1"]), rule("r2", ["not(null)"], ['"some"', "2"])],
  });
  expect(kept(run(byCap, DATA))).toMatchObject({ value: { entries: [["Way", "none"], expect.anything()] } });
  expect(kept(run(byCap, { ...DATA, cap: "3" }))).toMatchObject({
    value: { entries: [["Way", "some"], expect.anything()] },
  });
  const needs = table({ ...byCap, inputs: [{ id: "i1", formula: "Cap", needed: true }] });
  expect(stuck(needs)).toEqual({ code: "needs-input", data: { step: "Handling", input: "Cap" } });
  expect(stuck(table({ rules: [rule("r1", [], ['"a"', "1"]), rule("r2", [], ['"a"', "1"])] }))).toEqual({
    code: "several-rules",
    data: { step: "Handling", first: 1, second: 2 },
  });
});

it("what it has read is read by whoever reads it: a field that is hidden from somebody hides that as well", () => {
  const hidden = { access: { watch: { cap: "hide" as const }, d: { cap: "hide" as const } } };
  const byCap = table({
    inputs: [{ id: "i1", formula: "Cap" }],
    rules: [rule("r1", ["> 5"], ['"strict"', "1"]), rule("r2", ["<= 5"], ['"plain"', "2"])],
  });
  const sums: Step = {
    id: "s",
    name: "Sums",
    kind: "work out",
    set: [],
    own: [{ name: "Way", value: "Handling.Way" }],
  };
  const way: Step = {
    id: "c",
    name: "C",
    kind: "choose",
    ways: [
      { id: "a", name: "a", when: 'Sums.Way = "strict" and Total > 0', steps: [] },
      { id: "b", name: "b", steps: [] },
    ],
  };
  const h = harness(process([byCap, sums, way], hidden));
  h.start({ ...DATA, cap: "9" });
  const whys = h.events.flatMap((e) => (e.type === "step did" && "why" in e.did ? e.did.why : []));
  expect(whys).toHaveLength(3);
  expect(whys.every((c) => c.reads.includes("Cap"))).toBe(true);
  const without = process([byCap, way], hidden);
  const other = harness({ ...without, route: [way, fin("e2", "done")] });
  other.start(DATA);
  expect(
    other.events
      .flatMap((e) => (e.type === "step did" && "why" in e.did ? e.did.why : []))
      .flatMap((c) => c.reads),
  ).not.toContain("Cap");
});

it("what cannot be kept stops, with the formula that comes to it; and it says where it may come to nothing", () => {
  const s = table({
    outputs: [{ id: "o1", name: "Way", kind: "anything" }],
    rules: [rule("r1", [], ["function(x) x"])],
  });
  expect(run(s, DATA).state.stuck[0]?.reason).toMatchObject({
    code: "unclear",
    data: { formula: "function(x) x" },
  });
  const { mayBeNothing } = KINDS.steps.apply;
  expect(
    [table(), table({ none: "empty" }), table({ none: "empty", otherwise: [] })].map(mayBeNothing!),
  ).toEqual([false, true, false]);
  expect(mayBeNothing!(table({ none: "empty", hits: "collect" }))).toBe(false);
});

it("tests read other names, and what is tested as ?", () => {
  const s = table({
    rules: [
      rule("r1", ["<= Cap"], ['"within"', "0"]),
      rule("r2", ["? > Cap and ? < 2 * Cap", '"sail"'], ['"over"', "1"]),
    ],
  });
  expect(kept(run(s, { ...DATA, cap: "700" }))).toMatchObject({
    value: { entries: [["Way", "within"], expect.anything()] },
  });
  expect(kept(run(s, { ...DATA, cap: "400" }))).toMatchObject({
    value: { entries: [["Way", "over"], expect.anything()] },
  });
});

it("in rounds each has its own, by what the round goes over", () => {
  const body = table({
    inputs: [{ id: "i1", formula: "Line.Price" }],
    outputs: [{ id: "o1", name: "Way", kind: "text" }],
    rules: [rule("r1", ["< 10"], ['"cheap"']), rule("r2", [">= 10"], ['"dear"'])],
  });
  const each: StepOf<"for each"> = {
    id: "f",
    name: "Ways",
    kind: "for each",
    over: { lines: "lines" },
    item: "Line",
    collect: "Handling.Way",
    bodies: [{ id: "f-1", steps: [body] }],
  };
  const lines = [
    { "#": "a", what: "Rope", price: "3" },
    { "#": "b", what: "Sail", price: "10" },
  ];
  const h = harness(process([each]));
  h.start({ ...DATA, lines });
  expect(h.state.result?.name).toBe("done");
  expect(h.state.kept["f"]).toEqual({ value: { list: ["cheap", "dear"] } });
});

it("a renamed field is followed into inputs, tests and outputs, and one that is removed is told in each", () => {
  const s = table({
    rules: [rule("r1", ["<= Cap", '? = Kind and "Cap" != Kind'], ['"x"', "Cap + 1"])],
    otherwise: [{ output: "o2", value: "Cap" }],
  });
  const edited = applyEdit(process([s]), { op: "field.rename", id: "cap", name: "Upper limit" }, around);
  if (!edited.ok) throw new Error(JSON.stringify(edited.refusal));
  const t = edited.definition.route[0] as Apply;
  expect(t.rules[0]!.when.map((c) => c.test)).toEqual(["<= Upper limit", '? = Kind and "Cap" != Kind']);
  expect(t.rules[0]!.then[1]!.value).toBe("Upper limit + 1");
  expect(t.otherwise![0]!.value).toBe("Upper limit");
  const back = applyEdit(edited.definition, edited.inverse, around);
  expect(back.ok && back.definition).toEqual(process([s]));
  const without = applyEdit(process([s]), { op: "field.remove", id: "cap" }, around);
  if (!without.ok) throw new Error("refused");
  const places = problemsOf(without.definition, around)
    .filter((p) => p.where.id === "t")
    .map((p) => p.where.place);
  expect(places).toEqual(expect.arrayContaining(["test r1 i1", "value r1 o2", "value by default o2"]));
  expect(() => compileRelease(without.definition, {}, KINDS)).not.toThrow();
});

describe("before a release it is told", () => {
  it("which of the texts it may come to no way is for", () => {
    const way = (value: string) => ({ id: value, name: value, when: `Handling.Way = "${value}"`, steps: [] });
    const said = (ways: string[], t = table()) =>
      problemsOf(process([t, { id: "c", name: "C", kind: "choose", ways: ways.map(way) }]), around)
        .filter((p) => p.where.id === "c")
        .map((p) => p.message);
    expect(said(["alone", "holder", "director"])).toEqual([]);
    expect(said(["alone", "director"])).toEqual([
      "“holder” goes nowhere: no way holds for that Handling.Way.",
    ]);
    // What a formula comes to may be anything.
    const open = table({
      hits: "first",
      rules: [rule("r1", ["< 5"], ['"alone"', "1"]), rule("r2", [], ["Kind", "1"])],
    });
    expect(said(["alone"], open)).toEqual([]);
  });

  it("where no rule holds, with an example: to the cent, and apart from what is only empty", () => {
    expect(said(table())).toEqual([]);
    const gap = table({ rules: [rule("r1", ["< 500"], ['"a"', "1"]), rule("r2", ["> 500"], ['"b"', "2"])] });
    expect(said(gap)).toEqual(["error: No rule of “Handling” holds for Total exactly 500, Kind = “rope”."]);
    const cents = table({
      rules: [rule("r1", ["<= 500"], ['"a"', "1"]), rule("r2", [">= 500.02"], ['"b"', "2"])],
    });
    expect(said(cents)).toEqual([
      "error: No rule of “Handling” holds for Total exactly 500.01, Kind = “rope”.",
    ]);
    const whole = table({
      rules: [rule("r1", ["<= 500"], ['"a"', "1"]), rule("r2", [">= 500.01"], ['"b"', "2"])],
    });
    expect(said(whole)).toEqual([]);
    const byCap = table({
      inputs: [{ id: "i1", formula: "Cap" }],
      rules: [rule("r1", ["<= 5"], ['"a"', "1"]), rule("r2", ["> 5"], ['"b"', "2"])],
    });
    expect(said(byCap)).toEqual(["warning: No rule of “Handling” holds for Cap empty."]);
    expect(said({ ...byCap, inputs: [{ id: "i1", formula: "Cap", needed: true }] })).toEqual([]);
    expect(said({ ...gap, none: "empty" })).toEqual([]);
    expect(said({ ...gap, hits: "rule order" })).toEqual([]);
  });

  it("what may be empty after all: a field that is not always shown, or stands in something that is not, and what is worked out", () => {
    const rules = [rule("r1", ["<= 5"], ['"a"', "1"]), rule("r2", ["> 5"], ['"b"', "2"])];
    const byTotal = (change: (f: Field) => Field, formula = "Total") =>
      problems(table({ inputs: [{ id: "i1", formula }], rules }), {
        fields: FIELDS.map((f) => (f.id === "total" ? change(f) : f)),
      }).map((p) => `${p.severity}: ${p.message}`);
    const empty = "warning: No rule of “Handling” holds for Total empty.";
    expect(byTotal((f) => f)).toEqual([]);
    expect(byTotal((f) => ({ ...f, shown: "Urgent" }))).toEqual([empty]);
    const section =
      (shown?: string) =>
      (f: Field): Field => ({
        id: "s",
        name: "S",
        kind: "section",
        fields: [f],
        ...(shown ? { shown } : {}),
      });
    expect(byTotal(section())).toEqual([]);
    expect(byTotal(section("Urgent"))).toEqual([empty]);
    expect(byTotal((f) => f, "Each")).toEqual(["warning: No rule of “Handling” holds for Each empty."]);
  });

  it("cells of no column, and of one column twice, which only a program can write", () => {
    const [one, two, three] = table().rules;
    const twice = { ...one!, when: [...one!.when, { input: "i1", test: "> 9" }] };
    const beyond = { ...two!, when: [...two!.when, { input: "gone", test: "1" }] };
    const told = said(table({ rules: [twice, beyond, three!], otherwise: [{ output: "gone", value: "1" }] }));
    expect(told.filter((t) => t.includes("column"))).toEqual([
      'error: Rule 1 says something of a column "i1" that is not there, or says it twice.',
      'error: Rule 2 says something of a column "gone" that is not there, or says it twice.',
      'error: The row for all others says something of a column "gone" that is not there, or says it twice.',
    ]);
  });

  it("the texts of the last row among what it may come to, whatever the values rank", () => {
    const outputs: Apply["outputs"] = [{ id: "o1", name: "Way", kind: "text", values: ["strict", "plain"] }];
    const ranked = (value: string) =>
      table({
        outputs,
        hits: "priority",
        rules: [rule("r1", ["> 9"], ['"strict"'])],
        otherwise: [{ output: "o1", value }],
      });
    const type = (s: Apply) => KINDS.steps.apply.gives!(s, {} as never);
    const way = (s: Apply) => {
      const t = type(s);
      return t.t === "context" ? t.fields["Way"] : null;
    };
    expect(way(ranked('"by hand"'))).toEqual({ t: "text", options: ["strict", "plain", "by hand"] });
    expect(way(ranked("Kind"))).toEqual({ t: "text" });
    expect(way(table({ rules: [] }))).toEqual({ t: "text" });
    expect(said(table({ gathers: "count" })).join()).toMatch(/Only where all rules that hold count/);
  });

  it("however many pairs may hold at once, those that do are errors", () => {
    const open = Array.from({ length: 30 }, (_, i) => rule(`o${i}`, ["> Cap"], ['"a"', "1"]));
    const sure = [rule("r1", ["<= 5"], ['"a"', "1"]), rule("r2", ["<= 6"], ['"b"', "2"])];
    const told = said(table({ rules: [...open, ...sure] })).filter((t) =>
      /other pairs|Rules 31 and 32/.test(t),
    );
    expect(told).toEqual([
      "error: Rules 31 and 32 both hold for Total exactly 0, Kind = “rope”; only one of the rules may.",
      "warning: So may 490 other pairs of rules.",
    ]);
  });

  it("a gap is mended by saying what holds otherwise", () => {
    const gap = table({ rules: [rule("r1", ["< 500"], ['"a"', "1"])] });
    const [p] = problems(gap);
    const edited = applyEdit(process([gap]), p!.mend!.edit, around);
    if (!edited.ok) throw new Error("refused");
    expect((edited.definition.route[0] as Apply).otherwise).toEqual([]);
    expect(said(edited.definition.route[0] as Apply)).toEqual([]);
  });

  it("rules that hold at once where only one may, or that differ; and those that never hold or are never gone by", () => {
    const twice = [rule("r1", ["<= 500"], ['"a"', "1"]), rule("r2", [">= 500"], ['"a"', "2 - 1"])];
    expect(said(table({ rules: twice }))).toEqual([
      "error: Rules 1 and 2 both hold for Total exactly 500, Kind = “rope”; only one of the rules may.",
    ]);
    // What is not written out is taken to differ.
    expect(said(table({ rules: twice, hits: "any" }))).toEqual([
      "error: Rules 1 and 2 both hold for Total exactly 500, Kind = “rope”, and come to different things.",
    ]);
    const agree = [twice[0]!, { ...twice[1]!, then: rule("r2", [], ['"a"', "1.0"]).then }];
    expect(said(table({ rules: agree, hits: "any" }))).toEqual([]);
    expect(said(table({ rules: twice, hits: "first" }))).toEqual([]);
    const never = [
      rule("r1", [">= 0"], ['"a"', "1"]),
      rule("r2", ["> 9"], ['"b"', "2"]),
      rule("r3", ["< 0"], ['"c"', "3"]),
    ];
    expect(said(table({ rules: never, hits: "first" }))).toEqual([
      "error: Rule 2 is never gone by: wherever it holds, one before it holds as well.",
      "error: Rule 3 never holds: nothing passes one of its tests.",
    ]);
  });

  it("a rule in which nothing stands yet, which no proof goes by", () => {
    const blank = { id: "r9", when: [], then: [] };
    const rules = [blank, rule("r1", ["< 500"], ['"a"', "1"]), rule("r2", [">= 500"], ['"b"', "2"])];
    expect(said(table({ rules }))).toEqual([
      "error: Rule 1 is empty: say when it holds, and what it comes to.",
    ]);
    const late = [blank, rules[1]!, rule("r2", [">= 499"], ['"b"', "2"])];
    expect(said(table({ rules: late }))).toEqual([
      "error: Rule 1 is empty: say when it holds, and what it comes to.",
      "error: Rules 2 and 3 both hold for Total exactly 499, Kind = “rope”; only one of the rules may.",
    ]);
    expect(said(table({ rules: [blank, rules[1]!] }))[1]).toBe(
      "error: No rule of “Handling” holds for Total exactly 500, Kind = “rope”.",
    );
  });

  it("what ranks higher comes before", () => {
    const outputs: Apply["outputs"] = [{ id: "o1", name: "Way", kind: "text", values: ["strict", "plain"] }];
    const rules = [rule("r1", ["> 100"], ['"plain"']), rule("r2", [], ['"strict"'])];
    expect(said(table({ rules, outputs, hits: "priority" }))).toEqual([
      "error: Rule 1 is never gone by: wherever it holds, one that ranks higher holds as well.",
    ]);
    expect(
      said(table({ rules: [rules[1]!, rule("r3", ["> 9"], ["Kind"])], outputs, hits: "priority" })),
    ).toEqual([]);
    expect(
      said(table({ rules, outputs: [{ id: "o1", name: "Way", kind: "text" }], hits: "priority" }))[0],
    ).toMatch(/give one its values/);
  });

  it("what cannot be proved is said so, and never called complete", () => {
    const open = [rule("r1", ["<= Cap"], ['"a"', "1"]), rule("r2", ["> Cap"], ['"b"', "2"])];
    expect(said(table({ rules: open }))).toEqual([
      "warning: Rules 1 and 2 may both hold for Total exactly 0, Kind = “rope”; only one of the rules may.",
      "warning: That some rule of “Handling” holds for all there may be could not be proved; where none does the request stops.",
    ]);
  });

  it("tests and values of the wrong kind, what says nothing, names that cannot be read, and what no sum takes", () => {
    const wrong = table({ rules: [rule("r1", ['"rope"', '"robe"'], ["5", ""])] });
    const messages = said(wrong).join("\n");
    expect(messages).toMatch(/A number cannot be compared with text/i);
    expect(messages).toMatch(/"robe" is none of its choices: rope, sail/);
    expect(messages).toMatch(/This comes to a number; text is needed here/);
    expect(messages).toMatch(/Rule 1 says nothing for “Days”/);
    const names = table({
      name: "a-b",
      outputs: [
        { id: "o1", name: "Way", kind: "text" },
        { id: "o2", name: "Way", kind: "number" },
      ],
    });
    expect(said(names).join("\n")).toMatch(/read by the name of the step.*\n.*Two outputs are called “Way”/);
    expect(said(table({ hits: "collect", gathers: "sum" })).join("\n")).toMatch(/“Way” is no number/);
    expect(said(table({ inputs: [{ id: "i1", formula: "" }], rules: [] })).join("\n")).toMatch(
      /Say what input 1 looks at.*\n.*has no rules yet/,
    );
  });
});
