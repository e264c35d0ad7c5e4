import { Temporal } from "temporal-polyfill";
import { REFERENCE } from "../reference";
import { checkFormula } from "./check";
import { compile, evaluate } from "./compile";
import { completionsAt } from "./complete";
import { emptyBecause } from "./emptiness";
import { fromPlain } from "./evaluateText";
import { FUNCTIONS } from "./functions";
import { parseFormula } from "./parse";
import { formulaOf, relationsFor, rowMistake, rowsOf, typeAt, type ConditionRow } from "./rows";
import { environment } from "./run";
import { trace } from "./trace";
import { context, DATE, DATETIME, listOf, NUMBER, PERSON, TEXT, TIME, YESNO, type Scope } from "./types";
import { Entity, valueText, type Value } from "./values";
import { env, NAMES, SCOPE } from "./testing/loan";

describe("completion", () => {
  /** The caret stands at the bar. */
  const at = (text: string, wanted = null as Parameters<typeof completionsAt>[3]) => {
    const caret = text.indexOf("|");
    return completionsAt(text.replace("|", ""), caret, SCOPE, wanted, NAMES);
  };
  const labels = (text: string, wanted?: typeof YESNO) =>
    at(text, wanted ?? null).options.map((o) => o.label);

  it("offers names that start so, with kind and the sample's value", () => {
    const { from, options } = at("Total > 500 and Ins|");
    expect(from).toBe(16);
    expect(options[0]).toMatchObject({ label: "Insured value", kind: "field", detail: "a number · empty" });
    expect(at("Tot|").options[0]).toMatchObject({ label: "Total", detail: "a number · 612.4" });
  });
  it("takes a name with spaces as one word, and stops at the words of the language", () => {
    expect(at("if Insured v|").from).toBe(3);
    expect(labels("if Insured v|")).toEqual(["Insured value"]);
    expect(at("Total > 1 then Urg|").from).toBe(15);
  });
  it("puts what fits the wanted kind first", () => {
    const first = (wanted: typeof YESNO) => at("|", wanted).options[0]!.label;
    expect(first(YESNO)).toBe("Urgent");
    expect(first(DATE)).toBe("Due");
    expect(first(NUMBER)).toMatch(/Insured value|Total/);
  });
  it("offers columns behind a dot: of records, people, lines, and lines of lines", () => {
    expect(labels("Store.|")).toEqual(expect.arrayContaining(["risk grade", "Keeper", "name"]));
    expect(labels("Store.Keeper.na|")).toEqual(["name"]);
    expect(labels("sum(Items.|")).toEqual(expect.arrayContaining(["Quantity", "Price", "Item"]));
    expect(labels("Due.|")).toContain("weekday");
    expect(at("Requester.dep|").options[0]).toMatchObject({
      label: "department",
      detail: "text · Conservation",
    });
  });
  it("knows the columns inside a filter and the names a loop brings", () => {
    expect(labels("count(Items[Qu|")).toContain("Quantity");
    expect(labels("sum(for line in Items return line.|")).toEqual(
      expect.arrayContaining(["Quantity", "Price"]),
    );
    expect(labels("some l in Items satisfies l|")).toContain("l");
  });
  it("knows what functions, groups of values and loops within loops bring, wherever the text breaks off", () => {
    expect(labels("(function(alpha, beta) alp|")).toEqual(["alpha"]);
    expect(labels("{rate of tax: 2, x: ra|")).toContain("rate of tax");
    expect(labels("{line: Items[1], x: line.|")).toEqual(expect.arrayContaining(["Quantity", "Price"]));
    expect(labels("for a in Items, b in [a.Quantity] return if a.Price > b then a.|")).toContain("Quantity");
    expect(labels("if count(Items[some l in Items satisfies l.|")).toContain("Price");
    expect(labels("sort(Items, function(one, other) one.Price < oth|")).toContain("other");
    // What is closed again brings nothing.
    expect(labels("sum(for line in Items return line.Price) + li|")).not.toContain("line");
    expect(labels("count(Items[Price > 1]) + it|")).not.toContain("item");
  });
  it("offers the choices of a choice behind a comparison, quoted as they must be", () => {
    expect(
      at("Grade = |")
        .options.slice(0, 3)
        .map((o) => o.insert)
        .sort(),
    ).toEqual(['"A"', '"B"', '"very good"']);
    expect(at('Grade = "ve|').options[0]).toMatchObject({ insert: '"very good"' });
    expect(
      at('Store.risk grade = "|')
        .options.map((o) => o.insert)
        .sort(),
    ).toEqual(['"high"', '"low"']);
    expect(at('Grade in ("A", "|').options.length).toBe(3);
  });
  it("says nothing inside other texts", () => expect(at('Reason = "Tot|').options).toEqual([]));
  it("offers functions with what they take, and leaves the caret between the brackets", () => {
    const sum = at("su|").options.find((o) => o.label === "sum")!;
    expect(sum).toMatchObject({ kind: "function", insert: "sum()", caret: 1, detail: "(list …) → a number" });
    expect(at("tod|").options[0]).toMatchObject({ insert: "today()", caret: 0 });
  });
});

