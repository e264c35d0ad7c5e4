import { closePool, getPool } from "@/db";
import {
  act,
  actorOf,
  actorOfKey,
  createProcess,
  makeKey,
  releaseDraft,
  startRequest,
  SYSTEM,
} from "@/services";
import type { ProcessDefinition } from "@/core/route";

/** Requests that each wait for one answer, a key to give it, and the statements of one decision for pgbench. */
const definition: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "bench",
  name: "Bench",
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: "BENCH", digits: 6 },
  title: "Bench {Amount}",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  access: {},
  samples: [],
  fields: [
    { id: "amount", name: "Amount", kind: "money", needed: "true" },
    ...Array.from({ length: 10 }, (_, i) => ({ id: `t${i}`, name: `Text ${i}`, kind: "text" as const })),
  ],
  route: [
    {
      id: "check",
      name: "Check",
      kind: "decide",
      who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
      answers: [{ id: "approve", label: "Approve", tone: "agree", steps: [] }],
    },
    {
      id: "then",
      name: "Then",
      kind: "complete",
      who: { rule: { by: "person", person: "maeve.dunlea" }, how: "one" },
      button: "Done",
      limit: {
        otherwise: { amount: 2, unit: "working days" },
        rungs: [{ id: "r", when: "at", action: { do: "remind" } }],
      },
    },
    { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" },
  ],
};

/** A draft whose sheets are long. */
const long: ProcessDefinition = {
  ...definition,
  key: "bench-sheet",
  name: "Bench of sheets",
  numbering: { prefix: "SHEET", digits: 6 },
  title: "{Amount 0}",
  fields: Array.from({ length: 300 }, (_, i) => ({
    id: `f${i}`,
    name: `Amount ${i}`,
    kind: "money",
    ...(i % 3 === 1 ? { worked: `Amount ${i - 1} * 2`, shown: `Amount ${i - 1} > 10` } : {}),
  })),
  route: [
    ...Array.from({ length: 299 }, (_, i): ProcessDefinition["route"][number] => ({
      id: `s${i}`,
      name: `Check ${i}`,
      kind: "complete",
      who: { rule: { by: "formula", formula: "Requester" }, how: "one" },
      button: "Done",
    })),
    { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" },
  ],
};

/** Of the bench, pgbench's too. */
const CLIENTS = 8;

async function main() {
  const db = getPool();
  const sheet = await createProcess(SYSTEM, long);
  if (!sheet.ok) throw new Error(JSON.stringify(sheet.failure));
  const made = await createProcess(SYSTEM, definition);
  if (!made.ok) throw new Error(JSON.stringify(made.failure));
  const released = await releaseDraft(SYSTEM, "bench", "1.0.0", "");
  if (!released.ok) throw new Error(JSON.stringify(released.failure));
  const asker = (await actorOf(db, "piet.hanlon"))!;
  const numbers: string[] = [];
  const data = {
    amount: "12.50",
    ...Object.fromEntries(Array.from({ length: 10 }, (_, i) => [`t${i}`, "some words of ordinary length"])),
  };
  const count = Number(process.argv[2]) + 1;
  for (let i = 0; i < count; i += 8)
    for (const r of await Promise.all(
      Array.from({ length: Math.min(8, count - i) }, () => startRequest(asker, "bench", data)),
    )) {
      if (!r.ok) throw new Error(JSON.stringify(r.failure));
      numbers.push(r.value.number);
    }
  const key = await makeKey(
    (await actorOf(db, "sorcha.lind", { kind: "session", id: "0", provedAt: Date.now() }))!,
    "sorcha.lind",
    "bench",
  );
  if (!key.ok) throw new Error("no key");
  const tasks = (await db.query("select distinct id from task")).rows.map((r) => r.id);
  if (tasks.join() !== "t3") throw new Error(`tasks are ${tasks.join()}`);
  // The last one is answered here, to see how that is asked of the database.
  const statements = await statementsOf(key.value.key, numbers.pop()!);
  const { low } = (await db.query("select min(id)::int as low from request where process_key = 'bench'"))
    .rows[0];
  process.stdout.write(
    `${JSON.stringify({ key: key.value.key, numbers, script: pgbenchScript(low, statements, CLIENTS), bare: { low, statements } })}\n`,
  );
  await closePool();
}

interface Statement {
  text: string;
  values: unknown[];
}
/** What the database is asked while something is done. */
async function noting(work: () => Promise<void>): Promise<Statement[]> {
  const pool = getPool();
  const asked: Statement[] = [];
  const query = pool.query.bind(pool) as (...args: unknown[]) => unknown;
  Object.assign(pool, {
    query(q: string | Statement, values?: unknown[]) {
      asked.push(
        typeof q === "string" ? { text: q, values: values ?? [] } : { text: q.text, values: q.values },
      );
      return query(q, values);
    },
  });
  await work();
  Object.assign(pool, { query });
  return asked;
}

/**
 * The statements of one answer, as the services sent them, to be sent again about other requests like it: `$1` of the
 * last two is the request.
 */
async function statementsOf(key: string, number: string): Promise<Statement[]> {
  const db = getPool();
  const { id } = (await db.query("select id from request where number = $1", [number])).rows[0];
  await actorOfKey(key);
  const all = await noting(async () => {
    const actor = await actorOfKey(key);
    const done = await act(actor!, number, {
      type: "answer",
      task: "t3",
      answer: "approve",
      note: "",
      data: {},
      seen: 9,
    });
    if (!done.ok) throw new Error(JSON.stringify(done.failure));
  });
  const [who, read, save] = all;
  if (all.length !== 3 || !read!.text.includes("r.number = $1") || save!.values[0] !== id)
    throw new Error(`one answer is ${all.length} statements:\n${all.map((s) => s.text).join("\n")}`);
  return [
    who!,
    {
      text: read!.text.replace("r.number = $1", "r.id = $1::bigint"),
      values: [null, ...read!.values.slice(1)],
    },
    { ...save!, values: [null, ...save!.values.slice(1)] },
  ];
}

/** For pgbench, whose clients take turns through the requests; values stand in the text, as it has numbers only. */
function pgbenchScript(low: number, statements: readonly Statement[], clients: number): string {
  const literal = (v: unknown): string => {
    if (v === null) return "null";
    if (Buffer.isBuffer(v)) return `'\\x${v.toString("hex")}'`;
    // pgbench takes a colon before a letter or figure for a variable.
    const colons = (x: string) =>
      x.replace(/"(?:[^"\\]|\\.)*"/g, (y) => y.replaceAll(":", "\\u003a")).replaceAll(":", ": ");
    const text = typeof v === "string" && /^[[{]/.test(v) ? colons(v) : String(v);
    return `'${text.replaceAll("'", "''")}'`;
  };
  const all = statements.map(({ text, values }) =>
    text
      .replace(/\$(\d+)/g, (_, n: string) =>
        values[Number(n) - 1] === null && n === "1" ? ":id" : literal(values[Number(n) - 1]),
      )
      .replace(/\s+/g, " ")
      .trim(),
  );
  return `\\set i :i + 1\n\\set id ${low} + :client_id + ${clients} * :i\n${all.join(";\n")};\n`;
}
void main();
