import { spawn } from "node:child_process";
import { randomUUID } from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import type { ProcessDefinition } from "@/core/route";
import { closePool, getPool } from "@/db";
import { portsOf } from "@/core/kinds";
import { KINDS } from "@/kinds";
import { decide } from "@/steps/decide/kind";
import {
  actorOf,
  bringSheet,
  createProcess,
  makeKey,
  releaseDraft,
  replayRequests,
  sheetPage,
  SYSTEM,
  writeSheet,
  type Actor,
} from "@/services";
import { Random } from "../../demo/random";
import { ensureBuild } from "../lib/build.mjs";
import { ensureDatabase, freePort, removeCluster, startCluster } from "../lib/cluster.mjs";
import { KeptRunning } from "./keptRunning";

/**
 * Kills worker, web process and database at random moments under load, then holds all that was accepted against what is
 * kept: `npm run kills -- 200 1 20` for so many kills, by a seed, and then for so many of one of two workers while
 * hundreds of requests wait, loop and hand on
 */
const [kills, seed] = [Number(process.argv[2] ?? 200), Number(process.argv[3] ?? 1)];
const CLIENTS = 6;
const workerKills = Number(process.argv[4] ?? 20);
/** Milliseconds between two of them: each needs a while in which timers fall due. */
const KILLED_AFTER = [2500, 4500] as const;
const root = process.cwd();
const folder = join(root, ".local/kills");
const random = new Random(seed);
const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms));
const say = (line: string) => process.stdout.write(`${new Date().toISOString().slice(11, 19)}  ${line}\n`);

/** Rounds of a request that waits, and how often it goes through them. */
const [ROUNDS, TIMES] = [3, 2];
/** Requests that wait while workers are killed, and how long they take to their end. */
const [SLEEPERS, SLEPT_MS] = [300, (TIMES + 1) * 60_000 + 45_000];

/** Sheets that are brought in while workers are killed, and their rows: each takes longer than it is between kills. */
const [SHEETS, SHEET_ROWS] = [5, 4000];

const DECIDE = decide.blank("decide");
/** What each round hands to a procedure. */
const HANDED: ProcessDefinition["fields"] = [
  { id: "time", name: "Time", kind: "number", needed: "true", hand: "in" },
  { id: "turn", name: "Turn", kind: "number", needed: "true", hand: "in" },
];
const PAUSE: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "pause",
  name: "Pause",
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: "", digits: 4 },
  title: "",
  starts: [],
  fields: HANDED,
  access: {},
  route: [
    {
      id: "pause",
      name: "Pause",
      kind: "wait",
      for: [{ id: "m", length: { amount: 1, unit: "minutes" } }],
    },
    {
      id: "write",
      name: "Write",
      kind: "write",
      op: "add",
      register: "objects",
      values: [
        {
          column: "accession_number",
          value: 'Request.number + "/" + string(Time) + "/" + string(Turn)',
        },
        { column: "title", value: '"Made in a round"' },
      ],
    },
  ] as ProcessDefinition["route"],
  samples: [],
  procedure: true,
};
/** A request of its own that each of those that wait starts, and waits for: sleeps some seconds, then writes a record. */
const PAPER: ProcessDefinition = {
  ...PAUSE,
  key: "paper",
  name: "Paper",
  numbering: { prefix: "PAP", digits: 5 },
  starts: [{ id: "handed", kind: "handed", from: { by: "these", processes: ["waiting"] } }],
  fields: [{ id: "of", name: "Of", kind: "text", needed: "true", hand: "in and out" }],
  route: [
    { id: "rest", name: "Rest", kind: "wait", for: [{ id: "m", length: { amount: 0.1, unit: "minutes" } }] },
    {
      id: "file",
      name: "File",
      kind: "write",
      op: "add",
      register: "objects",
      values: [
        { column: "accession_number", value: 'Of + "/" + Request.number' },
        { column: "title", value: '"Made by another"' },
      ],
    },
  ] as ProcessDefinition["route"],
};
delete PAPER.procedure;
const WAITING: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "waiting",
  name: "Waiting",
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: "WAIT", digits: 5 },
  title: "",
  starts: [KINDS.starts.form.blank("form")],
  fields: [
    { id: "time", name: "Time", kind: "number" },
    { id: "came", name: "Came", kind: "text" },
  ],
  access: {},
  // Twice through three rounds, each handed to a procedure that sleeps a minute and then writes a record; then somebody
  // is asked.
  route: [
    {
      id: "again",
      name: "Count",
      kind: "work out",
      set: [{ field: "time", value: "(if Time = null then 0 else Time) + 1" }],
    },
    {
      id: "rounds",
      name: "Rounds",
      kind: "for each",
      over: { times: String(ROUNDS) },
      item: "Turn",
      bodies: [
        {
          id: "round",
          steps: [
            {
              id: "through",
              name: "Paused",
              kind: "hand to",
              procedure: "pause",
              ...portsOf(HANDED),
              values: [
                { port: "time", value: "Time" },
                { port: "turn", value: "Turn number" },
              ],
            },
          ],
        },
      ],
    },
    { id: "loop", name: "Once more", kind: "jump", to: "again", when: `Time < ${TIMES}` },
    {
      id: "paper",
      name: "Papers",
      kind: "start request",
      process: "paper",
      ...portsOf(PAPER.fields),
      values: [{ port: "of", value: "Request.number" }],
      waits: true,
      endsWith: true,
    },
    { id: "keep", name: "Keep", kind: "work out", set: [{ field: "came", value: "Papers.Of" }] },
    {
      ...DECIDE,
      who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
      limit: {
        otherwise: { amount: 1, unit: "minutes" },
        rungs: [{ id: "end", when: "at", action: { do: "answer", answer: DECIDE.answers[0]!.id, note: "" } }],
      },
    },
  ] as ProcessDefinition["route"],
  samples: [],
};

