import type { Column, RegisterShape } from "@/core/form";
import type { ProcessDefinition } from "@/core/route";
import { inTransaction, registers } from "@/db";
import {
  changeRegister,
  columnSheet,
  createProcess,
  editDraft,
  makeRegister,
  recordPage,
  releaseDraft,
  requestView,
  saveRecord,
  shapeHits,
  startRequest,
  sweepColumns,
  SYSTEM,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

const TRAYS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_trays",
  name: "Trays",
  one: "tray",
  purpose: "",
  title: ["code"],
  columns: [
    { id: "code", name: "Code", kind: "text", needed: true },
    { id: "wide", name: "Wide", kind: "number" },
    { id: "deep", name: "Deep", kind: "number" },
    { id: "state", name: "State", kind: "choice", options: ["new", "old"] },
    { id: "at", name: "Stands on", kind: "look-up", register: "t_trays" },
  ],
};
let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
beforeAll(async () => {
  world = await openWorld();
  keeper = await person("maeve.dunlea");
  const nobody = { see: [], columns: {}, withdrawn: [], add: [], change: [], remove: [], fill: {} };
  await inTransaction((db) =>
    registers.createRegister(db, TRAYS, { keepers: [keeper.id, "tobias.marrin"], ...nobody }),
  );
});
afterAll(() => world.close());

const now = async () => value(await columnSheet(keeper, "t_trays")).shape;
const change = async (columns: (c: Column[]) => Column[], more: Partial<RegisterShape> = {}) => {
  const shape = await now();
  return changeRegister(keeper, "t_trays", shape, { ...shape, columns: columns(shape.columns), ...more });
};
const say = (r: Awaited<ReturnType<typeof change>>) => (r.ok ? "" : JSON.stringify(r.failure.data));
const put = (id: string, patch: Partial<Column>) => (all: Column[]) =>
  all.map((c) => (c.id === id ? { ...c, ...patch } : c));
const formOf = async (number: string) =>
  value(await requestView(await person("tobias.marrin"), number)).form.data;
const add = async (values: Record<string, string | null>) =>
  value(await saveRecord(keeper, "t_trays", null, null, values)).id;
const kept = async (id: string) => value(await recordPage(keeper, "t_trays", id)).record;

it("columns are added, worked out for all records that are there, and set aside", async () => {
  const a = await add({ code: "T1", wide: "3", deep: "4" });
  value(await change((c) => [...c, { id: "area", name: "Area", kind: "number", worked: "Wide * Deep" }]));
  expect((await kept(a))["area"]).toBe("12");
  const b = await add({ code: "T2", wide: "5", deep: "5" });
  expect((await kept(b))["area"]).toBe("25");
  // What is worked out otherwise is so for all; what cannot be is said, and nothing of it is kept.
  value(await change(put("area", { worked: "Wide + Deep" })));
  expect((await kept(a))["area"]).toBe("7");
  await add({ code: "T3", wide: "1", deep: "0" });
  expect(say(await change(put("area", { worked: "Wide / Deep" })))).toContain("T3");
  expect((await kept(a))["area"]).toBe("7");
  expect((await now()).columns.find((c) => c.id === "area")!.worked).toBe("Wide + Deep");
  value(await change((c) => c.filter((x) => x.id !== "area")));
  expect(await kept(a)).not.toHaveProperty("area");
  expect(await sql("select area::text from register.t_trays where id = $1", [a])).toEqual([{ area: "7" }]);
  // Under the same key nothing else comes.
  expect(say(await change((c) => [...c, { id: "area", name: "Area", kind: "text" }]))).toContain(
    "taken out before",
  );
});

it("what binds records is refused where those that are there would break it", async () => {
  expect(say(await change(put("state", { needed: true })))).toMatch(/records have nothing in it/);
  expect(say(await change((c) => [...c, { id: "must", name: "Must", kind: "text", needed: true }]))).toMatch(
    /needed at once/,
  );
  const twin = await add({ code: "T1" });
  expect(say(await change(put("code", { unique: true })))).toContain("T1");
  value(await saveRecord(keeper, "t_trays", twin, null, { code: "T4" }));
  value(await change(put("code", { unique: true })));
  expect(await saveRecord(keeper, "t_trays", null, null, { code: "T4" })).toMatchObject({ ok: false });
  value(await change(put("code", { unique: false })));
  const again = await add({ code: "T4" });
  value(await saveRecord(keeper, "t_trays", again, null, { code: "T5" }));
  value(await change(put("deep", { needed: false })));
});

