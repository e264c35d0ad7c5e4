import { NEW_REQUEST, replay, type RequestState } from "@/core/engine";
import type { Field } from "@/core/form";
import { portsOf } from "@/core/kinds";
import type { ProcessDefinition, Start, Step } from "@/core/route";
import {
  act,
  createProcess,
  deleteProcess,
  desk,
  draftProblems,
  myRequests,
  progress,
  releaseDraft,
  releasePage,
  requestView,
  startRequest,
  SYSTEM,
  whereUsed,
  workshopList,
} from "@/services";
import { getPool, requests } from "@/db";
import { KINDS } from "@/kinds";
import { JOBS } from "@/worker/jobs";
import { workOff } from "./workOff";
import { Random } from "../../demo/random";
import { openWorld, person, sql, value } from "./world";

// Each does the jobs of several requests; how long that takes is no part of what is tested.
jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
  await sql("delete from graphile_worker._private_jobs");
});
afterEach(() => workOff());
afterAll(() => world.close());

let made = 0;
const form: Start = { id: "form", kind: "form", who: { by: "everybody" } };
const handed: Start = { id: "handed", kind: "handed", from: { by: "any" } };
const fin = (id: string, result: string): Step =>
  ({ id, name: "Finish", kind: "finish", result, tone: "agree" }) as Step;
const ask = (id: string, who: string): Step =>
  ({
    id,
    name: "Look",
    kind: "decide",
    who: { rule: { by: "person", person: who }, how: "one" },
    answers: [
      { id: "good", label: "Good", tone: "agree", steps: [] },
      { id: "bad", label: "Bad", tone: "refuse", steps: [fin(`${id}-no`, "not good")] },
    ],
  }) as Step;
const set = (id: string, field: string, value: string): Step =>
  ({ id, name: "Work out", kind: "work out", set: [{ field, value }] }) as Step;

async function released(name: string, more: Partial<ProcessDefinition>): Promise<ProcessDefinition> {
  const n = ++made;
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: `${name}-${n}`,
    name: `${name} ${n}`,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: `O${n}X`, digits: 4 },
    title: "",
    starts: [form],
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

/** Changes a draft and puts it live. */
let version = 1;
async function releasedAgain(d: ProcessDefinition, change: Partial<ProcessDefinition>) {
  await sql("update process_draft set definition = (definition::jsonb || $2::jsonb) where process_key = $1", [
    d.key,
    JSON.stringify(change),
  ]);
  value(await releaseDraft(SYSTEM, d.key, `${++version}.0.0`, ""));
}

const INNER: Field[] = [
  { id: "thing", name: "Thing", kind: "look-up", register: "objects", needed: "true", hand: "in" },
  { id: "why", name: "Why", kind: "text", hand: "in" },
  { id: "grade", name: "Grade", kind: "text", hand: "out" },
  { id: "own", name: "Own", kind: "text", needed: "true" },
];
/** Asks somebody, and hands a grade back. */
const other = (more: Partial<ProcessDefinition> = {}) =>
  released("other", {
    title: "{Why}",
    fields: INNER,
    starts: [form, handed],
    route: [
      ask("look", "piet.hanlon"),
      set("o", "grade", 'Thing.Title + ", " + Look.answer'),
      fin("f", "fine"),
    ],
    ...more,
  });
/** Ends at once. */
const quick = () => other({ route: [set("o", "grade", "Why"), fin("f", "fine")] });

const startsOne = (of: ProcessDefinition, more: object = {}): Step =>
  ({
    id: "asks",
    name: "Asked for",
    kind: "start request",
    process: of.key,
    ...portsOf(of.fields),
    values: [
      { port: "thing", value: "Object" },
      { port: "why", value: "Reason" },
    ],
    waits: true,
    endsWith: true,
    ...more,
  }) as Step;
