import type { ProcessDefinition, Step } from "@/core/route";
import { getPool, requests } from "@/db";
import {
  act,
  createProcess,
  myRequests,
  progress,
  releaseDraft,
  requestView,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
let lucia: Actor;
let piet: Actor;
beforeAll(async () => {
  world = await openWorld();
  [lucia, piet] = [await person("lucia.penrose"), await person("piet.hanlon")];
});
afterAll(() => world.close());

let made = 0;
async function released(more: Partial<ProcessDefinition>): Promise<string> {
  const key = `stages-${++made}`;
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: key,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: `SG${made}X`, digits: 4 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [],
    access: {},
    route: [],
    samples: [],
    ...more,
  };
  value(await createProcess(SYSTEM, d));
  value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  return key;
}
const look = (id: string, stage: string | null, more: object = {}): Step =>
  ({
    id,
    name: id,
    kind: "complete",
    who: { rule: { by: "person", person: "piet.hanlon" }, how: "one" },
    button: "Done",
    ...(stage === null ? {} : { stage }),
    ...more,
  }) as Step;
const fin = (stage: string | null): Step =>
  ({
    id: "z",
    name: "Finish",
    kind: "finish",
    result: "done",
    tone: "agree",
    ...(stage ? { stage } : {}),
  }) as Step;
const stateOf = async (number: string) =>
  (await requests.requestForCommand(getPool(), { number }, false))!.state;
const open = async (number: string, step: string): Promise<string> =>
  Object.values((await stateOf(number)).tasks).find((t) => t.status === "open" && t.step === step)!.id;
const done = async (number: string, step: string) =>
  value(
    await act(piet, number, {
      type: "answer",
      task: await open(number, step),
      answer: "done",
      note: "",
      data: {},
    }),
  );
/** As lists say, which is what its own page says. */
async function listed(number: string): Promise<string | null> {
  const mine = (await myRequests(lucia, 0, 50)).rows.find((r) => r.number === number)!;
  const { stages, endedAt } = value(await requestView(lucia, number));
  const own = stages === null || stages.at === null ? null : stages.names[stages.at]!;
  if (endedAt === null) expect([number, mine.stage]).toEqual([number, own]);
  return mine.stage;
}

it("is listed as its own page says, from before the first until it has ended", async () => {
  const key = await released({
    route: [look("first", null), look("second", "Being checked"), look("third", null), fin("Decided")],
  });
  const { number } = value(await startRequest(lucia, key, {}));
  expect(await listed(number)).toBeNull();
  await done(number, "first");
  expect(await listed(number)).toBe("Being checked");
  await done(number, "second");
  expect(await listed(number)).toBe("Being checked");
  await done(number, "third");
  expect(value(await requestView(lucia, number)).stages).toEqual({
    names: ["Being checked", "Decided"],
    at: 1,
  });
  // How it ended says more.
  expect(await listed(number)).toBeNull();
});

it("is the earliest of several at once, and none where it was withdrawn", async () => {
  const branch = (id: string, steps: Step[]) => ({ id, name: id, steps });
  const key = await released({
    route: [
      {
        id: "both",
        name: "both",
        kind: "together",
        stage: "Looked at",
        branches: [
          branch("a", [look("a1", null), look("a2", "Measured")]),
          branch("b", [look("b1", "Priced")]),
        ],
      } as unknown as Step,
      fin("Decided"),
    ],
  });
  const { number } = value(await startRequest(lucia, key, {}));
  expect(await listed(number)).toBe("Looked at");
  await done(number, "a1");
  expect(await listed(number)).toBe("Measured");
  value(await act(lucia, number, { type: "withdraw", note: "" } as never));
  expect(await listed(number)).toBeNull();
});

it("is not told of one that is kept in parts, of which a command reads only some", async () => {
  const key = await released({
    fields: [{ id: "rows", name: "Rows", kind: "lines", fields: [{ id: "n", name: "N", kind: "number" }] }],
    route: [
      {
        id: "each",
        name: "each",
        kind: "for each",
        over: { list: "Rows" },
        item: "Row",
        bodies: [{ id: "b", steps: [look("one", "Being checked")] }],
        stage: "Looked at",
      } as unknown as Step,
      fin("Decided"),
    ],
  });
  const rows = Array.from({ length: 80 }, (_, i) => ({ "#": `${i}`, n: `${i}` }));
  const { number } = value(await startRequest(lucia, key, { rows }));
  const [kept] = await sql<{ in_parts: boolean; stage: string | null }>(
    "select in_parts, stage from request where number = $1",
    [number],
  );
  expect(kept).toEqual({ in_parts: true, stage: null });
  value(
    await act(piet, number, {
      type: "answer",
      task: await open(number, "one"),
      answer: "done",
      note: "",
      data: {},
    }),
  );
  expect(await sql("select stage from request where number = $1", [number])).toEqual([{ stage: null }]);
  const owner = await person("tobias.marrin");
  const rowsShown = (await progress(owner, { offset: 0, limit: 50, process: key })).rows;
  expect(rowsShown.map((r) => [r.number, r.stage])).toEqual([[number, null]]);
});
