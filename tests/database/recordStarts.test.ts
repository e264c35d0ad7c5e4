import fc from "fast-check";
import { EVERYBODY, type Field, type RegisterShape } from "@/core/form";
import type { ProcessDefinition, Start, StartOf, Step } from "@/core/route";
import { inTransaction, registers } from "@/db";
import {
  createProcess,
  noticesOf,
  pauseStart,
  releaseDraft,
  removeRecord,
  requestView,
  saveRecord,
  startFromRecords,
  startRequest,
  startsFaring,
  SYSTEM,
  type Actor,
} from "@/services";
import { workOff } from "./workOff";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(120_000);

const THINGS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_things",
  name: "Things",
  one: "thing",
  purpose: "",
  title: ["label"],
  columns: [
    { id: "label", name: "Label", kind: "text" },
    { id: "state", name: "State", kind: "choice", options: ["new", "wet", "dry"] },
    { id: "size", name: "Size", kind: "number" },
    { id: "keeper", name: "Keeper", kind: "person" },
  ],
  rules: [
    { id: "r", on: "added", when: "State = null", then: { do: "set", column: "state", value: '"new"' } },
  ],
};
const OWNER = "tobias.marrin";
let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
beforeAll(async () => {
  world = await openWorld();
  await sql("delete from graphile_worker._private_jobs");
  await inTransaction((db) =>
    registers.createRegister(db, THINGS, { ...EVERYBODY, keepers: ["maeve.dunlea", OWNER] }),
  );
  keeper = await person("maeve.dunlea");
});
afterAll(() => world.close());

const FIELDS: Field[] = [
  { id: "thing", name: "Thing", kind: "look-up", register: "t_things" },
  { id: "what", name: "What", kind: "text" },
];
const FINISH: Step = { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" };
let made = 0;
async function process(
  start: Omit<StartOf<"record">, "id" | "kind" | "register">,
  more: Partial<ProcessDefinition> = {},
) {
  const n = ++made;
  const s: Start = { id: "rec", kind: "record", register: "t_things", ...start };
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: `watch-${n}`,
    name: `Watch ${n}`,
    purpose: "",
    owners: [OWNER],
    numbering: { prefix: `W${n}X`, digits: 4 },
    title: "",
    starts: [s],
    fields: FIELDS,
    access: {},
    route: [FINISH],
    samples: [],
    ...more,
  };
  value(await createProcess(SYSTEM, d));
  value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  return d.key;
}
const WHAT = {
  field: "what",
  value: 'Label + " " + string(Size) + " was " + (if Before = null then "not" else string(Before.Size))',
};
const whats = async (key: string) =>
  (
    await sql<{ what: string }>(
      "select state::jsonb -> 'data' ->> 'what' as what from request where process_key = $1 order by id",
      [key],
    )
  ).map((r) => r.what);
const thing = async (values: Record<string, string | null>) =>
  value(await saveRecord(keeper, "t_things", null, null, values)).id;
const change = async (id: string, values: Record<string, string | null>) =>
  value(await saveRecord(keeper, "t_things", id, null, values));
/** Nothing but what is made here starts anything. */
const only = async (...keys: string[]) =>
  void (await sql("update process set live_release = null where key like 'watch-%' and not key = any($1)", [
    keys,
  ]));

