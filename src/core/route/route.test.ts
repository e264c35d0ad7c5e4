import { KINDS } from "@/kinds";
import type { Field } from "../form";
import {
  applyEdit,
  differences,
  following,
  nextVersion,
  placesOf,
  type Edit,
  type ProcessDefinition,
  type Step,
} from ".";
import { CheckCache } from "../problems";
import { formulaPlaces } from ".";
import { AROUND, apply, base, errors, fin, problemsOf, withRoute } from "./testDefinition";

describe("edits", () => {
  it("renaming rewrites every formula that reads the name, and only those", () => {
    const d = apply(base, { op: "field.rename", id: "total", name: "Sum asked" }).definition;
    expect(d.title).toBe("For {Requester.name}: {Sum asked}");
    expect(d.fields[2]!.worked).toBe("sum(Lines.Line total) + Sum asked");
    expect((d.route[1] as Extract<Step, { kind: "choose" }>).ways[0]!.when).toBe("Sum asked < 500");
    expect(d.fields[1]!.fields![2]!.worked).toBe("Price * Quantity");
    const column = apply(base, { op: "field.rename", id: "lt", name: "Row sum" }).definition;
    expect(column.fields[2]!.worked).toBe("sum(Lines.Row sum) + Total");
    const table = apply(base, { op: "field.rename", id: "lines", name: "Orders" }).definition;
    expect(table.fields[2]!.worked).toBe("sum(Orders.Line total) + Total");
    expect(errors(d)).toEqual([]);
    expect(errors(column)).toEqual([]);
  });
  it("renames columns in a Write that goes through their lines: bare, by path, and where another name hides them", () => {
    const write = (value: string, each?: string): Step =>
      ({
        id: "w",
        name: "Write",
        kind: "write",
        op: "add",
        register: "objects",
        ...(each ? { each } : {}),
        values: [{ column: "title", value }],
      }) as Step;
    const after = (id: string, name: string, value: string, each?: string) => {
      const d = apply(withRoute(write(value, each)), { op: "field.rename", id, name }).definition;
      return (d.route[0] as Extract<Step, { kind: "write" }>).values[0]!.value;
    };
    expect(after("price", "Unit price", "Price * 2", "lines")).toBe("Unit price * 2");
    expect(after("price", "Unit price", "sum(Lines.Price) + Price", "lines")).toBe(
      "sum(Lines.Unit price) + Unit price",
    );
    // Without its lines the bare name is nobody's, and stays.
    expect(after("price", "Unit price", "sum(Lines.Price)")).toBe("sum(Lines.Unit price)");
    expect(after("price", "Unit price", "Price * 2")).toBe("Price * 2");
    // A field of the same name as a column is hidden inside the lines, and read outside.
    const twin = { ...base, fields: [...base.fields, { id: "p2", name: "Price", kind: "money" as const }] };
    const renamed = (each?: string) =>
      apply({ ...twin, route: [write("Price + Total", each)] }, { op: "field.rename", id: "p2", name: "Fee" })
        .definition.route[0];
    expect(renamed("lines")).toMatchObject({ values: [{ value: "Price + Total" }] });
    expect(renamed()).toMatchObject({ values: [{ value: "Fee + Total" }] });
    // The lines themselves are named by id: renaming them leaves the step as it is.
    expect(after("lines", "Orders", "sum(Lines.Price) + Price", "lines")).toBe("sum(Orders.Price) + Price");
  });
  it("refuses what cannot be, with the reason", () => {
    const code = (e: Edit) => {
      const r = applyEdit(base, e, AROUND);
      return r.ok ? "ok" : r.refusal.code;
    };
    expect(code({ op: "field.rename", id: "total", name: "net-price" })).toBe("bad-name");
    expect(code({ op: "field.rename", id: "total", name: "urgent" })).toBe("name-taken");
    expect(code({ op: "field.rename", id: "total", name: "Requester" })).toBe("name-taken");
    expect(code({ op: "field.move", id: "sec", parent: "sec", after: null })).toBe("into-itself");
    expect(code({ op: "step.move", id: "d1", to: { owner: "d1", list: "no" }, after: null })).toBe(
      "into-itself",
    );
    expect(code({ op: "step.add", to: { owner: "d1", list: "perhaps" }, after: null, step: fin("x") })).toBe(
      "unknown-list",
    );
    expect(code({ op: "step.add", to: { owner: null, list: null }, after: null, step: fin("f1") })).toBe(
      "duplicate-id",
    );
    expect(
      code({ op: "field.add", parent: null, after: null, field: { id: "total", name: "New", kind: "text" } }),
    ).toBe("duplicate-id");
    expect(code({ op: "field.remove", id: "nothing" })).toBe("unknown-field");
  });

  it("a kind that holds nothing leaves no list behind, and taking it back gives what was there", () => {
    const bare = {
      ...base,
      fields: [
        ...base.fields,
        { id: "bare", name: "Bare", kind: "lines" as const },
        { id: "empty", name: "Empty", kind: "lines" as const, fields: [] },
      ],
    };
    const kind = (d: ProcessDefinition, id: string, to: Field["kind"]) => {
      const r = apply(d, { op: "field.set", id, patch: { kind: to } });
      expect(apply(r.definition, r.inverse).definition).toEqual(d);
      return { field: r.definition.fields.find((f) => f.id === id)!, inverse: r.inverse.op };
    };
    expect(kind(bare, "empty", "text")).toEqual({
      field: { id: "empty", name: "Empty", kind: "text" },
      inverse: "field.set",
    });
    expect(kind(bare, "bare", "text")).toEqual({
      field: { id: "bare", name: "Bare", kind: "text" },
      inverse: "texts.restore",
    });
    expect(kind(bare, "grand", "section").field.fields).toEqual([]);
    // What is set again stands at the end of the field; that is no reason to restore everything.
    const shown = apply(base, { op: "field.set", id: "grand", patch: { worked: null, help: "x" } });
    expect(shown.inverse.op).toBe("field.set");
  });
});

