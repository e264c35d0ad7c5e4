import type { Pool } from "pg";

/** How much there is once it is seeded. */
export const SIZE = {
  people: 10_000,
  ended: 1_000_000,
  open: 100_000,
  /** Of those, for one person's desk. */
  desk: 5_000,
  records: 1_000_000,
  duties: 8_000,
  notices: 500_000,
};
const CHUNK = 100_000;

/** Steps of seeding, each done once however often it is begun: a database half seeded goes on where it stopped. */
const STEPS: readonly [name: string, times: number, sql: (from: number, to: number) => string][] = [
  [
    "people",
    1,
    () => `
      insert into person (id, name, email, job_title, department, site, manager_id, calendar_key, zone, office_rights, active, shows)
      select
        'p' || g, 'Person ' || g || ' ' || md5(g::text), 'p' || g || '@quillhaven.example', 'Officer',
        'Collections', 'Tower House', null, 'office', 'Europe/Dublin', false, true, 'everything'
      from generate_series(1, ${SIZE.people}) g
    `,
  ],
  [
    "managers",
    1,
    () =>
      `update person set manager_id = 'p' || (substr(id, 2)::int / 3) where id ~ '^p[0-9]+$' and substr(id, 2)::int >= 3`,
  ],
  [
    "duties",
    1,
    () => `
      insert into register.role_holders (duty, person, department)
      select 'Duty ' || (g % 40), 'p' || g, 'Collections' from generate_series(1, ${SIZE.duties}) g
    `,
  ],
  [
    "records",
    SIZE.records / CHUNK,
    (from, to) => `
      insert into register.objects (accession_number, title, kind, site, shelf, status, condition_grade, insured_value)
      select
        'QX.' || g, (array['Rope', 'Lantern', 'Chart', 'Banner', 'Bell'])[1 + g % 5] || ' ' || md5(g::text),
        'textile', 'Tower House', 'A' || (g % 900), 'in store', 'B', (g::bigint * 7919) % 100000
      from generate_series(${from}, ${to}) g
    `,
  ],
  [
    "ended requests",
    SIZE.ended / CHUNK,
    (from, to) => `
      with t as (select * from request where status = 'finished' and process_key = 'supplies' order by id limit 1),
      n as (
        insert into request (number, process_key, release_id, requester_id, title, status, result, result_tone, state, version, started_at, ended_at)
        select
          'OLD-' || g, (array['supplies', 'store-key', 'object-loan'])[1 + g % 3], t.release_id,
          'p' || (1 + g % ${SIZE.people}), 'Request ' || md5(g::text), 'finished', t.result, t.result_tone, t.state, t.version,
          now() - (g || ' seconds')::interval * 30, now() - (g || ' seconds')::interval * 30 + interval '1 day'
        from t, generate_series(${from}, ${to}) g
        returning id
      )
      insert into request_event (request_id, seq, type, at, by_person, body, format)
      select n.id, e.seq, e.type, e.at, e.by_person, e.body, e.format
      from n, t join request_event e on e.request_id = t.id and e.seq <= 3
    `,
  ],
  [
    "open requests",
    SIZE.open / CHUNK,
    (from, to) => `
      with t as (
        select r.* from request r join task k on k.request_id = r.id and k.ended_at is null
        where r.status = 'under way' and r.process_key = 'supplies' order by r.id limit 1
      ),
      n as (
        insert into request (number, process_key, release_id, requester_id, title, status, state, version, started_at, due_at)
        select
          'NEW-' || g, 'supplies', t.release_id, 'p' || (1 + g % ${SIZE.people}), 'Open ' || md5(g::text),
          case when g % 200 = 0 then 'stuck' else 'under way' end, t.state, t.version, now() - (g || ' seconds')::interval,
          now() + (g % 20000 - 4000 || ' minutes')::interval
        from t, generate_series(${from}, ${to}) g
        returning id, number
      ),
      e as (
        insert into request_event (request_id, seq, type, at, by_person, body, format)
        select n.id, e.seq, e.type, e.at, e.by_person, e.body, e.format
        from n, t join request_event e on e.request_id = t.id
      ),
      k as (
        insert into task (request_id, id, step_id, step_name, purpose, holder_id, status, opened_at, due_at)
        select n.id, k.id, k.step_id, k.step_name, k.purpose, k.holder_id, k.status, k.opened_at,
          now() + (substr(n.number, 5)::int % 20000 - 4000 || ' minutes')::interval
        from n, t join task k on k.request_id = t.id and k.ended_at is null
        returning request_id, id, due_at, opened_at
      )
      insert into task_candidate (request_id, task_id, person_id, due_at, opened_at, open)
      select k.request_id, k.id,
        case when row_number() over () <= ${SIZE.desk} then 'p1' else 'p' || (2 + k.request_id % ${SIZE.people - 1}) end,
        k.due_at, k.opened_at, true
      from k
    `,
  ],
  [
    "notices",
    1,
    () => `
      insert into notice (person_id, request_id, effect_key, subject, body, created_at, read_at)
      select 'p' || (1 + g % ${SIZE.people}), null, 'x' || g, 'Something', '', now() - (g || ' seconds')::interval,
        case when g % 3 = 0 then null else now() end
      from generate_series(1, ${SIZE.notices}) g
    `,
  ],
  ["everything read once", 1, () => "analyze"],
];

/** Fills a database that the demo has seeded, by SQL: some minutes. */
export async function seedAtScale(db: Pool, say: (line: string) => void): Promise<void> {
  await db.query("create table if not exists bench_seeded (step text primary key)");
  const done = new Set((await db.query("select step from bench_seeded")).rows.map((r) => r.step as string));
  for (const [name, times, sql] of STEPS)
    for (let i = 0; i < times; i++) {
      const step = `${name} ${i}`;
      if (done.has(step)) continue;
      say(times > 1 ? `${name}, ${i + 1} of ${times}` : name);
      const client = await db.connect();
      try {
        await client.query("begin");
        await client.query("set local statement_timeout = 0");
        await client.query(sql(i * CHUNK + 1, (i + 1) * CHUNK));
        await client.query("insert into bench_seeded values ($1)", [step]);
        await client.query("commit");
      } catch (e) {
        await client.query("rollback");
        throw e;
      } finally {
        client.release();
      }
    }
}
