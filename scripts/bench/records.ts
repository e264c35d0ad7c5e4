import { EVERYBODY, type RegisterShape } from "@/core/form";
import type { ProcessDefinition, Start } from "@/core/route";
import { closePool, getPool, inTransaction, registers, sheetImports } from "@/db";
import {
  actorOf,
  becomePerson,
  bringSheet,
  changeRegister,
  createProcess,
  lookDates,
  planSheet,
  releaseDraft,
  registerPage,
  startFromRecords,
  SYSTEM,
  workReshape,
  workSheet,
  writeSheet,
  type ListSearch,
} from "@/services";
import { loadDirectory } from "@/services/kernel/directory";

/**
 * Records at size: a sheet of ten thousand brought in with a rule and a start, the requests these start, a desk page
 * asked for all the while, then lists of a register of a million and a night's look over its dates. Argument: the
 * address of the web server; what a worker does is done here.
 */
const WRITTEN = 10_000;
const RECORDS = 1_000_000;
const TIMES = 5;
const BUDGET = { written: 20, started: 90, desk: 300, list: 100, night: 2 } as const;
/** Milliseconds between desk pages asked for. */
const EVERY = 250;

const SHAPE: RegisterShape = {
  format: "cobble-step/register@1",
  key: "bench_records",
  name: "Bench records",
  one: "bench record",
  purpose: "",
  title: ["code"],
  columns: [
    { id: "code", name: "Code", kind: "text", needed: true, unique: true },
    { id: "state", name: "State", kind: "choice", options: ["new", "old"] },
    { id: "size", name: "Size", kind: "number" },
    { id: "twice", name: "Twice", kind: "number", worked: "Size * 2" },
    { id: "due", name: "Due", kind: "date" },
  ],
  rules: [
    { id: "r", on: "added", when: "State = null", then: { do: "set", column: "state", value: '"new"' } },
  ],
};

async function released(key: string, prefix: string, start: Start): Promise<void> {
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: "Bench of records",
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix, digits: 6 },
    title: "",
    starts: [start],
    access: {},
    samples: [],
    fields: [{ id: "record", name: "Its record", kind: "look-up", register: SHAPE.key }],
    route: [{ id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" }],
  };
  for (const r of [await createProcess(SYSTEM, definition), await releaseDraft(SYSTEM, key, "1.0.0", "")])
    if (!r.ok) throw new Error(JSON.stringify(r.failure));
}
function value<T>(o: { ok: true; value: T } | { ok: false; failure: unknown }): T {
  if (!o.ok) throw new Error(JSON.stringify(o.failure));
  return o.value;
}
function line(what: string, took: number, budget: number, unit: "s" | "ms") {
  const text = `${took.toFixed(unit === "s" ? 2 : 0)} ${unit}`;
  process.stdout.write(
    `${took <= budget ? " " : "!"} ${what.padEnd(66)} ${text.padEnd(12)} at most ${budget} ${unit}\n`,
  );
}
async function seconds(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return (performance.now() - began) / 1000;
}

const base = process.argv[2]!;
const actor = (await actorOf(getPool(), "tobias.marrin"))!;
await inTransaction((db) => registers.createRegister(db, SHAPE, { ...EVERYBODY, keepers: [actor.id] }));
await released("bench-records", "RECS", {
  id: "s",
  kind: "record",
  register: SHAPE.key,
  on: "added",
  when: "Size >= 0",
  into: "record",
  values: [],
});

// Somebody looks at their desk the whole time.
const session = await becomePerson("lucia.penrose", { browser: "bench", earlier: null, known: null });
const headers = { cookie: `cobble_session=${session!.token}` };
const desk: number[] = [];
let looking = true;
const looker = (async () => {
  while (looking) {
    const began = performance.now();
    const page = await fetch(`${base}/desk`, { headers, redirect: "manual" });
    if (page.status !== 200) throw new Error(`the desk answers ${page.status}`);
    await page.text();
    desk.push(performance.now() - began);
    await new Promise((r) => setTimeout(r, EVERY));
  }
})();