const OUTER: Field[] = [
  { id: "object", name: "Object", kind: "look-up", register: "objects", needed: "true" },
  { id: "reason", name: "Reason", kind: "text" },
  { id: "said", name: "Said", kind: "text" },
];
const SAY = set("say", "said", 'Asked for.number + " " + Asked for.result + ": " + Asked for.Grade');
const caller = (of: ProcessDefinition, more: Partial<ProcessDefinition> = {}, step: object = {}) =>
  released("calls", { fields: OUTER, route: [startsOne(of, step), SAY, fin("z", "done")], ...more });

const begin = async (d: ProcessDefinition, who = "lucia.penrose"): Promise<string> =>
  value(await startRequest(await person(who), d.key, { object: "1", reason: "It creaks" })).number;
const stateOf = async (number: string): Promise<RequestState> =>
  (await requests.requestForCommand(getPool(), { number }, false))!.state;
/** Numbers of what was started from a request. */
const startedBy = async (number: string): Promise<string[]> =>
  (
    await sql<{ number: string }>(
      "select r.number from request_child c join request p on p.id = c.parent_id join request r on r.id = c.child_id where p.number = $1 order by r.id",
      [number],
    )
  ).map((r) => r.number);
const answer = async (number: string, who: string, what: string) => {
  const task = Object.values((await stateOf(number)).tasks).find((t) => t.status === "open")!.id;
  return act(await person(who), number, { type: "answer", task, answer: what, note: "", data: {} });
};
const title = async () =>
  (await sql<{ title: string }>("select title from register.objects where id = '1'"))[0]!.title;

