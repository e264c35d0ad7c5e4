import { closePool, getPool, inTransaction, registers, type Client } from "@/db";
import { EVERYBODY, type RegisterShape } from "@/core/form";
import type { ProcessDefinition, Start } from "@/core/route";
import { actorOf, createProcess, lookDates, releaseDraft, startFromRecords, SYSTEM } from "@/services";
import { loadDirectory } from "@/services/kernel/directory";
import { handWriting } from "@/services/registers/handWriting";
import { writeRecords } from "@/services/registers/writeRecords";

/**
 * Records against the database, without HTTP: ten thousand written through the one door with a rule and a start, the
 * requests these start, and a night's look over the dates of a million.
 */
const WRITTEN = 10_000;
const DATED = 1_000_000;
/** Records written by one transaction. */
const AT_ONCE = 500;
const BUDGET = { written: 20, started: 90, night: 2 } as const;

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

async function released(key: string, start: Start): Promise<void> {
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: "Bench of records",
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: key === "bench-dates" ? "DATES" : "RECS", digits: 6 },
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
function line(what: string, took: number, budget: number) {
  const text = `${took.toFixed(2)} s`;
  process.stdout.write(
    `${took <= budget ? " " : "!"} ${what.padEnd(58)} ${text.padEnd(26)} at most ${budget} s\n`,
  );
}
async function seconds(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return (performance.now() - began) / 1000;
}

await inTransaction((db) =>
  registers.createRegister(db, SHAPE, { ...EVERYBODY, keepers: ["tobias.marrin"] }),
);
await released("bench-records", {
  id: "s",
  kind: "record",
  register: SHAPE.key,
  on: "added",
  when: "Size >= 0",
  into: "record",
  values: [],
});
const actor = (await actorOf(getPool(), "tobias.marrin"))!;
const write = async (db: Client, from: number) => {
  const w = await handWriting(db, await loadDirectory(db), actor);
  const values = Array.from({ length: AT_ONCE }, (_, i) => ({ code: `B${from + i}`, size: String(i) }));
  for (const r of await writeRecords(
    w,
    SHAPE.key,
    values.map((v) => ({ op: "add", values: v })),
  ))
    if (!r.ok) throw new Error(JSON.stringify(r.why));
};
line(
  `${WRITTEN} records added, with a rule and a start`,
  await seconds(async () => {
    for (let n = 0; n < WRITTEN; n += AT_ONCE) await inTransaction((db) => write(db, n));
  }),
  BUDGET.written,
);
line(
  "the requests they start, by one worker",
  await seconds(async () => {
    while ((await startFromRecords(SYSTEM)).more);
  }),
  BUDGET.started,
);
const { rows } = await getPool().query(
  "select count(*)::int as n from request where process_key = 'bench-records'",
);
if (rows[0].n !== WRITTEN) throw new Error(`${rows[0].n} requests were started`);

await getPool().query("delete from register_history where register_key = $1", [SHAPE.key]);
const client = await getPool().connect();
await client.query("set statement_timeout = 0");
await client.query(
  `insert into register.${SHAPE.key} (code, state, size, due)
   select 'D' || g, 'old', g, current_date + (g % 3000) from generate_series(1, $1) g`,
  [DATED],
);
await client.query("analyze");
client.release();
await released("bench-dates", {
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
line(
  `a night's look over the dates of ${DATED} records`,
  await seconds(async () => void ({ near } = await lookDates(SYSTEM))),
  BUDGET.night,
);
process.stdout.write(`  of which ${near} had come near\n`);
await closePool();