describe("a record starts a request", () => {
  it("where a condition newly holds: not again while it goes on holding, and anew once it did not", async () => {
    const key = await process({
      on: "added or changed",
      when: 'State = "wet"',
      into: "thing",
      values: [WHAT],
    });
    await only(key);
    const id = await thing({ label: "A", state: "wet", size: "1" });
    await change(id, { size: "2" });
    await change(id, { state: "dry" });
    await change(id, { state: "wet", size: "3" });
    await change(id, { size: "4" });
    await workOff();
    expect(await whats(key)).toEqual(["A 1 was not", "A 3 was 2"]);
  });
  it("each time it holds, only where certain columns changed, with what was before", async () => {
    const each = await process({ on: "changed", each: true, when: "Size > Before.Size", values: [WHAT] });
    const sized = await process({ on: "changed", columns: ["size"], values: [WHAT] });
    await only(each, sized);
    const id = await thing({ label: "B", size: "1" });
    for (const size of ["2", "3", "1"]) await change(id, { size });
    await change(id, { label: "C" });
    await workOff();
    expect(await whats(each)).toEqual(["B 2 was 1", "B 3 was 2"]);
    expect(await whats(sized)).toEqual(["B 2 was 1", "B 3 was 2", "B 1 was 3"]);
  });
  it("where it holds now and could not hold before, for want of a value", async () => {
    const key = await process({ on: "changed", when: "Size > 1", values: [] });
    await only(key);
    const id = await thing({ label: "A2" });
    await change(id, { size: "2" });
    await workOff();
    expect(await whats(key)).toHaveLength(1);
  });
  it("of one record in order, even where somebody is still at the one before", async () => {
    const key = await process({ on: "changed", values: [WHAT] });
    await only(key);
    const [id, other] = [await thing({ label: "O", size: "1" }), await thing({ label: "P", size: "1" })];
    for (const size of ["2", "3"]) await change(id, { size });
    await change(other, { size: "5" });
    const held = await inTransaction(async (db) => {
      await db.query(
        "select from record_start where process_key = $1 and done_at is null order by id limit 1 for update",
        [key],
      );
      await startFromRecords(SYSTEM);
      return whats(key);
    });
    expect(held).toEqual(["P 5 was 1"]);
    await workOff();
    expect(await whats(key)).toEqual(["P 5 was 1", "O 2 was 1", "O 3 was 2"]);
  });
  it("of a removed record with what it held", async () => {
    const key = await process({ on: "removed", when: "Size > 1", values: [WHAT] });
    await only(key);
    for (const size of ["1", "2"]) {
      const id = await thing({ label: "D", size });
      value(await removeRecord(keeper, "t_things", id, null, false));
    }
    await workOff();
    expect(await whats(key)).toEqual(["D 2 was 2"]);
  });
  it("asked by the process itself, which says why, and never decided by whoever led to it", async () => {
    const key = await process(
      { on: "added", into: "thing", values: [] },
      {
        route: [
          {
            id: "look",
            name: "Look",
            kind: "decide",
            who: {
              rule: { by: "person", person: "maeve.dunlea" },
              fallback: { by: "person", person: OWNER },
              how: "one",
            },
            answers: [{ id: "good", label: "Good", tone: "agree", steps: [] }],
          },
          FINISH,
        ],
      },
    );
    await only(key);
    await thing({ label: "E", size: "1" });
    await workOff();
    const [r] = await sql<{ number: string; party: { because: string; behind: unknown } }>(
      "select number, party from request where process_key = $1",
      [key],
    );
    expect(r!.party).toMatchObject({
      kind: "process",
      because: "E was added",
      behind: { kind: "person", id: "maeve.dunlea" },
    });
    const [asked] = await sql<{ person: string }>(
      "select c.person_id as person from task_candidate c join request r on r.id = c.request_id where r.process_key = $1",
      [key],
    );
    expect(asked!.person).toBe(OWNER);
    const view = value(await requestView(await person(OWNER), r!.number));
    expect(JSON.stringify(view)).toContain("E was added");
  });
  it("what cannot be told, or filled in, starts nothing and is said to the owners", async () => {
    const unclear = await process({ on: "added", when: "1 / Size > 1", values: [] });
    const unfit = await process({
      on: "added",
      values: [{ field: "what", value: '"x" + string(1 / Size)' }],
    });
    await only(unclear, unfit);
    await thing({ label: "F", size: "0" });
    await workOff();
    expect(await whats(unclear)).toEqual([]);
    const owner = await person(OWNER);
    for (const key of [unclear, unfit]) {
      const [fares] = await startsFaring(owner, key);
      expect(fares).toMatchObject({
        made: 0,
        waiting: 0,
        kept: [{ why: expect.stringMatching(/divi|zero|nought/i) }],
      });
    }
    expect(await startsFaring(keeper, unclear)).toEqual([]);
    expect(JSON.stringify(await noticesOf(owner))).toContain("was not started");
  });
  it("written quietly it starts nothing", async () => {
    const key = await process({ on: "changed", values: [WHAT] });
    const write: Step = {
      id: "w",
      name: "Write",
      kind: "write",
      op: "change",
      register: "t_things",
      record: "Thing",
      values: [{ column: "size", value: "9" }],
      quietly: true,
    };
    const form: Start = { id: "form", kind: "form", who: { by: "everybody" } };
    const quiet = await process({ on: "removed", values: [] }, { starts: [form], route: [write, FINISH] });
    await only(key, quiet);
    const id = await thing({ label: "G", size: "1" });
    value(await startRequest(keeper, quiet, { thing: id }));
    await workOff();
    expect(await sql("select size::text from register.t_things where id = $1", [id])).toEqual([
      { size: "9" },
    ]);
    expect(await whats(key)).toEqual([]);
  });
});