describe("a request that a step of another starts", () => {
  it("is made in the name of whoever asked, is waited for, and is read when it has ended", async () => {
    const d = await caller(await other());
    const number = await begin(d);
    expect(await startedBy(number)).toEqual([]);
    expect(await workOff()).toEqual(["effect"]);
    const [child = ""] = await startedBy(number);
    expect(await stateOf(child)).toMatchObject({
      requester: { kind: "person", id: "lucia.penrose" },
      status: "under way",
      data: { thing: "1", why: "It creaks" },
    });
    expect((await stateOf(number)).status).toBe("under way");
    value(await answer(child, "piet.hanlon", "good"));
    expect(await workOff()).toEqual(["request_ended"]);
    expect(await stateOf(number)).toMatchObject({
      status: "finished",
      data: { said: `${child} fine: ${await title()}, Good` },
    });
    for (const n of [number, child]) {
      const lucia = await person("lucia.penrose");
      const row = (await requests.requestSeen(getPool(), { number: n }, lucia.id, true))!;
      expect(replay(row.events, NEW_REQUEST)).toEqual(row.state);
    }
  });

  it("is asked for by the process itself where the step says so: nobody's own, and decided by none who led to it", async () => {
    // Lucia asked for the first; she decides nothing of what it led to, though she is named there.
    const fallback = { by: "person", person: "piet.hanlon" };
    const look = ask("look", "lucia.penrose") as Extract<Step, { kind: "decide" }>;
    const of = await other({
      title: "{Requester.name}",
      route: [
        { ...look, who: { ...look.who, fallback } } as Step,
        set("o", "grade", "Why"),
        fin("f", "fine"),
      ],
    });
    const d = await caller(of, {}, { asProcess: true });
    const number = await begin(d);
    await workOff();
    const [child = ""] = await startedBy(number);
    const requester = { kind: "process", key: d.key, name: d.name };
    const state = await stateOf(child);
    expect(state.requester).toEqual({ ...requester, behind: { kind: "person", id: "lucia.penrose" } });
    expect(Object.values(state.tasks).flatMap((t) => t.candidates)).toEqual([{ person: "piet.hanlon" }]);
    const [lucia, piet, owner] = await Promise.all(
      ["lucia.penrose", "piet.hanlon", "tobias.marrin"].map(person),
    );
    expect((await myRequests(lucia!, 0, 50)).rows.map((r) => r.number)).not.toContain(child);
    expect(await requestView(lucia!, child)).toMatchObject({ ok: false, failure: { code: "not-found" } });
    expect(value(await requestView(lucia!, number)).started).toEqual([]);
    const view = value(await requestView(piet!, child));
    expect(view).toMatchObject({ title: d.name, mayWithdraw: false });
    expect(view.requester).toEqual({
      kind: "process",
      id: null,
      name: d.name,
      email: null,
      says: `the process ${d.name}`,
    });
    // Who stands behind is for the rule alone.
    expect(JSON.stringify(view.form)).not.toContain("lucia.penrose");
    const task = view.waiting[0]!.task;
    const give = await act(owner!, child, { type: "reassign", task, to: "lucia.penrose", note: "please" });
    expect(give).toMatchObject({ ok: false, failure: { data: { code: "own-request" } } });
    expect(await act(lucia!, child, { type: "withdraw", note: "" })).toMatchObject({ ok: false });
    expect((await desk(piet!)).rows.find((r) => r.number === child)?.requester_name).toBe(d.name);
    expect((await progress(owner!, { process: of.key, offset: 0, limit: 5 })).rows).toMatchObject([
      { number: child, requester_id: null, requester_name: d.name },
    ]);
    value(await answer(child, "piet.hanlon", "good"));
    await workOff();
    expect((await stateOf(number)).status).toBe("finished");
  });

  it("is told with both of them, to whom that is theirs to see, and to others only of which process it is", async () => {
    const d = await caller(await other());
    const number = await begin(d);
    await workOff();
    const [child = ""] = await startedBy(number);
    const [lucia, piet] = [await person("lucia.penrose"), await person("piet.hanlon")];
    expect(value(await requestView(lucia, number))).toMatchObject({
      startedBy: null,
      started: [{ number: child, title: "It creaks", status: "under way", awaited: true }],
    });
    const view = value(await requestView(lucia, child));
    expect(view.startedBy).toMatchObject({ process: d.name, request: { number } });
    expect(view.trail[0]).toMatchObject({ text: "The request was started by another one", byName: null });
    // Who decides the one it started has nothing to do with the other.
    expect(value(await requestView(piet, child)).startedBy).toEqual({ process: d.name, request: null });
    expect(await requestView(piet, number)).toMatchObject({ ok: false, failure: { code: "not-found" } });
    value(await answer(child, "piet.hanlon", "bad"));
    await workOff();
    expect(value(await requestView(lucia, number))).toMatchObject({
      status: "finished",
      started: [{ status: "finished", result: { name: "not good" }, awaited: false }],
    });
    expect(value(await requestView(lucia, number)).trail.map((l) => l.text)).toContain(
      `Asked for: ${child} ended, not good`,
    );
  });

  it("that ends at once, or is not waited for, lets the other go on", async () => {
    const number = await begin(await caller(await quick()));
    await workOff();
    const [child = ""] = await startedBy(number);
    expect((await stateOf(number)).data["said"]).toBe(`${child} fine: It creaks`);
    const on = set("say", "said", "Asked for.number");
    const of = await other();
    const d = await caller(of, { route: [startsOne(of, { waits: false }), on, fin("z", "done")] });
    const second = await begin(d);
    await workOff();
    const [begun = ""] = await startedBy(second);
    expect(await stateOf(second)).toMatchObject({ status: "finished", data: { said: begun } });
    expect((await stateOf(begun)).status).toBe("under way");
    value(await answer(begun, "piet.hanlon", "good"));
    expect(await workOff()).toEqual([]);
  });

  it("is started once, and its end heard once, however often that is tried", async () => {
    const number = await begin(await caller(await other()));
    const [job] = await sql<{ payload: unknown }>("select payload from graphile_worker._private_jobs");
    const tries = () => Promise.all([1, 2, 3].map(() => JOBS["effect"]!.run(job!.payload)));
    await tries();
    await tries();
    expect(await startedBy(number)).toHaveLength(1);
    const [child = ""] = await startedBy(number);
    value(await answer(child, "piet.hanlon", "good"));
    const { id } = (await requests.requestForCommand(getPool(), { number: child }, false))!;
    await Promise.all([1, 2, 3].map(() => JOBS["request_ended"]!.run({ request: id })));
    await workOff();
    const lucia = await person("lucia.penrose");
    const { events } = (await requests.requestSeen(getPool(), { number }, lucia.id, true))!;
    expect(events.filter((e) => e.type === "effect done")).toHaveLength(1);
    await tries();
    expect(await startedBy(number)).toHaveLength(1);
  });

  it("is cancelled when who started it is withdrawn, goes another way, or is too late; or goes on, as the owner says", async () => {
    const of = await other();
    const withdraw = async (n: string) =>
      value(await act(await person("lucia.penrose"), n, { type: "withdraw", note: "" }));
    for (const [endsWith, waits, then] of [
      [true, true, "cancelled"],
      [false, true, "under way"],
      [true, false, "cancelled"],
      [false, false, "under way"],
    ] as const) {
      const wait = ask("rest", "tobias.marrin");
      const d = await caller(of, { route: [startsOne(of, { endsWith, waits }), wait, fin("z", "done")] });
      const number = await begin(d);
      await workOff();
      await withdraw(number);
      await workOff();
      const [child = ""] = await startedBy(number);
      expect([endsWith, waits, (await stateOf(child)).status]).toEqual([endsWith, waits, then]);
    }
    // Withdrawn before the job came to it: none is started.
    const early = await begin(await caller(of));
    await withdraw(early);
    await workOff();
    expect(await startedBy(early)).toEqual([]);
    // The other branch is enough.
    const either: Step = {
      id: "t",
      name: "Either",
      kind: "together",
      needs: 1,
      branches: [
        { id: "a", name: "A", steps: [startsOne(of)] },
        { id: "b", name: "B", steps: [ask("direct", "tobias.marrin")] },
      ],
    } as Step;
    const d = await caller(of, { route: [either, fin("z", "done")] });
    const number = await begin(d);
    await workOff();
    value(await answer(number, "tobias.marrin", "good"));
    expect((await stateOf(number)).status).toBe("finished");
    await workOff();
    const [child = ""] = await startedBy(number);
    expect((await stateOf(child)).status).toBe("cancelled");
    const trail = value(await requestView(await person("lucia.penrose"), child)).trail;
    expect(trail.at(-1)).toMatchObject({ text: expect.stringContaining("called off") as string });
  });

  it("is not left alone where the one that asked is withdrawn in the very moment of the start", async () => {
    const d = await caller(await other());
    const lucia = await person("lucia.penrose");
    let made = 0;
    for (let i = 0; i < 25; i++) {
      await sql("delete from graphile_worker._private_jobs");
      const number = await begin(d);
      const [job] = await sql<{ payload: unknown }>("select payload from graphile_worker._private_jobs");
      const later = async () => {
        await new Promise((r) => setTimeout(r, i));
        value(await act(lucia, number, { type: "withdraw", note: "" }));
        // The job that ends what is needed no more, before anything was kept perhaps.
        const { id } = (await requests.requestForCommand(getPool(), { number }, false))!;
        await JOBS["call_off"]!.run({ request: id });
      };
      await Promise.all([JOBS["effect"]!.run(job!.payload), later()]);
      for (const child of await startedBy(number)) {
        made++;
        expect([i, (await stateOf(child)).status]).toEqual([i, "cancelled"]);
      }
    }
    // Some were stopped before they were made.
    expect(made).toBeGreaterThan(0);
  });

  it("is waited for no more where an owner lets the one that waits go on without it", async () => {
    const d = await caller(await other(), {}, { endsWith: true });
    const number = await begin(d);
    await workOff();
    const [child = ""] = await startedBy(number);
    const tobias = await person("tobias.marrin");
    const [asleep] = value(await requestView(tobias, number)).asleep;
    expect(asleep).toMatchObject({ step: "Asked for", awaits: "request" });
    const skip = { type: "skip", token: asleep!.token, way: null, note: "too long" } as const;
    expect(await act(await person("lucia.penrose"), number, skip)).toMatchObject({ ok: false });
    value(await act(tobias, number, skip));
    expect(await stateOf(number)).toMatchObject({ status: "finished", pending: {}, data: { said: null } });
    await workOff();
    expect((await stateOf(child)).status).toBe("cancelled");
    const row = (await requests.requestSeen(getPool(), { number }, tobias.id, true))!;
    expect(replay(row.events, NEW_REQUEST)).toEqual(row.state);
  });

  it("that is not waited for goes on when who started it has come to its end", async () => {
    const of = await other();
    const d = await caller(of, { route: [startsOne(of, { waits: false }), fin("z", "done")] });
    const number = await begin(d);
    await workOff();
    const [child = ""] = await startedBy(number);
    expect([(await stateOf(number)).status, (await stateOf(child)).status]).toEqual([
      "finished",
      "under way",
    ]);
  });

  it("that somebody withdraws or cancels is told as that", async () => {
    const number = await begin(await caller(await other()));
    await workOff();
    const [child = ""] = await startedBy(number);
    value(await act(await person("tobias.marrin"), child, { type: "cancel", note: "no" }));
    await workOff();
    expect((await stateOf(number)).data["said"]).toBeNull();
    expect((await stateOf(number)).kept["asks"]).toMatchObject({
      value: {
        entries: [
          ["number", child],
          ["result", "cancelled"],
          ["Grade", null],
        ],
      },
    });
  });

  it("cannot be started where it is not let, takes something no more, or is given too little; then it is tried again", async () => {
    const changes: [Partial<ProcessDefinition>, string][] = [
      [
        { starts: [form, { ...handed, from: { by: "these", processes: ["some-other"] } }] },
        "does not let this process",
      ],
      [{ starts: [form] }, "does not let this process start one"],
      [
        { fields: INNER.map(({ hand, ...f }) => (f.id === "why" ? f : { ...f, ...(hand ? { hand } : {}) })) },
        "takes no “Why” any more",
      ],
      [
        { fields: INNER.filter((f) => f.id !== "why"), title: "", route: [fin("f", "x")] },
        "takes no “why” any more",
      ],
    ];
    for (const [change, says] of changes) {
      const of = await other();
      const d = await caller(of);
      await releasedAgain(of, change);
      const number = await begin(d);
      await workOff();
      const s = await stateOf(number);
      expect(s.stuck).toMatchObject([{ reason: { code: "not-started" } }]);
      expect(JSON.stringify(s.stuck)).toContain(says);
      expect(await startedBy(number)).toEqual([]);
      // Mended, and tried again.
      await releasedAgain(of, { starts: of.starts, fields: of.fields, route: of.route });
      value(await act(await person("tobias.marrin"), number, { type: "retry", token: s.stuck[0]!.token }));
      await workOff();
      expect(await startedBy(number)).toHaveLength(1);
    }
    // What it needs of its own is for its people to fill in; what it needs handed in must be.
    const of = await other();
    const empty = await caller(
      of,
      {},
      {
        values: [
          { port: "thing", value: "Object" },
          { port: "why", value: "string(1 / (count([Reason]) - 1))" },
        ],
      },
    );
    const unclear = await begin(empty);
    expect((await stateOf(unclear)).stuck).toMatchObject([{ reason: { code: "unclear" } }]);
    const nothing = [{ port: "thing", value: "if Reason = null then Object else null" }];
    const little = await begin(await caller(of, {}, { values: nothing }));
    await workOff();
    expect(JSON.stringify((await stateOf(little)).stuck)).toContain("for Thing");
    expect(await startedBy(little)).toEqual([]);
  });

  // The larger one is kept in parts.
  it.each([3, 40])(
    "is started once for each of a list of %d, and each round reads its own",
    async (n) => {
      const of = await other({
        starts: [handed],
        route: [ask("look", "piet.hanlon"), set("o", "grade", "Why"), fin("f", "fine")],
      });
      const values = [
        { port: "thing", value: "Object" },
        { port: "why", value: "Letter" },
      ];
      const each = {
        ...KINDS.steps["for each"].blank("each"),
        name: "Each",
        over: { list: `for i in 1..${n} return string(i)` },
        item: "Letter",
        collect: "Asked for.Grade",
        bodies: [{ id: "b", steps: [startsOne(of, { values })] }],
      } as Step;
      const d = await caller(of, {
        route: [each, set("say", "said", 'string join(Each, " ")'), fin("z", "done")],
      });
      const number = await begin(d);
      const random = new Random(7);
      const any = (k: number) => random.int(0, k - 1);
      await workOff(any);
      const children = await startedBy(number);
      expect(children).toHaveLength(n);
      expect((await stateOf(number)).status).toBe("under way");
      // One is cancelled, the others are answered in any order.
      value(await act(await person("tobias.marrin"), children[0]!, { type: "cancel", note: "no" }));
      const rest = children.slice(1);
      while (rest.length > 0) {
        const [child = ""] = rest.splice(any(rest.length), 1);
        value(await answer(child, "piet.hanlon", "good"));
        if (any(3) === 0) await workOff(any);
      }
      await workOff(any);
      const state = await stateOf(number);
      const gone = (await stateOf(children[0]!)).data["why"] as string;
      const all = Array.from({ length: n }, (_, k) => String(k + 1)).filter((x) => x !== gone);
      expect(state.status).toBe("finished");
      expect(String(state.data["said"]).split(" ").filter(Boolean)).toEqual(all);
      const row = (await requests.requestSeen(getPool(), { number }, "lucia.penrose", true))!;
      expect(replay(row.events, NEW_REQUEST)).toEqual(row.state);
    },
    60_000,
  );

  it("takes line items, from what was found, and hands them back", async () => {
    const lines: Field = {
      id: "rows",
      name: "Rows",
      kind: "lines",
      hand: "in and out",
      fields: [
        { id: "what", name: "What", kind: "look-up", register: "objects" },
        { id: "title", name: "Title", kind: "text" },
        { id: "long", name: "Long", kind: "number", worked: "string length(Title)" },
      ],
    };
    const of = await other({ fields: [lines], title: "", route: [fin("f", "fine")] });
    const find = {
      ...KINDS.steps.find.blank("found"),
      name: "Found",
      register: "objects",
      sort: [{ column: "accession_number" }],
      most: 3,
    } as Step;
    const values = [{ port: "rows", value: "for o in Found return {What: o, Title: o.Title}" }];
    const d = await caller(of, {
      route: [
        find,
        startsOne(of, { values }),
        set("say", "said", 'string join(Asked for.Rows.Title, "; ") + string(sum(Asked for.Rows.Long))'),
        fin("z", "done"),
      ],
    });
    const number = await begin(d);
    await workOff();
    const [child = ""] = await startedBy(number);
    const rows = (await stateOf(child)).data["rows"] as unknown as { what: string; title: string }[];
    const titles = (
      await sql<{ title: string }>(
        'select title from register.objects order by accession_number collate "C" limit 3',
      )
    ).map((r) => r.title);
    expect(rows.map((r) => r.title)).toEqual(titles);
    expect(rows.every((r) => /^\d+$/.test(r.what))).toBe(true);
    expect((await stateOf(number)).data["said"]).toBe(titles.join("; ") + String(titles.join("").length));
  });

  it("may be started from a procedure, and by one that was started", async () => {
    const of = await quick();
    const inner = await released("proc", {
      procedure: true,
      starts: [],
      numbering: { prefix: "", digits: 4 },
      fields: [
        { id: "object", name: "Object", kind: "look-up", register: "objects", needed: "true", hand: "in" },
        { id: "reason", name: "Reason", kind: "text", hand: "in" },
        { id: "said", name: "Said", kind: "text", hand: "out" },
      ],
      route: [startsOne(of), set("s", "said", "Asked for.number"), fin("e", "ended")],
    });
    const hand = {
      id: "hand",
      name: "Handed",
      kind: "hand to",
      procedure: inner.key,
      ...portsOf(inner.fields),
      values: [
        { port: "object", value: "Object" },
        { port: "reason", value: "Reason" },
      ],
    } as Step;
    const d = await released("deep", {
      fields: OUTER,
      route: [hand, set("x", "said", "Handed.Said"), fin("z", "done")],
    });
    const number = await begin(d);
    await workOff();
    const [child = ""] = await startedBy(number);
    expect(await stateOf(number)).toMatchObject({ status: "finished", data: { said: child } });
    const outer = await caller(d, {
      route: [startsOne(of, { id: "first" }), set("x", "said", "Asked for.number"), fin("z", "done")],
    });
    const top = await begin(outer);
    await workOff();
    expect(await startedBy(top)).toHaveLength(1);
  });

  it("that starts itself again and again is stopped", async () => {
    const key = `self-${++made}`;
    const self: ProcessDefinition = {
      ...(await other()),
      key,
      name: key,
      numbering: { prefix: `S${made}X`, digits: 4 },
    };
    const d = {
      ...self,
      fields: [{ id: "n", name: "N", kind: "text", hand: "in" } as Field],
      title: "",
      route: [
        {
          ...startsOne(self),
          ...portsOf([{ id: "n", name: "N", kind: "text", hand: "in" } as Field]),
          values: [{ port: "n", value: '"x"' }],
          process: key,
        } as Step,
        fin("z", "done"),
      ],
    };
    value(await createProcess(SYSTEM, d));
    value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
    value(await startRequest(await person("lucia.penrose"), key, { n: "x" }));
    await workOff();
    const rows = await sql<{ status: string }>("select status from request where process_key = $1", [key]);
    expect(rows).toHaveLength(20);
    expect(rows.filter((r) => r.status === "stuck")).toHaveLength(1);
    const problems = value(await draftProblems(await person("tobias.marrin"), key));
    expect(problems.map((p) => `${p.severity} ${p.code}`)).toContain("warning circle");
  });
});

