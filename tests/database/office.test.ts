import {
  act,
  badges,
  desk,
  myRequests,
  moveClock,
  noticesOf,
  officePage,
  progress,
  queueDueTimers,
  readNotices,
  startRequest,
  requestView,
  deliver,
  catalogue,
  peopleOfDemo,
  SYSTEM,
} from "@/services";
import type { Effect, RequestState } from "@/core/engine";
import { KEY, openWorld, orderOf, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());
const stateOf = async (number: string) =>
  (
    await sql<{ id: string; state: RequestState }>("select id::text, state from request where number = $1", [
      number,
    ])
  )[0]!;

it("someone away is answered for by their cover, who is told for whom; back again they are asked themselves", async () => {
  const n = value(await startRequest(await person("maeve.dunlea"), "store-key", KEY)).number;
  // Orla is not away; Patrick is, and Rosalind covers for him.
  expect(Object.values((await stateOf(n)).state.tasks)[0]!.candidates).toEqual([
    { person: "orla.fennimore" },
  ]);
  await sql("update person set manager_id = 'patrick.iverson' where id = 'dov.merrick'");
  const covered = value(
    await startRequest(await person("dov.merrick"), "store-key", { ...KEY, store: "2" }),
  ).number;
  const row = (await desk(await person("rosalind.meath"))).rows.find((r) => r.number === covered)!;
  expect(row.covers_for).toBe("Patrick Iverson");
  await sql("delete from absence");
  const later = value(
    await startRequest(await person("dov.merrick"), "store-key", { ...KEY, store: "3" }),
  ).number;
  expect((await desk(await person("patrick.iverson"))).rows.map((r) => r.number)).toContain(later);
});

it("limits count in the working hours of whoever is asked, in their zone", async () => {
  const keeper = value(
    await startRequest(await person("siobhan.carrow"), "store-key", { ...KEY, store: "22" }),
  ).number;
  const { state } = await stateOf(keeper);
  value(
    await act(await person("aoife.lanigan"), keeper, {
      type: "answer",
      task: Object.keys(state.tasks)[0]!,
      answer: "approve",
      note: "",
      data: {},
    }),
  );
  const task = Object.values((await stateOf(keeper)).state.tasks).find((t) => t.step === "handover")!;
  expect(task.holder).toBe("greta.halloran");
  const halifax = new Intl.DateTimeFormat("en-GB", {
    timeZone: "America/Halifax",
    hour: "2-digit",
    minute: "2-digit",
  }).format(task.due!);
  expect(halifax >= "08:30" && halifax <= "16:30").toBe(true);
});

it("the desk has the soonest limit first; what is answered leaves it and its count", async () => {
  const sorcha = await person("sorcha.lind");
  const before = (await badges(sorcha)).desk;
  const slow = value(
    await startRequest(await person("piet.hanlon"), "store-key", { ...KEY, store: "4" }),
  ).number;
  const quick = value(await startRequest(await person("piet.hanlon"), "supplies", orderOf(6))).number;
  const rows = (await desk(sorcha)).rows;
  expect(rows.map((r) => r.due_at)).toEqual(
    rows.map((r) => r.due_at).sort((a, b) => (a ?? Infinity) - (b ?? Infinity)),
  );
  expect(rows.findIndex((r) => r.number === quick)).toBeLessThan(rows.findIndex((r) => r.number === slow));
  expect((await badges(sorcha)).desk).toBe(before + 2);
  value(
    await act(sorcha, quick, {
      type: "answer",
      task: rows.find((r) => r.number === quick)!.task_id,
      answer: "approve",
      note: "",
      data: {},
    }),
  );
  expect((await badges(sorcha)).desk).toBe(before + 1);
});

it("a notice is kept with the request that asked for it, once on the screen and once on the trail", async () => {
  const piet = await person("piet.hanlon");
  const n = value(await startRequest(piet, "supplies", orderOf(1, "5")));
  expect(n.outside).toEqual([]);
  const there = async () => [
    (await noticesOf(piet)).filter((x) => x.number === n.number).length,
    value(await requestView(piet, n.number)).trail.filter((l) => l.text.includes("was told")).length,
  ];
  expect(await there()).toEqual([1, 1]);
  // One that an earlier version of the product left in the queue, however often it is tried.
  const tell = {
    kind: "tell" as const,
    id: "e900",
    step: "tell",
    people: [piet.id],
    subject: "Late",
    text: "",
  } satisfies Effect;
  await Promise.all([deliver(SYSTEM, n.id, tell), deliver(SYSTEM, n.id, tell)]);
  await deliver(SYSTEM, n.id, tell);
  expect(await there()).toEqual([2, 2]);
  expect((await badges(piet)).unread).toBeGreaterThan(0);
  await readNotices(piet, (await noticesOf(piet))[0]!.id);
  expect((await badges(piet)).unread).toBe(0);
});