it("a link that is taken out binds nothing any more, and one of another kind comes in its place", async () => {
  const a = await add({ code: "L1" });
  const b = await add({ code: "L2", at: a });
  value(await change((c) => c.filter((x) => x.id !== "at")));
  await sql("delete from register.t_trays where id = $1", [a]);
  expect(await kept(b)).toMatchObject({ code: "L2" });
  value(await change((c) => [...c, { id: "kept", name: "Kept", kind: "person" }]));
  value(await change(put("kept", { kind: "date" })));
  value(await saveRecord(keeper, "t_trays", b, null, { kept: "2026-03-03" }));
  expect((await kept(b))["kept"]).toBe("2026-03-03");
});

it("a column that is taken out stays, unseen, for what was released, and goes when nothing reads it", async () => {
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: "t-reads",
    name: "Reads trays",
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: "READS", digits: 4 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [
      { id: "tray", name: "Tray", kind: "look-up", register: "t_trays" },
      { id: "w", name: "W", kind: "number", worked: "Tray.Wide" },
    ],
    access: {},
    route: [
      {
        id: "c",
        name: "Look",
        kind: "complete",
        button: "Done",
        who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
      },
      { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" },
    ],
    samples: [],
  };
  value(await createProcess(SYSTEM, d));
  value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  value(await startRequest(keeper, d.key, {}));
  const tray = await add({ code: "Under way", wide: "31" });
  const { number } = value(await startRequest(keeper, d.key, { tray }));
  const seen = await now();
  const without = { ...seen, columns: seen.columns.filter((x) => x.id !== "wide") };
  expect(value(await shapeHits(keeper, "t_trays", without)).hits).toEqual([
    'Nobody sees "Wide" any more. It stays until none of these reads it: Reads trays 1.0.0 (2 under way).',
  ]);
  value(await changeRegister(keeper, "t_trays", seen, without));
  expect((await now()).columns.find((c) => c.id === "wide")).toMatchObject({ leaving: true });
  // Nobody sees it, not even who looks after it; nothing is released any more that reads it; what was reads on.
  expect(await kept(tray)).not.toHaveProperty("wide");
  expect(await saveRecord(keeper, "t_trays", tray, null, { wide: "1" })).toMatchObject({ ok: false });
  const before = await formOf(number);
  expect(before["w"]).toBe("31");
  const late = value(await startRequest(keeper, d.key, { tray })).number;
  expect((await formOf(late))["w"]).toBe("31");
  const edit = { op: "process.set", patch: { purpose: "x" } } as const;
  value(await editDraft(SYSTEM, d.key, 0, [edit]));
  const reader = await person("tobias.marrin");
  expect(await releaseDraft(reader, d.key, "1.0.1", "")).toMatchObject({ ok: false });
  // Another of its name may come; what was released does not take that for it.
  value(await change((c) => [...c, { id: "broad", name: "Wide", kind: "text" }]));
  expect((await formOf(late))["w"]).toBe("31");
  expect(await sweepColumns(SYSTEM)).toBe(0);
  await sql("update process set live_release = null where key = $1", [d.key]);
  await sql("update request set ended_at = now() where process_key = $1", [d.key]);
  expect(await sweepColumns(SYSTEM)).toBe(1);
  expect((await now()).columns.map((c) => c.id)).not.toContain("wide");
  expect(await sql("select wide::text from register.t_trays where id = $1", [tray])).toEqual([
    { wide: "31" },
  ]);
  value(
    await change((c) =>
      c.map((x) => (x.id === "broad" ? { ...x, id: "width", name: "Width", kind: "number" } : x)),
    ),
  );
});

