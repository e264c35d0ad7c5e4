import fc from "fast-check";
import { KINDS } from "@/kinds";
import { Temporal } from "temporal-polyfill";
import {
  amongMistakes,
  compileForm,
  evaluateForm,
  factsFrom,
  formForReader,
  mayBeAmong,
  prepareForm,
  type AccessOf,
  type Facts,
  type Field,
  type FormData,
  type RecordsAsked,
} from ".";
import { facts as known, prices } from "./testForm";

const around = { registers: { prices }, kinds: KINDS };
const now = Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]");
const column = prices.columns.find((c) => mayBeAmong(c, KINDS.fields))!;
const among = { register: "prices", column: column.id };
const all: AccessOf = () => "edit";
const limit: Field = { id: "limit", name: "Limit", kind: "money" };
const one: Field = { id: "one", name: "One", kind: "choice", among };
const more: Field = { id: "more", name: "More", kind: "several choices", among };
const lines = (...fields: Field[]): Field => ({ id: "lines", name: "Lines", kind: "lines", fields });

/** Facts of a register in which just these texts stand; null where nothing is answered yet. */
function register(there: ReadonlySet<string> | null): { facts: Facts; asked: RecordsAsked[] } {
  const asked: RecordsAsked[] = [];
  const facts: Facts = {
    ...factsFrom(known, { now }, KINDS.fields),
    recordsThere(a) {
      asked.push(a);
      return there && { there: "chosen" in a.about && there.has(a.about.chosen) };
    },
  };
  return { facts, asked };
}
const prepared = (fields: Field[]) => {
  const { form, problems } = prepareForm(fields, around);
  expect(problems).toEqual([]);
  return form;
};
const run = (
  fields: Field[],
  data: FormData,
  there: string[] | null,
  access: AccessOf = all,
  { facts, asked } = register(there && new Set(there)),
) => {
  const result = evaluateForm(compileForm(prepared(fields), KINDS.fields), data, access, facts);
  return { result, asked, said: result.problems.map((p) => `${p.path} ${p.code}`) };
};

describe("a text chosen from a column", () => {
  it("is asked for, and is none where it does not stand there; until that is known nothing is said", () => {
    expect(run([one], { one: "red" }, null).said).toEqual([]);
    expect(run([one], { one: "red" }, null).result.asked).toMatchObject([
      { field: "one", about: { chosen: "red" } },
    ]);
    expect(run([one], { one: "red" }, ["red"]).said).toEqual([]);
    expect(run([one], { one: "red" }, ["Red", "red "]).said).toEqual(["one not-offered"]);
    expect(run([one], { one: null }, []).asked).toEqual([]);
  });
  it("of several each must be one", () => {
    expect(run([more], { more: "red\nblue" }, ["red", "blue"]).said).toEqual([]);
    expect(run([more], { more: "red\nblue" }, ["red"]).said).toEqual(["more not-offered"]);
  });
  it("what cannot stand there is told as that, and is not looked for", () => {
    for (const [raw, code] of [
      ["x".repeat(501), "too-long"],
      ["two\nlines", "not-a-text"],
      [true, "not-a-text"],
    ] as const) {
      const { said, asked } = run([one], { one: raw }, []);
      expect(said).toEqual([`one ${code}`]);
      expect(asked).toEqual([]);
    }
    const many = Array.from({ length: 101 }, (_, i) => `t${i}`);
    expect(run([more], { more: many.join("\n") }, []).said).toEqual(["more too-many-chosen"]);
    expect(run([more], { more: many.slice(1).join("\n") }, many).said).toEqual([]);
    expect(amongMistakes(["fine", "  "])).toMatchObject([{ code: "not-a-text" }]);
  });
  it("holds whoever may edit it or what its condition reads, and nobody else", () => {
    const fields = [limit, { ...one, offered: "Price < Limit" }];
    const may =
      (...ids: string[]): AccessOf =>
      (id) =>
        ids.includes(id) ? "edit" : "see";
    const data = { limit: "5", one: "red" };
    expect(run(fields, data, [], may("one")).said).toEqual(["one not-offered"]);
    expect(run(fields, data, [], may("limit")).said).toEqual(["one not-offered"]);
    expect(run(fields, data, [], may()).said).toEqual([]);
  });
  it("is another question where what its condition reads is another", () => {
    const fields = [limit, { ...one, offered: "Price < Limit" }];
    const key = (data: FormData) => run(fields, data, null).result.asked.map((a) => a.key);
    expect(key({ limit: "5", one: "red" })).toEqual(key({ limit: "5.00", one: "red" }));
    expect(key({ limit: "5", one: "red" })).not.toEqual(key({ limit: "6", one: "red" }));
    expect(key({ limit: "5", one: "red" })).not.toEqual(key({ limit: "5", one: "blue" }));
  });
  it("a reader who may not see what its condition reads leaves it to the server", () => {
    const fields = [limit, { ...one, offered: "Price < Limit" }];
    const access: AccessOf = (id) => (id === "limit" ? "hide" : "edit");
    const { result } = run(fields, { limit: "5", one: "red" }, null, access);
    const { form } = formForReader(prepared(fields), result, access, () => false);
    const { facts, asked } = register(new Set());
    const theirs = evaluateForm(compileForm(form, KINDS.fields), { one: "red" }, access, facts);
    expect(theirs.problems).toEqual([]);
    expect(asked).toEqual([]);
  });
});