it("processes that start each other for the same record end, and the circle is written out", async () => {
  const flip = (to: string): Step[] => [
    {
      id: "w",
      name: "Write",
      kind: "write",
      op: "change",
      register: "t_things",
      record: "Thing",
      values: [{ column: "state", value: `"${to}"` }],
    },
    FINISH,
  ];
  const a = await process(
    { on: "changed", when: 'State = "wet"', into: "thing", values: [] },
    { route: flip("dry") },
  );
  const b = await process(
    { on: "changed", when: 'State = "dry"', into: "thing", values: [] },
    { route: flip("wet") },
  );
  await only(a, b);
  const id = await thing({ label: "H", state: "new" });
  const other = await thing({ label: "I", state: "new" });
  await change(id, { state: "wet" });
  await change(other, { state: "dry" });
  await workOff();
  const counts = await sql<{ n: number; process_key: string }>(
    "select process_key, count(*)::int as n from request where process_key = any($1) group by 1 order by 1",
    [[a, b]],
  );
  // Three rounds of each for either record, and no more.
  expect(counts.map((x) => x.n)).toEqual([6, 6]);
  const why = await sql<{ why: string }>(
    "select why from record_start where why is not null and process_key = any($1)",
    [[a, b]],
  );
  expect(why).toHaveLength(2);
  expect(why[0]!.why).toMatch(/Watch \d+ → Watch \d+ → Watch \d+/);
});

it("a process that adds the record which starts it next goes on, but not for ever", async () => {
  const more: Step = {
    id: "w",
    name: "Write",
    kind: "write",
    op: "add",
    register: "t_things",
    values: [
      { column: "label", value: "What" },
      { column: "size", value: "number(What) + 1" },
    ],
  };
  const few = await process(
    { on: "added", when: "Size < 6", values: [{ field: "what", value: "string(Size)" }] },
    { route: [more, FINISH] },
  );
  await only(few);
  await thing({ label: "N", size: "0" });
  await workOff();
  expect(await whats(few)).toEqual(["0", "1", "2", "3", "4", "5"]);
  const endless = await process(
    { on: "added", values: [{ field: "what", value: "string(Size)" }] },
    { route: [more, FINISH] },
  );
  await only(endless);
  await thing({ label: "N", size: "0" });
  await workOff();
  expect(await whats(endless)).toHaveLength(100);
  const [fares] = await startsFaring(await person(OWNER), endless);
  expect(fares!.kept[0]!.why).toContain("100 starts by records");
});

describe("paused", () => {
  it("leaves what came before it as it is", async () => {
    const key = await process({ on: "added", values: [WHAT] });
    await only(key);
    await thing({ label: "early", size: "1" });
    value(await pauseStart(await person(OWNER), key, "rec", true));
    await workOff();
    expect(await whats(key)).toEqual(["early 1 was not"]);
  });
  it("leaves out or catches up what comes meanwhile, as was said", async () => {
    const key = await process({ on: "added", values: [WHAT] });
    await only(key);
    const owner = await person(OWNER);
    expect(await pauseStart(keeper, key, "rec", true)).toMatchObject({
      ok: false,
      failure: { code: "not-found" },
    });
    value(await pauseStart(owner, key, "rec", false));
    await thing({ label: "left", size: "1" });
    await workOff();
    value(await pauseStart(owner, key, "rec", null));
    value(await pauseStart(owner, key, "rec", true));
    await thing({ label: "kept", size: "2" });
    await workOff();
    expect(await whats(key)).toEqual([]);
    expect(await startsFaring(owner, key)).toMatchObject([{ waiting: 1, paused: { keeps: true } }]);
    value(await pauseStart(owner, key, "rec", null));
    await workOff();
    expect(await whats(key)).toEqual(["kept 2 was not"]);
  });
});

