import {
  act,
  askPage,
  fireTimers,
  forCaller,
  healthOf,
  onChanges,
  registerPage,
  startRequest,
  SYSTEM,
} from "@/services";
import { closePool, getPool, inTransaction, searching } from "@/db";
import { KEY, openWorld, orderOf, person, sql, until, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

const all = { search: "", filters: [], sort: [], offset: 0, limit: 5 };
/** Connections of this database by what they are for, and what they do. */
const backends = (what: string) =>
  sql<{ pid: number; state: string; query: string }>(
    "select pid, state, query from pg_stat_activity where datname = current_database() and application_name = $1",
    [what],
  );
const cut = (what: string) =>
  sql(
    "select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and application_name = $1 and pid <> pg_backend_pid()",
    [what],
  );

it("a search that takes too long is stopped, and says so", async () => {
  const maeve = await person("maeve.dunlea");
  await sql(
    "create function pg_temp_slow() returns boolean language sql as 'select pg_sleep(30) is not null'",
  );
  const started = performance.now();
  await expect(searching((db) => db.query("select pg_temp_slow()"))).rejects.toMatchObject({ code: "57014" });
  expect(performance.now() - started).toBeLessThan(12_000);
  // The same through a use case is a sentence.
  await sql("alter table register.price_list rename to price_list_kept");
  await sql("create view register.price_list as select * from register.price_list_kept where pg_temp_slow()");
  try {
    expect(await registerPage(maeve, "price_list", all)).toMatchObject({
      ok: false,
      failure: { code: "unavailable", data: { why: "slow" } },
    });
  } finally {
    await sql("drop view register.price_list");
    await sql("alter table register.price_list_kept rename to price_list");
  }
}, 60_000);

it("searches under way do not hold up answers", async () => {
  const slow = Array.from({ length: 8 }, () =>
    searching((db) => db.query("select pg_sleep(3)")).catch((e: unknown) => e),
  );
  const started = performance.now();
  for (let i = 0; i < 3; i++)
    value(await startRequest(await person("piet.hanlon"), "supplies", orderOf(1, "5")));
  expect(performance.now() - started).toBeLessThan(2500);
  await Promise.all(slow);
}, 60_000);

it("a search whose caller leaves is stopped in the database, and hits nobody after", async () => {
  for (let i = 0; i < 4; i++) {
    const gone = new AbortController();
    const search = forCaller({ gone: gone.signal, address: "" }, () =>
      searching((db) => db.query("select pg_sleep(4)")),
    );
    await until("it runs", async () =>
      (await backends("cobble-step search")).some(
        (b) => b.state === "active" && b.query.includes("pg_sleep(4)"),
      ),
    );
    gone.abort();
    await expect(search).rejects.toMatchObject({ code: "57014" });
    expect(await searching((db) => db.query("select 1 as one"))).toMatchObject({ rows: [{ one: 1 }] });
  }
  const left = { gone: AbortSignal.abort(), address: "" };
  await expect(forCaller(left, () => searching((db) => db.query("select 1")))).rejects.toThrow();
}, 60_000);

it("whoever waits for a locked request too long is told to try again; nothing is half done", async () => {
  const fintan = await person("fintan.galloway");
  const { number } = value(await startRequest(await person("lucia.penrose"), "store-key", KEY));
  const [row] = await sql<{ id: string; state: { tasks: Record<string, { id: string }> } }>(
    "select id::text, state from request where number = $1",
    [number],
  );
  const task = Object.keys(row!.state.tasks)[0]!;
  let refused: unknown;
  await inTransaction(async (db) => {
    await db.query("select 1 from request where number = $1 for update", [number]);
    refused = await act(fintan, number, { type: "answer", task, answer: "approve", note: "", data: {} });
  });
  expect(refused).toMatchObject({ ok: false, failure: { code: "unavailable", data: { why: "busy" } } });
  expect(
    (await act(fintan, number, { type: "answer", task, answer: "approve", note: "", data: {} })).ok,
  ).toBe(true);
  expect(await fireTimers(SYSTEM, row!.id)).toMatchObject({ fired: 0 });
}, 60_000);

it("connections that are cut come back by themselves, in the pools and for live pages, time and again", async () => {
  const lucia = await person("lucia.penrose");
  let ticks = 0;
  const stop = await onChanges({ person: "lucia.penrose", request: null, anybody: false }, () => ticks++);
  try {
    for (let i = 0; i < 3; i++) {
      const before = ticks;
      await cut("cobble-step listening");
      await until("it listens again, and everybody looks", async () => ticks > before, 20_000);
      expect(await backends("cobble-step listening")).toHaveLength(1);
    }
    for (let i = 0; i < 12; i++) {
      await cut("cobble-step work");
      // The first call may meet a connection that is just being cut; the next one does not.
      const tries = [await healthOf(), (await askPage(lucia, "store-key", "d")).ok];
      expect(tries.length).toBe(2);
    }
    await until("all is well", async () => (await askPage(lucia, "store-key", "d")).ok);
    const before = ticks;
    value(await startRequest(lucia, "store-key", KEY));
    await until("a change is told", async () => ticks > before);
  } finally {
    stop();
  }
}, 90_000);

describe("a database that does not do all it should", () => {
  const url = () => process.env["DATABASE_URL"]!;
  it("read-only: reading works, changes are refused with a sentence, health says so", async () => {
    const lucia = await person("lucia.penrose");
    await sql(`alter database "${new URL(url()).pathname.slice(1)}" set default_transaction_read_only = on`);
    await closePool();
    try {
      expect((await askPage(lucia, "store-key", "d")).ok).toBe(true);
      expect(await startRequest(lucia, "store-key", KEY)).toMatchObject({
        ok: false,
        failure: { code: "unavailable", data: { why: "read-only" } },
      });
      await new Promise((r) => setTimeout(r, 1100));
      expect(await healthOf()).toMatchObject({ ok: false, why: "read-only" });
    } finally {
      await getPool().query("set default_transaction_read_only = off");
      await inTransaction(async (db) => {
        await db.query("set transaction read write");
        await db.query(
          `alter database "${new URL(url()).pathname.slice(1)}" reset default_transaction_read_only`,
        );
      });
      await closePool();
    }
    expect((await startRequest(lucia, "store-key", KEY)).ok).toBe(true);
  });
  it("unreachable: refused with a sentence, and well again by itself", async () => {
    const lucia = await person("lucia.penrose");
    const right = url();
    await closePool();
    process.env["DATABASE_URL"] = right.replace(/:\d+\//, ":1/");
    expect(await startRequest(lucia, "store-key", KEY)).toMatchObject({
      ok: false,
      failure: { code: "unavailable", data: { why: "unreachable" } },
    });
    await new Promise((r) => setTimeout(r, 1100));
    expect(await healthOf()).toMatchObject({ ok: false, why: "unreachable" });
    await closePool();
    process.env["DATABASE_URL"] = right;
    expect((await startRequest(lucia, "store-key", KEY)).ok).toBe(true);
    await new Promise((r) => setTimeout(r, 1100));
    expect(await healthOf()).toEqual({ ok: true });
  });
});
