import { getPool, notices, processes, recordsLinked, registers, requests, type Db } from "@/db";
import { loadDirectory } from "@/services/kernel/directory";
import { fill, openWorld, sql } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

/** Enough that reading all of it is never the quickest way, and little enough to be made in seconds. */
const MANY = 60_000;
const OWNER = "tobias.marrin";
const LARGE = ["request", "task", "task_candidate", "notice", "objects"];

interface Asked {
  text: string;
  values: readonly unknown[];
}
/** A database that notes what it is asked. */
function noting(): { db: Db; asked: Asked[] } {
  const asked: Asked[] = [];
  const pool = getPool();
  const query = (q: string | { text: string; values?: unknown[] }, values?: unknown[]) => {
    const text = typeof q === "string" ? q : q.text;
    asked.push({ text, values: (typeof q === "string" ? values : q.values) ?? [] });
    return typeof q === "string" ? pool.query(q, values) : pool.query(q);
  };
  return { db: { query } as unknown as Db, asked };
}

interface Plan {
  "Node Type": string;
  "Relation Name"?: string;
  Plans?: Plan[];
}
/** What needs all of its rows before it gives the first. */
const WHOLE = /^(Sort|Aggregate|Hash|Materialize|Memoize|SetOp|Unique)$/;
/** Tables a plan reads from end to end; one that stops at a limit as soon as it has enough does not. */
function readWhole(p: Plan, stops = false): string[] {
  const bounded = p["Node Type"] === "Limit" || (stops && !WHOLE.test(p["Node Type"]));
  const own = p["Node Type"] === "Seq Scan" && !bounded && p["Relation Name"] ? [p["Relation Name"]] : [];
  return [...own, ...(p.Plans ?? []).flatMap((x) => readWhole(x, bounded))];
}

const SEED = [
  `
    with t as (
      select r.* from request r join task k on k.request_id = r.id and k.ended_at is null order by r.id limit 1
    ),
    n as (
      insert into request (number, process_key, release_id, requester_id, title, status, state, version, started_at, ended_at, due_at)
      select 'MANY-' || g, (array['supplies', 'store-key', 'object-loan'])[1 + g % 3], t.release_id, t.requester_id,
        md5(g::text), case when g % 500 = 0 then 'stuck' when g % 2 = 0 then 'under way' else 'finished' end, t.state, t.version,
        now() - (g || ' minutes')::interval, case when g % 2 = 0 then null else now() end,
        case when g % 2 = 0 then now() + (g % 20000 - 4000 || ' minutes')::interval end
      from t, generate_series(1, ${MANY}) g
      returning id, ended_at
    ),
    k as (
      insert into task (request_id, id, step_id, step_name, purpose, status, opened_at, due_at)
      select id, 't1', 's', 's', 'decide', 'open', now(), now() + (id % 20000 - 4000 || ' minutes')::interval
      from n where ended_at is null returning request_id, due_at
    )
    insert into task_candidate (request_id, task_id, person_id, due_at, opened_at, open)
    select request_id, 't1', (select id from person where active order by md5(id || request_id::text) limit 1), due_at, now(), true from k
  `,
  `insert into notice (person_id, effect_key, subject, body, created_at)
   select (array(select id from person where kind = 'person'))[1 + g % 30], 'many' || g, '', '', now() from generate_series(1, ${MANY}) g`,
  `insert into register.objects (accession_number, title, insured_value) select 'M.' || g, md5(g::text), g % 1000 from generate_series(1, ${MANY}) g`,
  "analyze",
];

it("no list reads a large table from end to end", async () => {
  await sql("insert into process_owner select key, 'tobias.marrin' from process on conflict do nothing");
  const made = await sql("select 1 from request limit 1");
  if (made.length === 0) {
    const { startRequest } = await import("@/services");
    const { KEY, person } = await import("./world");
    await startRequest(await person("lucia.penrose"), "store-key", KEY as never);
  }
  await fill(SEED);
  const now = new Date().toISOString();
  const { registers: shapes } = await loadDirectory(getPool());
  const objects = shapes["objects"]!;
  const { db, asked } = noting();
  const page = { now, limit: 40, offset: 0 };
  for (const state of ["open", "late", "stuck", "ended"] as const)
    for (const search of ["", "abcdef", "MANY-4711"])
      for (const process of ["", "supplies"])
        await requests.listRequests(db, {
          ...page,
          owner: OWNER,
          state,
          search,
          ...(process ? { process } : {}),
        });
  await requests.listRequests(db, { ...page, requester: "lucia.penrose" });
  await requests.progressCounts(db, OWNER, null, now);
  await requests.deskOf(db, "lucia.penrose", 100);
  await notices.badgesOf(db, "lucia.penrose", 100);
  await notices.noticesOf(db, "lucia.penrose", 50);
  await requests.requestSeen(db, { number: "MANY-4711" }, OWNER, true);
  await recordsLinked(db, shapes, new Map([["objects", ["1", "2", "3"]]]), 2);
  await requests.findRequests(db, OWNER, "abcdef", 6);
  await requests.findRequests(db, OWNER, "MANY-4711", 6);
  await processes.listProcesses(db);
  for (const c of objects.columns)
    for (const descending of [true, false])
      await registers.findRecords(db, objects, shapes, {
        search: "",
        filters: [],
        sort: [{ column: c.id, descending }],
        offset: 0,
        limit: 40,
      });
  for (const search of ["abcdef", "M.4711"]) {
    await registers.findRecords(db, objects, shapes, {
      search,
      filters: [],
      sort: [],
      offset: 0,
      limit: 40,
    });
    await registers.recordsTitled(db, objects, search, 3);
  }
  expect(asked.length).toBeGreaterThan(70);
  const whole: string[] = [];
  for (const { text, values } of asked) {
    const [row] = await sql<{ "QUERY PLAN": { Plan: Plan }[] }>(`explain (format json) ${text}`, [...values]);
    const tables = readWhole(row!["QUERY PLAN"][0]!.Plan).filter((t) => LARGE.includes(t));
    if (tables.length > 0) whole.push(`${tables.join()}: ${text} ${JSON.stringify(values)}`);
  }
  expect(whole).toEqual([]);
}, 120_000);
