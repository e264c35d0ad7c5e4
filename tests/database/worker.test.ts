import { spawn, type ChildProcess } from "node:child_process";
import { act, deadJobs, moveClock, nowFor, settleJob, startRequest, sweepEnded, SYSTEM } from "@/services";
import type { RequestState } from "@/core/engine";
import { Random } from "../../demo/random";
import { KEY, openWorld, orderOf, person, sql, until, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

const workers = new Set<ChildProcess>();
function startWorker(): ChildProcess {
  const child = spawn(process.execPath, ["dist/src/worker/main.cjs"], {
    env: { ...process.env, DATABASE_URL: world.url, NODE_ENV: "production", COBBLE_DEMO: "1" },
    stdio: "ignore",
  });
  workers.add(child);
  child.on("exit", () => workers.delete(child));
  return child;
}
afterEach(() => workers.forEach((w) => w.kill("SIGKILL")));

const stateOf = async (number: string): Promise<RequestState> =>
  (await sql<{ state: RequestState }>("select state from request where number = $1", [number]))[0]!.state;
const DAY = 86_400_000;

it("climbs a ladder as the clock moves: reminded, handed over, answered on their behalf, told", async () => {
  const n = value(await startRequest(await person("dov.merrick"), "store-key", KEY)).number;
  expect((await sql("select 1 from timer")).length).toBe(3);
  const tobias = await person("tobias.marrin");
  expect(await moveClock(tobias, 3_600_000, false)).toMatchObject({
    ok: false,
    failure: { code: "not-allowed" },
  });
  expect(await moveClock(tobias, -1, true)).toMatchObject({ ok: false });
  startWorker();
  // Moved at once over all rungs: they must still fire in their order.
  value(await moveClock(tobias, 21 * DAY, true));
  await until("the request is declined by the ladder", async () => (await stateOf(n)).status === "finished");
  const events = await sql<{ type: string; body: { did?: string; automatic?: boolean } }>(
    "select e.type, e.body from request_event e join request r on r.id = e.request_id where r.number = $1 order by seq",
    [n],
  );
  expect(events.filter((e) => e.type === "rung fired").map((e) => e.body.did)).toEqual([
    "remind",
    "hand over",
    "answer",
  ]);
  expect(await stateOf(n)).toMatchObject({ result: { name: "declined" } });
  await until(
    "notices are delivered",
    async () => (await sql("select 1 from notice where person_id = 'dov.merrick'")).length === 1,
  );
  await until("no job is left", async () => (await sql("select 1 from graphile_worker.jobs")).length === 0);
  expect((await sql("select 1 from notice where person_id = 'aoife.lanigan' and kind = 'told'")).length).toBe(
    1,
  );
  expect((await sql("select 1 from timer")).length).toBe(0);
}, 60_000);

it("asks others by itself where somebody has left or gone away", async () => {
  const dov = await person("dov.merrick");
  const asked = async (n: string) =>
    Object.values((await stateOf(n)).tasks).flatMap((t) =>
      t.status === "open" ? t.candidates.map((c) => c.person) : [],
    );
  const [one, other] = [
    value(await startRequest(dov, "store-key", { ...KEY, store: "2" })).number,
    value(await startRequest(await person("piet.hanlon"), "supplies", orderOf(40))).number,
  ];
  const [first, second] = [(await asked(one))[0]!, (await asked(other))[0]!];
  expect(first).not.toBe(second);
  const now = await nowFor();
  await sql("insert into absence (person_id, starts, ends, cover_id) values ($1, $2, $3, 'orla.fennimore')", [
    first,
    new Date(now + 5 * 3_600_000),
    new Date(now + 400 * DAY),
  ]);
  await sql("update person set active = false where id = $1", [second]);
  startWorker();
  value(await moveClock(dov, 3_600_000, true));
  await until(
    "somebody else is asked in place of who left",
    async () => !(await asked(other)).includes(second),
  );
  expect(await asked(one)).toEqual([first]);
  value(await moveClock(dov, 5 * 3_600_000, true));
  await until("the cover is asked", async () =>
    Object.values((await stateOf(one)).tasks).some((t) =>
      t.candidates.some((c) => c.person === "orla.fennimore" && c.for === first),
    ),
  );
  const trail = await sql<{ body: { gone?: string } }>(
    "select e.body from request_event e join request r on r.id = e.request_id where r.number = $1 and e.type = 'task handed over'",
    [one],
  );
  expect(trail[0]!.body).toMatchObject({ gone: "away" });
  await sql("update person set active = true");
  await sql("delete from absence where cover_id = 'orla.fennimore'");
}, 60_000);

it("a job that gave up is shown, tried again or dropped by the office, and does not stay for ever", async () => {
  const office = await person("tobias.marrin");
  // Nothing a handler could read: it fails however often it is tried.
  const add = () =>
    sql("select graphile_worker.add_job('timer', '{\"request\": 5}'::json, max_attempts := 1)");
  await add();
  await add();
  startWorker();
  await until("both gave up", async () => (await deadJobs(office)).length === 2);
  expect(await deadJobs(await person("dov.merrick"))).toEqual([]);
  const [one, other] = await deadJobs(office);
  expect(one).toMatchObject({ task: "timer", attempts: 1, number: null });
  expect(one!.error).not.toBe("");
  expect(await settleJob(await person("dov.merrick"), one!.id, "drop")).toMatchObject({
    failure: { code: "not-allowed" },
  });
  value(await settleJob(office, one!.id, "drop"));
  expect(await settleJob(office, one!.id, "drop")).toMatchObject({ failure: { code: "not-found" } });
  const since = other!.since;
  value(await settleJob(office, other!.id, "try again"));
  await until("it gave up anew", async () => ((await deadJobs(office))[0]?.since ?? 0) > since);
  await sql("update graphile_worker._private_jobs set updated_at = now() - interval '91 days'");
  await sweepEnded(SYSTEM);
  expect(await deadJobs(office)).toEqual([]);
}, 60_000);

it("a worker whose database connections are cut goes on by itself", async () => {
  const worker = startWorker();
  const piet = await person("piet.hanlon");
  for (let i = 0; i < 4; i++) {
    const n = value(await startRequest(piet, "supplies", orderOf(1, "5"))).number;
    await until(
      "its requester is told",
      async () =>
        (await sql("select 1 from notice x join request r on r.id = x.request_id where r.number = $1", [n]))
          .length === 1,
    );
    await sql(
      "select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()",
    );
  }
  expect(worker.exitCode).toBeNull();
}, 60_000);

/** Timers that are due by the moved clock and are not in the queue yet. */
const DUE = `
  select count(*) from timer where not queued and due_at <= now() + make_interval(secs => (
    select (value #>> '{}')::float8 / 1000 from setting where key = 'clock_offset'
  ))
`;

it("a worker killed again and again in the middle of its work loses nothing and doubles nothing", async () => {
  const random = new Random(77);
  const piet = await person("piet.hanlon");
  const numbers: string[] = [];
  for (let i = 0; i < 160; i++)
    numbers.push(value(await startRequest(piet, "supplies", orderOf(1, "5"))).number);
  // And ladders that all fall due, competing with the notices.
  const waiting: string[] = [];
  for (let i = 0; i < 20; i++)
    waiting.push(
      value(await startRequest(await person("dov.merrick"), "store-key", { ...KEY, store: String(1 + i) }))
        .number,
    );
  value(await moveClock(piet, 30 * DAY, true));
  let kills = 0;
  const left = async () =>
    Number(
      (await sql<{ n: string }>(`select (select count(*) from graphile_worker.jobs) + (${DUE}) as n`))[0]!.n,
    );
  let worker = startWorker();
  const end = Date.now() + 100_000;
  while ((await left()) > 0 && Date.now() < end) {
    await new Promise((r) => setTimeout(r, kills < 30 ? random.int(250, 650) : 1500));
    if (kills < 30 && (await left()) > 0) {
      worker.kill("SIGKILL");
      kills++;
      worker = startWorker();
    }
  }
  expect(await left()).toBe(0);
  expect(kills).toBeGreaterThanOrEqual(5);
  for (const n of numbers) {
    const rows = await sql(
      "select effect_key from notice n join request r on r.id = n.request_id where r.number = $1",
      [n],
    );
    const told = await sql(
      "select 1 from request_event e join request r on r.id = e.request_id where r.number = $1 and e.type = 'effect done' and e.body ->> 'kind' = 'tell'",
      [n],
    );
    expect([n, rows.length, told.length]).toEqual([n, 1, 1]);
  }
  for (const n of waiting) {
    const s = await stateOf(n);
    expect(s.status).toBe("finished");
    const rungs = await sql<{ body: { timer: string } }>(
      "select e.body from request_event e join request r on r.id = e.request_id where r.number = $1 and e.type = 'rung fired'",
      [n],
    );
    expect(new Set(rungs.map((r) => r.body.timer)).size).toBe(rungs.length);
    expect(rungs).toHaveLength(3);
  }
}, 180_000);

it("an answer given clears its timers, and no job for them stays behind", async () => {
  const n = value(
    await startRequest(await person("lucia.penrose"), "store-key", { ...KEY, store: "9" }),
  ).number;
  const task = Object.keys((await stateOf(n)).tasks)[0]!;
  value(
    await act(await person("fintan.galloway"), n, {
      type: "answer",
      task,
      answer: "decline",
      note: "no",
      data: {},
    }),
  );
  const id = (await sql<{ id: string }>("select id::text from request where number = $1", [n]))[0]!.id;
  expect(await sql("select 1 from timer where request_id = $1", [id])).toEqual([]);
  // What is not due is not in the queue, where every look for something to do would come upon it.
  expect(await sql("select 1 from graphile_worker.jobs where key like 'timer:%'")).toEqual([]);
});

it("a worker whose queue gives up begins anew", async () => {
  const worker = startWorker();
  const add = () => sql("select graphile_worker.add_job('record_starts', '{}'::json)");
  const done = async () => (await sql("select 1 from graphile_worker.jobs")).length === 0;
  await add();
  await until("it takes jobs", done);
  // What it has done cannot be ticked off, once: the queue holds that for the end of everything.
  await sql("create sequence refusals");
  await sql(`create function refuse() returns trigger language plpgsql as $$
    begin
      if nextval('refusals') = 1 then raise exception 'not now'; end if;
      return old;
    end $$`);
  await sql(
    "create trigger refuse before delete on graphile_worker._private_jobs for each row execute function refuse()",
  );
  await add();
  await until(
    "it was refused",
    async () => (await sql<{ called: boolean }>("select is_called as called from refusals"))[0]!.called,
  );
  await add();
  await until("that job and the next are done all the same", done, 30_000);
  expect(worker.exitCode).toBeNull();
}, 60_000);