/** Started by each record that those which wait have written, once. */
const NOTICED: ProcessDefinition = {
  ...WAITING,
  key: "noticed",
  name: "Noticed",
  numbering: { prefix: "NOTED", digits: 5 },
  starts: [
    {
      id: "added",
      kind: "record",
      register: "objects",
      on: "added",
      when: 'starts with(Accession number, "WAIT")',
      into: "object",
      values: [{ field: "what", value: "Accession number" }],
    },
  ],
  fields: [
    { id: "object", name: "Object", kind: "look-up", register: "objects" },
    { id: "what", name: "What", kind: "text" },
  ],
  route: [{ id: "end", name: "Finish", kind: "finish", result: "noted", tone: "agree" }],
};

interface Said {
  /** By idempotency key the number that was told. */
  started: Map<string, string>;
  /** Requests to which an answer was accepted. */
  answered: Set<string>;
  calls: number;
  refused: number;
}

async function client(
  base: string,
  keys: Record<string, string>,
  said: Said,
  going: () => boolean,
): Promise<void> {
  const call = async (who: string, method: string, path: string, body?: unknown, idempotency?: string) => {
    for (;;) {
      said.calls++;
      try {
        const r = await fetch(`${base}/api/v1${path}`, {
          method,
          headers: {
            authorization: `Bearer ${keys[who]}`,
            ...(idempotency ? { "idempotency-key": idempotency } : {}),
          },
          ...(body === undefined ? {} : { body: JSON.stringify(body) }),
          signal: AbortSignal.timeout(20_000),
        });
        // Our own mistakes are no excuse: only what is said to be tried again is.
        if (r.status < 500 || r.status === 500)
          return { status: r.status, body: (await r.json()) as Record<string, unknown> };
      } catch {
        // Killed in the middle: whoever asks does not know, and asks again.
      }
      said.refused++;
      await sleep(80);
    }
  };
  while (going()) {
    const key = randomUUID();
    const large = Math.random() < 0.4;
    const items = [{ "#": "1", item: large ? "11" : "5", quantity: large ? "80" : "1" }];
    const data = { project: "Kills", reason: "Because.", items };
    const made = await call("piet.hanlon", "POST", "/processes/supplies/requests", { data }, key);
    if (made.status !== 201) throw new Error(`a start came to ${made.status}: ${JSON.stringify(made.body)}`);
    const number = String(made.body["number"]);
    said.started.set(key, number);
    if (!large) continue;
    const tasks = await call("sorcha.lind", "GET", `/requests/${number}`);
    if (tasks.status !== 200) continue;
    const mine = (await call("sorcha.lind", "GET", "/tasks")).body["tasks"] as {
      request: string;
      task: string;
    }[];
    const task = mine?.find((t) => t.request === number)?.task;
    if (!task) continue;
    const { seen } = (await call("sorcha.lind", "GET", `/requests/${number}/tasks/${task}`)).body;
    const r = await call("sorcha.lind", "POST", `/requests/${number}/tasks/${task}/answer`, {
      answer: "approve",
      seen,
      data: {},
    });
    // A second try after one that was kept and never told is refused, and was accepted all the same.
    if (r.status === 200 || r.body["code"] === "already-answered") said.answered.add(number);
    else throw new Error(`an answer came to ${r.status}: ${JSON.stringify(r.body)}`);
  }
}