const rows = Array.from(
  { length: WRITTEN },
  (_, i) => `B${i},${i % 1000},2026-12-${String((i % 28) + 1).padStart(2, "0")}`,
);
const csv = Buffer.from(["Code,Size,Due", ...rows].join("\n"));
const { id } = value(await bringSheet(actor, SHAPE.key, "bench.csv", csv));
const tried = await seconds(() => workSheet(SYSTEM, id));
process.stdout.write(`  a sheet of ${WRITTEN} rows read and tried in ${tried.toFixed(2)} s\n`);
const sheet = (await sheetImports.importOf(getPool(), id))!;
value(await planSheet(actor, id, { ...sheet.plan!, aMinute: null }));
await workSheet(SYSTEM, id);
value(await writeSheet(actor, id, sheet.asking + 1));
line(
  `the same written, with a rule and a start`,
  await seconds(() => workSheet(SYSTEM, id)),
  BUDGET.written,
  "s",
);
const started = await seconds(async () => {
  while ((await startFromRecords(SYSTEM)).more);
});
line("the requests they start, by one worker", started, BUDGET.started, "s");
const made = await getPool().query(
  "select count(*)::int as n from request where process_key = 'bench-records'",
);
if (made.rows[0].n !== WRITTEN) throw new Error(`${made.rows[0].n} requests were started`);
looking = false;
await looker;
const p95 = desk.sort((a, b) => a - b)[Math.floor(desk.length * 0.95)]!;
line(`a desk page meanwhile, 95th percentile of ${desk.length}`, p95, BUDGET.desk, "ms");

await getPool().query("delete from register_history where register_key = $1", [SHAPE.key]);
const client = await getPool().connect();
await client.query("set statement_timeout = 0");
await client.query(
  `
    insert into register.${SHAPE.key} (code, state, size, due)
    select 'D' || g, case when g % 3 = 0 then 'old' else 'new' end, g % 5000, current_date + (g % 3000)
    from generate_series(1, $1) g
  `,
  [RECORDS],
);
await client.query("analyze");
await client.query("reset statement_timeout");
client.release();
const list = async (what: string, search: Partial<ListSearch>, where = "") => {
  const ms: number[] = [];
  const asked = { search: "", filters: [], sort: [], offset: 0, limit: 40, ...search };
  for (let i = 0; i <= TIMES; i++)
    ms.push(1000 * (await seconds(async () => value(await registerPage(actor, SHAPE.key, asked, where)))));
  // The first one reads what is not in memory yet.
  line(what, ms.slice(1).sort((a, b) => a - b)[Math.floor(TIMES / 2)]!, BUDGET.list, "ms");
};
await list(`first page of ${RECORDS}`, {});
await list("the same sorted by a date, filtered by a choice", {
  filters: [{ column: "state", value: "old" }],
  sort: [{ column: "due", descending: true }],
});
await list(
  "the same with a condition, sorted by what is worked out",
  { sort: [{ column: "twice", descending: false }] },
  "Size > 4000",
);
await list(
  "the same, a rare number sorted by another column",
  { sort: [{ column: "code", descending: false }] },
  "Size = 77",
);
await list("a word", { search: "D77777" });
await list("three columns at once", {
  sort: [
    { column: "state", descending: false },
    { column: "due", descending: false },
    { column: "code", descending: true },
  ],
});
const byDue = { sort: [{ column: "due", descending: true }] };
const { rows: far } = await getPool().query<{ due: string; id: string }>(
  `select due::text as due, id::text as id from register.${SHAPE.key} order by due desc nulls last, id desc offset $1 limit 1`,
  [RECORDS / 2],
);
const place = Buffer.from(JSON.stringify([far[0]!.due, far[0]!.id])).toString("base64url");
await list("the page half-way down, sorted by a date", { ...byDue, from: { place, back: false } });
await list("the page before that", { ...byDue, from: { place, back: true } });
await released("bench-dates", "DATES", {
  id: "d",
  kind: "date",
  register: SHAPE.key,
  column: "due",
  days: -7,
  at: "00:00",
  into: "record",
  values: [],
});
let near = 0;
const night = await seconds(async () => void ({ near } = await lookDates(SYSTEM)));
line(`a night's look over the dates of ${RECORDS} records, ${near} of them near`, night, BUDGET.night, "s");
const shape = (await loadDirectory(getPool())).registers[SHAPE.key]!;
const columns = shape.columns.map((c) => (c.id === "state" ? { ...c, kind: "text" as const } : c));
const reshaped = await seconds(async () => {
  const proved = { ...actor, via: { kind: "session" as const, id: "0", provedAt: Date.now() } };
  value(await changeRegister(proved, SHAPE.key, shape, { ...shape, columns }));
  const { rows } = await getPool().query(
    "select id::text as id from register_reshape where register_key = $1",
    [SHAPE.key],
  );
  await workReshape(SYSTEM, rows[0].id);
});
process.stdout.write(
  `  a column of ${RECORDS} records comes to be of another kind in ${reshaped.toFixed(0)} s\n`,
);
await closePool();
