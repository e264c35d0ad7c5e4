import type { Task } from "@/core/engine";
import {
  act,
  badges,
  lateTask,
  chooseNews,
  newsChosen,
  noticesOf,
  progressCounts,
  readNotices,
  requestView,
  startRequest,
  taskView,
} from "@/services";
import { KEY, openWorld, orderOf, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

const start = async (who: string, process: string, data: object) =>
  value(await startRequest(await person(who), process, data as never)).number;
const tasksOf = async (number: string): Promise<Task[]> =>
  Object.values(
    (
      await sql<{ state: { tasks: Record<string, Task> } }>("select state from request where number = $1", [
        number,
      ])
    )[0]!.state.tasks,
  );
const open = async (number: string) =>
  (await tasksOf(number)).find((t) => t.status === "open" || t.status === "taken")!;
/** What somebody is told about a request, newest first. */
const told = async (who: string, number: string) =>
  (await noticesOf(await person(who))).filter((n) => n.number === number);
const said = async (who: string, number: string) => (await told(who, number)).map((n) => n.text);
const give = async (who: string, number: string, command: object) =>
  act(await person(who), number, command as never);
const OWNER = "tobias.marrin";

describe("people are told", () => {
  it("of a task that comes, once, with the way to it; not any more once it is answered", async () => {
    const n = await start("lucia.penrose", "store-key", KEY);
    const [news] = await told("fintan.galloway", n);
    const task = await open(n);
    expect(news).toMatchObject({ read: false, href: `/desk/${n}/${task.id}`, body: "" });
    expect(news!.text).toMatch(/^Manager decides: it waits for you, until \w{3},? \d/);
    expect(news!.title).toContain("Lucia");
    expect(await said("lucia.penrose", n)).toEqual([]);
    const before = (await badges(await person("fintan.galloway"))).unread;
    value(
      await give("fintan.galloway", n, {
        type: "answer",
        task: task.id,
        answer: "approve",
        note: "",
        data: {},
      }),
    );
    expect((await told("fintan.galloway", n))[0]).toMatchObject({ read: true, href: `/requests/${n}` });
    expect((await badges(await person("fintan.galloway"))).unread).toBe(before - 1);
    expect(await said("eamon.stack", n)).toHaveLength(1);
  });

  it("of changes asked for, of handing over, of a task that is not theirs any more", async () => {
    const n = await start("lucia.penrose", "store-key", KEY);
    const { id } = await open(n);
    value(
      await give("fintan.galloway", n, {
        type: "hand over",
        task: id,
        to: "hilde.sorensen",
        note: "You know it",
      }),
    );
    expect((await said("hilde.sorensen", n))[0]).toBe(
      "Manager decides: Fintan Galloway handed it over to you",
    );
    expect(await said("fintan.galloway", n)).toHaveLength(1);
    value(
      await give(OWNER, n, { type: "reassign", task: id, to: "cillian.roe", note: "Hilde is on a course" }),
    );
    const away = (await told("hilde.sorensen", n))[0]!;
    expect(away.text).toBe("Manager decides: Cillian Roe has it now; you need do nothing more");
    // Whoever has it no more may not look at the request either, and learns nothing of it by a notice.
    expect(away).toMatchObject({ title: null, href: null });
    expect((await requestView(await person("hilde.sorensen"), n)).ok).toBe(false);
    value(
      await give("cillian.roe", n, {
        type: "answer",
        task: id,
        answer: "return",
        note: "Which shelf?",
        data: {},
      }),
    );
    expect((await said("lucia.penrose", n))[0]).toBe(
      "Manager decides: Cillian Roe sends it back to you for changes",
    );
    value(await give("lucia.penrose", n, { type: "withdraw", note: "" }));
    expect(await said("lucia.penrose", n)).toHaveLength(1);
  });

  it("of what is called off, of reminders, and of covering", async () => {
    const n = await start("lucia.penrose", "store-key", KEY);
    const { id } = await open(n);
    value(await give(OWNER, n, { type: "remind", task: id, note: "The lorry comes at noon" }));
    value(await give("lucia.penrose", n, { type: "withdraw", note: "" }));
    expect(await said("fintan.galloway", n)).toEqual([
      "Manager decides: your answer is not needed any more; the request has ended",
      "Manager decides: Tobias Marrin reminds you that it waits for you",
      expect.stringContaining("it waits for you"),
    ]);
    // What asks for something that is over is read; that it is over is news.
    expect((await told("fintan.galloway", n)).map((x) => x.read)).toEqual([false, true, true]);
    const covered = await start("orla.fennimore", "supplies", orderOf(60, "13"));
    expect((await said("rosalind.meath", covered))[0]).toBe(
      "Budget holder decides: you answer for Patrick Iverson, who is away",
    );
  });

  it("that a request is stuck: its owners what to mend, who asked that it is seen to", async () => {
    const before = await progressCounts(await person(OWNER), null);
    const n = await start("rosalind.meath", "supplies", orderOf(60, "13"));
    expect(await said(OWNER, n)).toEqual([
      "It is stuck at “Budget holder decides” and waits for you, as an owner of its process",
    ]);
    expect((await said("rosalind.meath", n))[0]).toContain("you need do nothing");
    const counts = await progressCounts(await person(OWNER), null);
    expect(counts).toMatchObject({ stuck: before.stuck + 1, open: before.open + 1 });
    expect(await progressCounts(await person("rosalind.meath"), null)).toEqual({
      open: 0,
      late: 0,
      stuck: 0,
    });
    const [hers, his] = [
      value(await requestView(await person("rosalind.meath"), n)),
      value(await requestView(await person(OWNER), n)),
    ];
    expect(hers.stuck[0]!.sentence).toMatch(
      /held up at “Budget holder decides”.*Tobias Marrin.*need do nothing/,
    );
    expect(JSON.stringify(hers.trail)).not.toMatch(/retry|skip/i);
    expect(his.stuck[0]).toMatchObject({ asks: true, ways: expect.any(Array) });
    // Tried again in vain: nobody is told twice, and the trail says that nothing went on.
    const token = his.stuck[0]!.token;
    expect(value(await give(OWNER, n, { type: "retry", token })).stuck).toHaveLength(1);
    expect(await said("rosalind.meath", n)).toHaveLength(1);
    const trail = value(await requestView(await person(OWNER), n)).trail;
    expect(trail.at(-1)).toMatchObject({
      byName: "Tobias Marrin",
      text: expect.stringMatching(/^tried again; nothing went on/),
    });
    value(await give(OWNER, n, { type: "name", token, to: "lucia.penrose", note: "She knows the budget" }));
    expect(await said("lucia.penrose", n)).toHaveLength(1);
    expect((await progressCounts(await person(OWNER), null)).stuck).toBe(before.stuck);
  });

  it("only of what they want to be told of, of what was new when they looked", async () => {
    const fintan = await person("fintan.galloway");
    const unwanted = async () =>
      value(await newsChosen(fintan))
        .kinds.filter((k) => k.screen === false)
        .map((k) => k.kind);
    expect(await unwanted()).toEqual([]);
    value(await chooseNews(fintan, "task came", "screen", false));
    expect(await unwanted()).toEqual(["task came"]);
    expect(await chooseNews(fintan, "toString", "screen", false)).toMatchObject({
      ok: false,
      failure: { code: "not-found" },
    });
    const quiet = await start("lucia.penrose", "store-key", { ...KEY, store: "3" });
    expect(await said("fintan.galloway", quiet)).toEqual([]);
    value(await chooseNews(fintan, "task came", "screen", true));
    value(await chooseNews(fintan, "task came", "screen", true));
    const first = await start("lucia.penrose", "store-key", { ...KEY, store: "3" });
    const shown = (await noticesOf(fintan))[0]!.id;
    const second = await start("lucia.penrose", "store-key", { ...KEY, store: "3" });
    await readNotices(fintan, shown);
    expect((await told("fintan.galloway", first))[0]!.read).toBe(true);
    expect((await told("fintan.galloway", second))[0]!.read).toBe(false);
  });
});

describe("owners of a process", () => {
  it("alone may remind, set limits, name people and let requests go on", async () => {
    const n = await start("lucia.penrose", "store-key", KEY);
    const { id, token } = await open(n);
    const deeds = [
      { type: "remind", task: id, note: "" },
      { type: "change limit", task: id, due: Date.now() + 9e9, note: "w" },
      { type: "name", token, to: "cillian.roe", note: "w" },
      { type: "skip", token, way: "approve", note: "w" },
    ];
    for (const who of ["lucia.penrose", "fintan.galloway"])
      for (const deed of deeds)
        expect(await give(who, n, deed)).toMatchObject({ ok: false, failure: { code: "not-allowed" } });
    for (const deed of deeds)
      expect(await give("greta.halloran", n, deed)).toMatchObject({
        ok: false,
        failure: { code: "not-found" },
      });
    const due = Date.now() + 40 * 86_400_000;
    value(await give(OWNER, n, { type: "change limit", task: id, due, note: "The key is abroad" }));
    const rows = await sql(
      "select t.due_at from task t join request r on r.id = t.request_id where r.number = $1",
      [n],
    );
    expect(rows).toEqual([{ due_at: due }]);
    const timers = await sql<{ due_at: number }>(
      "select t.due_at from timer t join request r on r.id = t.request_id where r.number = $1 order by 1",
      [n],
    );
    expect(timers.length).toBeGreaterThan(0);
    expect(timers.at(-1)!.due_at).toBeGreaterThanOrEqual(due);
    value(await give(OWNER, n, { type: "skip", token, way: "approve", note: "Agreed by telephone" }));
    expect((await tasksOf(n)).find((t) => t.id === id)!.status).toBe("closed");
    expect((await said("fintan.galloway", n))[0]).toContain("not needed any more; it is decided");
    const trail = value(await requestView(await person("lucia.penrose"), n)).trail;
    expect(trail.find((l) => l.text.includes("go on at “Manager decides” as:"))).toMatchObject({
      byName: "Tobias Marrin",
      note: "Agreed by telephone",
    });
  });
});

describe("the trail", () => {
  it("tells what values were and are, by name, as far as its reader may see them", async () => {
    const n = await start("lucia.penrose", "store-key", KEY);
    const { id } = await open(n);
    value(
      await give("fintan.galloway", n, {
        type: "answer",
        task: id,
        answer: "return",
        note: "Sooner",
        data: {},
      }),
    );
    const changed = { ...KEY, store: "2", purpose: "Condition check of the banners" };
    value(
      await give("lucia.penrose", n, {
        type: "answer",
        task: (await open(n)).id,
        answer: "sent",
        note: "",
        data: changed,
      }),
    );
    const [was, is] = (
      await sql<{ name: string }>("select name from register.stores where id in (1, 2) order by id")
    ).map((r) => r.name);
    const line = async (who: string) =>
      value(await requestView(await person(who), n)).trail.find((l) => l.changes.length > 0);
    const changes = (await line("lucia.penrose"))!.changes;
    expect(changes.find((c) => c.name === "Store")).toEqual({ name: "Store", from: was, to: is, row: null });
    expect(changes.find((c) => c.name === "Purpose")).toMatchObject({ from: "Condition check" });
    expect(changes).toHaveLength(2);
  });

  it("says of a task answered meanwhile what happened, and leads to the request", async () => {
    const n = await start("lucia.penrose", "store-key", KEY);
    const { id } = await open(n);
    value(
      await give("fintan.galloway", n, { type: "answer", task: id, answer: "decline", note: "No", data: {} }),
    );
    const late = await taskView(await person("fintan.galloway"), n, id);
    expect(late).toMatchObject({ ok: false, failure: { code: "refused" } });
    const gone = value(await lateTask(await person("fintan.galloway"), n, id));
    expect(gone.lines.map((l) => `${l.byName}: ${l.text}`).at(-1)).toMatch(/^Fintan Galloway: answered/);
    expect(await lateTask(await person("greta.halloran"), n, id)).toMatchObject({
      ok: false,
      failure: { code: "not-found" },
    });
    const path = value(await requestView(await person("lucia.penrose"), n)).path;
    expect(path.map((s) => s.state)).not.toContain("here");
  });
});