/** Brings sheets in one after another, tried and written, for as long as workers do it. @returns how often each ended */
async function bringSheets(keeper: Actor): Promise<Record<string, number>> {
  const ended: Record<string, number> = {};
  const until = async (id: string, ...wanted: string[]): Promise<{ status: string; asking: number }> => {
    for (let i = 0; i < 3000; i++) {
      const page = await sheetPage(keeper, id, null, 0);
      if (page.ok && [...wanted, "failed"].includes(page.value.sheet.status)) return page.value.sheet;
      await sleep(100);
    }
    throw new Error(`sheet ${id} comes to no end`);
  };
  for (let n = 0; n < SHEETS; n++) {
    const rows = Array.from({ length: SHEET_ROWS }, (_, i) => `SHEET${n}.${i},Brought in`);
    const csv = Buffer.from(["Accession number,Title", ...rows].join("\n"));
    const made = await bringSheet(keeper, "objects", `${n}.csv`, csv);
    if (!made.ok) throw new Error(JSON.stringify(made.failure));
    const { id } = made.value;
    const tried = await until(id, "tried");
    if (tried.status === "tried") await writeSheet(keeper, id, tried.asking);
    const { status } = await until(id, "done");
    ended[status] = (ended[status] ?? 0) + 1;
  }
  return ended;
}

/** How many of the sheets' rows are records, and how many of the sheets are in by a part. */
const sheetsIn = async (): Promise<{ rows: number; parts: number }> =>
  (
    await getPool().query(
      `
        select coalesce(sum(n), 0)::int as rows, count(*) filter (where n <> $1)::int as parts
        from (
          select split_part(accession_number, '.', 1) as sheet, count(*) as n
          from register.objects
          where starts_with(accession_number, 'SHEET')
          group by 1
        ) s
      `,
      [SHEET_ROWS],
    )
  ).rows[0];

const jobsLeft = async (): Promise<number> =>
  (
    await getPool().query<{ n: number }>(
      "select count(*)::int n from graphile_worker.jobs where run_at < now() and attempts < max_attempts",
    )
  ).rows[0]!.n;

/** Waits until workers have done what is to be done now. */
async function quiet(): Promise<void> {
  for (let i = 0; i < 1200; i++) {
    if ((await jobsLeft().catch(() => 1)) === 0) return;
    await sleep(100);
  }
  throw new Error("jobs are left that nobody does");
}

async function check(said: Said): Promise<string[]> {
  const wrong: string[] = [];
  const db = getPool();
  const rows = async <T>(text: string, values: unknown[] = []) => (await db.query(text, values)).rows as T[];
  const kept = new Map(
    (
      await rows<{ k: string; n: string }>(
        "select start_key k, number n from request where start_key is not null",
      )
    ).map((r) => [r.k.slice(r.k.indexOf(":") + 1), r.n]),
  );
  for (const [key, number] of said.started)
    if (kept.get(key) !== number) wrong.push(`${number} was told and is kept as ${kept.get(key)}`);
  const answers = new Map(
    (
      await rows<{ n: string; c: number }>(
        "select r.number n, count(*)::int c from request r join request_event e on e.request_id = r.id where e.type = 'answer given' group by 1",
      )
    ).map((r) => [r.n, r.c]),
  );
  for (const number of said.answered)
    if (answers.get(number) !== 1)
      wrong.push(`${number} was answered and has ${answers.get(number) ?? 0} answers`);
  const told = await rows<{ n: string; c: number }>(
    "select r.number n, (select count(*)::int from notice x where x.request_id = r.id and x.kind = 'told') c from request r where r.process_key = 'supplies' and r.ended_at is not null",
  );
  for (const t of told) if (t.c !== 1) wrong.push(`${t.n} was told ${t.c} times`);
  const dead = await rows("select 1 from graphile_worker.jobs where attempts >= max_attempts");
  if (dead.length > 0) wrong.push(`${dead.length} jobs gave up`);
  const replayed = await replayRequests(SYSTEM);
  if (replayed.differ.length > 0)
    wrong.push(`${replayed.differ.length} requests are kept otherwise than their events tell`);
  say(
    `${replayed.requests} requests, ${replayed.events} events replayed; ${told.length} ended and told once each`,
  );
  return wrong;
}

