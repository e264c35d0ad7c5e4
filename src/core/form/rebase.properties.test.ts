import fc from "fast-check";
import { rebase, type Field, type FormData, type StoredRow } from ".";

const FIELDS: Field[] = [
  { id: "s", name: "Section", kind: "section", fields: [{ id: "a", name: "A", kind: "text" }] },
  { id: "b", name: "B", kind: "text" },
  {
    id: "t",
    name: "Table",
    kind: "lines",
    fields: [
      { id: "x", name: "X", kind: "text" },
      { id: "y", name: "Y", kind: "text" },
    ],
  },
];
const text = fc.option(fc.constantFrom("1", "2", "3"));
const row = (id: string) => fc.record({ "#": fc.constant(id), x: text, y: text }) as fc.Arbitrary<StoredRow>;
const table = fc
  .uniqueArray(fc.constantFrom("1", "2", "3", "4"), { maxLength: 4 })
  .chain((ids) => fc.tuple(...ids.map(row)));
const form: fc.Arbitrary<FormData> = fc.record({ a: text, b: text, t: table });

const rowsOf = (d: FormData) => d["t"] as StoredRow[];
/** Every value by where it stands; a row by its being there. */
function cells(d: FormData): Map<string, unknown> {
  const out = new Map<string, unknown>([
    ["a", d["a"]],
    ["b", d["b"]],
  ]);
  for (const r of rowsOf(d)) {
    out.set(`t/${r["#"]}`, "there");
    for (const c of ["x", "y"]) out.set(`t/${r["#"]}/${c}`, r[c] ?? null);
  }
  return out;
}

it("is, cell by cell, whichever side changed it; what both changed is mine, and told", () => {
  let clashed = 0;
  fc.assert(
    fc.property(form, form, form, (base, now, typed) => {
      const r = rebase(FIELDS, base, now, typed);
      const [b, n, t, out] = [cells(base), cells(now), cells(typed), cells(r.data)];
      clashed += r.clashes.length;
      for (const path of new Set([...b.keys(), ...n.keys(), ...t.keys()])) {
        const [was, theirs, mine] = [b.get(path), n.get(path), t.get(path)];
        const row = path.startsWith("t/") ? path.split("/")[1]! : null;
        // Rows both added under one id are two rows; only theirs keeps it.
        if (row !== null && !b.has(`t/${row}`)) {
          const wanted = n.has(`t/${row}`) ? theirs : mine;
          expect([path, out.get(path)]).toEqual([path, wanted]);
          continue;
        }
        if (row !== null && (!n.has(`t/${row}`) || !t.has(`t/${row}`))) continue;
        expect([path, out.get(path)]).toEqual([path, mine === was ? theirs : mine]);
        const both = mine !== was && theirs !== was && mine !== theirs;
        const told = r.clashes.some((c) => [c.field, c.row, c.column].filter(Boolean).join("/") === path);
        expect([path, told]).toEqual([path, both]);
      }
      // Rows that one side took away: gone where the other left them as they were, else there and told.
      for (const { "#": id } of rowsOf(base)) {
        const as = (d: FormData) => JSON.stringify(rowsOf(d).find((x) => x["#"] === id) ?? null);
        const gone = [now, typed].filter((d) => as(d) === "null");
        if (gone.length === 0) continue;
        const left = [now, typed].find((d) => as(d) !== "null");
        const kept = left !== undefined && as(left) !== as(base);
        expect([id, rowsOf(r.data).some((x) => x["#"] === id)]).toEqual([id, kept]);
        expect(r.clashes.some((c) => c.row === id && c.column === undefined)).toBe(kept);
      }
      // Nothing anybody added is lost.
      const added = (d: FormData) =>
        rowsOf(d).filter((x) => !rowsOf(base).some((y) => y["#"] === x["#"])).length;
      const still = rowsOf(r.data).filter((x) => !rowsOf(base).some((y) => y["#"] === x["#"])).length;
      expect(still).toBe(added(now) + added(typed));
      expect(new Set(rowsOf(r.data).map((x) => x["#"])).size).toBe(rowsOf(r.data).length);
    }),
    { seed: 17, numRuns: 5000 },
  );
  expect(clashed).toBeGreaterThan(1000);
});

it("says what changed meanwhile, and nothing else", () => {
  fc.assert(
    fc.property(form, form, (base, now) => {
      const { changed, data, clashes } = rebase(FIELDS, base, now, base);
      expect([cells(data), clashes]).toEqual([cells(now), []]);
      const ids = (d: FormData) =>
        rowsOf(d)
          .map((r) => r["#"])
          .join();
      expect(changed.includes("t")).toBe(ids(base) !== ids(now));
      expect(changed.includes("a")).toBe(base["a"] !== now["a"]);
      const cell = (d: FormData, id: string) => rowsOf(d).find((r) => r["#"] === id)?.["x"];
      const both = rowsOf(base).filter((r) => rowsOf(now).some((q) => q["#"] === r["#"]));
      expect(changed.includes("t/x")).toBe(both.some((r) => cell(base, r["#"]) !== cell(now, r["#"])));
    }),
    { seed: 18, numRuns: 1000 },
  );
});
