import { MOST_OF_TEMPLATE, plainly, readTag, tagText, tagTree, type TagSaid } from ".";
import { firstsOf } from "./firstsOf";
import { firstTemplate } from "./firstTemplate";

it.each<[string, TagSaid]>([
  ["Total", { tag: "value", of: "Total" }],
  [" Borrower.name ", { tag: "value", of: "Borrower.name" }],
  ["for each Objects", { tag: "each", of: "Objects" }],
  ["For  Each Objects[agreed = true]", { tag: "each", of: "Objects[agreed = true]" }],
  ["for x in Objects return x.Name", { tag: "value", of: "for x in Objects return x.Name" }],
  ["if Courier needed", { tag: "if", of: "Courier needed" }],
  ['if Note = "then"', { tag: "if", of: 'Note = "then"' }],
  ['if A then "b" else "c"', { tag: "value", of: 'if A then "b" else "c"' }],
  ["otherwise", { tag: "otherwise" }],
  ["end", { tag: "end" }],
  ["end for each", { tag: "end" }],
  ["End date", { tag: "value", of: "End date" }],
  ["picture Signature, 40 mm", { tag: "picture", of: "Signature", mm: 40 }],
  ["picture Signature,40.5mm", { tag: "picture", of: "Signature", mm: 40.5 }],
  ["picture Scans[1]", { tag: "picture", of: "Scans[1]" }],
  ["picture Scan, 900 mm", { tag: "picture", of: "Scan", mm: 400 }],
  ["To\u200btal\u00ad", { tag: "value", of: "Total" }],
])("reads %j", (text, said) => {
  expect(readTag(plainly(text))).toEqual(said);
  // Written again it says the same.
  expect(readTag(tagText(said).slice(1, -1))).toEqual(said);
});

it("takes quotation marks that were curled for plain ones, place by place", () => {
  const curled = "format(Starts, “d MMMM”)\u00a0+ «x»";
  expect(plainly(curled)).toBe('format(Starts, "d MMMM") + "x"');
  expect(plainly(curled)).toHaveLength(curled.length);
});

/** Tags as a row of words: "each A", "if B", "v", "otherwise", "end"; "|" begins another piece. */
const tags = (row: string) => {
  let piece = 0;
  return row.split(" ").flatMap((word) => {
    if (word === "|") {
      piece++;
      return [];
    }
    const [tag, of] = word.split(":") as [TagSaid["tag"], string | undefined];
    return [{ tag, piece, ...(of === undefined ? {} : { of }) }];
  });
};

it("makes a tree of tags", () => {
  const { nodes, mistakes } = tagTree(
    tags("value:a each:L value:b if:C value:c otherwise value:d end end value:e"),
  );
  expect(mistakes).toEqual([]);
  expect(nodes).toEqual([
    { node: "value", at: 0, of: "a" },
    {
      node: "each",
      at: 1,
      of: "L",
      parts: [
        { node: "value", at: 2, of: "b" },
        {
          node: "if",
          at: 3,
          of: "C",
          parts: [{ node: "value", at: 4, of: "c" }],
          otherwise: [{ node: "value", at: 6, of: "d" }],
        },
      ],
    },
    { node: "value", at: 9, of: "e" },
  ]);
});

it.each([
  ["value:a end", [[1, "end-too-many"]]],
  ["each:L value:a", [[0, "no-end"]]],
  // A header cannot end what the text began.
  [
    "if:C | end",
    [
      [0, "no-end"],
      [1, "end-too-many"],
    ],
  ],
  ["each:L otherwise end", [[1, "otherwise-alone"]]],
  ["if:C otherwise otherwise end", [[2, "otherwise-twice"]]],
  [
    "value: each: end",
    [
      [0, "no-formula"],
      [1, "no-formula"],
    ],
  ],
  [`${"if:C ".repeat(7)}${"end ".repeat(7).trim()}`, [[MOST_OF_TEMPLATE.deep, "too-deep"]]],
])("tells what is wrong with %j", (row, wrong) => {
  expect(tagTree(tags(row)).mistakes.map((m) => [m.at, m.code])).toEqual(wrong);
});

it("says what each tag came to first, and how often", () => {
  const row = tags("value:a each:L value:b if:C value:c otherwise value:d end end picture:P");
  const filled = [
    "A",
    {
      times: [
        ["", { holds: true, parts: ["yes"] }],
        ["B", { holds: false, parts: ["no"] }],
      ],
    },
    { picture: "f1" },
  ];
  expect(firstsOf(row, filled, (id) => `${id}.png`)).toEqual([
    { said: "A", times: 1 },
    { said: "2 times", times: 1 },
    { said: "B", times: 2 },
    { said: "yes", times: 2 },
    { said: "yes", times: 1 },
    null,
    { said: "no", times: 1 },
    null,
    null,
    { said: "f1.png", times: 1 },
  ]);
});

it("makes a first template of a form: headings, a line a field, a table for lines, nothing of texts", () => {
  const parts = firstTemplate(
    "Loan",
    [
      {
        id: "s",
        name: "Borrower",
        kind: "section",
        fields: [
          { id: "a", name: "Who", kind: "text" },
          { id: "t", name: "Read this", kind: "text block", text: "x" },
          { id: "g", name: "Signed", kind: "signature" },
        ],
      },
      { id: "l", name: "Objects", kind: "lines", fields: [{ id: "o", name: "Object", kind: "text" }] },
    ],
    (f) => f.kind === "signature",
  );
  expect(parts).toEqual([
    { part: "heading", level: 1, text: "Loan" },
    { part: "heading", level: 2, text: "Borrower" },
    {
      part: "values",
      rows: [
        { label: "Who", tag: "{Who}" },
        { label: "Signed", tag: "{picture Signed, 50 mm}" },
      ],
    },
    { part: "heading", level: 2, text: "Objects" },
    { part: "lines", columns: [{ label: "Object", tag: "{for each Objects}{Object}{end}" }] },
  ]);
});
