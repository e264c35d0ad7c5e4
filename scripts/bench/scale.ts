import { closePool, getPool } from "@/db";
import type { ProcessDefinition, Step } from "@/core/route";
import {
  actorOf,
  becomePerson,
  createProcess,
  find,
  indexRegisters,
  releaseDraft,
  startRequest,
  SYSTEM,
} from "@/services";
import { seedAtScale, SIZE } from "./scaleSeed";

/**
 * A million requests and ten thousand people. First run with "seed" fills the database; with an address it asks the web
 * server there for each page and prints medians, the slowest, and how much is sent, beside the budgets.
 */
const ASKED = 7;
const BUDGET_MS = 100;
const BUDGET_KIB = 150;
const BUDGET_SQL_MS = 30;
/** Seconds in which the directory changes each second, and what a page may take meanwhile. */
const CHANGING_S = 20;
const CHANGING_MS = 200;

/** What a Find step may take that looks for one record among all by what is indexed. */
const FIND_MS = 20;

const median = (ms: readonly number[]): number => [...ms].sort((a, b) => a - b)[Math.floor(ms.length / 2)]!;

async function main() {
  const db = getPool();
  if (process.argv[2] === "seed") {
    await seedAtScale(db, (line) => process.stdout.write(`  ${line}\n`));
    await indexRegisters(SYSTEM);
    const client = await db.connect();
    await client.query("set statement_timeout = 0; analyze");
    client.release(true);
    return;
  }
  const base = process.argv[2]!;
  const only = process.argv[3];
  const cookieOf = async (person: string): Promise<string> => {
    const s = await becomePerson(person, { browser: "bench", earlier: null, known: null });
    if (!s) throw new Error(`nobody is ${person}`);
    return `cobble_session=${s.token}`;
  };
  // A request that was really made: the many others are copies of its row.
  const [real] = (
    await db.query(
      `select r.number, c.task_id as task, c.person_id as person from task_candidate c join request r on r.id = c.request_id where c.open and r.number not like 'NEW-%' order by r.id limit 1`,
    )
  ).rows as { number: string; task: string; person: string }[];
  const { number, task, person } = real!;
  const owner = await cookieOf("tobias.marrin");
  const busy = await cookieOf("p1");
  const calm = await cookieOf("p77");
  const office = await cookieOf(
    (await db.query("select id from person where office_rights and active limit 1")).rows[0].id,
  );
  const last = Math.ceil(SIZE.records / 50);
  const pages: [what: string, cookie: string, path: string][] = [
    ["Ask", calm, "/ask"],
    ["Desk with few", calm, "/desk"],
    [`Desk with ${SIZE.desk}`, busy, "/desk"],
    ["Ask form", calm, "/ask/supplies"],
    ["task", await cookieOf(person), `/desk/${number}/${task}`],
    ["request", owner, `/requests/${number}`],
    ["Progress, under way", owner, "/progress"],
    ["Progress, late", owner, "/progress?view=late"],
    ["Progress, stuck", owner, "/progress?view=stuck"],
    ["Progress, ended", owner, "/progress?view=ended"],
    ["Progress, ended, last page", owner, "/progress?view=ended&page=20000"],
    ["Progress, search a word", owner, "/progress?view=ended&q=abcd"],
    ["Progress, search a common word", owner, "/progress?view=ended&q=request"],
    ["Progress, search a number", owner, "/progress?view=ended&q=OLD-123456"],
    ["Workshop", owner, "/workshop"],
    ["Workshop, route", owner, "/workshop/supplies/route"],
    ["register, first page", owner, "/registers/objects"],
    ["register, last page", owner, `/registers/objects?page=${last}`],
    ["register, by value", owner, "/registers/objects?sort=insured_value&down=1"],
    ["register, by title", owner, "/registers/objects?sort=title"],
    ["register, a word", owner, "/registers/objects?q=lantern"],
    ["register, a rare word", owner, "/registers/objects?q=ab12cd"],
    ["Office, people", office, "/office"],
  ];
  for (const [what, cookie, path] of pages) {
    if (only && !what.includes(only)) continue;
    const ms: number[] = [];
    let bytes = 0;
    let status = 0;
    await db.query("select pg_stat_statements_reset()");
    for (let i = 0; i <= ASKED; i++) {
      const began = performance.now();
      const r = await fetch(base + path, { headers: { cookie }, redirect: "follow" });
      const text = await r.text();
      // The first one warms up.
      if (i > 0) ms.push(performance.now() - began);
      bytes = Buffer.byteLength(text);
      status = r.status;
    }
    // What PostgreSQL worked for one page, all its statements together.
    const worked = await db.query(
      `select coalesce(sum(total_exec_time), 0) as ms from pg_stat_statements where query not like '%pg_stat_statements%'`,
    );
    const sql = Number(worked.rows[0].ms) / (ASKED + 1);
    const slow = median(ms) > BUDGET_MS || sql > BUDGET_SQL_MS || bytes / 1024 > BUDGET_KIB;
    const over = slow ? "  OVER" : "";
    process.stdout.write(
      `${what.padEnd(32)} ${median(ms).toFixed(0).padStart(6)} ms, at most ${Math.max(...ms)
        .toFixed(0)
        .padStart(
          6,
        )}, SQL ${sql.toFixed(0).padStart(4)} ms, ${(bytes / 1024).toFixed(0).padStart(6)} KiB  ${status === 200 ? "" : String(status)}${over}\n`,
    );
  }
  if (!only || "changing".includes(only))
    await whileChanging(db, base, [calm, "/desk"], [calm, "/ask"], [owner, `/requests/${number}`]);
  if (!only || "a Find step".includes(only)) await findSteps(db);
  const actor = await actorOf(db, "tobias.marrin");
  for (const text of ["lantern", "QX.77123", "zzzz", "OLD-99999"]) {
    if (only && !"Find".includes(only)) continue;
    const ms: number[] = [];
    for (let i = 0; i <= ASKED; i++) {
      const began = performance.now();
      await find(actor!, text);
      if (i > 0) ms.push(performance.now() - began);
    }
    process.stdout.write(
      `${`Find ${text}`.padEnd(32)} ${median(ms).toFixed(0).padStart(6)} ms${median(ms) > BUDGET_MS ? "  OVER" : ""}\n`,
    );
  }
}
/** Releases a process of these steps; gives its key. The database is kept from run to run: it is called anew each time. */
async function released(route: Step[]): Promise<string> {
  const tag = `${Date.now().toString(36).slice(-5)}${route.length}`;
  const key = `find-${tag}`;
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: key,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: `F${tag.toUpperCase()}`, digits: 6 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    access: {},
    samples: [],
    fields: [{ id: "which", name: "Which", kind: "text" }],
    route: [...route, { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" }],
  };
  const made = await createProcess(SYSTEM, definition);
  if (!made.ok) throw new Error(JSON.stringify(made.failure));
  const live = await releaseDraft(SYSTEM, key, "1.0.0", "");
  if (!live.ok) throw new Error(JSON.stringify(live.failure));
  return key;
}

/** A request that finds one record among a million, against one that finds nothing in particular. */
async function findSteps(db: ReturnType<typeof getPool>) {
  const actor = (await actorOf(db, "p77"))!;
  const looks = {
    id: "f",
    name: "Found",
    kind: "find",
    register: "objects",
    where: "Accession number = Which",
    take: "first",
    nothing: "stop",
    ways: [],
  } as unknown as Step;
  const [with_, without] = [await released([looks]), await released([])];
  const { rows } = await db.query(
    "select accession_number as which from register.objects order by md5(id::text) limit 30",
  );
  const took = { with: [] as number[], without: [] as number[] };
  for (const { which } of rows)
    for (const [key, ms] of [
      [with_, took.with],
      [without, took.without],
    ] as const) {
      const began = performance.now();
      const r = await startRequest(actor, key, { which });
      if (!r.ok) throw new Error(JSON.stringify(r.failure));
      ms.push(performance.now() - began);
    }
  const finding = median(took.with) - median(took.without);
  process.stdout.write(
    `${"a Find step, an indexed condition".padEnd(32)} ${finding.toFixed(1).padStart(6)} ms beside ${median(took.without).toFixed(1)} of its request${finding > FIND_MS ? "  OVER" : ""}\n`,
  );
}

/** Pages one after the other while somebody's data change each second, so that every web process reads them again. */
async function whileChanging(
  db: ReturnType<typeof getPool>,
  base: string,
  ...pages: [cookie: string, path: string][]
) {
  const ms: number[] = [];
  const until = performance.now() + CHANGING_S * 1000;
  let changes = 0;
  const timer = setInterval(() => {
    changes++;
    void db.query("update person set job_title = 'Officer ' || $1 where id = 'p9'", [String(changes)]);
  }, 1000);
  for (let i = 0; performance.now() < until; i++) {
    const [cookie, path] = pages[i % pages.length]!;
    const began = performance.now();
    await (await fetch(base + path, { headers: { cookie } })).text();
    ms.push(performance.now() - began);
  }
  clearInterval(timer);
  const most = Math.max(...ms);
  process.stdout.write(
    `${"while people change each second".padEnd(32)} ${median(ms).toFixed(0).padStart(6)} ms, at most ${most.toFixed(0).padStart(6)}, ${ms.length} pages, ${changes} changes${most > CHANGING_MS ? "  OVER" : ""}\n`,
  );
}

main()
  .then(closePool)
  .catch((e: unknown) => {
    process.stderr.write(`${e instanceof Error ? (e.stack ?? e.message) : String(e)}\n`);
    process.exit(1);
  });
