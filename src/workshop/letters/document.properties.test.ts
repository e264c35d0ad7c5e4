import fc from "fast-check";
import { getSchema } from "@tiptap/core";
import type { LetterPart, PlainPart, Run, WhenInEach } from "@/core/letter";
import { fromDocument, toDocument } from "./document";
import { EXTENSIONS } from "./extensions";

const look = fc.record(
  {
    bold: fc.constant(true as const),
    italic: fc.constant(true as const),
    link: fc.constantFrom("https://quillhaven.example/", "mailto:{Borrower.Email}"),
  },
  { requiredKeys: [] },
);
const words = fc.stringMatching(/^[ -~\n]{1,12}$/);
const run: fc.Arbitrary<Run> = fc
  .tuple(
    fc.oneof(fc.record({ text: words }), fc.record({ value: fc.constantFrom("Matter", "a[b > 1]") })),
    look,
  )
  .map(([what, how]) => ({ ...what, ...how }));
/** As the editor keeps them: neighbours of one look are one. */
const runs = fc.array(run, { maxLength: 5 }).map((list) => {
  const out: Run[] = [];
  for (const r of list) {
    const last = out.at(-1);
    const { text: _, ...a } = { text: "", ...last };
    const { text: _text, ...b } = { text: "", ...r };
    if (last && "text" in last && "text" in r && JSON.stringify(a, KEYS) === JSON.stringify(b, KEYS))
      last.text += r.text;
    else out.push({ ...r });
  }
  return out;
});
const KEYS = ["bold", "italic", "link"];
const plain: fc.Arbitrary<PlainPart> = fc.oneof(
  fc.record({ part: fc.constantFrom("paragraph" as const, "heading" as const), runs }),
  fc
    .tuple(fc.boolean(), fc.array(runs, { minLength: 1, maxLength: 3 }))
    .map(([n, items]): PlainPart => ({ part: "list", ...(n ? { numbered: true as const } : {}), items })),
  fc
    .nat(2)
    .chain((n) =>
      fc
        .array(fc.array(runs, { minLength: n + 1, maxLength: n + 1 }), { minLength: 1, maxLength: 3 })
        .map((rows): PlainPart => ({ part: "table", rows })),
    ),
);
const inEach: fc.Arbitrary<PlainPart | WhenInEach> = fc.oneof(
  plain,
  fc
    .array(plain, { minLength: 1, maxLength: 3 })
    .map((parts) => ({ part: "when" as const, when: "Urgent", parts })),
);
const part: fc.Arbitrary<LetterPart> = fc.letrec<{ part: LetterPart }>((tie) => ({
  part: fc.oneof(
    { maxDepth: 3 },
    plain,
    fc.record({
      part: fc.constant("lines" as const),
      of: fc.constant("Things"),
      as: fc.constant("Thing"),
      columns: fc.array(fc.record({ title: words, value: words }), { minLength: 1, maxLength: 3 }),
    }),
    fc.record({
      part: fc.constant("each" as const),
      of: fc.constant("Things"),
      as: fc.constant("Thing"),
      parts: fc.array(inEach, { minLength: 1, maxLength: 3 }),
    }),
    fc
      .array(tie("part"), { minLength: 1, maxLength: 3 })
      .map((parts) => ({ part: "when" as const, when: "a > 1", parts })),
  ),
})).part;

it("what the editor holds is the letter, and the editor may hold it", () => {
  const schema = getSchema(EXTENSIONS);
  fc.assert(
    fc.property(fc.array(part, { maxLength: 5 }), (parts) => {
      const doc = toDocument(parts);
      // As the editor keeps it, with its own defaults, and refusing what it cannot hold.
      const node = schema.nodeFromJSON(doc);
      node.check();
      const last = parts.findLastIndex((p) => p.part !== "paragraph" || p.runs.length > 0);
      expect(fromDocument(node.toJSON())).toEqual(parts.slice(0, last + 1));
    }),
    { numRuns: 300, endOnFailure: true },
  );
});