describe("problems", () => {
  it("the base has none", () => expect(errors(base)).toEqual([]));
  it.each<[string, ProcessDefinition]>([
    [
      "unknown-name",
      { ...base, fields: [...base.fields, { id: "x", name: "X", kind: "number", worked: "Totl + 1" }] },
    ],
    [
      "wrong-type",
      { ...base, fields: [...base.fields, { id: "x", name: "X", kind: "number", worked: '"a"' }] },
    ],
    [
      "circle",
      {
        ...base,
        fields: [
          { id: "a", name: "A", kind: "number", worked: "B" },
          { id: "b", name: "B", kind: "number", worked: "A" },
        ],
        route: [fin("f")],
        title: "",
      },
    ],
    ["no-options", { ...base, fields: [...base.fields, { id: "x", name: "X", kind: "choice" }] }],
    [
      "no-register",
      { ...base, fields: [...base.fields, { id: "x", name: "X", kind: "look-up", register: "nowhere" }] },
    ],
    ["name-twice", { ...base, fields: [...base.fields, { id: "x", name: "total", kind: "text" }] }],
    ["unreachable", withRoute(fin("a"), fin("b"))],
    [
      "falls-through",
      withRoute(
        {
          id: "c",
          name: "C",
          kind: "choose",
          ways: [
            { id: "1", name: "a", when: "Total < 500", steps: [] },
            { id: "2", name: "b", when: "Total > 500", steps: [] },
          ],
        },
        fin("f"),
      ),
    ],
    [
      "way-never",
      withRoute(
        {
          id: "c",
          name: "C",
          kind: "choose",
          ways: [
            { id: "1", name: "a", steps: [] },
            { id: "2", name: "b", when: "Total > 500", steps: [] },
          ],
        },
        fin("f"),
      ),
    ],
    ["bad-jump", withRoute({ id: "j", name: "J", kind: "jump", to: "gone" })],
    [
      "endless",
      withRoute(
        { id: "s", name: "S", kind: "work out", set: [{ field: "total", value: "1" }] },
        { id: "j", name: "J", kind: "jump", to: "s" },
      ),
    ],
    [
      "jump-across",
      withRoute(
        {
          id: "g",
          name: "G",
          kind: "together",
          branches: [
            { id: "b", name: "b", steps: [{ id: "j", name: "J", kind: "jump", to: "f" }] },
            { id: "c", name: "c", steps: [] },
          ],
        },
        fin("f"),
      ),
    ],
    [
      "own-request",
      withRoute(
        {
          id: "d",
          name: "D",
          kind: "decide",
          who: { rule: { by: "requester" }, how: "one" },
          answers: [{ id: "y", label: "y", tone: "agree", steps: [] }],
        },
        fin("f"),
      ),
    ],
    [
      "only-returns",
      withRoute(
        {
          id: "d",
          name: "D",
          kind: "decide",
          who: { rule: { by: "manager" }, how: "one" },
          answers: [{ id: "y", label: "y", tone: "agree", returns: true, steps: [] }],
        },
        fin("f"),
      ),
    ],
    ["no-route", withRoute()],
    ["no-owner", { ...base, owners: [] }],
    ["bad-prefix", { ...base, numbering: { prefix: "x", digits: 4 } }],
  ])("finds %s", (code, d) => expect(errors(d)).toContain(code));

  it("gives the example that falls through a gap at a border", () => {
    const d = withRoute(
      {
        id: "c",
        name: "C",
        kind: "choose",
        ways: [
          { id: "1", name: "a", when: "Total < 500", steps: [] },
          { id: "2", name: "b", when: "Total > 500", steps: [] },
        ],
      },
      fin("f"),
    );
    expect(problemsOf(d).find((p) => p.code === "falls-through")!.message).toBe(
      "Exactly 500 goes nowhere: no way holds for that Total.",
    );
    const cents = withRoute(
      {
        id: "c",
        name: "C",
        kind: "choose",
        ways: [
          { id: "1", name: "a", when: "Total <= 499.99", steps: [] },
          { id: "2", name: "b", when: "Total >= 500", steps: [] },
        ],
      },
      fin("f"),
    );
    expect(problemsOf(cents).find((p) => p.code === "falls-through")!.message).not.toContain("Exactly");
  });
  it("mends what it proposes to mend", () => {
    const d = {
      ...base,
      fields: [...base.fields, { id: "x", name: "X", kind: "money" as const, worked: "Totl + 1" }],
    };
    const p = problemsOf(d).find((x) => x.mend)!;
    expect(errors(apply(d, p.mend!.edit).definition)).toEqual([]);
    const gap = withRoute(
      {
        id: "c",
        name: "C",
        kind: "choose",
        ways: [{ id: "1", name: "a", when: "Total < 500", steps: [fin("x")] }],
      },
      fin("f"),
    );
    expect(errors(apply(gap, problemsOf(gap).find((x) => x.mend)!.mend!.edit).definition)).toEqual([]);
  });
  it("checks assignees against the office", () => {
    const office = {
      people: [{ id: "una", name: "Una", manager: null }],
      groups: { empty: [] },
      duties: {},
      calendars: ["office"],
      mailboxes: [],
    };
    const d = withRoute(
      {
        id: "a",
        name: "A",
        kind: "decide",
        who: { rule: { by: "group", group: "empty" }, how: "one" },
        answers: [{ id: "y", label: "y", tone: "agree", steps: [] }],
      },
      {
        id: "b",
        name: "B",
        kind: "complete",
        who: { rule: { by: "duty", duty: "Director" }, how: "one" },
        button: "ok",
      },
      { id: "c", name: "C", kind: "complete", who: { rule: { by: "manager" }, how: "one" }, button: "ok" },
      fin("f"),
    );
    expect(problemsOf(d, office).map((p) => p.code)).toEqual(
      expect.arrayContaining(["empty-group", "no-holder", "no-manager"]),
    );
  });
  it("a field read before anybody fills it in is warned about", () => {
    const d = {
      ...base,
      access: { start: { total: "hide" as const }, d1: { total: "edit" as const } },
      route: [base.route[1]!, base.route[0]!, fin("f9")],
    };
    expect(problemsOf(d).find((p) => p.code === "read-before-set")!.message).toContain(
      "first filled in at step 3",
    );
  });
  it("says the same with a cache kept between edits as without", () => {
    const cache = new CheckCache();
    problemsOf(base, undefined, cache);
    const next = apply(base, { op: "field.rename", id: "total", name: "Sum asked" }).definition;
    const broken = apply(next, { op: "field.set", id: "grand", patch: { worked: "Nothing" } }).definition;
    expect(problemsOf(broken, undefined, cache)).toEqual(problemsOf(broken));
  });
});

