import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import {
  checkFormula, compile, context, DATE, environment, evaluate, explain, listOf, nameMistake, Num, NUMBER, parseFormula,
  renameInFormula, TEXT, toNum, valueText, YESNO, type Scope, type Value,
} from ".";

const scope: Scope = {
  Total: NUMBER, Urgent: YESNO, "Insured value": NUMBER, Reason: TEXT, Due: DATE, "tax in percent": NUMBER, Count: NUMBER,
  Lines: listOf(context({ Item: TEXT, Quantity: NUMBER, "Unit price": NUMBER })),
  Store: context({ id: TEXT, name: TEXT, "risk grade": TEXT }, "stores"),
};
const line = (i: string, q: number, p: string): Value =>
  new Map<string, Value>([["Item", i], ["Quantity", Num.of(q)], ["Unit price", Num.of(p)]]);
const names = new Map<string, Value>([
  ["Total", Num.of("612.40")], ["Urgent", false], ["Insured value", Num.of(0.1)], ["Reason", "frost"],
  ["Due", Temporal.PlainDate.from("2026-03-01")], ["tax in percent", Num.of(23)], ["Count", null],
  ["Lines", [line("gloves", 10, "3.15"), line("tissue", 2, "14.00")]],
  ["Store", new Map<string, Value>([["id", "4"], ["name", "Cold room"], ["risk grade", "high"]])],
]);
const env = () => environment(names, { now: Temporal.ZonedDateTime.from("2026-02-27T09:30[Europe/Dublin]") });
const run = (text: string) => {
  const { ast, problems } = parseFormula(text, scope);
  if (!ast) throw new Error(problems[0]!.message);
  return evaluate(compile(ast), env());
};
const shown = (text: string) => valueText(run(text));

describe("evaluation", () => {
  it.each([
    ["0.1 + 0.2 = 0.3", "true"], ["1e3", "1000"], ["2 ** 3 ** 2", "64"], ["-Total + 612.40", "0"], ["10 / 4", "2.5"], ["1 / 0", "null"],
    ["Total > 500 and Urgent", "false"], ["Total > 500 or Count > 1", "true"], ["Count > 1 and true", "null"], ["Count > 1 and false", "false"],
    ["Count = null", "true"], ["null != 1", "true"], ['"a" < "b"', "true"], ['1 = "1"', "null"],
    ["sum(for l in Lines return l.Quantity * l.Unit price)", "59.5"], ["sum(Lines.Quantity)", "12"], ["count(Lines[Quantity > 5])", "1"],
    ['Lines[Item = "tissue"][1].Unit price', "14"], ["Lines[-1].Item", "tissue"], ["Lines[3]", "null"], ["Lines[item.Quantity > 100]", "[]"],
    ["some l in Lines satisfies l.Quantity > 5", "true"], ["every l in Lines satisfies l.Quantity > 5", "false"],
    ["Total between 1 and 612.4", "true"], ["Total in [1..612.4)", "false"], ["Total in (1, 2, > 600)", "true"], ['Reason in ("heat", "frost")', "true"],
    ['if Urgent then "now" else "later"', "later"], ["tax in percent * 2", "46"], ["count([1,2,3]) > 2", "true"],
    ['Due + duration("P1M")', "2026-04-01"], ['Due - @"2026-02-27"', "P2D"], ["day of week(Due)", "Sunday"], ["today()", "2026-02-27"],
    ['date("2026-02-30")', "null"], ["Due.year + 1", "2027"], ['@"PT90M" / @"PT1H"', "1.5"], ['duration("P1D") * 2', "P2D"],
    ['Store.risk grade = "high"', "true"], ['{a: 2, b: a * 3}.b', "6"], ["for i in 1..3, j in 1..2 return i * j", "[1, 2, 2, 4, 3, 6]"],
    ["round half up(2.345, 2)", "2.35"], ["decimal(2.345, 2)", "2.34"], ['substring("Quillhaven", -5, 3)', "hav"], ["not(Urgent)", "true"],
    ['list contains(Lines.Item, "gloves")', "true"], ["sum([])", "null"], ['min(3, 1, 2)', "1"], ['is empty(Reason)', "false"],
    ['string join(Lines.Item, ", ")', "gloves, tissue"], ['substring(string: "abc", start position: 2)', "bc"],
  ])("%s is %s", (text, want) => expect(shown(text)).toBe(want));

  it("adds money exactly: a thousand cents are ten", () =>
    expect(shown("sum(for i in 1..1000 return 0.01)")).toBe("10"));

  it("stops a formula that would never end, and gives nothing", () =>
    expect(run("count(for a in 1..9999, b in 1..9999 return 1)")).toBeNull());

  it("reaches nothing outside its scope", () => {
    for (const text of ["constructor", "__proto__", "Store.constructor", "toString", "process"]) expect(run(text)).toBeNull();
  });

  it("agrees with plain arithmetic on random whole numbers", () => {
    fc.assert(
      fc.property(fc.integer({ min: -9999, max: 9999 }), fc.integer({ min: -9999, max: 9999 }), fc.integer({ min: -99, max: 99 }), (a, b, c) => {
        expect(shown(`(${a}) + (${b}) * (${c})`)).toBe(String(a + b * c === 0 ? 0 : a + b * c));
      }),
      { seed: 7, numRuns: 300 },
    );
  });

  it("never throws, whatever the text", () => {
    const bits = fc.constantFrom("Total", " ", "+", "(", ")", "[", "]", "1", '"', "and", "if", "then", "else", "Lines", ".", "..", "{", ":", "for", "in", "return", ">", "@", "\\", "😀", "Quantity");
    fc.assert(
      fc.property(fc.array(bits, { maxLength: 25 }), (parts) => {
        const text = parts.join("");
        const { ast } = checkFormula(text, scope);
        if (ast) evaluate(compile(ast), env());
      }),
      { seed: 11, numRuns: 3000 },
    );
  });
});