/** Random writes by hand and by steps, against a plain list of what each start must have begun. */
it("fires exactly once for each change it is about, in order, whoever writes and however many workers look", async () => {
  const newly = await process({ on: "added or changed", when: 'State = "wet"', values: [WHAT] });
  const each = await process({
    on: "changed",
    each: true,
    when: "Size > 2",
    columns: ["size", "label"],
    values: [WHAT],
  });
  const gone = await process({ on: "removed", values: [WHAT] });
  const form: Start = { id: "form", kind: "form", who: { by: "everybody" } };
  const writer = await process(
    { on: "removed", values: [] },
    {
      starts: [form],
      fields: [...FIELDS, { id: "to", name: "To", kind: "text" }],
      route: [
        {
          id: "w",
          name: "Write",
          kind: "write",
          op: "change",
          register: "t_things",
          record: "Thing",
          values: [{ column: "state", value: "To" }],
        },
        FINISH,
      ],
    },
  );
  await only(newly, each, gone, writer);
  const values = fc.record(
    {
      label: fc.constantFrom("x", "y"),
      state: fc.constantFrom("new", "wet", "dry", null),
      size: fc.constantFrom("1", "2", "3", "4"),
    },
    { requiredKeys: [] },
  );
  const op = fc.oneof(
    fc.record({
      op: fc.constant("add" as const),
      values: values.map((v) => ({ size: "1", label: "z", ...v })),
    }),
    fc.record({ op: fc.constant("change" as const), nth: fc.nat(3), values }),
    fc.record({
      op: fc.constant("step" as const),
      nth: fc.nat(3),
      to: fc.constantFrom("new", "wet", "dry", "odd"),
    }),
    fc.record({ op: fc.constant("remove" as const), nth: fc.nat(3) }),
    fc.record({ op: fc.constant("work" as const) }),
  );
  type Row = { label: string; state: string | null; size: string };
  await fc.assert(
    fc.asyncProperty(fc.array(op, { minLength: 1, maxLength: 14 }), async (ops) => {
      await workOff();
      const before = await Promise.all([newly, each, gone].map(whats));
      const ids: string[] = [];
      const rows = new Map<string, Row>();
      const want: string[][] = [[], [], []];
      const said = (now: Row, was: Row | null) => `${now.label} ${now.size} was ${was ? was.size : "not"}`;
      const happened = (was: Row | null, now: Row | null) => {
        if (!now) return void want[2]!.push(said(was!, was));
        if (now.state === "wet" && was?.state !== "wet") want[0]!.push(said(now, was));
        const touched = was && (was.size !== now.size || was.label !== now.label);
        if (touched && Number(now.size) > 2) want[1]!.push(said(now, was));
      };
      for (const o of ops) {
        if (o.op === "work") {
          await Promise.all([startFromRecords(SYSTEM), startFromRecords(SYSTEM)]);
          continue;
        }
        if (o.op === "add") {
          const id = await thing(o.values);
          const row: Row = { state: null, ...o.values };
          if (row.state === null) row.state = "new";
          ids.push(id);
          rows.set(id, row);
          happened(null, row);
          continue;
        }
        const id = ids[o.nth];
        const was = id === undefined ? undefined : rows.get(id);
        if (id === undefined || !was) continue;
        if (o.op === "remove") {
          value(await removeRecord(keeper, "t_things", id, null, false));
          rows.delete(id);
          happened(was, null);
        } else if (o.op === "change") {
          await change(id, o.values);
          const now = { ...was, ...o.values };
          rows.set(id, now);
          if (JSON.stringify(now) !== JSON.stringify(was)) happened(was, now);
        } else {
          value(await startRequest(keeper, writer, { thing: id, to: o.to }));
          if (o.to === "odd") continue;
          const now = { ...was, state: o.to };
          rows.set(id, now);
          if (now.state !== was.state) happened(was, now);
        }
      }
      await workOff();
      const after = await Promise.all([newly, each, gone].map(whats));
      // Of different records the order is the workers' own.
      for (const i of [0, 1, 2])
        expect([...after[i]!].slice(before[i]!.length).sort()).toEqual([...want[i]!].sort());
      const order = await sql<{ record_id: string; ids: string[]; seqs: string[] }>(
        `select record_id::text, array_agg(request_id order by id) as ids, array_agg(request_id order by request_id) as seqs
         from record_start where request_id is not null group by process_key, record_id`,
      );
      for (const o of order) expect(o.ids).toEqual(o.seqs);
      for (const id of ids) if (rows.has(id)) await removeRecord(keeper, "t_things", id, null, false);
    }),
    { numRuns: 25, endOnFailure: true },
  );
});
