import {
  act,
  actorOfKey,
  addFile,
  addService,
  blankDue,
  createProcess,
  draftView,
  editDraft,
  erasePerson,
  makeKey,
  moveClock,
  noticesOf,
  releaseDraft,
  replayRequests,
  requestView,
  saveAskDraft,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { randomUUID } from "node:crypto";
import type { ProcessDefinition } from "@/core/route";
import { workOff } from "./workOff";
import { KEY, openWorld, orderOf, person, sql, value } from "./world";
import { readFile } from "./readFile";

let world: Awaited<ReturnType<typeof openWorld>>;
let office: Actor;
beforeAll(async () => {
  world = await openWorld();
  office = await person("tobias.marrin");
});
afterAll(() => world.close());

const DAY = 86_400_000;
/** Every table in which a text still stands, whatever the table is for. */
async function whereIs(text: string): Promise<string[]> {
  const tables = await sql<{ t: string }>(
    "select format('%I.%I', schemaname, tablename) t from pg_tables where schemaname in ('public', 'register', 'graphile_worker')",
  );
  const out: string[] = [];
  for (const { t } of tables) {
    const [row] = await sql<{ n: number }>(
      `select count(*)::int n from ${t} x where position(lower($1) in lower(x::text)) > 0`,
      [text],
    );
    if (row!.n > 0) out.push(t);
  }
  return out.sort();
}
async function mark(process: string, fields: string[], days: number, version: string) {
  const draft = value(await draftView(office, process));
  value(
    await editDraft(office, process, draft.version, [
      ...fields.map((id) => ({ op: "field.set" as const, id, patch: { personal: true as const } })),
      { op: "process.set", patch: { keepPersonalDays: days } },
    ]),
  );
  value(await releaseDraft(office, process, version, ""));
}
const taskOf = async (who: Actor, number: string) => value(await requestView(who, number)).myTask!;
async function decide(who: string, number: string, answer: string, note: string) {
  const actor = await person(who);
  const task = await taskOf(actor, number);
  value(await act(actor, number, { type: "answer", task, answer, note, data: {} }));
}

it("nothing goes before its time, then everything personal, everywhere; and every request still replays", async () => {
  // Requests made before the owners marked anything have their own release.
  const piet = await person("piet.hanlon");
  const old = value(
    await startRequest(piet, "supplies", {
      ...orderOf(80),
      project: "Heliotrope Dandelion",
      reason: "For Marigold Vetch",
    }),
  ).number;
  await decide("sorcha.lind", old, "decline", "Not for Marigold");
  await mark("supplies", ["project", "reason", "quote"], 30, "2.0.0");
  const bytes = Buffer.from("quote of Marigold");
  const file = value(await addFile(piet, "marigold.txt", bytes));
  const young = value(
    await startRequest(piet, "supplies", { ...orderOf(80), project: "Heliotrope Teasel", quote: file.id }),
  ).number;
  await decide("sorcha.lind", young, "decline", "No.");
  const open = value(
    await startRequest(piet, "supplies", { ...orderOf(80), project: "Heliotrope Sorrel" }),
  ).number;
  await sql(
    `insert into notice (person_id, request_id, effect_key, subject, body, created_at)
     select 'dov.merrick', id, 'x', 'Heliotrope Dandelion', 'For Marigold Vetch', now() from request where number = $1`,
    [old],
  );
  expect(await whereIs("Heliotrope Dandelion")).toEqual([
    "public.notice",
    "public.request",
    "public.request_event",
  ]);
  value(await readFile(piet, file.id));

  expect(await blankDue(office)).toEqual({ requests: 0 });
  expect(await blankDue(SYSTEM)).toEqual({ requests: 0 });
  value(await moveClock(office, 29 * DAY, true));
  expect(await blankDue(SYSTEM)).toEqual({ requests: 0 });
  value(await moveClock(office, 2 * DAY, true));
  expect(await blankDue(SYSTEM)).toEqual({ requests: 2 });
  expect(await blankDue(SYSTEM)).toEqual({ requests: 0 });

  for (const gone of ["Heliotrope Dandelion", "Marigold Vetch", "Heliotrope Teasel", "marigold.txt"])
    expect(await whereIs(gone)).toEqual([]);
  expect(await readFile(piet, file.id)).toMatchObject({ failure: { code: "not-found" } });
  // What is still under way keeps what it needs.
  expect(await whereIs("Heliotrope Sorrel")).toEqual(["public.request", "public.request_event"]);
  const view = value(await requestView(piet, old));
  expect(view.form.data).toMatchObject({ project: null, reason: null });
  // What is not personal stays, and so does what was decided.
  expect(view.form.data["items"]).toHaveLength(1);
  expect(view.result?.tone).toBe("refuse");
  expect(view.trail.at(-1)!.text).toBe("personal values were blanked");
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
  value(await requestView(piet, open));
});

it("one person's goes on demand: values of their requests, notes, drafts, notices; others' stays", async () => {
  await mark("store-key", ["purpose", "from"], 3650, "2.0.0");
  const lucia = await person("lucia.penrose");
  const mine = value(
    await startRequest(lucia, "store-key", { ...KEY, purpose: "Foxglove inventory" }),
  ).number;
  value(await act(lucia, mine, { type: "withdraw", note: "Foxglove is done" }));
  const hers = value(
    await startRequest(await person("dov.merrick"), "store-key", {
      ...KEY,
      store: "3",
      purpose: "Bryony count",
    }),
  ).number;
  await decide("aoife.lanigan", hers, "decline", "Bryony can wait");
  const open = value(
    await startRequest(lucia, "store-key", { ...KEY, store: "4", purpose: "Foxglove open" }),
  ).number;
  value(await saveAskDraft(lucia, "store-key", randomUUID(), { purpose: "Foxglove begun" }));
  expect(await erasePerson(lucia, "lucia.penrose")).toMatchObject({ failure: { code: "not-allowed" } });

  expect(value(await erasePerson(office, "lucia.penrose"))).toEqual({ requests: 1, underWay: 1 });
  expect(await whereIs("Foxglove inventory")).toEqual([]);
  expect(await whereIs("Foxglove is done")).toEqual([]);
  expect(await whereIs("Foxglove begun")).toEqual([]);
  expect(await noticesOf(lucia)).toEqual([]);
  expect((await whereIs("Foxglove open")).length).toBeGreaterThan(0);
  expect((await whereIs("Bryony count")).length).toBeGreaterThan(0);
  // A decider's notes go with them, and nothing else of the request.
  value(await erasePerson(office, "aoife.lanigan"));
  expect(await whereIs("Bryony can wait")).toEqual([]);
  expect((await whereIs("Bryony count")).length).toBeGreaterThan(0);
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
  value(await requestView(lucia, open));
  // Twice is once.
  expect(value(await erasePerson(office, "aoife.lanigan"))).toEqual({ requests: 0, underWay: 0 });
});

it("records a request wrote stay; their history forgets what it took from personal values", async () => {
  const lucia = await person("lucia.penrose");
  const [object] = await sql<{ id: string }>(
    "select id::text from register.objects where status = 'in store' limit 1",
  );
  const n = value(
    await startRequest(lucia, "store-key", { ...KEY, store: "5", object: object!.id, purpose: "Yarrow" }),
  ).number;
  await decide("fintan.galloway", n, "approve", "");
  const [keeper] = await sql<{ person_id: string }>(
    "select c.person_id from task_candidate c join request r on r.id = c.request_id where r.number = $1 and c.open",
    [n],
  );
  const eamon = await person(keeper!.person_id);
  value(
    await act(eamon, n, {
      type: "answer",
      task: await taskOf(eamon, n),
      answer: "done",
      note: "",
      data: { keynumber: "K-77" },
    }),
  );
  const history = () =>
    sql<{ after: Record<string, unknown> }>(
      "select after from register_history where request_number = $1 order by id",
      [n],
    );
  expect((await history()).length).toBeGreaterThan(0);
  await sql(
    "update request set ended_at = now() - interval '20 years' where number = $1 and ended_at is not null",
    [n],
  );
  const [row] = await sql<{ e: boolean }>("select ended_at is not null e from request where number = $1", [
    n,
  ]);
  if (!row!.e) value(await act(office, n, { type: "cancel", note: "" }));
  const before = await history();
  value(await erasePerson(office, "lucia.penrose"));
  const after = await history();
  expect(JSON.stringify(before)).toContain(KEY.from);
  expect(JSON.stringify(after)).not.toContain(KEY.from);
  expect(after).toHaveLength(before.length);
  expect(after.map((h) => Object.keys(h.after).sort())).toEqual(
    before.map((h) => Object.keys(h.after).sort()),
  );
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
});

it("what rounds went over and left behind goes too, wherever it was told", async () => {
  const piet = await person("piet.hanlon");
  const lines = { id: "lines", name: "Lines", kind: "lines" as const, personal: true as const };
  const fields = [
    { ...lines, fields: [{ id: "who", name: "Who", kind: "text" as const }] },
    { id: "said", name: "Said", kind: "long text" as const, personal: true as const },
  ];
  const asked = { rule: { by: "person" as const, person: "sorcha.lind" }, how: "one" as const };
  const answers = [{ id: "yes", label: "Yes", tone: "agree" as const, steps: [] }];
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: "rounds-gone",
    name: "Rounds gone",
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: "GONE", digits: 4 },
    title: "",
    keepPersonalDays: 30,
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    access: {},
    samples: [],
    fields,
    route: [
      {
        id: "e",
        name: "Heard",
        kind: "for each",
        over: { list: "Lines.Who" },
        item: "One",
        collect: "{who: One, n: One number}",
        bodies: [{ id: "b", steps: [{ id: "d", name: "Ask", kind: "decide", who: asked, answers }] }],
      },
      { id: "w", name: "Note", kind: "work out", set: [{ field: "said", value: "Heard[1].who" }] },
      { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" },
    ],
  };
  value(await createProcess(SYSTEM, definition));
  value(await releaseDraft(SYSTEM, "rounds-gone", "1.0.0", ""));
  const data = { lines: [{ "#": "1", who: "Celandine Yarrow" }] };
  const { number } = value(await startRequest(piet, "rounds-gone", data));
  await decide("sorcha.lind", number, "yes", "");
  expect(await whereIs("Celandine Yarrow")).toEqual([
    "public.notice",
    "public.request",
    "public.request_event",
    "public.task",
  ]);
  value(await moveClock(office, 31 * DAY, true));
  await blankDue(SYSTEM);
  expect(await whereIs("Celandine Yarrow")).toEqual([]);
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
});