describe("in rows", () => {
  const row = (id: number, one: string | null, limit = "5") => ({ "#": `r${id}`, one, limit });
  it("is one search for a column, however many rows and texts; one for each value its condition reads", () => {
    const many = (n: number, limit: (i: number) => string) =>
      Array.from({ length: n }, (_, i) => row(i, `t${i % 300}`, limit(i)));
    const plain = run([lines(limit, one)], { lines: many(500, () => "5") }, null);
    expect(plain.said).toEqual([]);
    expect(new Set(plain.result.asked.map((a) => a.key)).size).toBe(300);
    const fields = [lines(limit, { ...one, offered: "Price < Limit" })];
    expect(run(fields, { lines: many(500, (i) => String(i % 200)) }, null).said).toEqual([]);
    expect(run(fields, { lines: many(500, (i) => String(i % 201)) }, null).said).not.toEqual([]);
  });
  it("rows that are kept from one evaluation to the next say and ask the same as all worked out anew", () => {
    const text = fc.constantFrom("red", "blue", "none", null);
    const rows = fc.uniqueArray(fc.tuple(fc.nat(5), text, fc.constantFrom("4", "5", "99")), {
      maxLength: 5,
      selector: ([id]) => id,
    });
    const condition = fc.constantFrom(undefined, "Price < Form.Limit", "Price < Form.Top");
    fc.assert(
      fc.property(fc.array(rows, { minLength: 2, maxLength: 4 }), condition, (turns, offered) => {
        const column: Field = { ...one, ...(offered === undefined ? {} : { offered }) };
        const form = prepared([{ ...limit, id: "top", name: "Top" }, lines(limit, column)]);
        const kept = compileForm(form, KINDS.fields);
        const there = new Set(["red", "blue"]);
        const { facts } = register(there);
        // The same rows are the same objects, as in a form that is typed in.
        const made = new Map<string, ReturnType<typeof row>>();
        for (const [turn, list] of turns.entries()) {
          const data = {
            top: String(turn),
            lines: list.map(([id, t, l]) => {
              const key = `${id} ${t} ${l}`;
              if (!made.has(key)) made.set(key, row(id, t, l));
              return made.get(key)!;
            }),
          };
          const [a, b] = [kept, compileForm(form, KINDS.fields)].map((program) => {
            const r = evaluateForm(program, data, all, facts);
            return { problems: r.problems, asked: r.asked.map((x) => [x.key, x.about]), data: r.data };
          });
          expect(a).toEqual(b);
        }
      }),
      { numRuns: 200, endOnFailure: true },
    );
  });
});
