import type { Column, RegisterShape } from "@/core/form";
import { getPool, inTransaction, registers } from "@/db";
import {
  changeRegister,
  columnSheet,
  putBack,
  recordPage,
  registerPage,
  saveRecord,
  shapeHits,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

const shape = (key: string, columns: Column[]): RegisterShape => ({
  format: "cobble-step/register@1",
  key,
  name: key,
  one: "jug",
  purpose: "",
  title: ["code"],
  columns: [{ id: "code", name: "Code", kind: "text" }, ...columns],
});
let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
let made = 0;
beforeAll(async () => {
  world = await openWorld();
  keeper = await person("maeve.dunlea");
});
afterAll(() => world.close());

/** A register whose records hold these in one column. */
async function holding(
  c: Omit<Column, "id" | "name">,
  held: (string | boolean | null)[],
  more: Column[] = [],
) {
  const key = `t_jugs_${++made}`;
  const nobody = { see: [], columns: {}, withdrawn: [], add: [], change: [], remove: [], fill: {} };
  await inTransaction((db) =>
    registers.createRegister(db, shape(key, [{ id: "it", name: "It", ...c }, ...more]), {
      keepers: [keeper.id],
      ...nobody,
    }),
  );
  for (const [i, it] of held.entries())
    value(await saveRecord(keeper, key, null, null, { code: `J${i}`, it }));
  return key;
}
const now = async (key: string) => value(await columnSheet(keeper, key)).shape;
async function become(key: string, c: Partial<Column>, lets: string[] = []) {
  const before = await now(key);
  const columns = before.columns.map((x) => {
    const { register: _, registers: _s, options: _o, ...rest } = x;
    return x.id === "it" ? { ...rest, ...c } : x;
  });
  const after = { ...before, columns };
  const hits = value(await shapeHits(keeper, key, after));
  return { hits, r: await changeRegister(keeper, key, before, after, lets) };
}
const all = async (key: string) =>
  value(
    await registerPage(keeper, key, { search: "", filters: [], sort: [], offset: 0, limit: 50 }),
  ).rows.map((r) => r["it"]);
const wrong = (r: { ok: boolean; failure?: unknown }) => JSON.stringify(r.ok ? null : r.failure);

it.each<[string, Omit<Column, "id" | "name">, (string | boolean | null)[], Partial<Column>, unknown[]]>([
  [
    "text to numbers, as most are written",
    { kind: "text" },
    ["1.250,5", "7", null, " 3 "],
    { kind: "number" },
    ["1250.5", "7", null, "3"],
  ],
  [
    "text to days",
    { kind: "text" },
    ["13/04/2026", "1/2/2026"],
    { kind: "date" },
    ["2026-04-13", "2026-02-01"],
  ],
  ["text to yes or no", { kind: "text" }, ["Yes", "no", "x"], { kind: "yes or no" }, [true, false, true]],
  [
    "text to choices",
    { kind: "text" },
    ["Red", "blue"],
    { kind: "choice", options: ["red", "blue"] },
    ["red", "blue"],
  ],
  [
    "text to people",
    { kind: "text" },
    ["Sorcha Lind", "maeve.dunlea@quillhaven.example"],
    { kind: "person" },
    ["sorcha.lind", "maeve.dunlea"],
  ],
  ["text to records", { kind: "text" }, ["QH.1890.001.0"], { kind: "look-up", register: "objects" }, ["1"]],
  [
    "text to records of several",
    { kind: "text" },
    ["Objects: QH.1890.001.0"],
    { kind: "look-up in several", registers: ["objects", "stores"] },
    ["objects/1"],
  ],
  ["numbers to text", { kind: "number" }, ["1250.50"], { kind: "text" }, ["1250.50"]],
  ["people to text", { kind: "person" }, ["sorcha.lind"], { kind: "text" }, ["Sorcha Lind"]],
  ["yes or no to text", { kind: "yes or no" }, [true, false], { kind: "text" }, ["Yes", "No"]],
  ["days to moments", { kind: "date" }, ["2026-04-13"], { kind: "date and time" }, ["2026-04-13T00:00"]],
  [
    "a link to one that may lead on to it",
    { kind: "look-up", register: "objects" },
    ["1", "2"],
    { kind: "look-up in several", registers: ["stores", "objects"] },
    ["objects/1", "objects/2"],
  ],
  [
    "and back",
    { kind: "look-up in several", registers: ["stores", "objects"] },
    ["objects/2"],
    { kind: "look-up", register: "objects" },
    ["2"],
  ],
])("%s", async (_, from, held, to, then) => {
  const key = await holding(from, held);
  const { hits, r } = await become(key, to);
  expect(hits).toMatchObject({
    refusals: [],
    loses: [],
    hits: [expect.stringContaining("keep what they hold")],
  });
  value(r);
  expect(await all(key)).toEqual(then);
});

describe("what nothing can be made of", () => {
  it("is told, left out where that is agreed to, and stays in the history and beside", async () => {
    const key = await holding({ kind: "text" }, ["12", "twelve or so", "14"]);
    const first = await become(key, { kind: "number" });
    expect(first.hits.loses).toEqual([
      { column: "it", name: "It", count: 1, examples: [{ title: "J1", text: "twelve or so" }] },
    ]);
    expect(wrong(first.r)).toContain('as of \\"twelve or so\\" in J1');
    expect(await all(key)).toEqual(["12", "twelve or so", "14"]);
    value((await become(key, { kind: "number" }, ["it"])).r);
    expect(await all(key)).toEqual(["12", null, "14"]);
    expect(await sql(`select aside_1_it as was from register.${key} order by id`)).toEqual([
      { was: "12" },
      { was: "twelve or so" },
      { was: "14" },
    ]);
    const { history } = value(await recordPage(keeper, key, "2"));
    expect(history.map((h) => h.after?.["it"])).toEqual(["twelve or so"]);
    // A later change can not be put back to what is of another kind now.
    value(await saveRecord(keeper, key, "1", null, { it: "99" }));
    value(await saveRecord(keeper, key, "2", null, { it: "5" }));
    expect(await all(key)).toEqual(["99", "5", "14"]);
    const page = value(await recordPage(keeper, key, "1"));
    expect(page.history.map((h) => [h.before?.["it"] ?? null, h.after?.["it"] ?? null])).toEqual([
      ["12", "99"],
      [null, "12"],
      [null, "12"],
    ]);
    value(await putBack(keeper, key, page.history[0]!.id));
    expect(await all(key)).toEqual(["12", "5", "14"]);
  });
  it("keeps a column that is needed from becoming another kind", async () => {
    const key = await holding({ kind: "text", needed: true }, ["1", "one"]);
    const { hits, r } = await become(key, { kind: "number" }, ["it"]);
    expect(hits.refusals).toEqual([expect.stringContaining('J1 holds "one"')]);
    expect(r.ok).toBe(false);
    value(await saveRecord(keeper, key, "2", null, { it: "2" }));
    value((await become(key, { kind: "number" })).r);
    expect(await saveRecord(keeper, key, null, null, { code: "x" })).toMatchObject({ ok: false });
    await expect(sql(`insert into register.${key} (code) values ('y')`)).rejects.toThrow(/null value/);
  });
});

it("what no two share stays so, also where two are the same only as another kind", async () => {
  const key = await holding({ kind: "text", unique: true }, ["1", "2"]);
  value((await become(key, { kind: "number" })).r);
  expect(await saveRecord(keeper, key, null, null, { code: "x", it: "2.0" })).toMatchObject({
    ok: false,
    failure: { data: { why: { code: "taken" } } },
  });
  const other = await holding({ kind: "text", unique: true }, ["1", "1.0"]);
  expect(wrong((await become(other, { kind: "number" })).r)).toContain("J1");
  expect(await all(other)).toEqual(["1", "1.0"]);
});

it("is refused where a rule of the register would be broken by it, and nothing of it is kept", async () => {
  const key = await holding({ kind: "text" }, ["5", "500"]);
  const before = await now(key);
  const after: RegisterShape = {
    ...before,
    columns: before.columns.map((c) => (c.id === "it" ? { ...c, kind: "number" } : c)),
    rules: [{ id: "r", on: "changed", when: "It > 100", then: { do: "refuse", say: "Too many." } }],
  };
  expect(wrong(await changeRegister(keeper, key, before, after))).toContain("J1: ");
  expect(await now(key)).toEqual(before);
  expect(await all(key)).toEqual(["5", "500"]);
});

it("a link made anew can be followed back, and holds what it points at", async () => {
  const key = await holding({ kind: "text" }, ["Kiln room"]);
  await sql("insert into register.stores (name) values ('Kiln room')");
  value((await become(key, { kind: "look-up", register: "stores" })).r);
  const [id] = (await all(key)) as string[];
  await expect(sql("delete from register.stores where id = $1", [id])).rejects.toThrow(/foreign key/);
  const indexes = await sql<{ on: string }>(
    "select indexdef as on from pg_indexes where schemaname = 'register' and tablename = $1",
    [key],
  );
  expect(indexes.filter((i) => i.on.includes("(it)"))).toHaveLength(1);
  expect(indexes.filter((i) => i.on.includes("aside"))).toEqual([]);
});

it("what somebody writes meanwhile is converted too, or its writer is told", async () => {
  const key = await holding({ kind: "text" }, ["1"]);
  const before = await now(key);
  const after = {
    ...before,
    columns: before.columns.map((c) => (c.id === "it" ? { ...c, kind: "number" as const } : c)),
  };
  const other = await getPool().connect();
  try {
    await other.query("begin");
    await other.query(`update register.${key} set it = 'a few' where id = 1`);
    const changing = changeRegister(keeper, key, before, after);
    await new Promise((r) => setTimeout(r, 300));
    await other.query("commit");
    expect(wrong(await changing)).toContain("a few");
  } finally {
    other.release();
  }
  expect(await all(key)).toEqual(["a few"]);
});

it("may come to be needed by the same change, where all of them hold something that can be read", async () => {
  const key = await holding({ kind: "text" }, ["09:30", null]);
  const first = await become(key, { kind: "time", needed: true });
  expect(first.hits.refusals).toEqual(['"It" cannot be needed yet: one record has nothing in it.']);
  value(await saveRecord(keeper, key, "2", null, { it: "10:00" }));
  value((await become(key, { kind: "time", needed: true, unique: true })).r);
  expect(await all(key)).toEqual(["09:30", "10:00"]);
  expect(await saveRecord(keeper, key, null, null, { code: "x", it: "10:00" })).toMatchObject({ ok: false });
});

it("what is worked out from it is so anew for all, also where nothing could be made of it", async () => {
  const twice: Column = {
    id: "twice",
    name: "Twice",
    kind: "text",
    worked: 'if It = null then "none" else string(It)',
  };
  const key = await holding({ kind: "text" }, ["5", "many"], [twice]);
  const before = value(
    await registerPage(keeper, key, { search: "", filters: [], sort: [], offset: 0, limit: 9 }),
  );
  expect(before.rows.map((r) => r["twice"])).toEqual(["5", "many"]);
  value((await become(key, { kind: "number" }, ["it"])).r);
  const after = value(
    await registerPage(keeper, key, { search: "", filters: [], sort: [], offset: 0, limit: 9 }),
  );
  expect(after.rows.map((r) => r["twice"])).toEqual(["5", "none"]);
});

it("what is worked out itself comes to be of another kind by its formula alone", async () => {
  const sum: Column = { id: "sum", name: "Sum", kind: "number", worked: "number(It) + 1" };
  const key = await holding({ kind: "text" }, ["5", "7"], [sum]);
  const now_ = await now(key);
  const after: RegisterShape = {
    ...now_,
    columns: now_.columns.map((c) => (c.id === "sum" ? { ...c, kind: "text", worked: 'It + "!"' } : c)),
  };
  value(await changeRegister(keeper, key, now_, after));
  expect(await sql(`select sum from register.${key} order by id`)).toEqual([{ sum: "5!" }, { sum: "7!" }]);
});
