import { NEW_REQUEST, replay, type RequestState } from "@/core/engine";
import type { Field } from "@/core/form";
import { portsOf } from "@/core/kinds";
import type { ProcessDefinition, Step } from "@/core/route";
import {
  act,
  beginProcedure,
  createProcess,
  deleteProcess,
  desk,
  draftProblems,
  editDraft,
  lateTask,
  releaseDraft,
  releasePage,
  requestView,
  startRequest,
  SYSTEM,
  taskView,
  whereUsed,
  workshopList,
} from "@/services";
import { getPool, requests } from "@/db";
import { openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

const FIELDS: Field[] = [
  { id: "thing", name: "Thing", kind: "look-up", register: "objects", needed: "true", hand: "in" },
  { id: "why", name: "Why", kind: "text", hand: "in" },
  { id: "grade", name: "Grade", kind: "text", hand: "out" },
  { id: "inner", name: "Inner", kind: "text" },
];
const asks = (who: string, more: object = {}): Step =>
  ({
    id: "look",
    name: "Look at it",
    kind: "decide",
    who: { rule: { by: "person", person: who }, how: "one" },
    answers: [
      { id: "good", label: "Good", tone: "agree", steps: [] },
      {
        id: "bad",
        label: "Bad",
        tone: "refuse",
        steps: [{ id: "no", name: "Finish", kind: "finish", result: "not good", tone: "refuse" } as Step],
      },
    ],
    ...more,
  }) as Step;
/** Writes to the record that it was handed, and hands back what the record says. */
const INSIDE: Step[] = [
  {
    id: "write",
    name: "Note",
    kind: "write",
    op: "change",
    register: "objects",
    record: "Thing",
    values: [{ column: "title", value: 'Thing.Title + " (seen)"' }],
  } as Step,
  {
    id: "tell",
    name: "Say so",
    kind: "tell",
    who: { by: "requester" },
    subject: "Seen: {Thing.Title}",
    text: "{Why}",
    ways: [],
  } as Step,
  asks("piet.hanlon"),
  {
    id: "out",
    name: "Work out",
    kind: "work out",
    set: [{ field: "grade", value: 'Thing.Title + " is " + Look at it.answer' }],
  } as Step,
  { id: "fine", name: "Finish", kind: "finish", result: "fine", tone: "agree" } as Step,
];

let made = 0;
const base = (key: string, name: string): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key,
  name,
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: "", digits: 4 },
  title: "",
  starts: [],
  fields: [],
  access: {},
  route: [],
  samples: [],
});
async function released(d: ProcessDefinition): Promise<ProcessDefinition> {
  value(await createProcess(SYSTEM, d));
  value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  return d;
}
const procedure = (route = INSIDE, more: Partial<ProcessDefinition> = {}) => {
  const key = `look-${++made}`;
  return released({ ...base(key, `Look ${made}`), procedure: true, fields: FIELDS, route, ...more });
};
const handTo = (of: ProcessDefinition, more: object = {}): Step =>
  ({
    id: "hand",
    name: "Looked at",
    kind: "hand to",
    procedure: of.key,
    ...portsOf(of.fields),
    values: [
      { port: "thing", value: "Object" },
      { port: "why", value: "Reason" },
    ],
    ...more,
  }) as Step;
