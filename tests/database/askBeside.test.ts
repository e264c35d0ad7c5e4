import {
  act,
  desk,
  makeKey,
  lateTask,
  noticesOf,
  requestView,
  saveTaskDraft,
  startRequest,
  taskView,
} from "@/services";
import { handleApi } from "@/web/api/handle";
import { KEY, openWorld, person, sql, value } from "./world";

/** What is asked beside a task, by the services, as those it is about see it. */
let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());
jest.setTimeout(60_000);

const [ASKER, MANAGER, ADVISOR] = ["lucia.penrose", "fintan.galloway", "greta.halloran"];
async function begun() {
  const { number } = value(await startRequest(await person(ASKER!), "store-key", KEY));
  const manager = await person(MANAGER!);
  const task = value(await requestView(manager, number)).myTask!;
  const ask = async (to: string | null, note: string) =>
    act(manager, number, { type: "ask", task, to, note });
  const own = async (who: string) =>
    (await desk(await person(who), 500)).rows.find((r) => r.number === number && r.purpose !== "decide");
  const say = async (who: string, note: string) => {
    const q = await own(who);
    return act(await person(who), number, {
      type: "answer",
      task: q!.task_id,
      answer: "said",
      note,
      data: {},
    });
  };
  return { number, manager, task, ask, own, say };
}
const limits = async (number: string) => {
  const [row] = await sql<{ due: Date | null; tasks: (string | null)[]; timers: string }>(
    `select r.due_at as due,
       (select count(*) from timer t where t.request_id = r.id) as timers
     from request r where number = $1`,
    [number],
  );
  return { due: row!.due, timers: Number(row!.timers) };
};
const texts = async (who: string, number: string) =>
  (await noticesOf(await person(who))).filter((n) => n.number === number).map((n) => n.text);

it("who made the request is asked on their desk, with the form as they sent it; the limit stands still meanwhile", async () => {
  const { number, manager, task, ask, own, say } = await begun();
  const before = await limits(number);
  expect([before.due !== null, before.timers]).toEqual([true, 3]);
  value(await ask(null, "Which room is it?"));
  expect(await limits(number)).toEqual({ due: null, timers: 0 });
  const q = await own(ASKER!);
  expect(q).toMatchObject({ purpose: "question", step_name: "Manager decides", due_at: null });
  expect(await texts(ASKER!, number)).toContain(
    "Manager decides: Fintan Galloway asks you something about it",
  );

  const asked = value(await taskView(await person(ASKER!), number, q!.task_id));
  expect(asked.asked).toEqual({ by: "Fintan Galloway", text: "Which room is it?", until: null });
  expect(asked.answers.map((a) => [a.id, a.note])).toEqual([["said", true]]);
  expect(Object.values(asked.form.access)).not.toContain("edit");
  expect([asked.asker, asked.questions]).toEqual([null, []]);

  const seen = value(await taskView(manager, number, task));
  expect(seen.still).toBe(q!.opened_at);
  expect(seen.questions).toMatchObject([
    { by: "Fintan Galloway", to: "Lucia Penrose", text: "Which room is it?", answer: null, waits: true },
  ]);
  expect(seen.asker).toEqual({ id: ASKER, name: "Lucia Penrose" });

  // What they have typed of it is kept, like any other answer.
  const lucia = await person(ASKER!);
  value(await saveTaskDraft(lucia, number, q!.task_id, asked.draftId, {}, {}, "The cold"));
  expect(value(await taskView(lucia, number, q!.task_id)).note).toBe("The cold");
  value(await say(ASKER!, "The cold room."));
  const after = value(await taskView(manager, number, task));
  expect(after.questions).toMatchObject([
    { answer: { text: "The cold room.", by: "Lucia Penrose" }, waits: false },
  ]);
  expect([after.still, after.task.due !== null]).toEqual([null, true]);
  expect((await limits(number)).timers).toBe(3);
  expect(await texts(MANAGER!, number)).toContain("Manager decides: Lucia Penrose answers what you asked");
  const trail = after.request.trail.map((l) => `${l.by ?? ""} ${l.text} ${l.note}`.trim());
  expect(trail).toEqual(
    expect.arrayContaining([
      "fintan.galloway Manager decides: asks Lucia Penrose Which room is it?",
      "lucia.penrose answered what was asked The cold room.",
    ]),
  );
  // Late for it, they are told what became of it.
  const late = value(await lateTask(lucia, number, q!.task_id));
  expect(late.lines.map((l) => l.text)).toContain("answered what was asked");
});

