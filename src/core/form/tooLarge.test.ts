import { formProblemSentence } from "@/core/words";
import { tooLarge, type Field } from ".";

const text = (id: string): Field => ({ id, name: id.toUpperCase(), kind: "long text" });
const lines: Field = { id: "l", name: "Lines", kind: "lines", fields: [text("c")] };
const said = (p: ReturnType<typeof tooLarge>) => p && formProblemSentence(p);

it("names the text that is too long, in a section and in a line as well", () => {
  const fields: Field[] = [{ id: "s", name: "S", kind: "section", fields: [text("a")] }, lines];
  expect(tooLarge(fields, { a: "x".repeat(20_000), l: [{ "#": "1", c: "x".repeat(20_000) }] })).toBeNull();
  expect(said(tooLarge(fields, { a: "x".repeat(5_000_000) }))).toBe(
    "A may have 20000 characters; this has 5000000.",
  );
  const row = {
    l: [
      { "#": "4", c: "" },
      { "#": "7", c: "x".repeat(20_001) },
    ],
  };
  expect(tooLarge(fields, row)).toMatchObject({ path: "l/7/c", data: { row: 2, value: "20001" } });
  const many = { l: Array.from({ length: 10_000 }, (_, i) => ({ "#": String(i), c: "" })) };
  expect(said(tooLarge(fields, many))).toBe("Lines may have 5000 lines; this has 10000.");
});

it.each([
  ["a", 175, false],
  ["a", 176, true],
  // Two, three and four bytes a sign.
  ["é", 87, false],
  ["é", 88, true],
  ["語", 58, false],
  ["語", 59, true],
  ["😀", 87, false],
  ["😀", 88, true],
])("of texts of %s, %i of the longest are too much together: %s", (sign, count, over) => {
  const fields = Array.from({ length: count }, (_, i) => text(`f${i}`));
  const full = sign.repeat(20_000 / sign.length);
  const data = Object.fromEntries(fields.map((f) => [f.id, full.slice(0, 19_980)]));
  const bytes = Buffer.byteLength(JSON.stringify(data));
  expect(bytes > 3_500_000).toBe(over);
  const is = tooLarge(fields, data);
  expect(is !== null).toBe(over);
  if (is)
    expect(said(is)).toMatch(/^This form holds 3\.5 MB of text; up to 3\.5 MB can be sent\. F0 holds most/);
});
