import { NEW_REQUEST } from "@/core/engine";
import type { ProcessDefinition, Step } from "@/core/route";
import { closePool, getPool, requests } from "@/db";
import { act, actorOf, createProcess, goOn, releaseDraft, startRequest, SYSTEM } from "@/services";

/**
 * Rounds against the database, without HTTP: many of them without people, and a decision in a request that has hundreds
 * of them open beside one that has none.
 */
const ROUNDS = 1000;
const OPEN = 500;
const DECISIONS = 100;
const BUDGET = { rounds: 1000, beside: 2 } as const;

let made = 0;
async function released(route: Step[]): Promise<string> {
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
await closePool();
