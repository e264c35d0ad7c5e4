import fc from "fast-check";
import type { ColumnKind, RegisterShape } from "@/core/form";
import { inTransaction, registers } from "@/db";
import { registerPage, type ListSearch } from "@/services";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

const kinds: [string, ColumnKind, (n: number) => string][] = [
  ["word", "text", (n) => `'${["", "a", "B", "ä", "a b"][n % 5]}'`],
  ["size", "number", (n) => ["0", "1.50", "-3", "1.5", "100000000000000000000"][n % 5]!],
  ["day", "date", (n) => `'2026-03-0${1 + (n % 4)}'`],
  ["at", "date and time", (n) => `'2026-03-01T0${n % 3}:30'`],
  ["yes", "yes or no", (n) => String(n % 2 === 0)],
  ["link", "look-up", (n) => String(1 + (n % 3))],
];
const SHAPE: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_far",
  name: "Far",
  one: "one",
  purpose: "",
  title: ["word"],
  columns: kinds.map(([id, kind]) => ({
    id,
    name: id,
    kind,
    ...(kind === "look-up" ? { register: "t_far" } : {}),
  })),
};
const ROWS = 120;
let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
  const nobody = { columns: {}, withdrawn: [], add: [], change: [], remove: [], fill: {} };
  await inTransaction((db) =>
    registers.createRegister(db, SHAPE, { keepers: ["maeve.dunlea"], see: [], ...nobody }),
  );
  const row = (i: number) =>
    // Some of everything is empty, and much is alike.
    kinds.map(([, , of], c) => ((i * 7 + c * 3) % 4 === 0 ? "null" : of((i * 13 + c * 5) % 11))).join(", ");
  const rows = Array.from({ length: ROWS }, (_, i) => `(${row(i + 1)})`).join(", ");
  await sql(`insert into register.t_far (${kinds.map(([id]) => id).join(", ")}) values ${rows}`);
});
afterAll(() => world.close());

it("page after page, forth and back, comes to each record once and in order, whatever it goes by", async () => {
  const maeve = await person("maeve.dunlea");
  const page = async (search: ListSearch, where: string) =>
    value(await registerPage(maeve, "t_far", search, where));
  const sorts = fc.uniqueArray(
    fc.record({ column: fc.constantFrom(...kinds.map(([id]) => id)), descending: fc.boolean() }),
    { maxLength: 3, selector: (s) => s.column },
  );
  const conditions = fc.constantFrom("", "size > 0 or yes", "word = null");
  await fc.assert(
    fc.asyncProperty(sorts, fc.integer({ min: 1, max: 50 }), conditions, async (sort, limit, where) => {
      const asked = { search: "", filters: [], sort, offset: 0, limit: 500 };
      const whole = (await page(asked, where)).rows.map((r) => r.id);
      const forth: string[][] = [];
      let at = await page({ ...asked, limit }, where);
      for (;;) {
        forth.push(at.rows.map((r) => r.id));
        if (at.next === null) break;
        at = await page({ ...asked, limit, from: { place: at.next, back: false } }, where);
        expect(at.rows).not.toEqual([]);
      }
      expect(forth.flat()).toEqual(whole);
      const back = [at.rows.map((r) => r.id)];
      while (at.earlier !== null) {
        at = await page({ ...asked, limit, from: { place: at.earlier, back: true } }, where);
        back.unshift(at.rows.map((r) => r.id));
      }
      expect(back.flat()).toEqual(whole);
    }),
    { numRuns: 60, seed: 8, endOnFailure: true },
  );
});

it("whatever stands in an address as a place is the beginning, and no mistake of the database", async () => {
  const maeve = await person("maeve.dunlea");
  const place = (x: unknown) => Buffer.from(JSON.stringify(x)).toString("base64url");
  const asked = {
    search: "",
    filters: [],
    sort: [{ column: "size", descending: false }],
    offset: 0,
    limit: 5,
  };
  const first = value(await registerPage(maeve, "t_far", asked)).rows.map((r) => r.id);
  for (const bad of [
    "%",
    "x".repeat(9000),
    place(1),
    place(["1"]),
    place(["one", "1"]),
    place(["1", "1 or 1=1"]),
    place(["1", "2", "3"]),
    place([{}, "1"]),
    place([]),
  ]) {
    const got = value(await registerPage(maeve, "t_far", { ...asked, from: { place: bad, back: false } }));
    expect(got.rows.map((r) => r.id)).toEqual(first);
  }
});
