import { NEW_REQUEST } from "@/core/engine";
import type { ProcessDefinition, Step } from "@/core/route";
import { closePool, getPool, requests } from "@/db";
import { act, actorOf, createProcess, goOn, releaseDraft, startRequest, SYSTEM } from "@/services";

/**
 * Large requests against the database, without HTTP: many rounds without people, a decision in a request that has
 * hundreds of them open, or that went the same way a thousand times, beside one of a small request, and very many
 * people asked at once.
 */
const ROUNDS = 1000;
const OPEN = 500;
const DECISIONS = 100;
const ASKED = 1000;
const TIMES = 1000;
const CALLS = 100;
const BUDGET = { rounds: 1000, beside: 2, asked: 100, long: 2, call: 1 } as const;

let made = 0;
async function released(route: Step[], more: Partial<ProcessDefinition> = {}): Promise<string> {
  const key = `bench-rounds-${++made}`;
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: "Bench of rounds",
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: `ROUND${made}`, digits: 6 },
    title: "Bench",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    access: {},
    samples: [],
    fields: [{ id: "sum", name: "Sum", kind: "number" }],
    route: [...route, { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" }],
    ...more,
  };
  const created = await createProcess(SYSTEM, definition);
  if (!created.ok) throw new Error(JSON.stringify(created.failure));
  const live = await releaseDraft(SYSTEM, key, "1.0.0", "");
  if (!live.ok) throw new Error(JSON.stringify(live.failure));
  return key;
}
const each = (times: number, collect: string | null, steps: Step[]): Step => ({
  id: "e",
  name: "Gone through",
  kind: "for each",
  over: { times: String(times) },
  item: "Turn",
  ...(collect ? { collect } : {}),
  bodies: [{ id: "b", steps }],
});
const ASK: Step = {
  id: "d",
  name: "Look",
  kind: "decide",
  who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
  answers: [{ id: "yes", label: "Yes", tone: "agree", steps: [] }],
};

async function begun(key: string): Promise<{ id: string; number: string }> {
  const r = await startRequest((await actorOf(getPool(), "piet.hanlon"))!, key, {});
  if (!r.ok) throw new Error(JSON.stringify(r.failure));
  return r.value;
}
const stateOf = async (id: string) =>
  (await requests.requestForCommand(getPool(), { id }, false))?.state ?? NEW_REQUEST;
/** Goes on as the worker would, until nothing is left to be opened. */
async function goneOn(id: string) {
  while (Object.values((await stateOf(id)).runs).some((r) => r.parked)) await goOn(SYSTEM, id);
}

/** Milliseconds one takes, the middle of several. */
async function median(times: number, work: () => Promise<unknown>): Promise<number> {
  const took: number[] = [];
  for (let i = 0; i < times; i++) {
    const began = performance.now();
    await work();
    took.push(performance.now() - began);
  }
  return took.sort((a, b) => a - b)[times >> 1]!;
}

const line = (what: string, measured: string, budget: string, ok: boolean) =>
  process.stdout.write(`${ok ? "  " : "! "}${what.padEnd(58)} ${measured.padEnd(26)} ${budget}\n`);

const alone = await released([
  each(ROUNDS, "Turn number", [
    { id: "w", name: "Set", kind: "work out", set: [{ field: "sum", value: "Turn number" }] },
  ]),
]);
const run = await median(5, async () => {
  const { id } = await begun(alone);
  await goneOn(id);
  if ((await stateOf(id)).status !== "finished") throw new Error("it did not come to its end");
});
line(
  `${ROUNDS} rounds without people`,
  `${run.toFixed(0)} ms`,
  `at most ${BUDGET.rounds} ms`,
  run <= BUDGET.rounds,
);

// The same work in rounds, done there and done by a procedure that is handed to.
const SUM: Step = { id: "w", name: "Set", kind: "work out", set: [{ field: "sum", value: "Sum + 1" }] };
const PORT = { id: "sum", name: "Sum", kind: "number" as const };
const inner = await released([SUM], {
  procedure: true,
  starts: [],
  fields: [{ ...PORT, hand: "in and out" }],
});
const calling: Step = {
  id: "h",
  name: "Added",
  kind: "hand to",
  procedure: inner,
  takes: [PORT],
  gives: [PORT],
  values: [{ port: "sum", value: "Turn number" }],
};
const here = await released([
  each(CALLS, "Turn number", [{ ...SUM, set: [{ field: "sum", value: "Turn number + 1" }] }]),
]);
const there = await released([each(CALLS, "Added.Sum", [calling])]);
const through = async (key: string) => {
  const { id } = await begun(key);
  await goneOn(id);
  if ((await stateOf(id)).status !== "finished") throw new Error("it did not come to its end");
};
for (const key of [here, there]) await through(key);
const [own, handed] = [await median(9, () => through(here)), await median(9, () => through(there))];
const call = (handed - own) / CALLS;
line(
  `a procedure, against its step standing there`,
  `${call.toFixed(2)} ms (${handed.toFixed(0)} and ${own.toFixed(0)} ms for ${CALLS})`,
  `at most ${BUDGET.call} ms`,
  call <= BUDGET.call,
);

