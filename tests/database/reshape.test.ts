import type { Column, RegisterShape } from "@/core/form";
import { inTransaction, registers } from "@/db";
import {
  agreeReshape,
  changeRegister,
  columnSheet,
  recordPage,
  reshapeOf,
  saveRecord,
  stopReshape,
  SYSTEM,
  workReshape,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";
import { workOff } from "./workOff";

jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
let made = 0;
beforeAll(async () => {
  world = await openWorld();
  await sql("delete from graphile_worker._private_jobs");
  keeper = await person("maeve.dunlea");
});
afterAll(() => world.close());

const RECORDS = 3_200;
const NOBODY = { see: [], columns: {}, withdrawn: [], add: [], change: [], remove: [], fill: {} };

/** A register of so many records, with texts that are dates, and numbers something is worked out from. */
async function large(odd: Readonly<Record<number, string>> = {}): Promise<string> {
  const key = `t_large_${++made}`;
  const shape: RegisterShape = {
    format: "cobble-step/register@1",
    key,
    name: key,
    one: "thing",
    purpose: "",
    title: ["code"],
    columns: [
      { id: "code", name: "Code", kind: "text" },
      { id: "day", name: "Day", kind: "text" },
      { id: "n", name: "N", kind: "number" },
      { id: "twice", name: "Twice", kind: "number", worked: "N * 2" },
    ],
  };
  await inTransaction((db) => registers.createRegister(db, shape, { keepers: [keeper.id], ...NOBODY }));
  await sql(
    `insert into register.${key} (code, day, n, twice)
     select 'C' || g, (1 + g % 28) || '/' || (1 + g % 12) || '/2026', g, g * 2 from generate_series(1, $1) g`,
    [RECORDS],
  );
  for (const [id, text] of Object.entries(odd))
    await sql(`update register.${key} set day = $2 where id = $1`, [id, text]);
  return key;
}
const now = async (key: string) => value(await columnSheet(keeper, key)).shape;
const begin = async (key: string, patch: Readonly<Record<string, Partial<Column>>>, lets: string[] = []) => {
  const before = await now(key);
  const columns = before.columns.map((c): Column => ({ ...c, ...patch[c.id] }));
  return changeRegister(keeper, key, before, { ...before, columns }, lets, 100);
};
const rows = (key: string, what: string) =>
  sql<Record<string, string>>(`select t.id::text as id, ${what} from register.${key} t order by t.id`);
const columnsOf = async (key: string) =>
  (
    await sql<{ name: string }>(
      "select column_name as name from information_schema.columns where table_schema = 'register' and table_name = $1",
      [key],
    )
  ).map((r) => r.name);
const day = (g: number) =>
  `2026-${String(1 + (g % 12)).padStart(2, "0")}-${String(1 + (g % 28)).padStart(2, "0")}`;

it("goes through all of many records beside everybody's work, and takes its place at the end", async () => {
  const key = await large();
  const change = { day: { kind: "date" as const, name: "Date" }, twice: { worked: "N * 3" } };
  expect(value(await begin(key, change))).toMatchObject({ begun: true });
  // Until then everything is as it was, and nothing else is changed of it.
  expect((await now(key)).columns.map((c) => [c.name, c.kind])).toContainEqual(["Day", "text"]);
  expect(await reshapeOf(keeper, key)).toMatchObject({ state: "working", done: 0, total: RECORDS });
  expect(JSON.stringify(await begin(key, { n: { name: "M" } }))).toContain("being gone through");
  expect(await reshapeOf(await person("piet.hanlon"), key)).toBeNull();
  await workOff();
  expect(await reshapeOf(keeper, key)).toBeNull();
  const shape = await now(key);
  expect(shape.columns.map((c) => [c.name, c.kind])).toContainEqual(["Date", "date"]);
  const all = await rows(key, "day::text as day, twice::text as twice");
  expect(all.map((r) => [r["day"], r["twice"]])).toEqual(
    Array.from({ length: RECORDS }, (_, i) => [day(i + 1), String((i + 1) * 3)]),
  );
  expect((await columnsOf(key)).filter((c) => c.startsWith("beside"))).toEqual([]);
  // What it was is set aside; records go on being written.
  value(await saveRecord(keeper, key, "7", null, { n: "5", day: "2026-12-24" }));
  expect(value(await recordPage(keeper, key, "7")).record).toMatchObject({ twice: "15", day: "2026-12-24" });
  const indexes = await sql<{ name: string }>(
    "select indexname as name from pg_indexes where schemaname = 'register' and tablename = $1",
    [key],
  );
  expect(indexes.map((i) => i.name)).toEqual(expect.arrayContaining([`${key}_words`, `${key}_by1_day`]));
});

it("what is written meanwhile is read anew as well, however often and whenever", async () => {
  const key = await large();
  value(await begin(key, { day: { kind: "date" }, twice: { worked: "N * 3" } }));
  const writes: Promise<unknown>[] = [];
  let going = true;
  const busy = (async () => {
    for (let i = 0; going || i < 40; i++) {
      const id = String(1 + ((i * 37) % RECORDS));
      writes.push(
        saveRecord(keeper, key, id, null, { n: String(i) }),
        saveRecord(keeper, key, null, null, { code: `New ${i}`, n: "1", day: "3/4/2027" }),
      );
      await Promise.all(writes.slice(-2));
    }
  })();
  await Promise.all([workOff(), workReshape(SYSTEM, value1(await idOf(key)))]);
  going = false;
  await busy;
  const all = await rows(key, "day::text as day, n::text as n, twice::text as twice");
  for (const r of all) expect([r["id"], r["twice"]]).toEqual([r["id"], String(Number(r["n"]) * 3)]);
  const fresh = all.filter((r) => Number(r["id"]) > RECORDS);
  expect(fresh.length).toBeGreaterThan(0);
  // Those that were added before the change took place were typed as texts; after it they are refused or are dates.
  expect(new Set(fresh.map((r) => r["day"]))).toEqual(new Set(["2027-04-03"]));
  const refused = (await Promise.all(writes)).filter((w) => !(w as { ok: boolean }).ok);
  expect(fresh.length + refused.length).toBeGreaterThanOrEqual(40);
});
const idOf = async (key: string) =>
  sql<{ id: string }>("select id::text as id from register_reshape where register_key = $1", [key]);
const value1 = (r: { id: string }[]) => r[0]!.id;

it("asks about what nothing can be made of, and goes on, or gives up without a trace", async () => {
  const key = await large({ 2500: "soon", 3100: "never" });
  value(await begin(key, { day: { kind: "date" } }));
  await workOff();
  expect(await reshapeOf(keeper, key)).toMatchObject({
    state: "asks",
    loses: [{ name: "Day", count: 2, examples: [{ title: "C2500", text: "soon" }, { text: "never" }] }],
  });
  expect((await now(key)).columns[1]!.kind).toBe("text");
  // Mended meanwhile.
  value(await saveRecord(keeper, key, "3100", null, { day: "31/12/2026" }));
  value(await agreeReshape(keeper, key));
  await workOff();
  expect((await now(key)).columns[1]!.kind).toBe("date");
  const [odd, mended] = [
    (await rows(key, "day::text as day"))[2499],
    (await rows(key, "day::text as day"))[3099],
  ];
  expect([odd!["day"], mended!["day"]]).toEqual([null, "2026-12-31"]);

  const other = await large({ 5: "soon" });
  value(await begin(other, { day: { kind: "date" } }));
  await workOff();
  value(await stopReshape(keeper, other));
  expect([await reshapeOf(keeper, other), (await columnsOf(other)).length]).toEqual([null, 5]);
  value(await begin(other, { n: { name: "M" } }));
});

it("is not made where a record cannot be worked out, or what is to be apart is not, and says so", async () => {
  const key = await large();
  value(await begin(key, { twice: { worked: "10 / (N - 3000)" } }));
  await workOff();
  expect(await reshapeOf(keeper, key)).toMatchObject({
    state: "refused",
    why: expect.stringMatching(/^C3000: /),
  });
  expect((await now(key)).columns[3]!.worked).toBe("N * 2");
  value(await stopReshape(keeper, key));
  value(await begin(key, { day: { kind: "date", unique: true } }));
  await workOff();
  expect(await reshapeOf(keeper, key)).toMatchObject({
    state: "refused",
    why: expect.stringContaining("cannot be kept apart"),
  });
  expect((await columnsOf(key)).filter((c) => c.startsWith("beside"))).toEqual([]);
  // Another change may be begun over one that was refused.
  value(await begin(key, { twice: { worked: "N * 4" } }));
  await workOff();
  expect((await rows(key, "twice::text as twice"))[9]!["twice"]).toBe("40");
});

it("what is worked out and apart stays apart", async () => {
  const key = await large();
  const shape = await now(key);
  const columns = shape.columns.map((c) => (c.id === "twice" ? { ...c, unique: true } : c));
  value(await changeRegister(keeper, key, shape, { ...shape, columns }));
  value(await begin(key, { twice: { worked: "N * 3" } }));
  await workOff();
  expect(JSON.stringify(await saveRecord(keeper, key, null, null, { n: "7" }))).toContain("taken");
  value(await begin(key, { twice: { worked: "floor(N / 2)" } }));
  await workOff();
  expect(await reshapeOf(keeper, key)).toMatchObject({ why: expect.stringContaining("kept apart") });
});

it("goes on where a worker left off", async () => {
  const key = await large();
  value(await begin(key, { day: { kind: "date" } }));
  const id = value1(await idOf(key));
  // As if it had died in its third lot: each lot says how far it came in its own transaction.
  await sql(`
    create function killed() returns trigger language plpgsql as
    $$ begin if new.id = 2500 then raise exception 'killed'; end if; return new; end $$
  `);
  await sql(`create trigger killed before update on register.${key} for each row execute function killed()`);
  await expect(workReshape(SYSTEM, id)).rejects.toThrow("killed");
  await sql(`drop trigger killed on register.${key}`);
  expect(await reshapeOf(keeper, key)).toMatchObject({ state: "working", done: 2000 });
  await workReshape(SYSTEM, id);
  const all = await rows(key, "day::text as day");
  expect(all.map((r) => r["day"])).toEqual(Array.from({ length: RECORDS }, (_, i) => day(i + 1)));
});