it("keeps what rules of other registers read by a link", async () => {
  const nobody = { see: [], columns: {}, withdrawn: [], add: [], change: [], remove: [], fill: {} };
  const pegs: RegisterShape = {
    ...TRAYS,
    key: "t_pegs",
    name: "Pegs",
    one: "peg",
    columns: [
      { id: "code", name: "Code", kind: "text" },
      { id: "tray", name: "Tray", kind: "look-up", register: "t_trays" },
    ],
    rules: [{ id: "r", on: "added", when: "Tray.Deep > 9", then: { do: "refuse", say: "Too deep." } }],
  };
  await inTransaction((db) => registers.createRegister(db, pegs, { keepers: [keeper.id], ...nobody }));
  expect(say(await change((c) => c.filter((x) => x.id !== "deep")))).toContain("Pegs");
  value(await change(put("deep", { name: "Depth" })));
  const [renamed] = await sql<{ definition: RegisterShape }>(
    "select definition from register where key = 't_pegs'",
  );
  expect(renamed!.definition.rules![0]!.when).toBe("Tray.Depth > 9");
  await sql("delete from register where key = 't_pegs'");
});

it("nobody writes over somebody else's change, and nobody changes it who does not look after it", async () => {
  const seen = await now();
  value(await change(put("deep", { help: "In millimetres." })));
  const late = await changeRegister(keeper, "t_trays", seen, { ...seen, name: "Boards" });
  expect(late).toMatchObject({
    ok: false,
    failure: { data: { message: expect.stringContaining("meanwhile") } },
  });
  const same = await now();
  const help = (text: string) => ({ ...same, columns: put("deep", { help: text })(same.columns) });
  const [a, b] = await Promise.all([
    changeRegister(keeper, "t_trays", same, help("A.")),
    changeRegister(keeper, "t_trays", same, help("B.")),
  ]);
  expect([a, b].filter((r) => r.ok)).toHaveLength(1);
  const other = await person("sorcha.lind");
  expect(await columnSheet(other, "t_trays")).toMatchObject({ ok: false, failure: { code: "not-found" } });
  expect(await changeRegister(other, "t_trays", await now(), await now())).toMatchObject({ ok: false });
  const blank = { ...TRAYS, key: "t_new", columns: TRAYS.columns.slice(0, 1) };
  expect(await makeRegister(other, blank)).toMatchObject({ ok: false, failure: { code: "not-allowed" } });
});

it("while records are written no request or change is lost", async () => {
  const ids = await Promise.all([1, 2, 3, 4].map((n) => add({ code: `R${n}`, width: "1" })));
  const writing = ids.map(async (id) => {
    for (let n = 0; n < 10; n++) value(await saveRecord(keeper, "t_trays", id, null, { width: String(n) }));
  });
  const shaping = (async () => {
    for (const id of ["one", "two", "three"])
      value(await change((c) => [...c, { id, name: `Extra ${id}`, kind: "number", worked: "Width + 1" }]));
  })();
  await Promise.all([...writing, shaping]);
  for (const id of ids) {
    value(await saveRecord(keeper, "t_trays", id, null, { width: "20" }));
    expect(await kept(id)).toMatchObject({ width: "20", one: "21", three: "21" });
    const [n] = await sql<{ n: number }>(
      "select count(*)::int as n from register_history where register_key = 't_trays' and record_id = $1 and after ? 'width'",
      [id],
    );
    // Added, nine other values (the second is as the first), and the last.
    expect(n!.n).toBeGreaterThanOrEqual(10);
  }
});

it("all of more records than are written at once are worked out, whatever their numbers", async () => {
  const shape: RegisterShape = {
    ...TRAYS,
    key: "t_many",
    columns: [
      { id: "code", name: "Code", kind: "text" },
      { id: "n", name: "N", kind: "number" },
    ],
  };
  const nobody = { see: [], columns: {}, withdrawn: [], add: [], change: [], remove: [], fill: {} };
  await inTransaction((db) => registers.createRegister(db, shape, { keepers: [keeper.id], ...nobody }));
  await sql("insert into register.t_many (n) select g from generate_series(1, 1203) g");
  const worked: Column = { id: "half", name: "Half", kind: "number", worked: "N / 2" };
  const after = { ...shape, columns: [...shape.columns, worked] };
  value(await changeRegister(keeper, "t_many", shape, after));
  const text = after.columns.map((c): Column => (c.id === "n" ? { ...c, kind: "text" } : c));
  value(await changeRegister(keeper, "t_many", after, { ...after, columns: text.slice(0, 2) }));
  const rows = await sql(
    "select count(*)::int as all, count(half)::int as half, count(n)::int as n from register.t_many",
  );
  expect(rows).toEqual([{ all: 1203, half: 1203, n: 1203 }]);
});