const sorcha = (await actorOf(getPool(), "sorcha.lind"))!;
const decide = async (number: string, task: string) => {
  const r = await act(sorcha, number, { type: "answer", task, answer: "yes", note: "", data: {} });
  if (!r.ok) throw new Error(JSON.stringify(r.failure));
};
const single = await released([ASK]);
const ones: { number: string; task: string }[] = [];
for (let i = 0; i < DECISIONS * 2; i++) {
  const { id, number } = await begun(single);
  ones.push({ number, task: Object.keys((await stateOf(id)).tasks)[0]! });
}
const many = await begun(await released([each(OPEN, null, [ASK])]));
await goneOn(many.id);
const tasks = Object.keys((await stateOf(many.id)).tasks);
// Both warm before the clock runs.
for (const one of ones.splice(0, DECISIONS)) await decide(one.number, one.task);
for (const task of tasks.splice(0, 20)) await decide(many.number, task);
const none = await median(DECISIONS, () => {
  const { number, task } = ones.pop()!;
  return decide(number, task);
});
const beside = await median(DECISIONS, () => decide(many.number, tasks.pop()!));
line(
  `a decision beside ${OPEN} rounds, against one without`,
  `${(beside / none).toFixed(2)} (${beside.toFixed(1)} and ${none.toFixed(1)} ms)`,
  `at most ${BUDGET.beside}`,
  beside / none <= BUDGET.beside,
);
// A request of thousands of events: sent back to the same decision again and again.
const circle = await released([
  {
    ...ASK,
    answers: [
      { id: "yes", label: "Yes", tone: "agree", steps: [] },
      {
        id: "again",
        label: "Again",
        tone: "plain",
        steps: [{ id: "j", name: "Back", kind: "jump", to: "d" }],
      },
    ],
  } as Step,
]);
const long = await begun(circle);
const openTask = async () => {
  const { rows } = await getPool().query("select id from task where request_id = $1 and ended_at is null", [
    long.id,
  ]);
  return rows[0].id as string;
};
const again = async (task: string) => {
  const r = await act(sorcha, long.number, { type: "answer", task, answer: "again", note: "", data: {} });
  if (!r.ok) throw new Error(JSON.stringify(r.failure));
};
for (let i = 0; i < TIMES; i++) await again(await openTask());
const young = await begun(circle);
const took: number[] = [];
const fresh: number[] = [];
for (let i = 0; i < DECISIONS; i++) {
  for (const [of, into] of [
    [long, took],
    [young, fresh],
  ] as const) {
    const { rows } = await getPool().query("select id from task where request_id = $1 and ended_at is null", [
      of.id,
    ]);
    const began = performance.now();
    const r = await act(sorcha, of.number, {
      type: "answer",
      task: rows[0].id,
      answer: "again",
      note: "",
      data: {},
    });
    if (!r.ok) throw new Error(JSON.stringify(r.failure));
    into.push(performance.now() - began);
  }
}
const middle = (xs: number[]) => xs.sort((a, b) => a - b)[xs.length >> 1]!;
const { rows: counted } = await getPool().query(
  "select count(*)::int as n from request_event where request_id = $1",
  [long.id],
);
line(
  `a decision after ${counted[0].n} events, against one of a few`,
  `${(middle(took) / middle(fresh)).toFixed(2)} (${middle(took).toFixed(1)} and ${middle(fresh).toFixed(1)} ms)`,
  `at most ${BUDGET.long}`,
  middle(took) / middle(fresh) <= BUDGET.long,
);

// Very many people asked at once, each of whom has to agree.
await getPool().query(
  `insert into person (id, name, email, job_title, department, site, manager_id, calendar_key, zone, office_rights, active, shows)
   select 'crowd' || g, 'Crowd ' || g, 'crowd' || g || '@quillhaven.example', 'Officer', 'Collections', 'Tower House',
     null, 'office', 'Europe/Dublin', false, true, 'everything'
   from generate_series(1, $1) g`,
  [ASKED],
);
await getPool().query("insert into person_group values ('crowd', 'Crowd')");
await getPool().query("insert into group_member select 'crowd', 'crowd' || g from generate_series(1, $1) g", [
  ASKED,
]);
// As the server would by itself in a minute: until then it goes through all people for each that is named.
await getPool().query("analyze person");
const crowd = await released([
  { ...ASK, who: { rule: { by: "group", group: "crowd" }, how: "all" } } as Step,
]);
let last = { id: "", number: "" };
const asked = await median(7, async () => void (last = await begun(crowd)));
line(
  `${ASKED} people asked at once`,
  `${asked.toFixed(0)} ms`,
  `at most ${BUDGET.asked} ms`,
  asked <= BUDGET.asked,
);
const { rows: theirs } = await getPool().query(
  "select task_id as task, person_id as person from task_candidate where request_id = $1 order by task_id limit $2",
  [last.id, DECISIONS],
);
const one = await median(DECISIONS, async () => {
  const { task, person } = theirs.pop();
  const r = await act((await actorOf(getPool(), person))!, last.number, {
    type: "answer",
    task,
    answer: "yes",
    note: "",
    data: {},
  });
  if (!r.ok) throw new Error(JSON.stringify(r.failure));
});
line(
  `an answer of one of ${ASKED}, against one asked alone`,
  `${(one / none).toFixed(2)} (${one.toFixed(1)} and ${none.toFixed(1)} ms)`,
  "",
  true,
);
await closePool();
