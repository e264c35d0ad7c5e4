import { KINDS } from "@/kinds";
import type { Field } from "../form";
import type { OfficeFacts } from "../kinds";
import type { Assignment, ProcessDefinition, Rung, Step } from "../route";
import { CheckCache, problemsOf } from ".";

const OFFICE: OfficeFacts = {
  people: [{ id: "una", name: "Una", manager: null }],
  groups: { registry: ["una"], ghosts: [] },
  duties: { Guard: 1 },
  calendars: [],
  mailboxes: [],
};
const GUARD: Assignment = { rule: { by: "duty", duty: "Guard" }, how: "one" };
const finish = (id: string): Step => ({ id, name: "Finish", kind: "finish", result: "done", tone: "agree" });
const jump = (id: string, to: string): Step => ({ id, name: "Jump", kind: "jump", to });
const decide = (id: string, yes: Step[] = [], more: object = {}): Step => ({
  id,
  name: id,
  kind: "decide",
  who: GUARD,
  answers: [{ id: `${id}-yes`, label: "Yes", tone: "agree", steps: yes }],
  ...more,
});
const choose = (id: string, ...whens: (string | [string, Step[]])[]): Step => ({
  id,
  name: id,
  kind: "choose",
  ways: whens.map((w, i) => {
    const [when, steps] = typeof w === "string" ? [w, []] : w;
    return { id: `${id}-${i}`, name: `way ${i}`, ...(when ? { when } : {}), steps };
  }),
});
const field = (id: string, name: string, kind: Field["kind"], more: object = {}): Field => ({
  id,
  name,
  kind,
  ...more,
});
const needed = { needed: "true" };
const FIELDS: Field[] = [
  field("total", "Total", "money", needed),
  field("urgent", "Urgent", "yes or no", needed),
  field("grade", "Grade", "choice", { ...needed, options: ["A", "B", "C"] }),
  field("due", "Due", "date", needed),
  field("free", "Free", "number"),
  field("keeper", "Keeper", "person"),
  field("word", "Word", "text", needed),
];
const definition = (route: Step[], more: Partial<ProcessDefinition> = {}): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key: "t",
  name: "Test",
  purpose: "",
  owners: ["una"],
  numbering: { prefix: "TEST", digits: 4 },
  title: "",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  samples: [],
  access: {},
  fields: FIELDS,
  route: [...route, finish("end")],
  ...more,
});
const found = (d: ProcessDefinition) =>
  problemsOf(d, { kinds: KINDS, registers: {}, office: OFFICE, cache: new CheckCache() }).map(
    (p) => `${p.where.id} ${p.severity} ${p.code}`,
  );

describe("a route", () => {
  it("must be able to end, whoever is asked on the way", () => {
    expect(found(definition([decide("d", [jump("j", "d")])]))).toContain("d error never-ends");
    const two = [decide("a"), decide("b", [jump("j", "a")])];
    expect(found(definition(two))).toContain("a error never-ends");
    const way = decide("b", [choose("c", ["Urgent", [jump("j", "a")]], "")]);
    expect(found(definition([decide("a"), way]))).toEqual([]);
  });
  it("leads to every step, also by a jump over others", () => {
    const over = choose("c", ["Urgent", [jump("j", "late")]], ["", [finish("f")]]);
    expect(found(definition([over, decide("late")]))).toEqual([]);
    expect(found(definition([over, decide("mid"), decide("late")]))).toContain("mid error unreachable");
    expect(found(definition([finish("f"), decide("d")]))).toContain("d error unreachable");
  });
  it("has no step that is called like a field", () => {
    expect(found(definition([decide("d", [], { name: "Total" })]))).toContain("d error name-twice");
    expect(found(definition([decide("d", [], { name: "Requester" })]))).toContain("d error name-twice");
    expect(found(definition([decide("d", [], { name: "total" })]))).toEqual([]);
  });
  it("reads what a step came to only behind it", () => {
    const reads = choose("c", ['d.answer = "Yes"', []], "");
    expect(found(definition([decide("d"), reads]))).toEqual([]);
    expect(found(definition([reads, decide("d")]))).toContain("c warning read-before-set");
    // A way back makes it possible, the second time.
    const back = choose("e", ["Urgent", [jump("j", "c")]], "");
    expect(found(definition([reads, decide("d"), back]))).toEqual(["c warning not-every-way"]);
    expect(found(definition([decide("d"), decide("x", [], { name: "d" }), reads]))).toContain(
      "c error step-name-twice",
    );
  });
});

