import { KINDS } from "@/kinds";
import fc from "fast-check";
import {
  compileForm,
  evaluateForm,
  factsFrom,
  formForReader,
  mergeEdits,
  prepareForm,
  walkFields,
  type Access,
  type AccessOf,
  type Field,
  type FormData,
  type StoredRow,
} from "../form";
import { Temporal } from "temporal-polyfill";
import { accessAt, readOnly, START, widest } from ".";

const FIELDS: Field[] = [
  {
    id: "p",
    name: "Page",
    kind: "page",
    fields: [
      {
        id: "s",
        name: "Section",
        kind: "section",
        fields: [
          { id: "a", name: "Alpha", kind: "text" },
          { id: "b", name: "Beta", kind: "text", shown: 'Alpha != "x"', needed: "Gamma != null" },
        ],
      },
      {
        id: "c",
        name: "Gamma",
        kind: "text",
        checks: [{ must: "Alpha != Beta", say: "Alpha is not Beta." }],
      },
    ],
  },
  {
    id: "l",
    name: "Lines",
    kind: "lines",
    fields: [
      { id: "d", name: "Delta", kind: "text" },
      { id: "e", name: "Epsilon", kind: "text", needed: "Delta != null" },
    ],
  },
  { id: "f", name: "Zeta", kind: "text", shown: "count(Lines) > 0" },
];
const IDS: string[] = [];
walkFields(FIELDS, (f) => void IDS.push(f.id));
const PARENT: Record<string, string> = { s: "p", a: "s", b: "s", c: "p", d: "l", e: "l" };
const RANK = { hide: 0, see: 1, edit: 2 } as const;

const access = fc.constantFrom<Access>("edit", "see", "hide");
const table = fc.dictionary(fc.constantFrom(...IDS), access);
const step = fc.constantFrom(START, "later");
const seed = { seed: 11, numRuns: 400 };

/** The rule written out once more, the slow way: a field's own word, else its group's, else the step's; hidden groups hide all in them. */
const slow = (words: Record<string, Access>, at: string, id: string): Access => {
  const up = PARENT[id];
  const ofStep = at === START ? "edit" : "see";
  const above = up ? slow(words, at, up) : ofStep;
  return above === "hide" ? "hide" : (words[id] ?? above);
};

it("is the field's own word, else its group's, else the step's", () => {
  fc.assert(
    fc.property(table, step, (words, at) => {
      const of = accessAt({ fields: FIELDS, access: { [at]: words } }, at);
      for (const id of IDS) expect(of(id)).toBe(slow(words, at, id));
      expect(of("unknown")).toBe("hide");
    }),
    seed,
  );
});

it("lets nothing be filled in that is not shown there, and hides no more than it did", () => {
  const parts = fc.array(fc.constantFrom(...IDS, "gone"), { maxLength: 4 });
  fc.assert(
    fc.property(table, step, parts, (words, at, shown) => {
      const plain = accessAt({ fields: FIELDS, access: { [at]: words } }, at);
      const of = accessAt({ fields: FIELDS, access: { [at]: words }, forms: { [at]: { parts: shown } } }, at);
      const other = accessAt(
        { fields: FIELDS, access: { [at]: words }, forms: { elsewhere: { parts: [] } } },
        at,
      );
      // A column is no part: its table is.
      const inPart = (id: string | undefined): boolean =>
        id !== undefined && ((shown.includes(id) && PARENT[id] !== "l") || inPart(PARENT[id]));
      for (const id of IDS) {
        expect(other(id)).toBe(plain(id));
        // A group has nothing to be filled in itself.
        if (id === "p" || id === "s") continue;
        expect([id, of(id)]).toEqual([id, plain(id) === "edit" && !inPart(id) ? "see" : plain(id)]);
      }
    }),
    seed,
  );
});

it("of several is the most that any allows; looking never edits", () => {
  fc.assert(
    fc.property(fc.array(table, { maxLength: 4 }), (tables) => {
      const all = tables.map(
        (t): AccessOf =>
          (id) =>
            t[id] ?? "hide",
      );
      for (const id of IDS) {
        expect(RANK[widest(all)(id)]).toBe(Math.max(0, ...all.map((a) => RANK[a(id)])));
        expect(readOnly(widest(all))(id)).toBe(widest(all)(id) === "hide" ? "hide" : "see");
      }
    }),
    seed,
  );
});

const text = fc.option(fc.constantFrom("one", "two", "x", ""), { nil: null });
const rows = fc
  .array(fc.record({ d: text, e: text }), { maxLength: 3 })
  .map((all) => all.map((r, i): StoredRow => ({ "#": String(i + 1), ...r })));
const data: fc.Arbitrary<FormData> = fc.record({ a: text, b: text, c: text, f: text, l: rows });

it("keeps of a form that came in only what may be edited there", () => {
  fc.assert(
    fc.property(table, step, data, data, (words, at, stored, incoming) => {
      const of = accessAt({ fields: FIELDS, access: { [at]: words } }, at);
      const kept = mergeEdits(FIELDS, stored, incoming, of);
      for (const id of ["a", "b", "c", "f"])
        expect(kept[id]).toEqual((of(id) === "edit" ? incoming : stored)[id]);
      const before = new Map((stored["l"] as StoredRow[]).map((r) => [r["#"], r]));
      if (of("l") !== "edit") expect(kept["l"]).toEqual(stored["l"]);
      else
        for (const [i, row] of (kept["l"] as StoredRow[]).entries()) {
          const came = (incoming["l"] as StoredRow[])[i]!;
          for (const c of ["d", "e"])
            expect(row[c]).toEqual((of(c) === "edit" ? came[c] : before.get(row["#"])?.[c]) ?? null);
        }
    }),
    seed,
  );
});

const prepared = prepareForm(FIELDS, { registers: {}, kinds: KINDS }).form;
const program = compileForm(prepared, KINDS.fields);
const facts = factsFrom(
  { people: {}, registers: {}, records: {} },
  { now: Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]") },
  KINDS.fields,
);

it("nothing hidden leaves with a form: no value, no name, no formula that reads it", () => {
  const secret = (id: string) => `secret-of-${id}`;
  const full: FormData = {
    a: secret("a"),
    b: secret("b"),
    c: secret("c"),
    f: secret("f"),
    l: [{ "#": "1", d: secret("d"), e: secret("e") }],
  };
  fc.assert(
    fc.property(table, step, (words, at) => {
      const of = accessAt({ fields: FIELDS, access: { [at]: words } }, at);
      const result = evaluateForm(program, full, of, facts);
      const reader = formForReader(prepared, result, of, () => false);
      const sent = JSON.stringify(reader);
      walkFields(FIELDS, (f) => {
        if (of(f.id) !== "hide") return;
        if (!f.fields) expect(sent).not.toContain(secret(f.id));
        expect(sent).not.toContain(f.name);
        expect(reader.access[f.id]).toBeUndefined();
      });
      // What a reader sees is what the server found, hidden fields or not.
      const again = evaluateForm(
        compileForm(reader.form, KINDS.fields),
        reader.data,
        (id) => reader.access[id] ?? "hide",
        facts,
      );
      for (const id of ["a", "b", "c", "f"])
        if (of(id) !== "hide")
          expect([id, again.shown.has(id), again.needed.has(id)]).toEqual([
            id,
            result.shown.has(id),
            result.needed.has(id),
          ]);
    }),
    seed,
  );
});
