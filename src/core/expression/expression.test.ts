import {
  parseFormula,
  checkFormula,
  context,
  evaluateText,
  explain,
  listOf,
  nameMistake,
  NUMBER,
  TEXT,
  toNum,
  YESNO,
  type Type,
} from ".";
import { env, run, scope, shown } from "./testing/order";
import { renamedText } from "./testing/renaming";

describe("evaluation", () => {
  it.each([
    ["0.1 + 0.2 = 0.3", "true"],
    ["1e3", "1000"],
    ["2 ** 3 ** 2", "64"],
    ["-Total + 612.40", "0"],
    ["10 / 4", "2.5"],
    ["1 / 0", "null"],
    ["Total > 500 and Urgent", "false"],
    ["Total > 500 or Count > 1", "true"],
    ["Count > 1 and true", "null"],
    ["Count > 1 and false", "false"],
    ["Count = null", "true"],
    ["null != 1", "true"],
    ['"a" < "b"', "true"],
    ['1 = "1"', "null"],
    ["sum(for l in Lines return l.Quantity * l.Unit price)", "59.5"],
    ["sum(Lines.Quantity)", "12"],
    ["count(Lines[Quantity > 5])", "1"],
    ['Lines[Item = "tissue"][1].Unit price', "14"],
    ["Lines[-1].Item", "tissue"],
    ["Lines[3]", "null"],
    ["Lines[item.Quantity > 100]", "[]"],
    ["some l in Lines satisfies l.Quantity > 5", "true"],
    ["every l in Lines satisfies l.Quantity > 5", "false"],
    ["Total between 1 and 612.4", "true"],
    ["Total in [1..612.4)", "false"],
    ["Total in (1, 2, > 600)", "true"],
    ['Reason in ("heat", "frost")', "true"],
    ['if Urgent then "now" else "later"', "later"],
    ["tax in percent * 2", "46"],
    ["count([1,2,3]) > 2", "true"],
    ['Due + duration("P1M")', "2026-04-01"],
    ['Due - @"2026-02-27"', "P2D"],
    ["day of week(Due)", "Sunday"],
    ["today()", "2026-02-27"],
    ['date("2026-02-30")', "null"],
    ["Due.year + 1", "2027"],
    ['@"PT90M" / @"PT1H"', "1.5"],
    ['duration("P1D") * 2', "P2D"],
    ['Store.risk grade = "high"', "true"],
    ["{a: 2, b: a * 3}.b", "6"],
    ["for i in 1..3, j in 1..2 return i * j", "[1, 2, 2, 4, 3, 6]"],
    ["round half up(2.345, 2)", "2.35"],
    ["decimal(2.345, 2)", "2.34"],
    ['substring("Quillhaven", -5, 3)', "hav"],
    ["not(Urgent)", "true"],
    ['list contains(Lines.Item, "gloves")', "true"],
    ["sum([])", "null"],
    ["min(3, 1, 2)", "1"],
    ["is empty(Reason)", "false"],
    ['string join(Lines.Item, ", ")', "gloves, tissue"],
    ['substring(string: "abc", start position: 2)', "bc"],
  ])("%s is %s", (text, want) => expect(shown(text)).toBe(want));

  it("adds money exactly: a thousand cents are ten", () =>
    expect(shown("sum(for i in 1..1000 return 0.01)")).toBe("10"));

  it("stops a formula that would never end, and gives nothing", () =>
    expect(run("count(for a in 1..9999, b in 1..9999 return 1)")).toBeNull());

  it("reaches nothing outside its scope", () => {
    for (const text of ["constructor", "__proto__", "Store.constructor", "toString", "process"])
      expect(run(text)).toBeNull();
  });
});

