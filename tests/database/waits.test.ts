import { spawn } from "node:child_process";
import pg from "pg";
import { NEW_REQUEST, replay, type RequestState } from "@/core/engine";
import type { ProcessDefinition, Step } from "@/core/route";
import {
  act,
  createProcess,
  lookAt,
  lookEverywhere,
  releaseDraft,
  requestView,
  startRequest,
  SYSTEM,
} from "@/services";
import { getPool, requests } from "@/db";
import { openWorld, person, sql, until as untilSo, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

const until = (holds: string, more: object[] = []): Step =>
  ({ id: "w", name: "Arrived", kind: "wait", for: [{ id: "u", holds }, ...more], ways: [] }) as Step;
const write = (title: string): Step =>
  ({
    id: "write",
    name: "Write",
    kind: "write",
    op: "change",
    register: "objects",
    record: "Object",
    values: [{ column: "title", value: title }],
  }) as Step;
const END: Step = { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step;

let made = 0;
async function released(route: Step[]): Promise<string> {
  const key = `waits-${++made}`;
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: key,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: `WT${made}`, digits: 4 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [
      { id: "object", name: "Object", kind: "look-up", register: "objects" },
      { id: "word", name: "Word", kind: "text" },
    ],
    access: {},
    route: [...route, END],
    samples: [],
  };
  value(await createProcess(SYSTEM, d));
  value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  return key;
}
const start = async (key: string, object: string, word = "") => {
  const { number } = value(await startRequest(await person("lucia.penrose"), key, { object, word }));
  const [row] = await sql<{ id: string }>("select id from request where number = $1", [number]);
  return { number, id: row!.id };
};
const stateOf = async (id: string): Promise<RequestState> =>
  (await requests.requestForCommand(getPool(), { id }, false))!.state;
const watched = (id: string) =>
  sql<{ register_key: string; record_id: string }>(
    "select register_key, record_id from request_watch where request_id = $1 order by record_id::int",
    [id],
  );
/** Jobs that have a request looked at; those that have are taken out of the queue, as a worker would. */
async function looksFor(id: string): Promise<number> {
  const jobs = await sql<{ id: string }>(
    "select j.id from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id where t.identifier = 'look' and j.payload ->> 'request' = $1",
    [id],
  );
  await sql("select graphile_worker.complete_jobs($1::bigint[])", [jobs.map((j) => j.id)]);
  return jobs.length;
}

it("a request that waits for a record is looked at when that has changed, by whatever way, and only then", async () => {
  const waits = await released([until('contains(Object.Title, "arrived")')]);
  const writes = await released([write('Object.Title + " arrived"')]);
  const { id, number } = await start(waits, "11");
  const other = await start(waits, "12");
  expect(await watched(id)).toEqual([{ register_key: "objects", record_id: "11" }]);
  // It is looked at once more, in case something was changed meanwhile.
  expect(await looksFor(id)).toBe(1);
  await looksFor(other.id);
  await lookAt(SYSTEM, id);
  expect((await stateOf(id)).status).toBe("under way");
  const tobias = await person("tobias.marrin");
  expect(value(await requestView(tobias, number)).asleep).toMatchObject([
    { step: "Arrived", awaits: "condition", until: null },
  ]);

  await start(writes, "11");
  expect(await looksFor(id)).toBe(1);
  expect(await looksFor(other.id)).toBe(0);
  await lookAt(SYSTEM, id);
  const state = await stateOf(id);
  expect(state).toMatchObject({ status: "finished", sleeps: {} });
  expect(await watched(id)).toEqual([]);
  expect(replay(await requests.eventsOf(getPool(), id), NEW_REQUEST)).toEqual(state);
  // Twice is once; one that came late finds it ended.
  await lookAt(SYSTEM, id);
  await lookAt(SYSTEM, "999999999");
  expect((await stateOf(id)).seq).toBe(state.seq);

  value(await act(await person("lucia.penrose"), other.number, { type: "withdraw", note: "" }));
  expect(await watched(other.id)).toEqual([]);
});

it("workers look by themselves, also where a writing and a waiting request come in each other's way", async () => {
  const waits = await released([until('contains(Object.Title, "seen")')]);
  const writes = await released([write('Object.Title + " seen"')]);
  const worker = spawn(process.execPath, ["dist/src/worker/main.cjs"], {
    env: { ...process.env, DATABASE_URL: world.url, NODE_ENV: "production", COBBLE_DEMO: "1" },
    stdio: "ignore",
  });
  try {
    const objects = Array.from({ length: 12 }, (_, i) => String(30 + i));
    // Some begin to wait before, some after, most while their record is written.
    const begun = await Promise.all(
      objects.flatMap((o) => [start(waits, o), start(writes, o).then(() => null), start(waits, o)]),
    );
    const ids = begun.flatMap((b) => (b ? [b.id] : []));
    await untilSo(
      "all that waited have come to their end",
      async () => (await Promise.all(ids.map(stateOf))).every((x) => x.status === "finished"),
      30_000,
    );
    expect(await sql("select 1 from request_watch where request_id = any($1::bigint[])", [ids])).toEqual([]);
  } finally {
    worker.kill("SIGKILL");
  }
}, 60_000);

it("a change that is made while it begins to wait is not missed", async () => {
  const waits = await released([until('contains(Object.Title, "meanwhile")')]);
  const client = new pg.Client({ connectionString: process.env["DATABASE_URL"] });
  await client.connect();
  try {
    await client.query("begin");
    await client.query("update register.objects set title = title || ' meanwhile' where id = 13");
    await client.query(
      "insert into register_history (register_key, record_id, at, did) values ('objects', 13, now(), 'changed')",
    );
    // Not to be seen yet: it falls asleep.
    const { id } = await start(waits, "13");
    expect((await stateOf(id)).awaits).toBe(1);
    await looksFor(id);
    await client.query("commit");
    expect(await looksFor(id)).toBe(1);
    await lookAt(SYSTEM, id);
    expect((await stateOf(id)).status).toBe("finished");
  } finally {
    await client.end();
  }
});

it("rounds wait each for their own, and in a large request only those that may have come are woken", async () => {
  const waits = await released([
    {
      id: "f",
      name: "Things",
      kind: "find",
      register: "objects",
      take: "some",
      most: 20,
      nothing: "on",
      ways: [],
    } as unknown as Step,
    {
      id: "e",
      name: "Each",
      kind: "for each",
      over: { list: "Things" },
      item: "One",
      bodies: [{ id: "b", steps: [until('contains(One.Title, "woken")')] }],
    } as Step,
  ]);
  const { id } = await start(waits, "14");
  const of = await watched(id);
  expect(of).toHaveLength(20);
  expect(
    (await sql<{ in_parts: boolean }>("select in_parts from request where id = $1", [id]))[0]!.in_parts,
  ).toBe(true);
  await looksFor(id);
  const writes = await released([write('Object.Title + " woken"')]);
  for (const [n, { record_id }] of of.entries()) {
    if (n > 1 && n < 19) continue;
    await start(writes, record_id);
    expect(await looksFor(id)).toBe(1);
    await lookAt(SYSTEM, id);
  }
  expect(await watched(id)).toHaveLength(17);
  const state = await stateOf(id);
  expect(state.awaits).toBe(17);
  expect(Object.keys(state.scopes)).toHaveLength(17);
  // Missed for whatever reason, they are found by looking everywhere.
  await sql("update register.objects set title = title || ' woken' where id = any($1::bigint[])", [
    of.map((o) => o.record_id),
  ]);
  expect((await lookEverywhere(SYSTEM)).requests).toBeGreaterThan(0);
  expect((await stateOf(id)).status).toBe("finished");
  expect(await watched(id)).toEqual([]);
});

it("what the request itself comes to wakes at once, in the answer's own command", async () => {
  const ask: Step = {
    id: "d",
    name: "Look",
    kind: "decide",
    who: { rule: { by: "person", person: "piet.hanlon" }, how: "one" },
    answers: [{ id: "yes", label: "Yes", tone: "agree", steps: [] }],
  } as Step;
  const key = await released([
    {
      id: "t",
      name: "Both",
      kind: "together",
      branches: [
        {
          id: "a",
          name: "A",
          steps: [until('Look.answer = "Yes"', [{ id: "l", length: { amount: 1, unit: "days" } }])],
        },
        { id: "b", name: "B", steps: [ask] },
      ],
    } as Step,
    {
      id: "o",
      name: "Say",
      kind: "work out",
      set: [{ field: "word", value: 'if Arrived.came then "came" else "late"' }],
    } as Step,
  ]);
  const { id, number } = await start(key, "15");
  expect(await watched(id)).toEqual([]);
  const piet = await person("piet.hanlon");
  const [task] = Object.keys((await stateOf(id)).tasks);
  value(await act(piet, number, { type: "answer", task: task!, answer: "yes", note: "", data: {} }));
  expect(await stateOf(id)).toMatchObject({ status: "finished", data: { word: "came" } });
  expect(await sql("select 1 from timer where request_id = $1", [id])).toEqual([]);
});