it("a colleague asked for advice may look at the request from then on, and the limit goes on", async () => {
  const { number, ask, own, say, manager, task } = await begun();
  const advisor = await person(ADVISOR!);
  expect((await requestView(advisor, number)).ok).toBe(false);
  const before = await limits(number);
  value(await ask(ADVISOR!, "Is the room free?"));
  expect(await limits(number)).toEqual(before);
  const q = await own(ADVISOR!);
  expect(q).toMatchObject({ purpose: "advice" });
  const theirs = value(await taskView(advisor, number, q!.task_id));
  expect(Object.values(theirs.form.access)).not.toContain("edit");
  // They say what they think there; writing letters is for whoever has the task.
  expect([
    theirs.request.mayWrite,
    value(await taskView(manager, number, task)).request.mayWrite === null,
  ]).toEqual([null, false]);
  const waiting = value(await requestView(await person("tobias.marrin"), number)).waiting;
  expect(waiting.map((w) => [w.step, w.beside, w.ways.length > 0])).toEqual([
    ["Manager decides", false, true],
    ["Manager decides: advice", true, false],
  ]);
  value(await act(manager, number, { type: "answer", task, answer: "approve", note: "", data: {} }));
  expect(await own(ADVISOR!)).toBeUndefined();
  expect(await texts(ADVISOR!, number)).toContain(
    "Manager decides: your answer is not needed any more; it is decided",
  );
  expect((await say(ADVISOR!, "Too late.").catch(() => null))?.ok ?? false).toBe(false);
  expect((await requestView(advisor, number)).ok).toBe(true);
});

it("two who ask and answer at once leave each question answered once, and the limit on its way", async () => {
  const { number, ask, say, own } = await begun();
  value(await ask(null, "One?"));
  value(await ask(ADVISOR!, "Two?"));
  const q = await own(ASKER!);
  const lucia = await person(ASKER!);
  const twice = () =>
    act(lucia, number, { type: "answer", task: q!.task_id, answer: "said", note: "Yes.", data: {} });
  const done = await Promise.all([twice(), twice(), say(ADVISOR!, "No."), ask(ADVISOR!, "Three?")]);
  expect(done.map((d) => d.ok).filter(Boolean)).toHaveLength(3);
  const [given] = await sql<{ n: number }>(
    `select count(*)::int as n from request_event e join request r on r.id = e.request_id
     where r.number = $1 and e.type = 'answer given'`,
    [number],
  );
  expect(given!.n).toBe(2);
  expect((await limits(number)).timers).toBe(3);
});

it("a stranger asks nothing, nor does anybody at a task that is none of theirs", async () => {
  const { number, task } = await begun();
  const stranger = await person("dov.merrick");
  const d = await act(stranger, number, { type: "ask", task, to: ADVISOR!, note: "Hm?" });
  expect(d.ok ? null : d.failure.code).toBe("not-found");
  const lucia = await act(await person(ASKER!), number, { type: "ask", task, to: ADVISOR!, note: "Hm?" });
  expect(lucia.ok ? null : lucia.failure).toMatchObject({ code: "refused", data: { code: "not-yours" } });
});

it("is asked by the API as well, and listed there for whoever is asked", async () => {
  const { number, task } = await begun();
  const call = async (who: string, method: "GET" | "POST", path: string, body?: object) => {
    const { key } = value(await makeKey(await person(who), who, `asks ${path}`.slice(0, 40)));
    const r = await handleApi({
      method,
      parts: path.split("/"),
      search: new URLSearchParams(),
      authorization: `Bearer ${key}`,
      idempotencyKey: undefined,
      ifMatch: undefined,
      address: "",
      told: null,
      body: (async function* () {
        if (body) yield Buffer.from(JSON.stringify(body));
        await Promise.resolve();
      })(),
    });
    return { status: r.status, body: JSON.parse(r.body.toString()) as Record<string, never> };
  };
  const at = `requests/${number}/tasks/${task}/ask`;
  expect((await call(MANAGER!, "POST", at, { to: null, note: "" })).status).toBe(422);
  expect(await call(MANAGER!, "POST", at, { to: null, note: "Which?" })).toMatchObject({
    status: 200,
    body: { number },
  });
  const { body } = await call(ASKER!, "GET", "tasks");
  const tasks = body["tasks"] as unknown as { request: string; purpose: string }[];
  expect(tasks.find((t) => t.request === number)).toMatchObject({ purpose: "question" });
});
