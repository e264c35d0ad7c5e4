import { Agent, get } from "node:http";
import { closePool, getPool } from "@/db";
import { becomePerson } from "@/services";

/**
 * Pages beside a bare page of the same server: time for one reader, pages a second with eight, and round trips to the
 * database. Argument: the server's address.
 */
const CLIENTS = 8;
const ROUNDS = 60;
/** Pages asked for by all clients together, each time; pages take turns, so that nothing else that runs favours one. */
const CROWD = 160;
const TURNS = 3;
const BUDGET = { time: 2.5, throughput: 0.4, trips: 4, scriptKiB: 180 } as const;

const median = (of: readonly number[]): number => [...of].sort((a, b) => a - b)[Math.floor(of.length / 2)]!;

interface Page {
  what: string;
  cookie: string;
  path: string;
  bytes: number;
  ms: number[];
  perSecond: number[];
}
const base = process.argv[2]!;
const agent = new Agent({ keepAlive: true, maxSockets: CLIENTS });

/** A client as light as can be: it runs on the cores of the server it measures. */
const ask = (p: Page): Promise<void> =>
  new Promise((resolve, reject) => {
    get(base + p.path, { agent, headers: { cookie: p.cookie } }, (r) => {
      if (r.statusCode !== 200) reject(new Error(`${p.path} answers ${r.statusCode}`));
      p.bytes = 0;
      r.on("data", (d: Buffer) => (p.bytes += d.length)).on("end", resolve);
    }).on("error", reject);
  });

async function alone(p: Page): Promise<number> {
  const began = performance.now();
  await ask(p);
  return performance.now() - began;
}
async function together(p: Page): Promise<number> {
  let left = CROWD;
  const began = performance.now();
  await Promise.all(
    Array.from({ length: CLIENTS }, async () => {
      while (left-- > 0) await ask(p);
    }),
  );
  return CROWD / ((performance.now() - began) / 1000);
}

/** Statements the web process sent, counted by PostgreSQL itself; without what is asked by the clock and not by a page. */
async function trips(p: Page): Promise<number> {
  const db = getPool();
  const calls = async () =>
    Number(
      (
        await db.query(
          `
            select coalesce(sum(calls), 0) as n
            from pg_stat_statements
            where
              query not like '%pg_stat_statements%'
              -- How the database is, once a second; that a session is used, once a minute.
              and query not like '%transaction_read_only%'
              and query not like 'update session set seen_at%'
          `,
        )
      ).rows[0].n,
    );
  const before = await calls();
  for (let i = 0; i < 10; i++) await ask(p);
  return ((await calls()) - before) / 10;
}

/** Scripts a browser is sent for a page before anything is pressed, as they go over the line; in KiB. */
async function scripts(p: Page): Promise<number> {
  const html = await (await fetch(base + p.path, { headers: { cookie: p.cookie } })).text();
  const named = new Set([...html.matchAll(/<script[^>]*\ssrc="([^"]+\.js)"/g)].map((m) => m[1]!));
  let bytes = 0;
  for (const src of named) {
    const said = await new Promise<number>((resolve, reject) => {
      get(new URL(src, base), { headers: { "accept-encoding": "gzip" } }, (r) => {
        let n = 0;
        r.on("data", (d: Buffer) => (n += d.length)).on("end", () => resolve(n));
      }).on("error", reject);
    });
    bytes += said;
  }
  return bytes / 1024;
}

async function main() {
  const db = getPool();
  await db.query("create extension if not exists pg_stat_statements");
  const cookieOf = async (person: string): Promise<string> => {
    const s = await becomePerson(person, { browser: "bench", earlier: null, known: null });
    if (!s) throw new Error(`nobody is ${person}`);
    return `cobble_session=${s.token}`;
  };
  // Whoever has most to do, whoever asked most, and a request that has come far.
  const one = async (sql: string): Promise<Record<string, string>> => (await db.query(sql)).rows[0];
  const busy = await one(
    `select person_id as id, count(*) from task_candidate where open group by 1 order by 2 desc, 1 limit 1`,
  );
  const asker = await one(
    `select requester_id as id, count(*) from request r join person p on p.id = r.requester_id and p.kind = 'person' group by 1 order by 2 desc, 1 limit 1`,
  );
  const long = await one(
    `select number, requester_id as id from request r join person p on p.id = r.requester_id and p.kind = 'person' where status = 'under way' order by version desc, r.id limit 1`,
  );
  const page = (what: string, cookie: string, path: string): Page => ({
    what,
    cookie,
    path,
    bytes: 0,
    ms: [],
    perSecond: [],
  });
  const bare = page("a bare page", "", "/shown-anew");
  const pages = [
    bare,
    page("Desk", await cookieOf(busy["id"]!), "/desk"),
    page("Ask", await cookieOf(asker["id"]!), "/ask"),
    page("request", await cookieOf(long["id"]!), `/requests/${long["number"]}`),
    page("public form", "", "/open/object-loan"),
  ];
  for (const p of pages) for (let i = 0; i < ROUNDS; i++) await ask(p);
  for (let i = 0; i < ROUNDS; i++) for (const p of pages) p.ms.push(await alone(p));
  for (let i = 0; i < TURNS; i++) for (const p of pages) p.perSecond.push(await together(p));
  for (const p of pages) {
    const time = median(p.ms);
    const rate = median(p.perSecond);
    const n = p === bare ? 0 : await trips(p);
    const times = time / median(bare.ms);
    const share = rate / median(bare.perSecond);
    const sent = await scripts(p);
    // What is held to what: a request's page may bring more scripts, and a public form has its own work to do.
    const light = p === bare || p.what === "request" || sent <= BUDGET.scriptKiB;
    const over =
      !light || times > BUDGET.time || share < BUDGET.throughput || n > BUDGET.trips ? "  OVER" : "";
    process.stdout.write(
      `${p.what.padEnd(14)} ${time.toFixed(1).padStart(6)} ms (${times.toFixed(2)}), ${rate.toFixed(0).padStart(4)}/s at ${CLIENTS} clients (${share.toFixed(2)}), ${n} round trips, ${(p.bytes / 1024).toFixed(0)} KiB, scripts ${sent.toFixed(0)} KiB${over}\n`,
    );
  }
  process.stdout.write(
    `budget: at most ${BUDGET.time} times a bare page, at least ${BUDGET.throughput} of its throughput, at most ${BUDGET.trips} round trips, scripts at most ${BUDGET.scriptKiB} KiB (not of a request)\n`,
  );
}
main()
  .then(closePool)
  .then(() => agent.destroy())
  .catch((e: unknown) => {
    process.stderr.write(`${e instanceof Error ? (e.stack ?? e.message) : String(e)}\n`);
    process.exit(1);
  });
