import { NEW_REQUEST, replay } from "@/core/engine";
import type { ProcessDefinition, Step } from "@/core/route";
import {
  act,
  createProcess,
  erasePerson,
  fireTimers,
  releaseDraft,
  replayRequests,
  requestView,
  startRequest,
  SYSTEM,
  taskView,
} from "@/services";
import { getPool, requests } from "@/db";
import { openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

const asks = (more: object = {}): Step =>
  ({
    id: "d",
    name: "Look",
    kind: "decide",
    who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
    answers: [
      { id: "yes", label: "Yes", tone: "agree", steps: [] },
      { id: "stop", label: "Stop", tone: "refuse", steps: [] },
    ],
    ...more,
  }) as Step;
const each = (times: number, steps: Step[], more: object = {}): Step =>
  ({
    id: "e",
    name: "Outcomes",
    kind: "for each",
    over: { times: String(times) },
    item: "Turn",
    collect: "Turn number",
    bodies: [{ id: "b", steps }],
    ...more,
  }) as Step;
const FINISH = { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step;

let made = 0;
async function begun(...route: Step[]): Promise<{ id: string; number: string }> {
  const key = `parts-${++made}`;
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: `Parts ${made}`,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: `PART${made}`, digits: 4 },
    title: "Parts",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    access: {},
    samples: [],
    fields: [{ id: "word", name: "Word", kind: "text" }],
    route: [...route, FINISH],
  };
  value(await createProcess(SYSTEM, definition));
  value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  return value(await startRequest(await person("piet.hanlon"), key, {}));
}
const read = async (id: string, about: string | null = null) =>
  (await requests.requestForCommand(getPool(), { id }, false, about))!;
const folded = async (id: string) => replay(await requests.eventsOf(getPool(), id), NEW_REQUEST);
const answerOf = (task: string, answer = "yes") =>
  ({ type: "answer", task, answer, note: "", data: {} }) as const;
const partsOf = (id: string) =>
  sql<{ id: string; past: boolean; beside: boolean }>(
    "select id, past, beside from request_part where request_id = $1",
    [id],
  );

describe("a request of many rounds", () => {
  it("is kept in parts, of which a command reads those it is about", async () => {
    const { id, number } = await begun(each(30, [asks()]));
    expect((await read(id)).in_parts).toBe(true);
    expect(await partsOf(id)).toHaveLength(30);
    const whole = await read(id);
    expect(await folded(id)).toEqual(whole.state);
    const task = Object.values(whole.state.tasks)[7]!;
    const some = await read(id, task.id);
    expect(some.state.partial).toBe(true);
    expect(Object.keys(some.state.scopes)).toEqual([task.scope]);
    expect(Object.keys(some.state.tasks)).toEqual([task.id]);
    const sorcha = await person("sorcha.lind");
    value(await act(sorcha, number, answerOf(task.id)));
    const parts = await partsOf(id);
    expect(parts.filter((p) => !p.past)).toHaveLength(29);
    expect(parts.filter((p) => p.past)).toHaveLength(1);
    expect(await folded(id)).toEqual((await read(id)).state);
    // Late, and pressed twice: what is over is known.
    expect(await act(sorcha, number, answerOf(task.id, "stop"))).toMatchObject({
      ok: false,
      failure: { code: "refused", data: { code: "already-answered", data: { by: "sorcha.lind" } } },
    });
    expect(await act(sorcha, number, answerOf("t99999"))).toMatchObject({
      failure: { data: { code: "unknown-task" } },
    });
    const view = value(await requestView(await person("piet.hanlon"), number));
    expect(view.path.find((s) => s.kind === "for each")!.rounds).toMatchObject({ of: 30, ended: 1 });
  });

  it("is answered by several at once in all of its rounds, and ends", async () => {
    const { id, number } = await begun(each(24, [asks()]));
    const sorcha = await person("sorcha.lind");
    const tasks = Object.keys((await read(id)).state.tasks);
    const done = await Promise.all(tasks.map((t) => act(sorcha, number, answerOf(t))));
    expect(done.filter((d) => d.ok)).toHaveLength(24);
    const { state } = await read(id);
    expect(state).toMatchObject({ status: "finished", scopes: {}, tokens: {} });
    expect(state.kept["e"]).toEqual({
      value: { list: Array.from({ length: 24 }, (_, i) => ({ num: String(i + 1) })) },
    });
    expect(await folded(id)).toEqual(state);
    expect((await partsOf(id)).every((p) => p.past)).toBe(true);
  });

  it("is read whole where an answer ends all of it, and nothing stays open", async () => {
    const stops = asks({
      answers: [
        { id: "yes", label: "Yes", tone: "agree", steps: [] },
        {
          id: "stop",
          label: "Stop",
          tone: "refuse",
          steps: [{ id: "no", name: "No", kind: "finish", result: "stopped", tone: "refuse" }],
        },
      ],
    });
    const { id, number } = await begun(each(20, [stops]));
    const [first] = Object.keys((await read(id)).state.tasks);
    value(await act(await person("sorcha.lind"), number, answerOf(first!, "stop")));
    const open = "select count(*)::int as n from task where request_id = $1 and ended_at is null";
    expect((await sql(open, [id]))[0]).toEqual({ n: 0 });
    expect(await folded(id)).toEqual((await read(id)).state);
    expect((await read(id)).state.result).toMatchObject({ name: "stopped" });
  });

  it("calls off the other rounds once enough have ended", async () => {
    const { id, number } = await begun(each(20, [asks()], { until: "Turn number = 5" }));
    const tasks = Object.values((await read(id)).state.tasks);
    const sorcha = await person("sorcha.lind");
    value(await act(sorcha, number, answerOf(tasks[0]!.id)));
    expect((await read(id)).state.status).toBe("under way");
    value(await act(sorcha, number, answerOf(tasks[4]!.id)));
    const { state } = await read(id);
    expect(state.status).toBe("finished");
    expect(await folded(id)).toEqual(state);
  });

  it("keeps its earliest limit, whichever part it stands in, and its ladders", async () => {
    const limit = {
      rules: [],
      otherwise: { amount: 2, unit: "hours" },
      rungs: [{ id: "r1", when: "at", action: { do: "answer", answer: "yes", note: "Nobody said." } }],
    };
    const dueOf = async (id: string) =>
      (await sql<{ due_at: number }>("select due_at from request where id = $1", [id]))[0];
    const { id, number } = await begun(each(18, [asks({ limit })]));
    const tasks = Object.values((await read(id)).state.tasks);
    if (tasks[0]!.due === null) throw new Error("the limit was not set");
    expect(await dueOf(id)).toEqual({ due_at: tasks[0]!.due });
    const owner = await person("tobias.marrin");
    const later = Date.now() + 40 * 86_400_000;
    for (const [i, t] of tasks.entries())
      value(
        await act(owner, number, { type: "change limit", task: t.id, due: later + i * 1000, note: "Later" }),
      );
    expect(await dueOf(id)).toEqual({ due_at: later });
    value(await act(await person("sorcha.lind"), number, answerOf(tasks[0]!.id)));
    expect(await dueOf(id)).toEqual({ due_at: later + 1000 });
    value(
      await act(owner, number, {
        type: "change limit",
        task: tasks[9]!.id,
        due: later - 5000,
        note: "Sooner",
      }),
    );
    expect(await dueOf(id)).toEqual({ due_at: later - 5000 });
    // The limit of each falls on its own.
    await sql("update timer set due_at = '2000-01-01' where request_id = $1", [id]);
    expect((await fireTimers(SYSTEM, id)).fired).toBe(17);
    const { state } = await read(id);
    expect(state.status).toBe("finished");
    expect(await folded(id)).toEqual(state);
  });
});

