import type { ProcessDefinition, Step } from "@/core/route";
import {
  act,
  createProcess,
  fireTimers,
  noticesOf,
  progress,
  releaseDraft,
  requestView,
  replayRequests,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
let owner: Actor;
let decider: Actor;
const remind = { id: "late", when: "at", action: { do: "remind" } };
const ask = (id: string): Step =>
  ({
    id,
    name: `Step ${id}`,
    kind: "decide",
    who: { rule: { by: "person", person: "greta.halloran" }, how: "one" },
    answers: [{ id: "yes", label: "Yes", tone: "agree", steps: [] }],
  }) as Step;
const definition = {
  format: "cobble-step/process@2",
  key: "spans",
  name: "Wholes",
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: "SPAN", digits: 3 },
  title: "",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  fields: [],
  access: {},
  samples: [],
  limit: { otherwise: { amount: 30, unit: "days" }, rungs: [remind] },
  route: [
    {
      id: "p",
      name: "Checks",
      kind: "part",
      bodies: [{ id: "p-b", steps: [ask("a"), ask("b")] }],
      limit: { otherwise: { amount: 2, unit: "days" }, rungs: [remind] },
    } as unknown as Step,
    ask("c"),
  ],
} as unknown as ProcessDefinition;

beforeAll(async () => {
  world = await openWorld();
  [owner, decider] = (await Promise.all(["tobias.marrin", "greta.halloran"].map(person))) as [Actor, Actor];
  value(await createProcess(SYSTEM, definition));
  value(await releaseDraft(SYSTEM, "spans", "1.0.0", ""));
});
afterAll(() => world.close());

const begin = async () => {
  const { number } = value(await startRequest(await person("lucia.penrose"), "spans", {}));
  const [row] = await sql<{ id: string }>("select id from request where number = $1", [number]);
  return { number, id: row!.id };
};
const answer = async (number: string) => {
  const { myTask } = value(await requestView(decider, number));
  value(await act(decider, number, { type: "answer", task: myTask!, answer: "yes", note: "", data: {} }));
};
const limits = async (number: string) => value(await requestView(owner, number)).limits.map((l) => l.of);
const dueIn = async (id: string) => {
  const [row] = await sql<{ days: number }>(
    "select round(extract(epoch from due_at - started_at) / 86400)::int as days from request where id = $1",
    [id],
  );
  return row!.days;
};

it("limits of a part and of the whole count for the request, which is late by them", async () => {
  const { number, id } = await begin();
  expect(await limits(number)).toEqual(["Wholes", "Checks"]);
  // No step has a limit: the earliest is that of the part.
  expect(await dueIn(id)).toBe(2);
  await sql(
    "update timer set due_at = '2000-01-01' where request_id = $1 and id like 'n%' and due_at = (select min(due_at) from timer where request_id = $1)",
    [id],
  );
  expect((await fireTimers(SYSTEM, id)).fired).toBe(1);
  const told = (await noticesOf(decider)).filter((n) => n.number === number).map((n) => n.text);
  expect(told).toContain(`Reminder: Checks for ${number}`);
  await answer(number);
  expect(await limits(number)).toEqual(["Wholes", "Checks"]);
  await answer(number);
  expect(await limits(number)).toEqual(["Wholes"]);
  expect(await dueIn(id)).toBe(30);
  expect(await sql("select id from timer where request_id = $1", [id])).toHaveLength(1);
  await answer(number);
  expect(await limits(number)).toEqual([]);
  expect(await sql("select id from timer where request_id = $1", [id])).toEqual([]);
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
});

it("a request past the limit of its whole is listed as late", async () => {
  const { number, id } = await begin();
  await sql("update request set due_at = '2000-01-01' where id = $1", [id]);
  const late = await progress(owner, {
    process: "spans",
    state: "late",
    search: "",
    offset: 0,
    limit: 50,
  } as never);
  expect(late.rows.map((r) => r.number)).toContain(number);
});