describe("ways by conditions over one name", () => {
  const at = (...whens: string[]) => found(definition([choose("c", ...whens)]));
  it.each([
    ["Total < 500", "Total >= 500"],
    ["Total < 500", "Total = 500", "Total > 500"],
    ["Urgent", "not(Urgent)"],
    ["Urgent = true", "Urgent = false"],
    ['Grade = "A"', 'Grade in ("B", "C")'],
    ['Due < date("2026-01-01")', 'Due >= date("2026-01-01")'],
    ["Total in [0..10]", "Total < 0 or Total > 10"],
    ["Total between 1 and 2", "Total < 1", "Total > 2"],
    // What cannot be known is not said: also that between two texts there are others.
    ['Word < "m"', 'Word >= "m"'],
    ['Word in ["a".."m"]', 'Word < "a"', 'Word > "m"'],
    ["Total < Free", "Total >= Free"],
    ["Total * 2 < 5", "Total * 2 >= 5"],
    ["Due < today()", "Due >= today()"],
  ])("%s, %s: all is well", (...whens) => expect(at(...whens)).toEqual([]));
  it.each([
    [["Total < 500", "Total > 500"]],
    [['Grade = "A"', 'Grade = "B"']],
    [["Total <= 499.99", "Total >= 500.01"]],
    [['Due < date("2026-01-01")', 'Due > date("2026-01-01")']],
    [["Urgent"]],
    [['Word = "a"', 'Word = "b"']],
  ])("%j leaves a gap", (whens) => expect(at(...whens)).toContain("c error falls-through"));
  it("says what is left out where a value may be missing", () => {
    expect(at("Free < 5", "Free >= 5")).toEqual(["c warning falls-through"]);
    expect(at("Free < 5", "Free >= 5", "is empty(Free)")).toEqual([]);
  });
  it.each([
    [["Total > 5 and Total < 3", ""]],
    [["Total > 5", "Total > 7", ""]],
    [["Total > 5", "Total>5", ""]],
    [["Total > Free", "Total  > Free", ""]],
    [['Grade = "A"', 'Grade in ("A")', ""]],
    [["Urgent", "not(Urgent)", "Urgent = true", ""]],
  ])("%j has a way that is never taken", (whens) => expect(at(...whens)).toContain("c error way-never"));
  it("is told of no way that some value takes", () => {
    expect(at("Total > 7", "Total > 5", "")).toEqual([]);
    expect(at("Free = null", "Free > 1", "")).toEqual([]);
  });
});

