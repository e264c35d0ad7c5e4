import type { RequestState } from "@/core/engine";
import type { Field } from "@/core/form";
import { portsOf } from "@/core/kinds";
import type { ProcessDefinition, Start, Step } from "@/core/route";
import { getPool, requests } from "@/db";
import { KINDS } from "@/kinds";
import {
  act,
  addFile,
  blankDue,
  createProcess,
  draftProblems,
  moveClock,
  releaseDraft,
  replayRequests,
  startRequest,
  SYSTEM,
  taskView,
  type Actor,
} from "@/services";
import { workOff } from "./workOff";
import { openWorld, person, sql, value } from "./world";
import { readFile } from "./readFile";

jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
let lucia: Actor;
let piet: Actor;
let ruben: Actor;
let owner: Actor;
beforeAll(async () => {
  world = await openWorld();
  await sql("delete from graphile_worker._private_jobs");
  [lucia, piet, ruben, owner] = (await Promise.all(
    ["lucia.penrose", "piet.hanlon", "ruben.aske", "tobias.marrin"].map(person),
  )) as [Actor, Actor, Actor, Actor];
});
afterEach(() => workOff());
afterAll(() => world.close());

let made = 0;
async function released(name: string, more: Partial<ProcessDefinition>): Promise<ProcessDefinition> {
  const n = ++made;
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: `${name}-${n}`,
    name: `${name} ${n}`,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: more.procedure ? "" : `FH${n}X`, digits: 4 },
    title: "",
    starts: [],
    fields: [],
    access: {},
    route: [],
    samples: [],
    ...more,
  };
  value(await createProcess(SYSTEM, d));
  value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  return d;
}
const everybody: Start = { id: "form", kind: "form", who: { by: "everybody" } };
const fin: Step = { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step;
const fill = (who: string): Step =>
  ({
    id: "fill",
    name: "Fill in",
    kind: "complete",
    who: { rule: { by: "person", person: who }, how: "one" },
    button: "Done",
  }) as Step;
const FIELDS: Field[] = [
  { id: "plan", name: "Plan", kind: "file", hand: "in" },
  { id: "scan", name: "Scan", kind: "file", hand: "out" },
  { id: "own", name: "Own", kind: "file" },
  { id: "thing", name: "Thing", kind: "look-up", register: "objects" },
  { id: "size", name: "Size", kind: "number", worked: "Plan.size", hand: "out" },
];
const EDIT = { scan: "edit", own: "edit", thing: "edit" } as const;
/** Piet sees the plan, adds a scan and a file of his own, and picks an object. */
const procedure = (more: Partial<ProcessDefinition> = {}) =>
  released("look", {
    procedure: true,
    fields: FIELDS,
    access: { fill: EDIT },
    route: [fill("piet.hanlon")],
    ...more,
  });
const handTo = (of: ProcessDefinition, more: object = {}): Step =>
  ({
    id: "hand",
    name: "Looked at",
    kind: "hand to",
    procedure: of.key,
    ...portsOf(of.fields),
    values: [{ port: "plan", value: "Plan" }],
    ...more,
  }) as Step;
const OUTER: Field[] = [
  { id: "plan", name: "Plan", kind: "file" },
  { id: "result", name: "Result", kind: "file" },
  { id: "said", name: "Said", kind: "text" },
];
const KEEP = {
  id: "w",
  name: "Work out",
  kind: "work out",
  set: [
    { field: "result", value: "Looked at.Scan" },
    { field: "said", value: 'Looked at.Scan.name + ", " + string(Looked at.Size)' },
  ],
} as Step;
const caller = (of: ProcessDefinition, more: Partial<ProcessDefinition> = {}) =>
  released("calls", { fields: OUTER, starts: [everybody], route: [handTo(of), KEEP, fin], ...more });
const stateOf = async (number: string): Promise<RequestState> =>
  (await requests.requestForCommand(getPool(), { number }, false))!.state;
const bytes = (text: string) => Buffer.from(text);
const add = async (who: Actor, name: string, text = name) => value(await addFile(who, name, bytes(text))).id;
const open = async (who: Actor, id: string): Promise<string | null> => {
  const r = await readFile(who, id);
  return r.ok ? r.value.bytes.toString() : null;
};
const taskIn = async (number: string) => {
  const { calls } = await stateOf(number);
  const [id, c] = Object.entries(calls).at(-1)!;
  return `${id}~${Object.keys(c.state.tasks)[0]!}`;
};
const answer = async (number: string, data: Record<string, unknown>) =>
  act(piet, number, {
    type: "answer",
    task: await taskIn(number),
    answer: "done",
    note: "",
    data: data as never,
  });

describe("files in procedures", () => {
  it("are handed in and back, added by its people, and opened by those who may see the fields", async () => {
    const d = await caller(await procedure());
    const plan = await add(lucia, "plan.txt", "the plan");
    const number = value(await startRequest(lucia, d.key, { plan })).number;
    const view = value(await taskView(piet, number, await taskIn(number)));
    expect(view.form.data["plan"]).toBe(plan);
    expect(view.form.facts.files?.[plan]).toMatchObject({ name: "plan.txt" });
    expect(await open(piet, plan)).toBe("the plan");
    // Not yet sent, it is his alone.
    const [scan, own] = [await add(piet, "scan.txt"), await add(piet, "own.txt")];
    expect(await open(lucia, scan)).toBeNull();
    value(await answer(number, { scan, own, thing: "1" }));
    expect(await stateOf(number)).toMatchObject({
      status: "finished",
      data: { result: scan, said: "scan.txt, 8" },
    });
    for (const who of [lucia, owner]) expect(await open(who, scan)).toBe("scan.txt");
    expect(await open(ruben, scan)).toBeNull();
    expect((await sql("select 1 from file where request_id is null")).length).toBe(0);
    // What is not handed back stands nowhere any more, as the checker says.
    expect(await open(piet, own)).toBeNull();
  });

  it("are open to its people alone while it is under way, as each step says, and to nobody outside", async () => {
    const inner = await procedure({
      access: { fill: EDIT, after: { own: "hide" } },
      route: [fill("piet.hanlon"), { ...fill("ruben.aske"), id: "after", name: "After" } as Step],
    });
    const d = await caller(inner, { access: { hand: { plan: "hide" } } });
    const plan = await add(lucia, "plan.txt");
    const number = value(await startRequest(lucia, d.key, { plan })).number;
    const [scan, own] = [await add(piet, "scan.txt"), await add(piet, "own.txt")];
    value(await answer(number, { scan, own }));
    for (const [who, of] of [
      [piet, [scan, own, plan]],
      [owner, [scan, own, plan]],
      [ruben, [scan, plan]],
      // It is her request, and the procedure's form is none of hers.
      [lucia, [plan]],
    ] as const)
      for (const id of [scan, own, plan])
        expect([who.id, id, (await open(who, id)) !== null]).toEqual([
          who.id,
          id,
          (of as readonly string[]).includes(id),
        ]);
  });

  it("of two procedures side by side are each its own people's, whose steps are called the same", async () => {
    const goesOn = { ...fill("sorcha.lind"), id: "after", name: "After" } as Step;
    const asking = (who: string) => procedure({ route: [fill(who), goesOn] });
    const [one, two] = [await asking("piet.hanlon"), await asking("ruben.aske")];
    const branches = [one, two].map((of, i) => ({
      id: `b${i}`,
      name: `B${i}`,
      steps: [{ ...handTo(of), id: `han${i}`, name: `Looked ${i}` }],
    }));
    const together = { ...KINDS.steps.together.blank("t"), name: "Both", branches } as unknown as Step;
    const d = await released("both", { fields: OUTER, starts: [everybody], route: [together, fin] });
    const number = value(await startRequest(lucia, d.key, { plan: await add(lucia, "plan.txt") })).number;
    const { calls } = await stateOf(number);
    const files: string[] = [];
    for (const [who, key] of [
      [piet, one.key],
      [ruben, two.key],
    ] as const) {
      const [id, c] = Object.entries(calls).find(([, x]) => x.procedure === key)!;
      const own = await add(who, `${who.id}.txt`);
      files.push(own);
      const task = `${id}~${Object.keys(c.state.tasks)[0]!}`;
      value(await act(who, number, { type: "answer", task, answer: "done", note: "", data: { own } }));
    }
    expect([await open(piet, files[0]!), await open(ruben, files[1]!)]).toEqual([
      "piet.hanlon.txt",
      "ruben.aske.txt",
    ]);
    expect([await open(piet, files[1]!), await open(ruben, files[0]!)]).toEqual([null, null]);
  });

  it("sent for a field that is only seen stay whose they are", async () => {
    const number = value(
      await startRequest(lucia, (await caller(await procedure())).key, {
        plan: await add(lucia, "plan.txt"),
      }),
    ).number;
    const [mine, scan] = [await add(piet, "mine.txt"), await add(piet, "scan.txt")];
    value(await answer(number, { plan: mine, scan }));
    const rows = await sql<{ id: string }>("select id from file where request_id is null and id = any($1)", [
      [mine, scan],
    ]);
    expect(rows.map((r) => r.id)).toEqual([mine]);
  });

  it("of somebody else, or of another request, are none", async () => {
    const d = await caller(await procedure());
    const one = value(await startRequest(lucia, d.key, { plan: await add(lucia, "a.txt") })).number;
    const theirs = await add(ruben, "theirs.txt");
    const elsewhere = (await stateOf(one)).data["plan"] as string;
    const other = value(await startRequest(lucia, d.key, { plan: await add(lucia, "b.txt") })).number;
    for (const scan of [theirs, elsewhere, "no-such-file"])
      expect(await answer(other, { scan })).toMatchObject({
        ok: false,
        failure: { data: { code: "form", data: { problems: [{ code: "no-file", path: "scan" }] } } },
      });
    expect(await open(ruben, theirs)).toBe("theirs.txt");
    const [row] = await sql<{ request_id: string | null }>("select request_id from file where id = $1", [
      theirs,
    ]);
    expect(row!.request_id).toBeNull();
  });

  it("nested a level deeper, and in line items", async () => {
    const lines: Field[] = [
      {
        id: "papers",
        name: "Papers",
        kind: "lines",
        hand: "in and out",
        fields: [{ id: "paper", name: "Paper", kind: "file" }],
      },
    ];
    const deep = await released("deep", {
      procedure: true,
      fields: lines,
      access: { fill: { papers: "edit" } },
      route: [fill("piet.hanlon")],
    });
    const through = (of: ProcessDefinition): Step =>
      ({ ...handTo(of), ...portsOf(of.fields), values: [{ port: "papers", value: "Papers" }] }) as Step;
    const set = {
      id: "w",
      name: "Take over",
      kind: "work out",
      set: [],
      rows: [
        { id: "r", lines: "papers", do: "remove", where: "true" },
        {
          id: "a",
          lines: "papers",
          do: "add",
          from: "Looked at.Papers",
          as: "Row",
          values: [{ column: "paper", value: "Row.Paper" }],
        },
      ],
    } as unknown as Step;
    const mid = await released("mid", { procedure: true, fields: lines, route: [through(deep), set] });
    const top = lines.map(({ hand: _, ...f }) => f);
    const d = await released("top", { fields: top, starts: [everybody], route: [through(mid), set, fin] });
    const a = await add(lucia, "a.txt");
    const number = value(await startRequest(lucia, d.key, { papers: [{ "#": "1", paper: a }] })).number;
    const outer = Object.entries((await stateOf(number)).calls)[0]!;
    const inner = Object.entries(outer[1].state.calls)[0]!;
    const task = `${outer[0]}~${inner[0]}~${Object.keys(inner[1].state.tasks)[0]!}`;
    expect(await open(piet, a)).toBe("a.txt");
    const b = await add(piet, "b.txt");
    const papers = [
      { "#": "1", paper: a },
      { "#": "2", paper: b },
    ];
    value(await act(piet, number, { type: "answer", task, answer: "done", note: "", data: { papers } }));
    const state = await stateOf(number);
    expect(state.status).toBe("finished");
    expect((state.data["papers"] as unknown as { paper: string }[]).map((r) => r.paper)).toEqual([a, b]);
    expect(await open(lucia, b)).toBe("b.txt");
  });

  it("go with the personal values of their request, those nobody can open any more too", async () => {
    const d = await caller(await procedure(), { keepPersonalDays: 30 });
    const number = value(await startRequest(lucia, d.key, { plan: await add(lucia, "plan.txt") })).number;
    const [scan, own] = [await add(piet, "scan.txt"), await add(piet, "own.txt")];
    value(await answer(number, { scan, own }));
    value(await moveClock(owner, 31 * 86_400_000, true));
    await blankDue(SYSTEM);
    const left = await sql<{ id: string }>("select id from file where id = any($1)", [[scan, own]]);
    // Its own field is not marked as personal, and keeps what was put into it.
    expect(left.map((f) => f.id)).toEqual([scan]);
    expect((await replayRequests(SYSTEM)).differ).toEqual([]);
  });
});

describe("files handed to another process", () => {
  const ports = [{ id: "plan", name: "Plan", kind: "file" as const }];
  const begins = (of: ProcessDefinition): Step =>
    ({
      id: "asks",
      name: "Asked for",
      kind: "start request",
      process: of.key,
      takes: ports,
      gives: [],
      values: [{ port: "plan", value: "Plan" }],
      waits: false,
      endsWith: false,
    }) as Step;
  const other = (more: Partial<ProcessDefinition> = {}) =>
    released("other", {
      fields: [{ id: "plan", name: "Plan", kind: "file", hand: "in" }],
      starts: [{ id: "handed", kind: "handed", from: { by: "any" } }],
      route: [fill("ruben.aske"), fin],
      ...more,
    });

  it("are copied: each request has its own, opened as its own form says", async () => {
    const of = await other();
    const d = await released("calls", {
      fields: OUTER,
      starts: [everybody],
      route: [begins(of), fill("piet.hanlon"), fin],
    });
    const plan = await add(lucia, "plan.txt", "the plan");
    const number = value(await startRequest(lucia, d.key, { plan })).number;
    await workOff();
    const [child] = await sql<{ number: string; data: { plan: string } }>(
      "select r.number, r.state -> 'data' as data from request_child c join request p on p.id = c.parent_id join request r on r.id = c.child_id where p.number = $1",
      [number],
    );
    const copy = child!.data.plan;
    expect(copy).not.toBe(plan);
    expect(await open(ruben, copy)).toBe("the plan");
    expect(await open(ruben, plan)).toBeNull();
    expect(await open(piet, plan)).toBe("the plan");
    expect(await open(piet, copy)).toBeNull();
    expect((await sql("select 1 from file where request_id is null and name = 'plan.txt'")).length).toBe(0);
    // Done once more, as a job that was killed is, nothing is copied again.
    const count = async () => (await sql<{ n: number }>("select count(*)::int as n from file"))[0]!.n;
    const before = await count();
    await workOff();
    expect(await count()).toBe(before);
  });

  it("that cannot be begun with leave nothing behind, and nothing can be handed back", async () => {
    const pdf = { id: "plan", name: "Plan", kind: "file" as const, options: ["pdf"], hand: "in" as const };
    const of = await other({ fields: [pdf] });
    const d = await released("calls", { fields: OUTER, starts: [everybody], route: [begins(of), fin] });
    const before = (await sql("select 1 from file")).length;
    const number = value(await startRequest(lucia, d.key, { plan: await add(lucia, "plan.txt") })).number;
    await workOff();
    expect((await stateOf(number)).status).toBe("stuck");
    expect((await sql("select 1 from file")).length).toBe(before + 1);
    const back = await released("back", { fields: [], starts: [everybody], route: [fin] });
    await sql(
      "update process_draft set definition = (definition::jsonb || $2::jsonb) where process_key = $1",
      [
        back.key,
        JSON.stringify({
          starts: [{ id: "handed", kind: "handed", from: { by: "any" } }],
          fields: [{ id: "x", name: "X", kind: "file", hand: "out" }],
        }),
      ],
    );
    expect(value(await draftProblems(owner, back.key)).map((p) => p.code)).toContain("hand-kind");
  });
});