describe("types", () => {
  const problems = (t: string) => checkFormula(t, scope).problems.map((p) => p.message);
  it("proposes the near name", () => {
    expect(checkFormula("Insured valu > 5", scope).problems[0]).toMatchObject({ code: "unknown-name", mend: { insert: "Insured value > 5" } });
    expect(problems("sun(Lines.Quantity)")[0]).toContain('Did you mean "sum"');
    expect(problems("Lines.Quantty")[0]).toContain('Did you mean "Quantity"');
  });
  it("says what does not go together", () => {
    expect(problems('"Total: " + Total')[0]).toContain("Text can only be joined with text");
    expect(problems("Total > Reason")[0]).toBe("A number cannot be compared with text.");
    expect(problems("Urgent > true")[0]).toContain("no more or less");
    expect(problems("Total and Urgent")[0]).toContain("needs yes or no");
    expect(problems("count()")[0]).toContain("takes list");
    expect(checkFormula("Total", scope, YESNO).problems[0]!.message).toBe("This comes to a number; yes or no is needed here.");
  });
  it("points at the place of a mistake", () => {
    const p = checkFormula("Total > ", scope).problems[0]!;
    expect(p).toMatchObject({ code: "syntax" });
    expect(p.message).toContain("Total >");
  });
  it("finds the types of results", () => {
    expect(checkFormula("for l in Lines return l.Quantity", scope).type).toEqual(listOf(NUMBER));
    expect(checkFormula("Due - Due", scope).type).toEqual({ t: "duration", kind: "days" });
    expect(checkFormula("if Urgent then Total else null", scope).type).toEqual(NUMBER);
  });
});

describe("names", () => {
  it.each(["Return date", "Größe", "a_1", "Tax in percent"])("%s is a name", (n) => expect(nameMistake(n)).toBeNull());
  it.each(["", "net-price", "1st", "a  b", " a", "a.b", "if", "x".repeat(61)])("%p is refused with a reason", (n) => expect(nameMistake(n)).toBeTruthy());

  it("renames only the name meant, and keeps the author's spacing", () => {
    expect(renameInFormula('Total  >500 and "Total" = Reason', scope, ["Total"], "Grand total")).toBe('Grand total  >500 and "Total" = Reason');
    expect(renameInFormula("sum(for l in Lines return l.Quantity * l.Unit price)", scope, ["Lines", "Quantity"], "Pieces")).toBe(
      "sum(for l in Lines return l.Pieces * l.Unit price)");
    expect(renameInFormula("Lines[Quantity > Total].Item", scope, ["Lines", "Quantity"], "Pieces")).toBe("Lines[Pieces > Total].Item");
    expect(renameInFormula("sum(Lines.Quantity)", scope, ["Lines"], "Rows")).toBe("sum(Rows.Quantity)");
    expect(renameInFormula("for Total in [1] return Total", scope, ["Total"], "X")).toBe("for Total in [1] return Total");
  });
  it("renaming there and back gives the same text", () => {
    fc.assert(
      fc.property(fc.constantFrom("Total > 1", "Total+Total", "sum([Total, Count])", "if Urgent then Total else -Total"), (t) => {
        const renamed: Scope = { ...scope, "Big sum": NUMBER };
        expect(renameInFormula(renameInFormula(t, scope, ["Total"], "Big sum"), renamed, ["Big sum"], "Total")).toBe(t);
      }),
      { seed: 3, numRuns: 40 },
    );
  });
});

it("explains a condition clause by clause with the values put in", () => {
  const text = 'Total > 500 and Urgent';
  const { ast } = parseFormula(text, scope);
  expect(explain(text, ast!, env())).toEqual([
    { text: "Total > 500", values: "612.4 > 500", result: "yes", reads: ["Total"] },
    { text: "Urgent", values: "no", result: "no", reads: ["Urgent"] },
  ]);
});

it("reads stored numbers strictly", () => {
  expect(toNum("612.40")!.toFixed()).toBe("612.4");
  for (const bad of ["", "abc", "1,5", "0x10", "NaN", "Infinity", "1e99999"]) expect(toNum(bad)).toBeNull();
});