describe("rows", () => {
  it.each([
    [
      "Total > 500 and Urgent",
      "all",
      [
        ["Total", ">", "500"],
        ["Urgent", "yes", ""],
      ],
    ],
    [
      "not(Urgent) or Total <= -2.5",
      "any",
      [
        ["Urgent", "no", ""],
        ["Total", "<=", "-2.5"],
      ],
    ],
    ['contains(Reason, "frost")', "all", [["Reason", "contains", "frost"]]],
    [
      'Due >= @"2026-03-01" and Due != null',
      "all",
      [
        ["Due", "from", "2026-03-01"],
        ["Due", "not empty", ""],
      ],
    ],
    ['Store.risk grade = "high"', "all", [["Store.risk grade", "=", "high"]]],
    [
      "Urgent = true and Urgent != true",
      "all",
      [
        ["Urgent", "yes", ""],
        ["Urgent", "no", ""],
      ],
    ],
    ["Total > Insured value", "all", [["Total", ">", "Insured value"]]],
    [
      "is empty(Reason) and not(is empty(Reason))",
      "all",
      [
        ["Reason", "empty", ""],
        ["Reason", "not empty", ""],
      ],
    ],
    ["", "all", []],
  ] as const)("%s reads as rows", (text, join, rows) => {
    const read = rowsOf(text, SCOPE)!;
    expect([read.join, read.rows.map((r) => [r.left, r.relation, r.right])]).toEqual([join, rows]);
  });
  it.each([
    "sum(Items.Quantity) > 5",
    "Total > 500 and (Urgent or Due + 1 = null)",
    "Total + 1 > 500",
    "some i in Items satisfies i.Quantity > 1",
    "if Urgent then true else false",
    "Total >",
    "500 > Total",
  ])("%s is too rich and stays text", (text) => expect(rowsOf(text, SCOPE)).toBeNull());
  it("rows over times and moments read back as they are typed, and say what one looks like", () => {
    const scope: Scope = { Opens: TIME, Begins: DATETIME, Ends: DATETIME };
    const text = 'Opens > @"14:30:00" and Begins <= @"2026-11-30T09:05:00" and Begins < Ends and Ends = null';
    const read = rowsOf(text, scope)!;
    expect(read.rows.map((r) => [r.left, r.relation, r.right])).toEqual([
      ["Opens", "after", "14:30"],
      ["Begins", "until", "2026-11-30T09:05"],
      ["Begins", "before", "Ends"],
      ["Ends", "empty", ""],
    ]);
    expect(formulaOf(read, scope)).toBe(text);
    // Seconds that were written stay.
    const odd = 'Opens = @"14:30:15" and Begins >= @"2026-11-30T09:00:30"';
    expect(formulaOf(rowsOf(odd, scope)!, scope)).toBe(odd);
    expect(rowsOf('Opens = @"2026-11-30"', scope)).toBeNull();
    const wrong = (left: string, right: string) => rowMistake({ left, relation: "=", right }, scope);
    expect(wrong("Opens", "2 pm")).toContain("14:30");
    expect(wrong("Begins", "2026-11-30")).toContain("2026-03-01T14:30");
    expect(wrong("Begins", "2026-11-30T25:00")).toContain("2026-03-01T14:30");
    expect(wrong("Begins", "2026-11-30T23:00")).toBeNull();
  });
  it("rows over several choices say which they include, and a list of none is empty", () => {
    const options = ["Crate", 'a "b"'];
    const scope: Scope = { Wants: listOf({ t: "text", options }), Lines: listOf(NUMBER), One: TEXT };
    const text =
      'list contains(Wants, "Crate") and not(list contains(Wants, "a \\"b\\"")) and list contains(Wants, One) and is empty(Lines) and not(is empty(Wants))';
    const read = rowsOf(text, scope)!;
    expect(read).toEqual({
      join: "all",
      rows: [
        { left: "Wants", relation: "includes", right: "Crate" },
        { left: "Wants", relation: "leaves out", right: 'a "b"' },
        { left: "Wants", relation: "includes", right: "One", name: true },
        { left: "Lines", relation: "empty", right: "" },
        { left: "Wants", relation: "not empty", right: "" },
      ],
    });
    expect(formulaOf(read, scope)).toBe(text);
    expect(relationsFor(scope["Lines"]!)).toEqual(["empty", "not empty"]);
    expect(rowsOf('list contains(Wants, "Crate", 1)', scope)).toBeNull();
    const own = 'not(list contains(Wants, "Crate")) and (One = "x" or list contains(Wants, "Crate"))';
    expect(formulaOf(rowsOf(own, scope)!, scope)).toBe(own);
  });
  it("rows go together in one's own way, and the same row is one", () => {
    const text = "Total > 500 and (Urgent or not(Due = null and Total > 500))";
    expect(rowsOf(text, SCOPE)).toEqual({
      join: "own",
      logic: "1 and (2 or not (3 and 1))",
      rows: [
        { left: "Total", relation: ">", right: "500" },
        { left: "Urgent", relation: "yes", right: "" },
        { left: "Due", relation: "empty", right: "" },
      ],
    });
    expect(formulaOf(rowsOf(text, SCOPE)!, SCOPE)).toBe(text);
    // What is not whole says nothing: half of it would mean something else.
    const rows: ConditionRow[] = [
      { left: "Urgent", relation: "yes", right: "" },
      { left: "", relation: "=", right: "" },
    ];
    expect(formulaOf({ join: "own", rows, logic: "1 or 2" }, SCOPE)).toBeNull();
    expect(formulaOf({ join: "own", rows: rows.slice(0, 1), logic: "1 or" }, SCOPE)).toBeNull();
  });
  it("a row that is not whole is left out, and says what it lacks", () => {
    const rows: ConditionRow[] = [
      { left: "Total", relation: ">", right: "lots" },
      { left: "Urgent", relation: "yes", right: "" },
      { left: "", relation: "=", right: "" },
      { left: "Totl", relation: "=", right: "1" },
    ];
    expect(formulaOf({ join: "all", rows }, SCOPE)).toBe("Urgent");
    expect(rows.map((r) => rowMistake(r, SCOPE))).toEqual([
      "Total is held against a number, for example 500.",
      null,
      "Choose what the row is about.",
      expect.stringContaining('did you mean "Total"?'),
    ]);
  });
  it("finds the kind at the end of a path", () => {
    expect(typeAt("Store.Keeper.name", SCOPE)).toEqual(TEXT);
    expect(typeAt("Store.constructor", SCOPE)).toBeNull();
    expect(typeAt("Total.x", SCOPE)).toBeNull();
  });
});

