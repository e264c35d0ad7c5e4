import fc from "fast-check";
import type { Field } from "../form";
import type { DocumentTemplate } from "../document";
import type { Letter } from "../letter";
import type { Ladder } from "./definition";
import type { Edit } from ".";
import { base, fin } from "./testDefinition";

const ids = ["total", "urgent", "sec", "lines", "price", "qty", "lt", "grand"];
const steps = ["d1", "c1", "g1", "f1", "f2", "t1", "f3"];
const lists = [
  { owner: null, list: null },
  { owner: "d1", list: "yes" },
  { owner: "c1", list: "w2" },
  { owner: "g1", list: "b1" },
  { owner: "g1", list: "b2" },
];
/** Any edit of the test definition, most of which apply. */
export const anEdit = fc.oneof<fc.Arbitrary<unknown>[]>(
  fc.record({
    op: fc.constant("field.rename" as const),
    id: fc.constantFrom(...ids),
    name: fc.constantFrom("Alpha", "Beta two", "Total", "Price"),
  }),
  fc.record({ op: fc.constant("field.remove" as const), id: fc.constantFrom(...ids) }),
  fc.record({
    op: fc.constant("field.move" as const),
    id: fc.constantFrom(...ids),
    parent: fc.constantFrom(null, "sec", "lines", "urgent"),
    after: fc.constantFrom(null, ...ids),
  }),
  fc.record({
    op: fc.constant("field.set" as const),
    id: fc.constantFrom(...ids),
    patch: fc.constantFrom(
      { needed: "true" },
      { needed: null },
      { shown: "Urgent", help: "x" },
      { worked: null },
      { worked: "Total * 2" },
      { shown: "Grand > 5 and Urgent" },
      { copied: true as const },
      { copied: null },
    ),
  }),
  fc.record({
    op: fc.constant("field.add" as const),
    parent: fc.constantFrom(null, "sec", "lines"),
    after: fc.constantFrom(null, ...ids),
    field: fc.nat(50).map((n): Field => ({ id: `new${n}`, name: `New ${n}`, kind: "text" })),
  }),
  fc.record({
    op: fc.constant("access.set" as const),
    step: fc.constantFrom("start", "d1"),
    field: fc.constantFrom(...ids),
    access: fc.constantFrom("edit" as const, "hide" as const, null),
  }),
  fc.record({
    op: fc.constant("form.set" as const),
    step: fc.constantFrom("start", "d1"),
    patch: fc.constantFrom(
      { shows: "guided" as const, parts: ["sec", "lines"] },
      { parts: ["total"], heading: "Look" },
      { shows: null, parts: null, heading: null },
      { columns: ["qty"] },
    ),
  }),
  fc.record({ op: fc.constant("step.remove" as const), id: fc.constantFrom(...steps) }),
  fc.record({
    op: fc.constant("step.move" as const),
    id: fc.constantFrom(...steps),
    to: fc.constantFrom(...lists),
    after: fc.constantFrom(null, ...steps),
  }),
  fc.record({
    op: fc.constant("step.add" as const),
    to: fc.constantFrom(...lists),
    after: fc.constantFrom(null, ...steps),
    step: fc.nat(50).map((n) => fin(`n${n}`)),
  }),
  fc.record({
    op: fc.constant("step.set" as const),
    id: fc.constantFrom(...steps),
    patch: fc.constantFrom<Record<string, unknown>[]>(
      { name: "Other" },
      { limit: { otherwise: { amount: 1, unit: "days" }, rungs: [] } },
      {
        limit: {
          rules: [{ when: "Urgent", length: { by: "count", formula: "Total", unit: "days" } }],
          otherwise: { amount: 1, unit: "days" },
          rungs: [],
          ladder: "k1",
        },
      },
      { subject: "x", tone: null },
    ),
  }),
  fc.record({
    op: fc.constant("list.set" as const),
    step: fc.constantFrom("d1", "c1", "g1"),
    list: fc.constantFrom("yes", "no", "w1", "w2", "b1"),
    patch: fc.constantFrom(
      { when: "Urgent" },
      { when: "Total > 9 or Grand > Total" },
      { when: null },
      { name: "Other", label: "Other" },
    ),
  }),
  fc.record({
    op: fc.constant("list.add" as const),
    step: fc.constantFrom("d1", "c1", "g1"),
    after: fc.constantFrom(null, "yes", "w1", "b2"),
    list: fc
      .nat(30)
      .map((n) => ({ id: `l${n}`, name: "New", label: "New", tone: "plain", steps: [fin(`m${n}`)] })),
  }),
  fc.record({
    op: fc.constant("list.remove" as const),
    step: fc.constantFrom("d1", "c1", "g1"),
    list: fc.constantFrom("yes", "no", "w1", "b1"),
  }),
  fc.record({
    op: fc.constant("list.move" as const),
    step: fc.constantFrom("d1", "c1", "g1"),
    list: fc.constantFrom("yes", "no", "w1", "w2", "b1", "b2"),
    after: fc.constantFrom(null, "yes", "no", "w2", "b2"),
  }),
  fc.record({
    op: fc.constant("rung.add" as const),
    step: fc.constantFrom("d1", "c1"),
    after: fc.constantFrom(null, "r1"),
    rung: fc.nat(3).map((n) => ({ id: `r${n}`, when: "at" as const, action: { do: "remind" as const } })),
  }),
  fc.record({
    op: fc.constant("rung.set" as const),
    step: fc.constant("d1"),
    rung: fc.constantFrom("r1", "r2"),
    patch: fc.constantFrom({ times: 3 }, { every: null, when: "before" as const }),
  }),
  fc.record({
    op: fc.constant("rung.remove" as const),
    step: fc.constant("d1"),
    rung: fc.constantFrom("r1", "r2"),
  }),
  fc.record({
    op: fc.constant("start.put" as const),
    after: fc.constantFrom(null, "form", "s1"),
    start: fc
      .constantFrom("form", "s1", "s2")
      .map((id) => ({ id, kind: "form" as const, who: { by: "group" as const, group: id } })),
  }),
  fc.record({
    op: fc.constant("letter.put" as const),
    after: fc.constantFrom(null, "l1", "l2"),
    letter: fc
      .record({
        id: fc.constantFrom("l1", "l2"),
        value: fc.constantFrom("Total", "sum(Lines.Price)", "Urgent"),
      })
      .map(({ id, value }): Letter => ({
        id,
        name: id,
        texts: [
          {
            language: "en",
            subject: `{${value}}`,
            parts: [
              { part: "when", when: "Urgent", parts: [{ part: "paragraph", runs: [{ value }] }] },
              { part: "lines", of: "Lines", as: "Line", columns: [{ title: "P", value: "Line.Price" }] },
            ],
          },
        ],
      })),
  }),
  fc.record({ op: fc.constant("letter.remove" as const), id: fc.constantFrom("l1", "l2") }),
  fc.record({
    op: fc.constant("letter.move" as const),
    id: fc.constantFrom("l1", "l2"),
    after: fc.constantFrom(null, "l1", "l2"),
  }),
  fc.record({
    op: fc.constant("ladder.put" as const),
    after: fc.constantFrom(null, "k1", "k2"),
    ladder: fc
      .record({
        id: fc.constantFrom("k1", "k2"),
        value: fc.constantFrom("Total", "sum(Lines.Price)", "Urgent"),
      })
      .map(({ id, value }): Ladder => ({
        id,
        name: id,
        rungs: [
          {
            id: "r1",
            when: "at",
            if: "Urgent",
            action: { do: "tell", who: { by: "requester" }, subject: `{${value}}`, text: `{${value}} waits` },
          },
        ],
      })),
  }),
  fc.record({ op: fc.constant("ladder.remove" as const), id: fc.constantFrom("k1", "k2") }),
  fc.record({
    op: fc.constant("document.put" as const),
    after: fc.constantFrom(null, "t1", "t2"),
    document: fc
      .record({
        id: fc.constantFrom("t1", "t2"),
        value: fc.constantFrom("Total", "sum(Lines.Price)", "Urgent"),
        file: fc.constantFrom("0", "1"),
      })
      .map(({ id, value, file }): DocumentTemplate => {
        const spot = { piece: 0, in: "text" as const, near: "" };
        return {
          id,
          name: id,
          file: { sha256: file.repeat(64), name: "x.docx", size: 1 },
          tags: [
            { tag: "value", of: value, ...spot },
            { tag: "each", of: "Lines", ...spot },
            { tag: "if", of: "Urgent", ...spot },
            { tag: "value", of: "Price", ...spot },
            { tag: "end", ...spot },
            { tag: "end", ...spot },
          ],
        };
      }),
  }),
  fc.record({ op: fc.constant("document.remove" as const), id: fc.constantFrom("t1", "t2") }),
  fc.record({
    op: fc.constant("document.move" as const),
    id: fc.constantFrom("t1", "t2"),
    after: fc.constantFrom(null, "t1", "t2"),
  }),
  fc.record({ op: fc.constant("start.remove" as const), id: fc.constantFrom("form", "s1") }),
  fc.record({
    op: fc.constant("start.move" as const),
    id: fc.constantFrom("form", "s1", "s2"),
    after: fc.constantFrom(null, "form", "s1"),
  }),
  fc.record({
    op: fc.constant("sample.put" as const),
    after: fc.constantFrom(null, "x1", "x2"),
    sample: fc.constantFrom("x1", "x2", "x3").map((id) => ({ id, name: id, requester: "una", data: {} })),
  }),
  fc.record({ op: fc.constant("sample.remove" as const), id: fc.constantFrom("x1", "x2") }),
  fc
    .constantFrom("Whole", "Other whole")
    .map((name) => ({ op: "process.replace" as const, definition: { ...base, name } })),
  fc.record({
    op: fc.constant("process.set" as const),
    patch: fc.constantFrom(
      { title: "{Grand} of {Total}" },
      { name: "Other" },
      { calendar: "halifax" },
      { owners: ["una", "ines"] },
    ),
  }),
) as fc.Arbitrary<Edit>;
