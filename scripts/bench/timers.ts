import { spawn, type ChildProcess } from "node:child_process";
import { readFileSync } from "node:fs";
import { cpus } from "node:os";
import { closePool, getPool } from "@/db";
import { becomePerson, createProcess, releaseDraft, startRequest, SYSTEM, actorOf } from "@/services";
import type { ProcessDefinition } from "@/core/route";

/**
 * Timers that are all due at once: fired by one worker and by two, with the Desk asked meanwhile; and what a worker
 * costs that has nothing to do. Arguments: the web server's address, and how many timers.
 */
const base = process.argv[2]!;
const TIMERS = Number(process.argv[3] ?? 100_000);
const IDLE_S = 20;
const DESK_EVERY_MS = 250;
const BUDGET = { twice: 1.6, deskMs: 300, idle: 0.02 } as const;
/** Clock ticks of Linux in a second, as /proc counts them. */
const TICKS = 100;

const definition: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "bench-timers",
  name: "Bench of timers",
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: "TIME", digits: 6 },
  title: "Bench {Amount}",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  access: {},
  samples: [],
  fields: [{ id: "amount", name: "Amount", kind: "money", needed: "true" }],
  route: [
    {
      id: "check",
      name: "Check",
      kind: "decide",
      who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
      answers: [{ id: "approve", label: "Approve", tone: "agree", steps: [] }],
      limit: {
        otherwise: { amount: 2, unit: "working days" },
        rungs: [{ id: "r", when: "at", action: { do: "remind" } }],
      },
    },
    { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" },
  ],
};

/** A request that waits with a timer, as often as wanted: copies of its rows. */
async function seed() {
  const db = getPool();
  const made = await createProcess(SYSTEM, definition);
  if (!made.ok) throw new Error(JSON.stringify(made.failure));
  const released = await releaseDraft(SYSTEM, definition.key, "1.0.0", "");
  if (!released.ok) throw new Error(JSON.stringify(released.failure));
  const asker = (await actorOf(db, "piet.hanlon"))!;
  const one = await startRequest(asker, definition.key, { amount: "12.50" });
  if (!one.ok) throw new Error(JSON.stringify(one.failure));
  const client = await db.connect();
  await client.query("set statement_timeout = 0");
  await client.query(
    `
      with
        t as (select * from request where number = $1),
        n as (
          insert into request (number, process_key, release_id, requester_id, title, status, state, version, started_at)
          select 'DUE-' || g, t.process_key, t.release_id, t.requester_id, t.title, t.status,
            jsonb_set(t.state::jsonb, '{number}', to_jsonb('DUE-' || g))::json, t.version, t.started_at
          from t, generate_series(1, $2::int) g
          returning id
        ),
        e as (
          insert into request_event (request_id, seq, type, at, by_person, body, format)
          select n.id, e.seq, e.type, e.at, e.by_person, e.body, e.format
          from n, t join request_event e on e.request_id = t.id
        ),
        k as (
          insert into task (request_id, id, step_id, step_name, purpose, holder_id, status, opened_at, due_at)
          select n.id, k.id, k.step_id, k.step_name, k.purpose, k.holder_id, k.status, k.opened_at, k.due_at
          from n, t join task k on k.request_id = t.id
          returning request_id
        ),
        c as (
          insert into task_candidate (request_id, task_id, person_id, due_at, opened_at, open)
          select n.id, c.task_id, c.person_id, c.due_at, c.opened_at, c.open
          from n, t join task_candidate c on c.request_id = t.id
        )
      insert into timer (request_id, id, due_at)
      select n.id, m.id, m.due_at from n, t join timer m on m.request_id = t.id
    `,
    [one.value.number, TIMERS],
  );
  await client.query("analyze");
  // A month later all of them are due.
  await client.query(
    `insert into setting (key, value) values ('clock_offset', to_jsonb($1::bigint))
     on conflict (key) do update set value = excluded.value`,
    [30 * 86_400_000],
  );
  client.release(true);
}

const workers: ChildProcess[] = [];
function start(): ChildProcess {
  const w = spawn(process.execPath, ["dist/src/worker/main.cjs"], { env: process.env, stdio: "ignore" });
  workers.push(w);
  return w;
}
const stop = (w: ChildProcess) =>
  new Promise<void>((resolve) => {
    if (w.exitCode !== null) return resolve();
    w.once("exit", () => resolve());
    w.kill("SIGTERM");
  });