async function main() {
  removeCluster(folder);
  await ensureBuild(root);
  const port = await freePort(54510);
  let cluster = await startCluster(folder, { port });
  await ensureDatabase(cluster, "kills");
  const url = cluster.url("kills");
  const web = await freePort(3600);
  const env: NodeJS.ProcessEnv = {
    ...process.env,
    DATABASE_URL: url,
    NODE_ENV: "production",
    COBBLE_DEMO: "1",
    CALLS_PER_MINUTE: "1000000",
    COBBLE_REQUESTS: "0",
    COBBLE_OBJECTS: "50",
    PORT: String(web),
  };
  await new Promise((done) =>
    spawn(process.execPath, ["dist/demo/main.cjs"], { env, stdio: "ignore" }).on("exit", done),
  );
  process.env["DATABASE_URL"] = url;
  const db = getPool();
  for (const definition of [PAUSE, PAPER, WAITING, NOTICED]) {
    const made = await createProcess(SYSTEM, definition);
    if (!made.ok) throw new Error(JSON.stringify(made.failure));
    const released = await releaseDraft(SYSTEM, definition.key, "1.0.0", "");
    if (!released.ok) throw new Error(JSON.stringify(released.failure));
  }
  const keys: Record<string, string> = {};
  for (const id of ["piet.hanlon", "sorcha.lind"]) {
    const actor = await actorOf(db, id, { kind: "session", id: "0", provedAt: Date.now() });
    const key = await makeKey(actor!, id, "kills");
    if (!key.ok) throw new Error("no key");
    keys[id] = key.value.key;
  }
  const base = `http://127.0.0.1:${web}`;
  const server = new KeptRunning("dist/src/web/server.cjs", env);
  const workers = [1, 2].map(() => new KeptRunning("dist/src/worker/main.cjs", env));
  const up = async () => {
    for (let i = 0; i < 600; i++) {
      if (
        await fetch(`${base}/api/health`).then(
          (r) => r.ok,
          () => false,
        )
      )
        return;
      await sleep(100);
    }
    throw new Error("the web process does not come back");
  };
  await up();

  let going = true;
  const said: Said = { started: new Map(), answered: new Set(), calls: 0, refused: 0 };
  const clients = Array.from({ length: CLIENTS }, () => client(base, keys, said, () => going));
  const failed = Promise.all(clients).then(
    () => null,
    (e: unknown) => e,
  );
  const counts = { worker: 0, web: 0, database: 0 };
  const began = Date.now();
  for (let i = 0; i < kills; i++) {
    await sleep(random.int(150, 1300));
    const what = random.pick(["worker", "worker", "web", "web", "database"] as const);
    counts[what]++;
    if (what === "worker") workers[random.int(0, 1)]!.kill();
    else if (what === "web") server.kill();
    else {
      // As when the power goes: no checkpoint, no good-byes.
      const pid = Number(readFileSync(join(folder, "data/postmaster.pid"), "utf8").split("\n")[0]);
      process.kill(pid, "SIGQUIT");
      while (existsSync(`/proc/${pid}`)) await sleep(20);
      cluster = await startCluster(folder, { port });
    }
    if (i % 20 === 19) say(`${i + 1} kills, ${said.started.size} requests, ${said.answered.size} answers`);
  }
  const seconds = (Date.now() - began) / 1000;
  await up();
  going = false;
  const error = await failed;
  if (error) throw error;
  await quiet();
  say(
    `${kills} kills in ${seconds.toFixed(0)} s (${counts.worker} worker, ${counts.web} web, ${counts.database} database): ${said.started.size} requests and ${said.answered.size} answers accepted, ${said.refused} of ${said.calls} calls repeated`,
  );
  const wrong = await check(said);

  // Two workers, one killed now and then, while timers fall due all the time.
  // All through the kills some begin, sleep and end.
  const pace = Math.max(300, (workerKills * (KILLED_AFTER[0] + KILLED_AFTER[1])) / 2 / SLEEPERS);
  const starting = (async () => {
    for (let i = 0; i < SLEEPERS; i++) {
      await fetch(`${base}/api/v1/processes/waiting/requests`, {
        method: "POST",
        headers: { authorization: `Bearer ${keys["piet.hanlon"]}` },
        body: JSON.stringify({ data: {} }),
      });
      await sleep(pace);
    }
  })();
  await sleep(60_000);
  const sheets = bringSheets((await actorOf(db, "maeve.dunlea"))!);
  for (let i = 0; i < workerKills; i++) {
    await sleep(random.int(...KILLED_AFTER));
    workers[random.int(0, 1)]!.kill();
  }
  await starting;
  const ended = await sheets;
  await sleep(SLEPT_MS);
  await quiet();
  const { rows: late } = await db.query<{ n: number; worst: number; median: number }>(
    `
      with
        due as (
          select e.request_id, e.body -> 'timer' ->> 'visit' as of, (e.body -> 'timer' ->> 'at')::float8 as at
          from request_event e join request r on r.id = e.request_id
          where r.process_key = 'waiting' and e.type = 'timer set'
        ),
        done as (
          select
            e.request_id,
            coalesce(e.body ->> 'visit', e.body ->> 'sleep') as of,
            extract(epoch from e.at) * 1000 as at
          from request_event e join request r on r.id = e.request_id
          where r.process_key = 'waiting' and e.type in ('rung fired', 'woke')
        )
      select count(*)::int as n, max(done.at - due.at) / 1000 as worst,
        percentile_cont(0.5) within group (order by done.at - due.at) / 1000 as median
      from due left join done using (request_id, of)
    `,
  );
  const missing = (
    await db.query<{ n: number }>(
      "select count(*)::int n from request where process_key = 'waiting' and ended_at is null",
    )
  ).rows[0]!.n;
  const { rows: written } = await db.query<{ n: number; once: boolean }>(
    `
      select
        (select count(*)::int from register.objects where title = 'Made in a round') as n,
        not exists (
          select 1
          from register_history h join request r on r.number = h.request_number
          where r.process_key = 'waiting'
          group by r.id
          having count(*) <> $1
        ) as once
    `,
    [ROUNDS * TIMES],
  );
  const { rows: papers } = await db.query<{ wrong: number; made: number }>(
    `
      select
        (select count(*)::int from register.objects where title = 'Made by another') as made,
        (
          select count(*)::int
          from request r
          where
            r.process_key = 'waiting'
            and (
              r.state -> 'data' ->> 'came' is distinct from r.number
              or (select count(*) from request_child c where c.parent_id = r.id) <> 1
            )
        ) as wrong
    `,
  );
  if (papers[0]!.wrong > 0 || papers[0]!.made !== SLEEPERS)
    wrong.push(`${papers[0]!.wrong} have not one other request that ended; ${papers[0]!.made} wrote`);
  const { rows: noticed } = await db.query<{ added: number; made: number; different: number; left: number }>(
    `
      select
        (select count(*)::int from register.objects where starts_with(accession_number, 'WAIT')) as added,
        count(*)::int as made,
        count(distinct r.state::jsonb -> 'data' ->> 'what')::int as different,
        (select count(*)::int from record_start where done_at is null or why is not null) as left
      from request r
      where r.process_key = 'noticed'
    `,
  );
  const { added, made, different, left } = noticed[0]!;
  if (added !== SLEEPERS * (ROUNDS * TIMES + 1) || made !== added || different !== added || left > 0)
    wrong.push(
      `${added} records were added, ${made} requests begun by ${different} of them, ${left} are left`,
    );
  say(`${added} records were added, and ${made} requests begun by ${different} of them`);
  const brought = await sheetsIn();
  const done = ended["done"] ?? 0;
  say(
    `${SHEETS} sheets of ${SHEET_ROWS} rows were brought in meanwhile: ${JSON.stringify(ended)}, ${brought.rows} records`,
  );
  if (done !== SHEETS || brought.rows !== SHEETS * SHEET_ROWS || brought.parts > 0)
    wrong.push(`${done} of ${SHEETS} sheets are in, ${brought.parts} by a part: ${brought.rows} records`);
  const expected = SLEEPERS * ROUNDS * TIMES;
  if (written[0]!.n !== expected || !written[0]!.once)
    wrong.push(`rounds wrote ${written[0]!.n} records, not ${expected} once each`);
  say(
    `${late[0]!.n} timers with two workers and ${workerKills} kills of one: median ${Number(late[0]!.median).toFixed(2)} s late, at most ${Number(late[0]!.worst).toFixed(2)} s; ${missing} never`,
  );
  const again = await replayRequests(SYSTEM);
  if (again.differ.length > 0)
    wrong.push(`${again.differ.length} requests are kept otherwise than their events tell`);
  if (missing > 0 || Number(late[0]!.worst) > 5) wrong.push("a timer was late or lost");
  server.stop();
  workers.forEach((w) => w.stop());
  await closePool();
  await cluster.stop();
  removeCluster(folder);
  say(wrong.length === 0 ? "Nothing lost, nothing doubled." : wrong.slice(0, 20).join("\n"));
  process.exit(wrong.length === 0 ? 0 : 1);
}
main().catch((e: unknown) => {
  process.stderr.write(`${e instanceof Error ? e.stack : String(e)}\n`);
  process.exit(1);
});
