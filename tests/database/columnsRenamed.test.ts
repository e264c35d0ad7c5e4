import type { Column, RegisterShape } from "@/core/form";
import { portsOf } from "@/core/kinds";
import type { ProcessDefinition, Step } from "@/core/route";
import { inTransaction, registers } from "@/db";
import {
  act,
  changeRegister,
  closeProcess,
  columnSheet,
  createProcess,
  draftView,
  editDraft,
  keepView,
  openProcess,
  releaseDraft,
  releasePage,
  requestView,
  saveRecord,
  shapeHits,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";
import { workOff } from "./workOff";

jest.setTimeout(60_000);

const NOBODY = { columns: {}, withdrawn: [], add: [], change: [], remove: [], fill: {} };
const BOATS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_boats",
  name: "Boats",
  one: "boat",
  purpose: "",
  title: ["code"],
  columns: [
    { id: "code", name: "Code", kind: "text", needed: true },
    { id: "load", name: "Load", kind: "number" },
    { id: "state", name: "State", kind: "text" },
  ],
};
const look: Step = {
  id: "look",
  name: "Look",
  kind: "complete",
  button: "Done",
  who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
};
const end: Step = { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" };
const process = (key: string, more: Partial<ProcessDefinition> = {}): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key,
  name: `Reads ${key}`,
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: key.toUpperCase(), digits: 4 },
  title: "{Boat.Code}",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  fields: [
    { id: "boat", name: "Boat", kind: "look-up", register: "t_boats" },
    { id: "n", name: "N", kind: "number", worked: "Boat.Load * 2" },
    { id: "copy", name: "Copy", kind: "text" },
  ],
  access: {},
  route: [
    look,
    { id: "put", name: "Put", kind: "work out", set: [{ field: "copy", value: "Boat.State" }] } as Step,
    end,
  ],
  samples: [],
  ...more,
});

let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
let boat: string;
beforeAll(async () => {
  world = await openWorld();
  keeper = await person("maeve.dunlea");
  const see = [{ by: "everybody" as const }];
  await inTransaction((db) =>
    registers.createRegister(db, BOATS, { keepers: [keeper.id, "tobias.marrin"], see, ...NOBODY }),
  );
  boat = value(
    await saveRecord(keeper, "t_boats", null, null, { code: "B1", load: "4", state: "afloat" }),
  ).id;
});
afterAll(() => world.close());

const shape = async () => value(await columnSheet(keeper, "t_boats")).shape;
const change = async (columns: (c: Column[]) => Column[]) => {
  const now = await shape();
  return changeRegister(keeper, "t_boats", now, { ...now, columns: columns(now.columns) });
};
const call = (names: Readonly<Record<string, string>>) =>
  change((all) => all.map((c) => ({ ...c, name: names[c.id] ?? c.name })));
const say = (r: Awaited<ReturnType<typeof change>>) => (r.ok ? "" : JSON.stringify(r.failure.data));
const release = async (d: ProcessDefinition) => {
  value(await createProcess(SYSTEM, d));
  value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
};
const fieldsOf = async (number: string) =>
  value(await requestView(await person("tobias.marrin"), number)).form.data;
const finish = async (number: string) => {
  const [t] = await sql<{ id: string }>(
    "select t.id from task t join request r on r.id = t.request_id where r.number = $1",
    [number],
  );
  const answer = { type: "answer", task: t!.id, answer: "done", note: "", data: {} } as const;
  value(await act(await person("sorcha.lind"), number, answer));
  return fieldsOf(number);
};
const draftOf = async (key: string) => value(await draftView(SYSTEM, key));
const copied = (d: ProcessDefinition) => JSON.stringify(d.route[1]);