const waiting = async (): Promise<number> =>
  Number((await getPool().query("select count(*) as n from timer")).rows[0].n);
const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));

/** Milliseconds all cores together have been at work so far, with whatever. */
const atWork = (): number => cpus().reduce((sum, { times: t }) => sum + t.user + t.nice + t.sys + t.irq, 0);

interface Fired {
  perSecond: number;
  /** How many cores were at work meanwhile, with everything. */
  cores: number;
}
/** Timers fired, from the first to when only `left` are there. */
async function fired(left: number): Promise<Fired> {
  const all = await waiting();
  let began = 0;
  let from = all;
  let work = 0;
  for (;;) {
    await pause(500);
    const now = await waiting();
    // The clock runs once the workers do.
    if (began === 0 && now < all) [began, from, work] = [performance.now(), now, atWork()];
    if (now > left) continue;
    const ms = performance.now() - began;
    return { perSecond: (from - now) / (ms / 1000), cores: (atWork() - work) / ms };
  }
}

/** CPU seconds of a process so far. */
function cpuOf(w: ChildProcess): number {
  const stat = readFileSync(`/proc/${w.pid}/stat`, "utf8");
  const [user, system] = stat
    .slice(stat.lastIndexOf(")") + 2)
    .split(" ")
    .slice(11, 13)
    .map(Number);
  return (user! + system!) / TICKS;
}

async function main() {
  await seed();
  const session = await becomePerson("piet.hanlon", { browser: "bench", earlier: null, known: null });
  const headers = { cookie: `cobble_session=${session!.token}` };
  const desk = async (): Promise<number> => {
    const began = performance.now();
    await (await fetch(`${base}/desk`, { headers })).text();
    return performance.now() - began;
  };
  for (let i = 0; i < 20; i++) await desk();
  const ms: number[] = [];
  let asking = true;
  // Both are measured with the Desk asked meanwhile.
  const asked = (async () => {
    for (; asking; await pause(DESK_EVERY_MS)) ms.push(await desk());
  })();
  const first = start();
  const one = await fired(Math.floor(TIMERS / 2));
  start();
  await pause(3_000);
  const two = await fired(0);
  asking = false;
  await asked;
  const p95 = [...ms].sort((a, b) => a - b)[Math.floor(ms.length * 0.95)]!;
  await stop(workers[1]!);
  await pause(3_000);
  const before = cpuOf(first);
  await pause(IDLE_S * 1000);
  const idle = (cpuOf(first) - before) / IDLE_S;
  await stop(first);
  const line = (what: string, says: string, budget: string, over: boolean) =>
    process.stdout.write(`${what.padEnd(44)} ${says.padEnd(36)} budget ${budget}${over ? "  OVER" : ""}\n`);
  const says = (f: Fired) => `${f.perSecond.toFixed(0)}/s with ${f.cores.toFixed(2)} cores at work`;
  const ratio = two.perSecond / one.perSecond;
  // Where one keeps most cores at work there is no room for a second, whatever it does.
  const room = cpus().length / one.cores;
  line(`${TIMERS} due timers, one worker`, says(one), "", false);
  line("two workers", says(two), "", false);
  line(
    "two beside one",
    `${ratio.toFixed(2)}, cores allow ${room.toFixed(2)}`,
    `${BUDGET.twice}, or 0.9 of what cores allow`,
    ratio < Math.min(BUDGET.twice, 0.9 * room),
  );
  line(
    "Desk meanwhile, 95th percentile",
    `${p95.toFixed(0)} ms of ${ms.length}`,
    `${BUDGET.deskMs} ms`,
    p95 > BUDGET.deskMs,
  );
  line(
    "a worker with nothing to do",
    `${(idle * 100).toFixed(1)}% of a core`,
    `${BUDGET.idle * 100}%`,
    idle > BUDGET.idle,
  );
}
main()
  .then(closePool)
  .catch(async (e: unknown) => {
    process.stderr.write(`${e instanceof Error ? (e.stack ?? e.message) : String(e)}\n`);
    await Promise.all(workers.map(stop));
    process.exit(1);
  });