it("a visit of very many people counts them all, and closes what is left", async () => {
  await sql(
    `insert into person (id, name, email, job_title, department, site, manager_id, calendar_key, zone, office_rights, active, shows)
     select 'crowd' || g, 'Crowd ' || g, 'crowd' || g || '@quillhaven.example', 'Officer', 'Collections', 'Tower House',
       null, 'office', 'Europe/Dublin', false, true, 'everything' from generate_series(1, 150) g`,
  );
  await sql("insert into person_group values ('crowd', 'Crowd')");
  await sql("insert into group_member select 'crowd', 'crowd' || g from generate_series(1, 150) g");
  const share = { who: { rule: { by: "group", group: "crowd" }, how: "share", share: 2 } };
  const { id, number } = await begun(asks(share));
  const parts = await partsOf(id);
  expect(parts.length).toBeGreaterThan(2);
  expect(parts.every((p) => p.beside)).toBe(true);
  const tasks = Object.values((await read(id)).state.tasks);
  expect(tasks).toHaveLength(150);
  const say = async (i: number, answer: string) =>
    value(await act(await person(tasks[i]!.holder!), number, answerOf(tasks[i]!.id, answer)));
  for (const i of [0, 149, 75]) await say(i, i === 75 ? "stop" : "yes");
  expect((await read(id)).state.status).toBe("under way");
  expect(await folded(id)).toEqual((await read(id)).state);
  expect(value(await taskView(await person(tasks[3]!.holder!), number, tasks[3]!.id)).task.id).toBe(
    tasks[3]!.id,
  );
  await say(100, "yes");
  const { state } = await read(id);
  expect(state).toMatchObject({ status: "finished", outcomes: { d: { answer: "Yes" } } });
  expect(await folded(id)).toEqual(state);
  expect(Object.values(state.tasks).filter((t) => t.status === "closed")).toHaveLength(146);
});

it("what somebody wrote is forgotten in every part of an ended request, and it can still be read", async () => {
  const { id, number } = await begun(each(18, [asks()]));
  const sorcha = await person("sorcha.lind");
  for (const task of Object.keys((await read(id)).state.tasks))
    value(await act(sorcha, number, { ...answerOf(task), note: `Heliotrope ${task}` }));
  const written = () =>
    sql<{ n: number }>(
      `select (select count(*) from request_part p where p.body::text like '%Heliotrope%')::int
         + (select count(*) from request r where r.state::text like '%Heliotrope%')::int as n`,
    );
  expect((await written())[0]!.n).toBeGreaterThan(10);
  value(await erasePerson(await person("tobias.marrin"), "sorcha.lind"));
  expect(await written()).toEqual([{ n: 0 }]);
  expect(await folded(id)).toEqual((await read(id)).state);
  value(await requestView(await person("piet.hanlon"), number));
});

it("what is kept in parts is found to be what the events tell", async () => {
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
  const [{ id } = { id: "" }] = await sql<{ id: string }>(
    "select request_id::text as id from request_part where not past limit 1",
  );
  await sql(
    "update request_part set body = jsonb_set(body::jsonb, '{visits}', '{}')::json where request_id = $1 and not past",
    [id],
  );
  expect((await replayRequests(SYSTEM)).differ).toHaveLength(1);
});