it("requests under way and those to come go on reading a column that is called otherwise", async () => {
  await release(process("ra"));
  const under = value(await startRequest(keeper, "ra", { boat })).number;
  const now = await shape();
  const columns = now.columns.map((c) => ({ ...c, name: c.id === "load" ? "Burden" : c.name }));
  expect(value(await shapeHits(keeper, "t_boats", { ...now, columns }))).toMatchObject({
    refusals: [],
    hits: ["Formulas follow the new name: Reads ra 1.0.0, the draft of Reads ra."],
  });
  value(await call({ load: "State", state: "Load" }));
  expect(await fieldsOf(under)).toMatchObject({ n: "8" });
  expect(await finish(under)).toMatchObject({ n: "8", copy: "afloat" });
  const fresh = value(await startRequest(keeper, "ra", { boat })).number;
  expect(await finish(fresh)).toMatchObject({ n: "8", copy: "afloat" });
  // The draft reads by the new names, and there is nothing to release.
  const draft = await draftOf("ra");
  expect(copied(draft.definition)).toContain("Boat.Load");
  const page = value(await releasePage(SYSTEM, "ra"));
  expect([page.changes, page.problems.filter((p) => p.severity === "error")]).toEqual([[], []]);
  value(await call({ load: "Load", state: "State" }));
  expect(copied((await draftOf("ra")).definition)).toContain("Boat.State");
});

it("what somebody writes into a draft on a page from before goes along", async () => {
  await release(process("rb"));
  const { version } = await draftOf("rb");
  value(await call({ load: "Burden" }));
  const edit = { op: "field.set", id: "n", patch: { worked: "Boat.Load * 3" } } as const;
  const kept = value(await editDraft(await person("tobias.marrin"), "rb", version, [edit]));
  expect(kept.theirs).toHaveLength(1);
  const { definition } = await draftOf("rb");
  expect(definition.fields.find((f) => f.id === "n")!.worked).toBe("Boat.Burden * 3");
  value(await call({ load: "Load" }));
});

it("starts that look at records follow, and so do conditions of kept views", async () => {
  const when = 'State = "sunk" and Load > 3';
  await release(
    process("rc", {
      starts: [
        {
          id: "r",
          kind: "record",
          register: "t_boats",
          on: "changed",
          when,
          into: "boat",
          values: [{ field: "copy", value: "State" }],
        },
      ],
    }),
  );
  const view = new URLSearchParams({ where: 'State = "afloat"', sort: "-load" }).toString();
  value(await keepView(keeper, "t_boats", "Afloat", view, true));
  value(await call({ state: "Condition" }));
  const [v] = await sql<{ view: string }>("select view from register_view where name = 'Afloat'");
  expect(new URLSearchParams(v!.view).get("where")).toBe('Condition = "afloat"');
  const other = value(
    await saveRecord(keeper, "t_boats", null, null, { code: "B2", load: "5", state: "afloat" }),
  ).id;
  value(await saveRecord(keeper, "t_boats", other, null, { state: "sunk" }));
  await workOff();
  const [made] = await sql<{ number: string }>("select number from request where process_key = 'rc'");
  expect(await fieldsOf(made!.number)).toMatchObject({ boat: other, copy: "sunk" });
  value(await call({ state: "State" }));
});

it("a request in a procedure stays on that one's release, and reads on; what that reads stays", async () => {
  const fields: ProcessDefinition["fields"] = [
    { id: "boat", name: "Boat", kind: "look-up", register: "t_boats", hand: "in" },
    { id: "said", name: "Said", kind: "text", hand: "out" },
  ];
  const set = {
    id: "put",
    name: "Put",
    kind: "work out",
    set: [{ field: "said", value: "Boat.State" }],
  } as Step;
  const inner = process("rp", {
    procedure: true,
    starts: [],
    fields,
    route: [look, set],
    numbering: { prefix: "", digits: 4 },
  });
  value(await createProcess(SYSTEM, inner));
  value(await releaseDraft(SYSTEM, "rp", "1.0.0", ""));
  const hand = {
    id: "hand",
    name: "Looked at",
    kind: "hand to",
    procedure: "rp",
    ...portsOf(fields),
    values: [{ port: "boat", value: "Boat" }],
  } as Step;
  const keep = {
    id: "put",
    name: "Put",
    kind: "work out",
    set: [{ field: "copy", value: "Looked at.Said" }],
  } as Step;
  await release(process("rq", { fields: process("rq").fields.slice(0, 3), route: [hand, keep, end] }));
  const { number } = value(await startRequest(keeper, "rq", { boat }));
  // The newer release reads nothing of it any more; the older one is what the request is in.
  const { version } = await draftOf("rp");
  const edit = {
    op: "step.set",
    id: "put",
    patch: { set: [{ field: "said", value: '"nothing"' }] },
  } as const;
  value(await editDraft(SYSTEM, "rp", version, [edit]));
  value(await releaseDraft(SYSTEM, "rp", "2.0.0", ""));
  const seen = await shape();
  const without = { ...seen, columns: seen.columns.filter((c) => c.id !== "state") };
  expect(value(await shapeHits(keeper, "t_boats", without)).hits[0]).toContain("Reads rp 1.0.0");
  value(await call({ state: "Condition" }));
  expect(await finish(number)).toMatchObject({ copy: "afloat" });
  value(await call({ state: "State" }));
});

