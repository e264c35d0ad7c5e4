import fc from "fast-check";
import { fillDocx, readDocx } from ".";
import { docxText, filledBy, madeDocx, p, r, table } from "./testDocx";

/** A document as somebody would think of it. */
type Part =
  | { is: "words"; said: Inline[] }
  /** A paragraph that is wholly one condition. */
  | { is: "sole"; when: string; said: Inline[]; otherwise: Inline[] | null }
  | { is: "each"; list: string; parts: Part[] }
  | { is: "if"; when: string; parts: Part[]; otherwise: Part[] | null }
  | { is: "rows"; list: string; cells: Inline[][]; head: boolean };
type Inline =
  | { text: string }
  | { value: string }
  | { each: string; said: Inline[] }
  | { when: string; said: Inline[]; otherwise: Inline[] | null };

type Names = Readonly<Record<string, unknown>>;
const LISTS = ["L0", "L1", "L2"];
const NAMES: Names = {
  A: "a & b",
  B: "",
  C: "two\nlines",
  Yes: true,
  No: false,
  L0: [],
  L1: [{ X: "only", Yes: false }],
  L2: [
    { X: "one", L1: [{ X: "inner" }, { X: "inner 2" }] },
    { X: "{A}", No: true },
    { B: "b", X: "<x>" },
  ],
};

const value = fc.constantFrom("A", "B", "C", "X", "number");
const list = fc.constantFrom(...LISTS);
const when = fc.constantFrom("Yes", "No");
const inline = (deep: number): fc.Arbitrary<Inline[]> => {
  const plain = [
    fc.constantFrom("x", "of ", "; ", "“q”").map((text) => ({ text })),
    value.map((v) => ({ value: v })),
  ];
  const nested =
    deep > 0
      ? [
          fc.record({ each: list, said: inline(deep - 1) }),
          fc.record({ when, said: inline(deep - 1), otherwise: fc.option(inline(deep - 1)) }),
        ]
      : [];
  return fc.array(fc.oneof(...plain, ...nested), { minLength: 1, maxLength: 3 });
};
/** Words amid a paragraph: what is wholly one block is another thing, and tried by itself. */
const amid = inline(2).map((said): Inline[] => [{ text: "- " }, ...said, { text: "." }]);
const parts = (deep: number): fc.Arbitrary<Part[]> =>
  fc.array(
    fc.oneof(
      amid.map((said): Part => ({ is: "words", said })),
      fc.record({
        is: fc.constant("sole" as const),
        when,
        said: inline(1),
        otherwise: fc.option(inline(1)),
      }),
      fc.record({
        is: fc.constant("rows" as const),
        list,
        cells: fc.array(amid, { minLength: 2, maxLength: 3 }),
        head: fc.boolean(),
      }),
      ...(deep > 0
        ? [
            fc.record({ is: fc.constant("each" as const), list, parts: parts(deep - 1) }),
            fc.record({
              is: fc.constant("if" as const),
              when,
              parts: parts(deep - 1),
              otherwise: fc.option(parts(deep - 1)),
            }),
          ]
        : []),
    ),
    { minLength: 1, maxLength: 3 },
  );

/** As it stands in the file. */
const written = (said: readonly Inline[]): string =>
  said
    .map((x) => {
      if ("text" in x) return x.text;
      if ("value" in x) return `{${x.value}}`;
      if ("each" in x) return `{for each ${x.each}}${written(x.said)}{end}`;
      return `{if ${x.when}}${written(x.said)}${x.otherwise ? `{otherwise}${written(x.otherwise)}` : ""}{end}`;
    })
    .join("");
/** A paragraph cut into runs wherever the word processor likes. */
const cut = (text: string, every: number): string =>
  p(
    ...(text.match(new RegExp(`[\\s\\S]{1,${every}}`, "g")) ?? []).map((x, i) => r(x, i % 2 ? "<w:b/>" : "")),
  );
function body(all: readonly Part[], every: number): string {
  return all
    .map((x): string => {
      switch (x.is) {
        case "words":
          return cut(written(x.said), every);
        case "sole":
          return cut(written([x]), every);
        case "rows": {
          const last = x.cells.length - 1;
          const row = x.cells.map((c, i) =>
            cut(`${i === 0 ? `{for each ${x.list}}` : ""}${written(c)}${i === last ? "{end}" : ""}`, every),
          );
          return table(...(x.head ? [x.cells.map(() => "head")] : []), row);
        }
        case "each":
          return cut(`{for each ${x.list}}`, every) + body(x.parts, every) + cut("{end}", every);
        case "if":
          return (
            cut(`{if ${x.when}}`, every) +
            body(x.parts, every) +
            (x.otherwise ? cut("{otherwise}", every) + body(x.otherwise, every) : "") +
            cut("{end}", every)
          );
      }
    })
    .join("");
}

/** What should stand there, by names alone. */
const things = (names: Names, of: string): Names[] =>
  (names[of] as Names[]).map((x, i) => ({ ...names, number: String(i + 1), ...x }));
const said = (all: readonly Inline[], names: Names): string =>
  all
    .map((x): string => {
      if ("text" in x) return x.text;
      if ("value" in x) return typeof names[x.value] === "string" ? String(names[x.value]) : `?${x.value}?`;
      if ("each" in x)
        return things(names, x.each)
          .map((n) => said(x.said, n))
          .join("");
      return said(names[x.when] === true ? x.said : (x.otherwise ?? []), names);
    })
    .join("");
const lines = (all: readonly Part[], names: Names): string[] =>
  all.flatMap((x): string[] => {
    switch (x.is) {
      case "words":
        return [said(x.said, names)];
      case "sole":
        return x.otherwise || names[x.when] === true ? [said([x], names)] : [];
      case "rows":
        return [
          ...(x.head ? x.cells.map(() => "head") : []),
          ...things(names, x.list).flatMap((n) => x.cells.map((c) => said(c, n))),
        ];
      case "each":
        return things(names, x.list).flatMap((n) => lines(x.parts, n));
      case "if":
        return lines(names[x.when] === true ? x.parts : (x.otherwise ?? []), names);
    }
  });

it("gives what the tags of any document should give, however they are split", async () => {
  await fc.assert(
    fc.asyncProperty(parts(2), fc.integer({ min: 1, max: 40 }), async (all, every) => {
      const bytes = await madeDocx(body(all, every));
      const { tags, notes } = await readDocx(bytes);
      expect(notes).toEqual([]);
      expect(tags.filter((t) => t.apart)).toEqual([]);
      const made = await fillDocx({ bytes, tags, filled: filledBy(tags, NAMES), pictures: new Map() });
      expect(await docxText(made)).toEqual(lines(all, NAMES));
    }),
    { numRuns: 150, endOnFailure: true },
  );
}, 120_000);