describe("a form", () => {
  const form =
    (...fields: Field[]) =>
    (more: Partial<ProcessDefinition> = {}) =>
      found(definition([decide("d")], { fields, ...more }));
  it("has nothing needed that nobody can fill in", () => {
    const one = form(field("n", "Note", "text", needed));
    expect(one({ access: { start: { n: "see" } } })).toContain("n error needed-by-nobody");
    expect(one({ access: { start: { n: "see" }, d: { n: "edit" } } })).toEqual([]);
    expect(one()).toEqual([]);
  });
  it("has its tables, sections and pages where they belong", () => {
    const column = field("x", "X", "text");
    const inner = field("in", "Inner", "lines", { fields: [column] });
    expect(form(field("out", "Outer", "lines", { fields: [inner] }))()).toContain("in error bad-place");
    const page = field("p", "Page", "page", { fields: [column] });
    expect(form(field("s", "Section", "section", { fields: [page] }))()).toContain("p error bad-place");
    const signs = field("g", "Signed", "signature", {});
    expect(form(field("out", "Outer", "lines", { fields: [signs] }))()).toContain("g error bad-place");
    expect(form(field("s", "Section", "section", { fields: [signs] }))()).not.toContain("g error bad-place");
    for (const made of [{ worked: "null" }, { starting: "null" }])
      expect(form({ ...signs, ...made })()).toContain("g error signed-by-nobody");
    expect(form(field("s", "Section", "section", { fields: [inner] }))()).toEqual([]);
  });
  it("has limits of its own kind, in order", () => {
    expect(form(field("n", "N", "number", { min: "1,000" }))()).toContain("n error bad-range");
    expect(form(field("n", "N", "date", { max: "next year" }))()).toContain("n error bad-range");
    expect(form(field("n", "N", "date", { min: "2026-02-01", max: "2026-01-01" }))()).toContain(
      "n error no-range",
    );
    expect(form(field("n", "N", "number", { min: "9", max: "10" }))()).toEqual([]);
  });
  it("has checks that something can meet", () => {
    const checked = (must: string) => form(field("n", "N", "number", { checks: [{ must, say: "x" }] }))();
    expect(checked("N > 5 and N < 3")).toContain("n error never-holds");
    expect(checked("N > 5 and N < 7")).toEqual([]);
    expect(
      form(field("n", "N", "number"), field("m", "M", "text", { shown: "N > 2 and N < 1" }))(),
    ).toContain("m warning never-holds");
  });
  it("tells in texts nothing that is hidden from who reads them", () => {
    const d = (more: Partial<ProcessDefinition>, route: Step[] = []) => found(definition(route, more));
    const hide = { access: { d: { total: "hide" as const } } };
    expect(d({ title: "{Total}", ...hide }, [decide("d")])).toContain("t warning hidden-in-text");
    expect(d({ title: "{Due}", ...hide }, [decide("d")])).toEqual([]);
    const tell = {
      id: "t1",
      name: "Tell",
      kind: "tell",
      who: { by: "requester" },
      subject: "",
      text: "{Total}",
      ways: [],
    } as Step;
    expect(d({ access: { start: { total: "hide" } } }, [tell])).toContain("t1 warning hidden-in-text");
  });
});

