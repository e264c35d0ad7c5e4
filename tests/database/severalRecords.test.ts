import type { RequestState } from "@/core/engine";
import { EVERYBODY, type Field, type FormData, type RegisterShape } from "@/core/form";
import type { Step } from "@/core/route";
import { inTransaction, registers } from "@/db";
import {
  act,
  createProcess,
  draftProblems,
  openForm,
  passerBy,
  releaseDraft,
  replayRequests,
  requestView,
  startRequest,
  SYSTEM,
  taskView,
  type Actor,
} from "@/services";
import { workOff } from "./workOff";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

const CRATES: RegisterShape = {
  format: "cobble-step/register@1",
  key: "s_crates",
  name: "Crates",
  one: "crate",
  purpose: "",
  title: ["code"],
  columns: [
    { id: "code", name: "Code", kind: "text", needed: true },
    { id: "place", name: "Place", kind: "text" },
    { id: "weight", name: "Weight", kind: "number" },
    { id: "keeper", name: "Keeper", kind: "person" },
    { id: "secret", name: "Secret", kind: "text" },
  ],
};
const fin: Step = { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step;
const FIELDS: Field[] = [
  {
    id: "crates",
    name: "Crates",
    kind: "several records",
    register: "s_crates",
    offered: "Weight <= 50",
    max: "3",
  },
  { id: "all", name: "All", kind: "number", worked: "sum(Crates.Weight)" },
];
const ROUTE = [
  {
    id: "heavy",
    name: "Heavy?",
    kind: "choose",
    ways: [
      {
        id: "yes",
        name: "Heavy",
        when: "every c in Crates satisfies c.Weight > 10",
        steps: [
          {
            id: "look",
            name: "Look",
            kind: "complete",
            who: { rule: { by: "person", person: "piet.hanlon" }, how: "one" },
            button: "Done",
          },
        ],
      },
      { id: "no", name: "Light", steps: [] },
    ],
  },
  {
    id: "w",
    name: "Moved",
    kind: "write",
    op: "change",
    register: "s_crates",
    record: "Crates",
    values: [{ column: "place", value: '"Tower"' }],
  },
  fin,
] as unknown as Step[];

let world: Awaited<ReturnType<typeof openWorld>>;
let lucia: Actor;
let piet: Actor;
let ids: Record<"a" | "b" | "c" | "d", string>;
beforeAll(async () => {
  world = await openWorld();
  await sql("delete from graphile_worker._private_jobs");
  [lucia, piet] = [await person("lucia.penrose"), await person("piet.hanlon")];
  await inTransaction((db) =>
    registers.createRegister(db, CRATES, {
      ...EVERYBODY,
      keepers: ["tobias.marrin"],
      columns: { secret: [] },
      open: ["code"],
    }),
  );
  const rows = await sql<{ id: string; code: string }>(
    `insert into register.s_crates (code, weight, secret) values ('a', 12, 'x'), ('b', 20, 'y'), ('c', 5, 'z'), ('d', 80, 'q')
     returning id::text as id, code`,
  );
  ids = Object.fromEntries(rows.map((r) => [r.code, r.id])) as typeof ids;
  value(
    await createProcess(SYSTEM, {
      format: "cobble-step/process@2",
      key: "moves",
      name: "Moves",
      purpose: "",
      owners: ["tobias.marrin"],
      numbering: { prefix: "MOVES", digits: 4 },
      title: "{Crates}",
      starts: [
        { id: "form", kind: "form", who: { by: "everybody" } },
        { id: "open", kind: "public", letterhead: "Quillhaven Museums", asks: "nothing" },
      ],
      fields: FIELDS,
      access: {},
      route: ROUTE,
      samples: [],
    }),
  );
  expect(value(await draftProblems(await person("tobias.marrin"), "moves")).map((p) => p.message)).toEqual(
    [],
  );
  value(await releaseDraft(SYSTEM, "moves", "1.0.0", ""));
});
afterEach(() => workOff());
afterAll(() => world.close());

const of = (...of: (keyof typeof ids)[]): FormData => ({ crates: of.map((x) => ids[x]).join("\n") });
const stateOf = async (number: string): Promise<RequestState> =>
  (await sql<{ state: RequestState }>("select state from request where number = $1", [number]))[0]!.state;
const places = async () =>
  Object.fromEntries(
    (
      await sql<{ code: string; place: string | null }>(
        "select code, place from register.s_crates order by code",
      )
    ).map((r) => [r.code, r.place]),
  );
const refused = async (data: FormData) => {
  const r = await startRequest(lucia, "moves", data);
  return r.ok ? [] : JSON.stringify(r.failure).match(/"code":"[a-z-]+"/g);
};

it("what is picked is counted with, decided by, shown and written, each of them", async () => {
  const n = value(await startRequest(lucia, "moves", of("b", "a"))).number;
  const s = await stateOf(n);
  expect(s.data).toMatchObject({ ...of("b", "a"), all: "32" });
  expect((await sql("select title from request where number = $1", [n]))[0]).toEqual({ title: "b, a" });
  const task = Object.keys(s.tasks)[0]!;
  const page = value(await taskView(piet, n, task)) as { form: { facts: { records: object } } };
  expect(JSON.stringify(page)).toContain('"code":"a"');
  expect(JSON.stringify(page)).not.toContain('"secret":');
  expect(JSON.stringify(value(await requestView(lucia, n)))).toContain('"code":"b"');
  value(await act(piet, n, { type: "answer", task, answer: "done", note: "", data: {} }));
  await workOff();
  expect(await places()).toEqual({ a: "Tower", b: "Tower", c: null, d: null });
  expect(await replayRequests(SYSTEM)).toMatchObject({ differ: [] });
});

it("with one that is light the other way is gone, in whichever order", async () => {
  for (const data of [of("a", "c"), of("c", "a")]) {
    const n = value(await startRequest(lucia, "moves", data)).number;
    expect(Object.keys((await stateOf(n)).tasks)).toEqual([]);
  }
});

it("what may not be picked is refused by the server: too heavy, gone, too many, of another register", async () => {
  expect(await refused(of("a", "d"))).toContain('"code":"not-offered"');
  expect(await refused(of("d", "a"))).toContain('"code":"not-offered"');
  expect(await refused({ crates: `${ids.a}\n999999` })).toContain('"code":"records-gone"');
  expect(await refused({ crates: `${ids.a}\nobjects/1` })).toContain('"code":"records-gone"');
  expect(await refused({ crates: Array.from({ length: 100_000 }, (_, i) => i + 1).join("\n") })).toContain(
    '"code":"too-many-records"',
  );
  expect(await refused(of("a", "b", "c", "d"))).toContain('"code":"too-many-records"');
});

it("where a record is gone meanwhile the request stands and says so, rather than going by those that are left", async () => {
  const n = value(await startRequest(lucia, "moves", of("a", "b"))).number;
  const task = Object.keys((await stateOf(n)).tasks)[0]!;
  await sql("delete from register.s_crates where code = 'b'");
  await sql("update register.s_crates set place = null");
  value(await act(piet, n, { type: "answer", task, answer: "done", note: "", data: {} }));
  value(await requestView(lucia, n));
  expect((await stateOf(n)).status).toBe("stuck");
  expect((await places())["a"]).toBeNull();
});

it("whoever is outside sees of them what is opened, and nothing else", async () => {
  const page = JSON.stringify(value(await openForm(await passerBy(), "moves", {})));
  expect(page).toContain('"several records"');
  expect(page).not.toMatch(/"Secret"|"Keeper"/);
});
