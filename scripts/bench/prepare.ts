import { closePool, getPool } from "@/db";
import { actorOf, createProcess, makeKey, releaseDraft, startRequest, SYSTEM } from "@/services";
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
  const count = Number(process.argv[2]);
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
  process.stdout.write(
    `${JSON.stringify({ key: key.value.key, numbers, script: pgbenchScript((await db.query("select min(id)::int as low, max(id)::int as high, (array_agg(state::text))[1] as state from request where process_key = 'bench'")).rows[0]) })}\n`,
  );
  await closePool();
}

/** The statements of one answer, as the services send them, on a request of the same size. */
function pgbenchScript(r: { low: number; high: number; state: string }): string {
  const quote = (v: unknown) =>
    `'${(typeof v === "string" ? v : JSON.stringify(v)).replace(/'/g, "''").replace(/:/g, "\\u003a")}'`;
  // pgbench reads a colon as the start of a variable; the JSON is put together without any.
  const text = (v: unknown) => `replace(${quote(JSON.stringify(v).replace(/:/g, "~"))}, '~', chr(58))::jsonb`;
  const state = JSON.parse(r.state) as unknown;
  const events = [
    {
      type: "answer given",
      by_person: "sorcha.lind",
      body: { task: "t3", answer: "approve", label: "Approve", note: "" },
    },
    {
      type: "step decided",
      by_person: "sorcha.lind",
      body: { visit: "v2", step: "check", answer: "approve", label: "Approve", note: "" },
    },
    { type: "token moved", by_person: null, body: { token: "k1", step: "then" } },
    {
      type: "visit opened",
      by_person: null,
      body: {
        visit: {
          id: "v4",
          step: "then",
          token: "k1",
          purpose: "complete",
          due: 1,
          openedAt: 1,
          needed: 1,
          asked: 1,
        },
      },
    },
    {
      type: "task opened",
      by_person: null,
      body: {
        task: {
          id: "t5",
          visit: "v4",
          step: "then",
          token: "k1",
          purpose: "complete",
          candidates: [{ person: "maeve.dunlea" }],
        },
      },
    },
    {
      type: "timer set",
      by_person: null,
      body: { timer: { id: "v4.r.1", visit: "v4", rung: "r", turn: 1, at: 1 } },
    },
  ];
  return `\\set id random(${r.low}, ${r.high})
select k.id, k.person_id, k.last_used_at, (select value #>> '{}' from setting where key = 'directory_version') as directory_version, (select value #>> '{}' from setting where key = 'clock_offset') as clock_offset from api_key k join person p on p.id = k.person_id where k.token_hash = '\\x00' and k.revoked_at is null and p.active;
select r.*, (select value #>> '{}' from setting where key = 'directory_version') as directory_version, (select value #>> '{}' from setting where key = 'clock_offset') as clock_offset from request r where r.id = :id;
with r as (update request set status = 'under way', state = ${text(state)}, version = version + 6, title = 'Bench' where id = :id returning id, version),
 ev as (insert into request_event (request_id, seq, type, at, by_person, body, format) select r.id, r.version + 1000 + o, e->>'type', now(), e->>'by_person', e->'body', 2 from r, jsonb_array_elements(${text(events)}) with ordinality as x(e, o)),
 tk as (insert into task (request_id, id, step_id, step_name, purpose, holder_id, status, opened_at) select r.id, t, 'then', 'Then', 'complete', 'maeve.dunlea', 'open', now() from r, unnest(array['t3', 't' || r.version]) t on conflict (request_id, id) do update set status = 'answered', ended_at = now() returning request_id),
 cd as (insert into task_candidate (request_id, task_id, person_id, opened_at, open) select r.id, t, 'maeve.dunlea', now(), true from r, unnest(array['t3', 't' || r.version]) t on conflict (request_id, task_id, person_id) do update set open = false),
 st as (insert into timer (request_id, id, due_at) select r.id, 'v' || r.version, now() + interval '2 days' from r),
 nw as (insert into notice (person_id, request_id, effect_key, subject, body, created_at, kind, task_id, facts) select 'maeve.dunlea', r.id, 'news:' || r.id || ':' || r.version, '', '', now(), 'task came', 't' || r.version, '{"step":"Then","due":1}' from r where not exists (select 1 from news_off f where f.person_id = 'maeve.dunlea' and f.kind = 'task came') on conflict do nothing),
 dr as (delete from form_draft f using r where f.request_id = r.id and f.task_id = 't3')
select r.id, pg_notify('changed', r.id::text) from r;
`;
}
void main();