it("who asked from outside goes when it is time, whatever the form marks; and what somebody led to goes with them", async () => {
  const [plain, of] = ["plain-asked", "asked-by-process"];
  const end = { id: "z", name: "Finish", kind: "finish" as const, result: "done", tone: "agree" as const };
  const text = {
    id: "said",
    name: "Said",
    kind: "text" as const,
    personal: true as const,
    hand: "in" as const,
  };
  const base = {
    format: "cobble-step/process@2" as const,
    purpose: "",
    owners: ["tobias.marrin"],
    title: "For {Requester.name}",
    keepPersonalDays: 30,
    access: {},
    samples: [],
  };
  const everybody = { id: "form", kind: "form" as const, who: { by: "everybody" as const } };
  const other: ProcessDefinition = {
    ...base,
    key: of,
    name: "Asked by process",
    title: "{Said}",
    numbering: { prefix: "BYPROC", digits: 4 },
    starts: [{ id: "handed", kind: "handed", from: { by: "any" } }],
    fields: [text],
    route: [end],
  };
  const ports = [{ id: "said", name: "Said", kind: "text" as const }];
  const definition: ProcessDefinition = {
    ...base,
    key: plain,
    name: "Plain",
    numbering: { prefix: "PLAIN", digits: 4 },
    starts: [everybody],
    fields: [{ ...text, hand: undefined }] as ProcessDefinition["fields"],
    route: [
      {
        id: "other",
        name: "Other",
        kind: "start request",
        process: of,
        takes: ports,
        gives: [],
        values: [{ port: "said", value: "Said" }],
        waits: false,
        endsWith: false,
        asProcess: true,
      },
      {
        id: "t",
        name: "Tell",
        kind: "tell",
        who: { by: "person", person: "sorcha.lind" },
        subject: "{Requester.name}",
        text: "{Requester.email}",
        ways: [],
      },
      end,
    ] as ProcessDefinition["route"],
  };
  for (const d of [other, definition]) {
    value(await createProcess(SYSTEM, d));
    value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  }
  const service = value(await addService(office, "Front door", "")).id;
  const program = (await actorOfKey(value(await makeKey(office, service, "door")).key))!;
  const ada = { name: "Ada Clovermead", email: "ada@clovermead.example" };
  value(await startRequest(program, plain, { said: "hello" }, null, undefined, ada));
  value(await startRequest(await person("piet.hanlon"), plain, { said: "Harebell letter" }));
  await workOff();
  expect(await whereIs("Harebell letter")).toEqual(["public.request", "public.request_event"]);
  expect(await whereIs("Clovermead")).toEqual(["public.notice", "public.request", "public.request_event"]);

  // Piet's own, and what it led to: the process asked for that by itself.
  expect(value(await erasePerson(office, "piet.hanlon")).requests).toBeGreaterThanOrEqual(2);
  expect(await whereIs("Harebell letter")).toEqual([]);

  value(await moveClock(office, 31 * DAY, true));
  await blankDue(SYSTEM);
  expect(await whereIs("Clovermead")).toEqual([]);
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
});