it("refuses a name that a formula could not follow, and says whose", async () => {
  await release(
    process("rd", {
      fields: [
        { id: "boat", name: "Boat", kind: "look-up", register: "t_boats" },
        { id: "n", name: "N", kind: "text", worked: "string(get entries(Boat)[1].key)" },
        { id: "copy", name: "Copy", kind: "text" },
      ],
    }),
  );
  expect(say(await call({ load: "Burden" }))).toMatch(/Reads rd 1\.0\.0 could not follow: .*get entries/);
  value(await closeProcess(SYSTEM, "rd"));
  await sql("delete from process_draft where process_key = 'rd'");
  value(await call({ load: "Burden" }));
  value(await call({ load: "Load" }));
});

it("a closed process is not opened again over columns that are gone", async () => {
  await release(process("re"));
  value(await closeProcess(SYSTEM, "re"));
  value(await call({ state: "Condition" }));
  value(await openProcess(SYSTEM, "re"));
  const n = value(await startRequest(keeper, "re", { boat })).number;
  expect(await finish(n)).toMatchObject({ copy: "afloat" });
  value(await closeProcess(SYSTEM, "re"));
  for (const key of ["ra", "rb", "rc", "rq", "rp"]) {
    value(await closeProcess(SYSTEM, key));
    await sql("update request set ended_at = now() where process_key = $1 and ended_at is null", [key]);
  }
  value(await change((all) => all.filter((c) => c.id !== "state")));
  const again = await openProcess(SYSTEM, "re");
  expect(again).toMatchObject({
    ok: false,
    failure: { data: { message: expect.stringMatching(/Release 1\.0\.0 reads what has changed/) } },
  });
});

it("nothing is put to work over shapes that somebody is changing", async () => {
  value(
    await createProcess(
      SYSTEM,
      process("rg", { fields: process("rg").fields.slice(0, 2), route: [look, end] }),
    ),
  );
  const waiting = () =>
    sql("select from pg_locks where locktype = 'advisory' and mode = 'ShareLock' and not granted");
  const released = await inTransaction(async (db) => {
    await registers.holdShapes(db, "to change");
    const release = releaseDraft(SYSTEM, "rg", "1.0.0", "");
    while ((await waiting()).length === 0) await new Promise((r) => setTimeout(r, 20));
    expect(await sql("select from process_release where process_key = 'rg'")).toEqual([]);
    return { release };
  });
  value(await released.release);
});

it("while a column is called one thing and another, every request reads it", async () => {
  await release(
    process("rf", {
      route: [look, { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" }],
    }),
  );
  let renaming = true;
  const numbers: string[] = [];
  const starting = [1, 2, 3].map(async () => {
    while (renaming) numbers.push(value(await startRequest(keeper, "rf", { boat })).number);
  });
  for (const name of ["Burden", "Weight", "Load", "Cargo", "Load"]) value(await call({ load: name }));
  renaming = false;
  await Promise.all(starting);
  expect(numbers.length).toBeGreaterThan(4);
  for (const n of numbers) expect([n, await fieldsOf(n)]).toMatchObject([n, { n: "8" }]);
  const stuck = await sql("select number from request where process_key = 'rf' and status = 'stuck'");
  expect(stuck).toEqual([]);
});