describe("the plain door", () => {
  const at = { now: "2026-03-03T10:00:00Z", zone: "Europe/Dublin" };
  it.each([
    [
      "numbers a double holds come as numbers, others as text",
      "[0.1 + 0.2, 1/3, 12345678901234567890]",
      {},
      [0.3, "0.3333333333333333333333333333333333", "12345678901234567890"],
    ],
    ["plain data goes in", "Order.lines[q > 1].q", { Order: { lines: [{ q: 1 }, { q: 2.5 }] } }, [2.5]],
    ["an undefined value is nothing", "A = null", { A: undefined }, true],
    ["a Date is a moment", "At.year", { At: new Date(0) }, 1970],
    [
      "names like those of objects reach nothing",
      "[constructor, __proto__, toString]",
      {},
      [null, null, null],
    ],
  ])("%s", (_, text, data, want) =>
    expect(evaluateText(text, data as Record<string, unknown>, at).value).toEqual(want),
  );
  it.each([
    [new Date("2026-03-03T10:00:00Z")],
    [Date.parse("2026-03-03T10:00:00Z")],
    ["2026-03-03T10:00:00"],
    ["2026-03-03T10:00:00+00:00"],
    ["2026-03-03T11:00:00+01:00[Europe/Paris]"],
  ])("takes %p as now", (now) =>
    expect(evaluateText("now()", {}, { now, zone: "Europe/Dublin" }).value).toBe(
      "2026-03-03T10:00:00@Europe/Dublin",
    ),
  );
  it("says what is wrong with the moment or the zone instead of throwing", () => {
    for (const bad of [
      { now: "never", zone: "UTC" },
      { now: 0, zone: "Nowhere/Land" },
    ])
      expect(evaluateText("1", {}, bad)).toMatchObject({ value: null, problems: [{ code: "syntax" }] });
  });
  it("gives the reason why a part came to nothing, at its place", () => {
    const { value, problems } = evaluateText(
      'Total / 0 + sum(["a"]) + date("2026-02-30").day',
      { Total: 5 },
      at,
    );
    expect(value).toBeNull();
    expect(problems.map((p) => [p.from, p.message]).sort(([a], [b]) => Number(a) - Number(b))).toEqual([
      [0, "Nothing can be divided by zero."],
      [12, "Only numbers can be worked with here."],
      [16, '"sum" needs numbers; "["a"]" is a list of text.'],
      [25, '"2026-02-30" is no date; write it as 2026-03-01.'],
    ]);
  });
  it("calls with what cannot be, and says what is wanted", () => {
    const said = (t: string) => evaluateText(t, {}, at).problems.map((p) => p.message);
    expect(said("substring(5, 1)")).toContain('"substring" needs text as string; this is a number.');
    expect(said("abs()")).toEqual(expect.arrayContaining([expect.stringContaining("takes n")]));
    expect(said("round half up(n: 1.5, places: 1)")).toEqual(
      expect.arrayContaining([expect.stringContaining('no input called "places"')]),
    );
    expect(said('matches("a", "(")')).toEqual(['The pattern has a "(" without its ")".']);
    expect(said('replace("a", "(a)\\\\2", "b")')).toEqual([
      "A pattern cannot refer back to what it found (\\2).",
    ]);
  });
});

describe("types", () => {
  const problems = (t: string) => checkFormula(t, scope).problems.map((p) => p.message);
  it("proposes the near name", () => {
    expect(checkFormula("Insured valu > 5", scope).problems[0]).toMatchObject({
      code: "unknown-name",
      mend: { insert: "Insured value > 5" },
    });
    expect(problems("sun(Lines.Quantity)")[0]).toContain('Did you mean "sum"');
    expect(problems("Lines.Quantty")[0]).toContain('Did you mean "Quantity"');
  });
  it("says what does not go together", () => {
    expect(problems('"Total: " + Total')[0]).toContain("Text can only be joined with text");
    expect(problems("Total > Reason")[0]).toBe("A number cannot be compared with text.");
    expect(problems("Urgent > true")[0]).toContain("no more or less");
    expect(problems("Total and Urgent")[0]).toContain("needs yes or no");
    expect(problems("count()")[0]).toContain("takes list");
    expect(checkFormula("Total", scope, YESNO).problems[0]!.message).toBe(
      "This comes to a number; yes or no is needed here.",
    );
  });
  it("points at the place of a mistake", () => {
    const p = checkFormula("Total > ", scope).problems[0]!;
    expect(p).toMatchObject({ code: "syntax" });
    expect(p.message).toContain("Total >");
  });
  it.each([
    ['Store.risk grade = "hihg"', null],
    ["Due + 3", '@"P3D"'],
    ["Due + Total", 'Total * @"P1D"'],
    ["Due + Due", null],
    ["Lines + 1", null],
    ["sort(Lines, 5)", null],
    ["count(Lines, 2)", null],
    ["abs(Reason)", null],
    ["Lines[Reason]", null],
    ["Total instance of banana", null],
    ["if Total then 1 else 2", null],
    ["not(5) and Total", null],
    ["(function(x: text) x)(1) + 1 and true", null],
    ['Total in (1, "a")', null],
    ["Due < now()", null],
    ["substring(Reason, Reason)", null],
    ["date(2026, 1)", null],
    ["Due.hour", null],
  ])("%s has a mistake, with a mend where one is known", (text, mend) => {
    const found = checkFormula(text, {
      ...scope,
      Store: context({ id: TEXT, "risk grade": { t: "text", options: ["low", "high"] } }, "stores"),
    }).problems;
    if (text.includes("not(5)")) return expect(found).toHaveLength(2);
    if (text.includes("function(x: text)")) return expect(found.length).toBeGreaterThan(0);
    expect(found.length).toBeGreaterThan(0);
    if (mend) expect(found[0]!.mend!.label).toBe(mend);
    if (text.includes("hihg")) expect(found[0]!.mend!.insert).toBe('Store.risk grade = "high"');
  });
  it.each([
    ["sort(Lines, function(a, b) a.Quantity < b.Quantity)[1].Item", TEXT],
    ["{f: function(x) x + 1}.f(2) + 1", NUMBER],
    ["partial", null],
    ["for l in Lines return partial[-1]", listOf({ t: "any" })],
    ["min(Lines.Quantity)", NUMBER],
    ["Due.weekday", NUMBER],
    ["[1..5].start", NUMBER],
    ['total by(Lines, "Item", "Quantity")[1].total', NUMBER],
    ['(Due - Due) / @"P1D"', NUMBER],
    ["concatenate(Lines, Lines).Item", listOf(TEXT)],
    ["get entries({a: 1})[1].key", TEXT],
    ["Total in > 5", YESNO],
    ["Lines instance of list<context<Item: text>>", YESNO],
    ["[1..2] instance of range<number>", YESNO],
  ] as [string, Type | null][])("%s is understood", (text, want) => {
    const { type, problems: found } = checkFormula(text, scope);
    if (want === null) return expect(found).toHaveLength(1);
    expect(found).toEqual([]);
    expect(type).toEqual(want);
  });
  it("finds the types of results", () => {
    expect(checkFormula("for l in Lines return l.Quantity", scope).type).toEqual(listOf(NUMBER));
    expect(checkFormula("Due - Due", scope).type).toEqual({ t: "duration", kind: "days" });
    expect(checkFormula("if Urgent then Total else null", scope).type).toEqual(NUMBER);
  });
});