it("own requests and Progress list by page, view, process and search", async () => {
  const piet = await person("piet.hanlon");
  const { total } = await myRequests(piet, 0, 1);
  expect((await myRequests(piet, 0, 1)).rows).toHaveLength(1);
  expect((await myRequests(piet, total, 10)).rows).toHaveLength(0);
  const tobias = await person("tobias.marrin");
  const f = { search: "", offset: 0, limit: 100 };
  const open = await progress(tobias, { ...f, state: "open" });
  expect(open.rows.every((r) => r.ended_at === null && r.process_key !== "object-loan")).toBe(true);
  expect(
    (await progress(tobias, { ...f, state: "open", process: "supplies" })).rows.every(
      (r) => r.process_key === "supplies",
    ),
  ).toBe(true);
  expect(
    (await progress(tobias, { ...f, search: open.rows[0]!.number.toLowerCase() })).rows.map((r) => r.number),
  ).toEqual([open.rows[0]!.number]);
  expect((await progress(tobias, { ...f, search: "%" })).total).toBe(0);
  // Every part of a number finds it, with and without its prefix, as a list without any index would.
  const all = await sql<{ number: string; title: string }>(
    "select r.number, r.title from request r join process_owner o using (process_key) where o.person_id = 'tobias.marrin'",
  );
  const some = open.rows[0]!.number;
  for (const part of [some.slice(0, -1), some.slice(2), some.slice(-3), some.slice(-2), `x${some}`]) {
    const found = await progress(tobias, { ...f, search: part });
    const meant = all.filter((r) => `${r.number} ${r.title}`.toLowerCase().includes(part.toLowerCase()));
    expect(found.total).toBe(Math.min(meant.length, 501));
    expect(found.rows.every((r) => meant.some((m) => m.number === r.number))).toBe(true);
  }
  expect((await progress(await person("lucia.penrose"), { ...f, state: "open" })).total).toBe(0);
});

it("what waits past its limit is in the view of late ones, once the clock is moved; timers come into the queue, once", async () => {
  const tobias = await person("tobias.marrin");
  expect((await progress(tobias, { search: "", offset: 0, limit: 100, state: "late" })).total).toBe(0);
  expect(await queueDueTimers(SYSTEM)).toEqual({ queued: 0 });
  value(await moveClock(tobias, 5 * 86_400_000, true));
  // A full queue takes no more; jobs that wait to be tried again do not fill it.
  await sql(`
    select graphile_worker.add_job('timer', '{}', priority := 1000, queue_name := 'full')
    from generate_series(1, 500)
  `);
  expect(await queueDueTimers(SYSTEM)).toEqual({ queued: 0 });
  await sql("update graphile_worker._private_jobs set run_at = now() + interval '1 hour'");
  expect((await queueDueTimers(SYSTEM)).queued).toBeGreaterThan(0);
  await sql("delete from graphile_worker._private_jobs");
  await sql("update timer set queued = false");
  // Two workers looking at the same moment queue each timer once, and a request's timers as one job.
  const both = await Promise.all([queueDueTimers(SYSTEM), queueDueTimers(SYSTEM)]);
  const due = await sql("select distinct request_id from timer where queued");
  expect(both[0]!.queued + both[1]!.queued).toBe((await sql("select 1 from timer where queued")).length);
  expect(due.length).toBeGreaterThan(0);
  expect(await sql("select 1 from graphile_worker.jobs where task_identifier = 'timer'")).toHaveLength(
    due.length,
  );
  expect(await queueDueTimers(SYSTEM)).toEqual({ queued: 0 });
  const late = await progress(tobias, { search: "", offset: 0, limit: 100, state: "late" });
  expect(late.total).toBeGreaterThan(0);
  expect(late.rows).toHaveLength(late.total);
  // The longest past it first, and what a request keeps of its limits is what its open tasks say.
  const limits = late.rows.map((r) => r.due_at!);
  expect(limits).toEqual([...limits].sort((a, b) => a - b));
  expect(limits.every((at) => at < late.now)).toBe(true);
  expect(
    await sql(`
      select r.number, r.due_at, t.due_at
      from request r left join (select request_id, min(due_at) as due_at from task where ended_at is null group by 1) t
        on t.request_id = r.id
      where r.due_at is distinct from t.due_at
    `),
  ).toEqual([]);
});

it("the catalogue and the office show what the demo promises", async () => {
  expect((await catalogue(await person("lucia.penrose"))).entries.map((e) => e.key).sort()).toEqual([
    "acquisition-offers",
    "new-borrower",
    "object-loan",
    "shelf-audit",
    "store-key",
    "supplies",
    "ticketing-terms",
  ]);
  const office = await officePage(await person("lucia.penrose"));
  expect(office.people).toHaveLength(31);
  expect(office.people.find((p) => p.id === "sorcha.lind")!.duties).toContain("Budget holder, Conservation");
  expect(office.calendars.map((c) => c.key)).toContain("halifax");
  expect((await peopleOfDemo())[0]!.shows).not.toBe("");
});