describe("a process whose requests others start", () => {
  it("knows where it is used, says what a release breaks, and is not deleted", async () => {
    const of = await other();
    const d = await caller(of);
    const tobias = await person("tobias.marrin");
    expect(value(await whereUsed(tobias, of.key))).toMatchObject([
      { key: d.key, version: "1.0.0", step: "Asked for" },
      { key: d.key, version: null, step: "Asked for" },
    ]);
    expect((await workshopList(tobias)).find((p) => p.key === of.key)).toMatchObject({ used_by: 1 });
    expect(await deleteProcess(tobias, of.key)).toMatchObject({ ok: false });
    const draft = (change: object) =>
      sql("update process_draft set definition = (definition::jsonb || $2::jsonb) where process_key = $1", [
        of.key,
        JSON.stringify(change),
      ]);
    await draft({ fields: INNER.filter((f) => f.id !== "grade") });
    expect(value(await releasePage(tobias, of.key))).toMatchObject({ proposed: "2.0.0" });
    expect(value(await releasePage(tobias, of.key)).breaks[0]!.why).toEqual([
      "“Grade” is handed back no more",
    ]);
    await draft({ fields: INNER, starts: [form] });
    const page = value(await releasePage(tobias, of.key));
    expect(page.proposed).toBe("2.0.0");
    expect(page.breaks[0]!.why).toEqual(["that process may start none any more"]);
  });
});