describe("names", () => {
  it.each(["Return date", "Größe", "a_1", "Tax in percent"])("%s is a name", (n) =>
    expect(nameMistake(n)).toBeNull(),
  );
  it.each(["", "net-price", "1st", "a  b", " a", "a.b", "if", "x".repeat(61)])(
    "%p is refused with a reason",
    (n) => expect(nameMistake(n)).toBeTruthy(),
  );

  it("renames only the name meant, and keeps the author's spacing", () => {
    expect(renamedText('Total  >500 and "Total" = Reason', scope, ["Total"], "Grand total")).toBe(
      'Grand total  >500 and "Total" = Reason',
    );
    expect(
      renamedText(
        "sum(for l in Lines return l.Quantity * l.Unit price)",
        scope,
        ["Lines", "Quantity"],
        "Pieces",
      ),
    ).toBe("sum(for l in Lines return l.Pieces * l.Unit price)");
    expect(renamedText("Lines[Quantity > Total].Item", scope, ["Lines", "Quantity"], "Pieces")).toBe(
      "Lines[Pieces > Total].Item",
    );
    expect(renamedText("sum(Lines.Quantity)", scope, ["Lines"], "Rows")).toBe("sum(Rows.Quantity)");
    expect(renamedText("for Total in [1] return Total", scope, ["Total"], "X")).toBe(
      "for Total in [1] return Total",
    );
  });
});

it("explains a condition clause by clause with the values put in", () => {
  const text = "Total > 500 and Urgent";
  const { ast, reads } = checkFormula(text, scope);
  expect(explain(text, ast!, reads, env())).toEqual([
    { text: "Total > 500", values: "612.4 > 500", result: "yes", reads: ["Total"] },
    { text: "Urgent", values: "no", result: "no", reads: ["Urgent"] },
  ]);
});

it("reads stored numbers strictly", () => {
  expect(toNum("612.40")!.toFixed()).toBe("612.4");
  for (const bad of ["", "abc", "1,5", "0x10", "NaN", "Infinity", "1e99999"]) expect(toNum(bad)).toBeNull();
});

describe("what would take the grammar seconds is refused before it is read", () => {
  const group = (n: number) => `{${Array.from({ length: n }, (_, i) => `a${i}: 1`).join(", ")}}`;
  const codes = (text: string) => parseFormula(text, {}).problems.map((p) => p.code);
  it("groups of values with more than 200 entries", () => {
    expect(codes(group(200))).toEqual([]);
    expect(codes(group(201))).toEqual(["too-long"]);
    expect(codes(`[${group(201)}]`)).toEqual(["too-long"]);
    // Commas of lists, arguments, texts and comments count nothing, nor entries of groups inside.
    expect(codes(`{a: [${"1, ".repeat(300)}1], b: "${",".repeat(300)}" /* ${",".repeat(300)} */}`)).toEqual(
      [],
    );
    expect(codes(`{a: ${group(150)}, b: ${group(150)}}`)).toEqual([]);
  });
});