it("numbers steps legally and knows what follows", () => {
  const p = placesOf(base, KINDS);
  expect([...p].map(([id, x]) => `${id} ${x.number}`)).toEqual([
    "d1 2",
    "f1 2b.1",
    "c1 3",
    "f2 3a.1",
    "g1 4",
    "t1 4a.1",
    "f3 5",
  ]);
  expect(following(p, "d1")).toMatchObject({ id: "c1" });
  expect(following(p, "t1")).toBe("branch end");
  expect(following(p, "f3")).toBeNull();
});

it("tells of braces that are not closed or hold nothing", () => {
  const told = (d: ProcessDefinition) =>
    problemsOf(d)
      .filter((p) => p.formula)
      .map((p) => `${p.where.id}/${p.where.place}: ${p.message}`);
  expect(told({ ...base, title: "{Request.number" })).toEqual([
    `${base.key}/title: The brace at "{Request.number" is not closed. Put } behind the formula, or write {{ for a plain brace.`,
  ]);
  const tell = apply(base, {
    op: "step.set",
    id: "t1",
    patch: { subject: "{Total}", text: "Dear {}," },
  }).definition;
  expect(told(tell)).toEqual([
    "t1/text: Nothing stands in the braces. Name a value, for example {Request.number}.",
  ]);
});

it("knows every place a formula stands", () => {
  expect(formulaPlaces(base, AROUND).map((f) => `${f.owner.id}/${f.place}`)).toEqual([
    "/title",
    "/title",
    "lt/worked",
    "grand/worked",
    "c1/way w1",
    "g1/branch b1",
    "t1/subject",
  ]);
});

it("proposes the next version from what changed", () => {
  expect(nextVersion(null, [])).toBe("1.0.0");
  const d = (e: Edit) => nextVersion("1.2.3", differences(base, apply(base, e).definition, KINDS));
  expect(d({ op: "process.set", patch: { purpose: "x" } })).toBe("1.2.4");
  expect(d({ op: "field.add", parent: null, after: null, field: { id: "n", name: "N", kind: "text" } })).toBe(
    "1.3.0",
  );
  expect(d({ op: "step.remove", id: "t1" })).toBe("2.0.0");
});