describe("why", () => {
  const lines = (text: string) =>
    trace(text, parseFormula(text, SCOPE).ast!, env()).map(
      (l) => `${"  ".repeat(l.depth)}${l.values || l.text} -> ${l.result}`,
    );
  it("takes a condition apart with its values, and says what was not looked at", () => {
    expect(lines("Total > 500 and Urgent and Due = null")).toEqual([
      "612.4 > 500 and no and 2026-03-01 = null -> no",
      "  612.4 > 500 -> yes",
      "  no -> no",
      "  Due = null -> not looked at",
    ]);
  });
  it("shows both arms of an if, and sums inside comparisons", () => {
    expect(lines('if sum(Items.Quantity) > 5 then "many" else "few"')).toEqual([
      'if 12 > 5 then "many" else "few" -> many',
      "  12 > 5 -> yes",
      "    sum([10, 2]) -> 12",
      '  "many" -> many',
      '  "few" -> not looked at',
    ]);
  });
  it("an empty value is called empty", () =>
    expect(lines("Insured value > 500")).toEqual(["empty > 500 -> empty"]));
});

describe("what can come to nothing", () => {
  const because = (text: string, filled: string[] = ["Total", "Urgent", "Items", "Due"]) =>
    emptyBecause(checkFormula(text, SCOPE).ast!, text, (p) => p.length === 1 && filled.includes(p[0]!))
      ?.message ?? null;
  it.each([
    ["Total * 2", null],
    ["Insured value * 2", '"Insured value" can be empty.'],
    ["Total / count(Items)", '"count(Items)" can be 0, and nothing can be divided by 0.'],
    ["Total / 2", null],
    ["Insured value = null", null],
    ["if Insured value > 5 then Total else 0", null],
    ["if Urgent then null else 0", "This side is empty."],
    ["sum(Items.Quantity)", 'Without lines, "sum" comes to nothing.'],
    ["sum([Total, 1])", null],
    ["Items[1].Item", "There may be no line 1."],
    ["manager of(Requester)", "Not everybody has a manager."],
    ['date("2026-03-01")', null],
    ["date(Reason)", '"date(Reason)" comes to nothing where it cannot be read.'],
    ["for i in Items return i.Price", null],
    ["Store.risk grade", '"Store.risk grade" can be empty.'],
  ])("%s: %s", (text, want) => expect(because(text)).toBe(want));
});