describe("whoever is asked or told", () => {
  const asked = (who: object, more: object = {}) => found(definition([decide("d", [], { who, ...more })]));
  const by = (formula: string) => ({ rule: { by: "formula", formula }, how: "one" });
  it("is a person", () => {
    expect(asked(by("Total"))).toContain("d error wrong-type");
    expect(asked(by("Requester"))).toContain("d error own-request");
    expect(asked({ ...by("[Requester, Keeper]") })).toEqual([]);
  });
  it("may be nobody where a person field may be left out", () => {
    expect(asked(by("Keeper"))).toEqual(["d warning may-find-nobody"]);
    expect(asked({ ...by("Keeper"), fallback: GUARD.rule })).toEqual([]);
  });
  it("is somebody on the ladder too", () => {
    const limit = (rung: Partial<Rung> & Pick<Rung, "action">, more: object = {}) => ({
      limit: {
        otherwise: { amount: 2, unit: "working days" },
        rungs: [{ id: "r", when: "at", ...rung }],
        ...more,
      },
    });
    const group = (g: string) => ({ by: "group", group: g }) as const;
    expect(asked(GUARD, limit({ action: { do: "add", who: group("ghosts") } }))).toContain(
      "d error empty-group",
    );
    expect(asked(GUARD, limit({ action: { do: "add", who: group("registry") } }))).toEqual([]);
    const early = {
      when: "before",
      length: { amount: 3, unit: "working days" },
      action: { do: "remind" },
    } as const;
    expect(asked(GUARD, limit(early))).toEqual(["d warning rung-never"]);
    expect(asked(GUARD, limit({ when: "after", action: { do: "remind" } }))).toContain("d error rung-length");
    const rules = { rules: [{ when: "Urgent", length: { amount: 0, unit: "working days" } }] };
    expect(asked(GUARD, limit({ action: { do: "remind" } }, rules))).toContain("d error bad-limit");
  });
  it("has limits that say until when, by formulas of the right kind", () => {
    const limit = (more: object) => ({
      limit: { otherwise: { amount: 2, unit: "working days" }, rungs: [], ...more },
    });
    const by = (length: object) => limit({ rules: [{ when: "true", length }] });
    expect(asked(GUARD, by({ by: "count", formula: "Total", unit: "days" }))).toEqual([]);
    expect(asked(GUARD, by({ by: "count", formula: "", unit: "days" }))).toEqual(["d error no-length"]);
    expect(asked(GUARD, by({ by: "day", formula: "" }))).toEqual(["d error no-length"]);
    expect(asked(GUARD, by({ by: "day", formula: "Total" }))).toEqual(["d error wrong-type"]);
    expect(asked(GUARD, by({ by: "lasting", formula: '"soon"' }))).toEqual(["d error wrong-type"]);
    expect(asked(GUARD, by({ by: "moment", formula: "Totl" }))).toEqual(["d error unknown-name"]);
    const most = { amount: 0, unit: "days" };
    expect(asked(GUARD, by({ by: "count", formula: "Total", unit: "days", most }))).toEqual([
      "d error bad-limit",
    ]);
    expect(asked(GUARD, limit({ from: { by: "start" } }))).toEqual([]);
    expect(asked(GUARD, limit({ from: { by: "day", formula: "" } }))).toEqual(["d error no-from"]);
    expect(asked(GUARD, limit({ from: { by: "day", formula: "Urgent" } }))).toEqual(["d error wrong-type"]);
    expect(asked(GUARD, limit({ ladder: "gone" }))).toEqual(["d error no-ladder"]);
    const rung = { id: "r", when: "at", if: "", action: { do: "remind" } };
    expect(asked(GUARD, limit({ rungs: [rung] }))).toEqual(["d error no-condition"]);
    expect(asked(GUARD, limit({ rungs: [{ ...rung, if: "Total" }] }))).toEqual(["d error wrong-type"]);
  });
  it("has an answer of the ladder that a rung gives, and one that people can", () => {
    const late = { id: "late", label: "Late", tone: "plain", byLadder: true, steps: [] };
    const answers = [{ id: "yes", label: "Yes", tone: "agree", steps: [] }, late];
    const limit = (rungs: object[]) => ({ otherwise: { amount: 2, unit: "working days" }, rungs });
    const gives = { id: "r", when: "at", action: { do: "answer", answer: "late", note: "" } };
    expect(asked(GUARD, { answers, limit: limit([gives]) })).toEqual([]);
    expect(asked(GUARD, { answers, limit: limit([]) })).toEqual(["d warning never-given"]);
    expect(asked(GUARD, { answers })).toEqual(["d warning never-given"]);
    expect(asked(GUARD, { answers: [late], limit: limit([gives]) })).toContain("d error none-to-give");
    expect(asked({ ...GUARD, how: "all", wins: "late" }, { answers, limit: limit([gives]) })).toEqual([
      "d error no-winner",
    ]);
  });
});

it("nothing sets what the form works out, nor one field twice", () => {
  const set = (...values: { field: string; value: string }[]): Step =>
    ({ id: "w", name: "Work out", kind: "work out", set: values }) as Step;
  const worked = [...FIELDS, field("tax", "Tax", "money", { worked: "Total * 0.23" })];
  expect(found(definition([set({ field: "tax", value: "1" })], { fields: worked }))).toContain(
    "w error sets-worked",
  );
  expect(found(definition([set({ field: "free", value: "1" }, { field: "free", value: "2" })]))).toContain(
    "w error sets-twice",
  );
  expect(found(definition([set({ field: "free", value: "1" })]))).toEqual([]);
});