const caller = (of: ProcessDefinition, more: Partial<ProcessDefinition> = {}) =>
  released({
    ...base(`calls-${++made}`, `Calls ${made}`),
    numbering: { prefix: `CA${made}`, digits: 4 },
    title: "{Said}",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [
      { id: "object", name: "Object", kind: "look-up", register: "objects", needed: "true" },
      { id: "reason", name: "Reason", kind: "text" },
      { id: "secret", name: "Secret", kind: "text" },
      { id: "said", name: "Said", kind: "text" },
    ],
    access: { hand: { secret: "hide" } },
    route: [
      handTo(of),
      {
        id: "o",
        name: "Work out",
        kind: "work out",
        set: [{ field: "said", value: 'Looked at.result + ": " + Looked at.Grade' }],
      } as Step,
      { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step,
    ],
    ...more,
  });
const stateOf = async (number: string): Promise<RequestState> =>
  (await requests.requestForCommand(getPool(), { number }, false))!.state;
const start = async (d: ProcessDefinition, object = "1") => {
  const lucia = await person("lucia.penrose");
  const data = { object, reason: "It creaks", secret: "the code is 4711" };
  return value(await startRequest(lucia, d.key, data)).number;
};
const titleOf = async (id: string) =>
  (await sql<{ title: string }>("select title from register.objects where id = $1", [id]))[0]!.title;

it("runs in the request: asks, writes, tells and hands back, and its events tell its state", async () => {
  const d = await caller(await procedure());
  const [lucia, piet] = [await person("lucia.penrose"), await person("piet.hanlon")];
  const before = await titleOf("1");
  const number = await start(d);
  expect(await titleOf("1")).toBe(`${before} (seen)`);
  const notices = await sql<{ subject: string; effect_key: string }>(
    "select subject, effect_key from notice where person_id = 'lucia.penrose' and subject <> '' order by id desc limit 1",
  );
  expect(notices).toMatchObject([{ subject: `Seen: ${before} (seen)` }]);
  expect(notices[0]!.effect_key).toMatch(/:c\d+~e\d+$/);

  const mine = (await desk(piet)).rows.find((t) => t.number === number)!;
  expect(mine).toMatchObject({ step_name: "Look at it" });
  const view = value(await taskView(piet, number, mine.task_id));
  expect(view.task).toMatchObject({ step: "Look at it", about: "Looked at" });
  // Its own form, and beside it that of the request, but for what the step that hands over hides.
  expect(view.form.data).toMatchObject({ why: "It creaks" });
  expect(Object.keys(view.form.data)).not.toContain("reason");
  expect(view.caller).toMatchObject({ name: d.name, form: { data: { reason: "It creaks" } } });
  expect(JSON.stringify(view)).not.toContain("4711");

  value(await act(piet, number, { type: "answer", task: mine.task_id, answer: "good", note: "", data: {} }));
  const state = await stateOf(number);
  expect(state).toMatchObject({ status: "finished", data: { said: `fine: ${before} (seen) is Good` } });
  expect(value(await requestView(lucia, number)).title).toBe(`fine: ${before} (seen) is Good`);
  const [row] = await sql<{ id: string }>("select id from request where number = $1", [number]);
  expect(replay(await requests.eventsOf(getPool(), row!.id), NEW_REQUEST)).toEqual(state);
  // Somebody who comes late is told what became of it.
  expect(value(await lateTask(piet, number, mine.task_id)).lines.map((l) => l.text)).toContain(
    "answered: Good",
  );
  const again = await act(piet, number, {
    type: "answer",
    task: mine.task_id,
    answer: "bad",
    note: "",
    data: {},
  });
  expect(again).toMatchObject({ ok: false, failure: { data: { code: "already-answered" } } });
});

it("what changed in it stands on the trail for those who look after the process, as they may see it; for others not", async () => {
  const set = (id: string, field: string, value: string): Step =>
    ({ id, name: `Set ${id}`, kind: "work out", set: [{ field, value }] }) as Step;
  const deeper = await procedure([set("s3", "inner", '"deepest word"')]);
  const route = [
    set("s1", "inner", '"first word"'),
    set("s2", "inner", '"second word"'),
    set("s4", "why", '"hidden word"'),
    { ...handTo(deeper), values: [{ port: "thing", value: "Thing" }] } as Step,
    asks("piet.hanlon"),
  ];
  const d = await caller(await procedure(route, { access: { watch: { why: "hide" } } }));
  const number = await start(d, "3");
  const told = async (who: string) =>
    value(await requestView(await person(who), number)).trail.flatMap((l) =>
      l.changes.map((c) => `${c.name}: ${c.from ?? ""} > ${c.to ?? ""}`),
    );
  expect(await told("tobias.marrin")).toEqual([
    "Inner:  > first word",
    "Inner: first word > second word",
    "Inner:  > deepest word",
  ]);
  expect(await told("lucia.penrose")).toEqual([]);
  expect(await told("piet.hanlon")).toEqual([]);
});

it("stands on path and trail as one step that opens, and tells nothing of what is hidden", async () => {
  const way: Step = {
    id: "ways",
    name: "Which",
    kind: "choose",
    ways: [
      { id: "a", name: "creaks", when: 'contains(Why, "creaks")', steps: [] },
      { id: "b", name: "not", when: "", steps: [] },
    ],
  } as Step;
  const d = await caller(await procedure([way, ...INSIDE]));
  const [lucia, tobias, piet] = [
    await person("lucia.penrose"),
    await person("tobias.marrin"),
    await person("piet.hanlon"),
  ];
  const number = await start(d, "2");
  const seen = value(await requestView(lucia, number));
  const stop = seen.path.find((s) => s.step === "hand")!;
  expect(stop).toMatchObject({ name: "Looked at", state: "here" });
  expect(stop.inner!.stops.map((s) => [s.step, s.state])).toEqual([
    ["ways", "done"],
    ["write", "done"],
    ["tell", "done"],
    ["look", "here"],
  ]);
  expect(seen.waiting).toMatchObject([
    { step: "Look at it", about: "Looked at", inside: stop.inner!.call, people: [{ name: "Piet Hanlon" }] },
  ]);
  const inside = seen.trail.filter((l) => l.round === "Looked at");
  expect(inside.map((l) => l.text)).toContain("Look at it: Piet Hanlon is asked");
  expect(seen.trail.map((l) => l.text)).toContain("Looked at: goes through “" + (await nameOf(d)) + "”");
  // Who asked sees that a way was taken, and not by which values; its owners see those.
  const chosen = (v: typeof seen) =>
    v.trail.find((l) => l.round === "Looked at" && l.text.startsWith("Which"))!;
  expect(chosen(seen).why).toEqual([]);
  expect(chosen(value(await requestView(tobias, number))).why.length).toBeGreaterThan(0);
  expect(JSON.stringify(value(await requestView(piet, number)))).not.toContain("4711");
  // An owner gives its task to somebody else, and lets it go on.
  const { task } = seen.waiting[0]!;
  value(await act(tobias, number, { type: "reassign", task, to: "sorcha.lind", note: "Piet is away" }));
  const sorcha = await person("sorcha.lind");
  expect((await desk(sorcha)).rows.map((t) => t.task_id)).toContain(task);
  value(await act(lucia, number, { type: "withdraw", note: "" }));
  expect((await desk(sorcha)).rows.map((t) => t.task_id)).not.toContain(task);
  const left = await sql("select 1 from task where status in ('open', 'taken') and id = $1", [task]);
  expect(left).toEqual([]);
});
const nameOf = async (d: ProcessDefinition) => {
  const hand = d.route[0] as Extract<Step, { kind: "hand to" }>;
  return (
    await sql<{ name: string }>(
      "select definition ->> 'name' as name from process_draft where process_key = $1",
      [hand.procedure],
    )
  )[0]!.name;
};

it("two answers at once to one task of it: one counts", async () => {
  const d = await caller(await procedure([asks("piet.hanlon"), INSIDE[3]!, INSIDE[4]!]));
  const number = await start(d, "3");
  const piet = await person("piet.hanlon");
  const tasks = (await desk(piet)).rows;
  const { task_id: task } = tasks.find((t) => t.number === number)!;
  const answers = await Promise.all(
    ["good", "bad", "good"].map((answer) =>
      act(piet, number, { type: "answer", task, answer, note: "", data: {} }),
    ),
  );
  expect(answers.filter((a) => a.ok)).toHaveLength(1);
  expect((await stateOf(number)).status).toBe("finished");
});

it("a new release of it is for those who come later; one that breaks callers says which", async () => {
  const p = await procedure();
  const d = await caller(p);
  const tobias = await person("tobias.marrin");
  const first = await start(d, "4");
  value(await editDraft(tobias, p.key, 0, [{ op: "field.set", id: "grade", patch: { hand: null } }]));
  const page = value(await releasePage(tobias, p.key));
  expect(page.breaks).toMatchObject([
    { key: d.key, version: "1.0.0", number: "2", step: "Looked at", why: ["“Grade” is handed back no more"] },
    { key: d.key, version: null },
  ]);
  value(await releaseDraft(SYSTEM, p.key, "2.0.0", ""));
  expect(value(await draftProblems(tobias, d.key)).map((x) => x.code)).toEqual(["other-ports"]);
  // The one under way goes on as it began.
  const piet = await person("piet.hanlon");
  const { task_id: task } = (await desk(piet)).rows.find((t) => t.number === first)!;
  value(await act(piet, first, { type: "answer", task, answer: "good", note: "", data: {} }));
  expect((await stateOf(first)).status).toBe("finished");
  // One that comes to it now stands stuck with the reason once it has ended, and is not gone through again.
  const second = await start(d, "4");
  const { task_id: later } = (await desk(piet)).rows.find((t) => t.number === second)!;
  value(await act(piet, second, { type: "answer", task: later, answer: "good", note: "", data: {} }));
  const stuck = value(await requestView(tobias, second)).stuck;
  expect(stuck).toMatchObject([
    { step: "Looked at", sentence: expect.stringContaining("“Grade”") as string },
  ]);
  // With a release that hands it back again, it goes on.
  value(await editDraft(tobias, p.key, 1, [{ op: "field.set", id: "grade", patch: { hand: "out" } }]));
  value(await releaseDraft(SYSTEM, p.key, "2.1.0", ""));
  value(await act(tobias, second, { type: "retry", token: stuck[0]!.token }));
  expect((await stateOf(second)).status).toBe("stuck");
  value(await act(tobias, second, { type: "skip", token: stuck[0]!.token, way: null, note: "seen by hand" }));
  expect((await stateOf(second)).status).toBe("finished");
});

it("is known where it is used, and not deleted while anything hands to it", async () => {
  const p = await procedure();
  const tobias = await person("tobias.marrin");
  expect(value(await whereUsed(tobias, p.key))).toEqual([]);
  const d = await caller(p);
  expect(value(await whereUsed(tobias, p.key))).toEqual([
    { key: d.key, process: d.name, version: "1.0.0", number: "2", step: "Looked at" },
    { key: d.key, process: d.name, version: null, number: "2", step: "Looked at" },
  ]);
  const listed = (await workshopList(tobias)).find((x) => x.key === p.key)!;
  expect(listed).toMatchObject({ procedure: true, used_by: 1 });
  expect(await deleteProcess(tobias, p.key)).toMatchObject({ ok: false });
  const empty = value(await beginProcedure(tobias, "Fresh one"));
  expect(empty.key).toBe("fresh-one");
  expect(await startRequest(await person("lucia.penrose"), p.key, {})).toMatchObject({ ok: false });
});

it("each round has its own, and a large request keeps them in parts", async () => {
  const p = await procedure();
  const d = await caller(p, {
    route: [
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
        name: "Outcomes",
        kind: "for each",
        over: { list: "Things" },
        item: "One",
        collect: "Looked at.Grade",
        bodies: [{ id: "b", steps: [handTo(p, { values: [{ port: "thing", value: "One" }] })] }],
      } as Step,
      {
        id: "o",
        name: "Work out",
        kind: "work out",
        set: [{ field: "said", value: "string(count(Outcomes[item != null]))" }],
      } as Step,
      { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step,
    ],
  });
  const number = await start(d, "5");
  const piet = await person("piet.hanlon");
  const tasks = (await desk(piet)).rows.filter((t) => t.number === number);
  expect(tasks).toHaveLength(20);
  const [row] = await sql<{ id: string; in_parts: boolean }>(
    "select id, in_parts from request where number = $1",
    [number],
  );
  expect(row!.in_parts).toBe(true);
  for (const t of tasks.reverse())
    value(await act(piet, number, { type: "answer", task: t.task_id, answer: "good", note: "", data: {} }));
  const state = await stateOf(number);
  expect(state).toMatchObject({ status: "finished", data: { said: "20" } });
  expect(replay(await requests.eventsOf(getPool(), row!.id), NEW_REQUEST)).toMatchObject({
    status: "finished",
    data: state.data,
    seq: state.seq,
  });
});
