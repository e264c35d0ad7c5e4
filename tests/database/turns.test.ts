import { allTasks, type RequestState } from "@/core/engine";
import type { Assignment, Rule, Step } from "@/core/route";
import { act, createProcess, releaseDraft, startRequest, SYSTEM } from "@/services";
import { getPool, requests } from "@/db";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);
let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

const THREE = ["eamon.stack", "greta.halloran", "sorcha.lind"];
const NAMED: Rule = { by: "person", person: THREE[0]!, others: THREE.slice(1) };
const asks = (id: string, who: Partial<Assignment>, steps: Step[] = []): Step =>
  ({
    id,
    name: id,
    kind: "decide",
    who: { rule: NAMED, how: "one", ...who },
    answers: [{ id: "yes", label: "Yes", tone: "agree", steps }],
  }) as Step;
const rounds = (times: number, steps: Step[]): Step =>
  ({
    id: "each",
    name: "Each",
    kind: "for each",
    over: { times: String(times) },
    item: "Item",
    bodies: [{ id: "body", steps }],
  }) as Step;
const END = { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step;

let made = 0;
async function released(route: Step[]): Promise<string> {
  const key = `turns-${++made}`;
  value(
    await createProcess(SYSTEM, {
      format: "cobble-step/process@2",
      key,
      name: `Turns ${made}`,
      purpose: "",
      owners: ["tobias.marrin"],
      numbering: { prefix: `TU${100 + made}`, digits: 4 },
      title: "",
      starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
      access: {},
      samples: [],
      fields: [{ id: "word", name: "Word", kind: "text" }],
      route: [...route, END],
    }),
  );
  value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  return key;
}
const begin = async (key: string): Promise<string> =>
  value(await startRequest(await person("piet.hanlon"), key, {} as never)).id;
const stateOf = async (id: string): Promise<RequestState> =>
  (await requests.requestForCommand(getPool(), { id }, false))!.state;
const numberOf = async (id: string) => (await stateOf(id)).number;
const askedAt = async (id: string, step: string): Promise<string[]> =>
  allTasks(await stateOf(id)).flatMap((t) => (t.step === step ? t.candidates.map((c) => c.person) : []));
/** How often each of the three is among them. */
const shares = (people: readonly string[]): number[] =>
  THREE.map((p) => people.filter((x) => x === p).length);
const openOf = async (who: string): Promise<number> => {
  const [row] = await sql<{ n: number }>(
    "select count(*)::int as n from task_candidate where person_id = $1 and open",
    [who],
  );
  return row!.n;
};

describe("one of several, in turn", () => {
  it("is whoever had it least lately, over requests, and over those who answer and those who do not", async () => {
    const key = await released([asks("check", { turns: "in turn" })]);
    const asked: string[] = [];
    for (let i = 0; i < 7; i++) {
      const id = await begin(key);
      const [who] = await askedAt(id, "check");
      asked.push(who!);
      const task = allTasks(await stateOf(id))[0]!;
      if (i % 2 === 0)
        value(
          await act(await person(who!), await numberOf(id), {
            type: "answer",
            task: task.id,
            answer: "yes",
            note: "",
            data: {},
          }),
        );
    }
    expect(asked.slice(0, 3)).toEqual(THREE);
    expect(asked).toEqual([...THREE, ...THREE, THREE[0]]);
  });

  it("goes round among those who ask at the same moment: nobody is given two while another has none", async () => {
    const key = await released([asks("check", { turns: "in turn" })]);
    for (let i = 0; i < 3; i++) {
      const ids = await Promise.all(Array.from({ length: 6 }, () => begin(key)));
      const asked = (await Promise.all(ids.map((id) => askedAt(id, "check")))).flat();
      expect(shares(asked)).toEqual([2, 2, 2]);
    }
  });

  it("goes round within one request: rounds that are opened together are not all of one person", async () => {
    const key = await released([rounds(7, [asks("check", { turns: "in turn" })])]);
    const id = await begin(key);
    expect(shares(await askedAt(id, "check")).sort()).toEqual([2, 2, 3]);
    // What is asked behind another step in the same command counts as well.
    const two = await released([asks("check", { turns: "in turn" }), asks("again", { turns: "in turn" })]);
    const first = await begin(two);
    expect(await askedAt(first, "check")).toEqual([THREE[0]]);
    const task = allTasks(await stateOf(first))[0]!;
    value(
      await act(await person(THREE[0]!), await numberOf(first), {
        type: "answer",
        task: task.id,
        answer: "yes",
        note: "",
        data: {},
      }),
    );
    // Each step has turns of its own.
    expect(await askedAt(first, "again")).toEqual([THREE[0]]);
  });

  it("goes round over the rounds of several requests that begin together", async () => {
    const key = await released([rounds(4, [asks("check", { turns: "in turn" })])]);
    const ids = await Promise.all(Array.from({ length: 3 }, () => begin(key)));
    const asked = (await Promise.all(ids.map((id) => askedAt(id, "check")))).flat();
    expect(shares(asked)).toEqual([4, 4, 4]);
  });

  it("goes round for requests so large that they are thought about on another thread", async () => {
    const key = `turns-${++made}`;
    const lines = {
      id: "rows",
      name: "Rows",
      kind: "lines",
      fields: [{ id: "what", name: "What", kind: "text" }],
    };
    value(
      await createProcess(SYSTEM, {
        format: "cobble-step/process@2",
        key,
        name: "Large",
        purpose: "",
        owners: ["tobias.marrin"],
        numbering: { prefix: "TULARGE", digits: 4 },
        title: "",
        starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
        access: {},
        samples: [],
        fields: [lines as never],
        route: [asks("check", { turns: "in turn" }), END],
      }),
    );
    value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
    const rows = Array.from({ length: 250 }, (_, i) => ({ "#": `r${i}`, what: `thing ${i}` }));
    const asked: string[] = [];
    for (let i = 0; i < 4; i++) {
      const { id } = value(await startRequest(await person("piet.hanlon"), key, { rows } as never));
      asked.push(...(await askedAt(id, "check")));
    }
    expect(asked).toEqual([...THREE, THREE[0]]);
  });

  it("is kept of a request that was not kept of nothing", async () => {
    const key = await released([asks("check", { turns: "in turn" })]);
    const from = await person("piet.hanlon");
    // The second is refused as sent already, and takes nobody's turn.
    value(await startRequest(from, key, {} as never, "one"));
    value(await startRequest(from, key, {} as never, "one"));
    const [id] = [await begin(key)];
    expect(await askedAt(id!, "check")).toEqual([THREE[1]]);
  });
});

describe("one of several, who has the fewest open tasks", () => {
  it("is who has the fewest on their desk by now, and those alike in turn", async () => {
    const key = await released([asks("check", { turns: "fewest open" })]);
    const busy = await released([asks("check", { rule: { by: "person", person: THREE[0]! } })]);
    const most = Math.max(...(await Promise.all(THREE.map(openOf))));
    // Everybody has as many as the busiest of them, and the first has one more.
    for (const who of THREE) {
      const one = await released([asks("check", { rule: { by: "person", person: who } })]);
      for (let n = await openOf(who); n < most; n++) await begin(one);
    }
    await begin(busy);
    const a = await begin(key);
    const b = await begin(key);
    expect([...(await askedAt(a, "check")), ...(await askedAt(b, "check"))].sort()).toEqual(THREE.slice(1));
    // All have as many now: whoever never had it by this step is before the others.
    const c = await begin(key);
    expect(await askedAt(c, "check")).toEqual([THREE[0]]);
  });

  it("counts what is answered, and what is opened, by the very command that chooses", async () => {
    const most = Math.max(...(await Promise.all(THREE.map(openOf))));
    for (const who of THREE) {
      const one = await released([asks("check", { rule: { by: "person", person: who } })]);
      for (let n = await openOf(who); n < most; n++) await begin(one);
    }
    const [first] = THREE;
    const key = await released([
      asks("before", { rule: { by: "person", person: first! } }),
      rounds(3, [asks("check", { turns: "fewest open" })]),
    ]);
    const id = await begin(key);
    const task = allTasks(await stateOf(id))[0]!;
    expect(await openOf(first!)).toBe(most + 1);
    value(
      await act(await person(first!), await numberOf(id), {
        type: "answer",
        task: task.id,
        answer: "yes",
        note: "",
        data: {},
      }),
    );
    // What the first has just answered is none any more, so that each of the three is given one.
    expect((await askedAt(id, "check")).sort()).toEqual(THREE);
  });
});