describe("the reference", () => {
  const scope: Scope = {
    Project: TEXT,
    Reason: TEXT,
    Urgent: YESNO,
    Total: NUMBER,
    "Needed by": DATE,
    Requester: PERSON,
    Items: listOf(context({ Item: TEXT, Quantity: NUMBER, Price: NUMBER, Note: TEXT })),
  };
  it("has a sentence and an example for every function, and no other", () =>
    expect(Object.keys(REFERENCE).sort()).toEqual([...FUNCTIONS.keys()].sort()));
  it.each(Object.entries(REFERENCE))(
    "%s: its example is right and comes to something",
    (_, { says, example }) => {
      expect(says).toMatch(/[.]$/);
      const { ast, problems } = checkFormula(example, scope);
      expect(problems).toEqual([]);
      const person = new Entity("person", "a", [
        ["name", "Sorcha Lind"],
        ["email", "sorcha@quillhaven.example"],
        ["department", "Conservation"],
      ]);
      const names = new Map<string, Value>([
        ["Project", "Guild banners"],
        ["Reason", "frost"],
        ["Urgent", false],
        ["Total", fromPlain(612.4)],
        ["Needed by", Temporal.PlainDate.from("2026-03-10")],
        ["Requester", person],
        [
          "Items",
          fromPlain([
            { Item: "a", Quantity: 10, Price: 3, Note: "x" },
            { Item: "b", Quantity: 2, Price: 4, Note: "y" },
          ]),
        ],
      ]);
      const day = (d: Temporal.PlainDate) => d;
      const value = evaluate(
        compile(ast!),
        environment(names, {
          now: Temporal.ZonedDateTime.from("2026-02-27T09:30[Europe/Dublin]"),
          managerOf: () => person,
          holdersOf: () => [person],
          working: { add: day, between: () => 3 },
        }),
      );
      expect(valueText(value)).not.toBe("null");
    },
  );
});
