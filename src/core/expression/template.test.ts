import {
  braceMistakes,
  checkTemplate,
  NUMBER,
  templateCompletions,
  templateParts,
  TEXT,
  context,
  type Scope,
} from ".";

const scope: Scope = { Total: NUMBER, Store: context({ id: TEXT, Name: TEXT }, "Stores"), Purpose: TEXT };

it("reads braces, strings and groups of values inside formulas", () => {
  expect(templateParts('a {b} {{c}} { if x then "}" else {k: 1}.k }')).toEqual([
    { text: "a " },
    { formula: "b", from: 3, to: 4 },
    { text: " {c}} " },
    { formula: 'if x then "}" else {k: 1}.k', from: 14, to: 41 },
  ]);
  expect(templateParts("open {never")).toEqual([{ text: "open {never", open: 5 }]);
  expect(templateParts("")).toEqual([]);
});

it("finds mistakes where they stand in the whole text", () => {
  const text = "For {Totl} in { Store.Nam }: {}";
  const { problems, parts } = checkTemplate(text, scope);
  expect(problems.map((p) => [text.slice(p.from, p.to), p.message])).toEqual([
    ["Totl", expect.stringContaining("Totl")],
    ["Nam", expect.stringContaining("Nam")],
    ["{}", "Nothing stands in the braces. Name a value, for example {Request.number}."],
  ]);
  expect(problems[0]!.mend!.insert).toBe("For {Total} in { Store.Nam }: {}");
  expect(problems[1]!.mend!.insert).toBe("For {Totl} in { Store.Name }: {}");
  expect(parts.map((p) => p.formula)).toEqual(["Totl", "Store.Nam"]);
});

it("closes an open brace as a mend", () => {
  const [mistake] = braceMistakes("Key for {Store.Name");
  expect([mistake!.from, mistake!.mend!.insert]).toEqual([8, "Key for {Store.Name}"]);
  expect(checkTemplate(mistake!.mend!.insert, scope).problems).toEqual([]);
  expect(braceMistakes("{{plain} and {Total}")).toEqual([]);
});

it("completes in braces only", () => {
  const at = (text: string) => {
    const caret = text.indexOf("|");
    const c = templateCompletions(text.replace("|", ""), caret, scope, null);
    return { from: c.from, labels: c.options.slice(0, 2).map((o) => o.label) };
  };
  expect(at("Tot|")).toEqual({ from: 3, labels: [] });
  expect(at("For {Tot|}")).toMatchObject({ from: 5, labels: ["Total", expect.anything()] });
  expect(at("{Total} for {Store.|} and more")).toEqual({ from: 19, labels: ["Name", "id"] });
  expect(at("{Total} Purp|")).toEqual({ from: 12, labels: [] });
  expect(at("{{Purp|")).toEqual({ from: 6, labels: [] });
});
