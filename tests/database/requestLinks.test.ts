import { REQUESTS, type Column, type RegisterShape } from "@/core/form";
import type { ProcessDefinition, Step } from "@/core/route";
import { inTransaction, registers } from "@/db";
import {
  act,
  changeRegister,
  columnSheet,
  createProcess,
  exportRecords,
  lookUp,
  recordPage,
  registerPage,
  releaseDraft,
  replayRequests,
  requestView,
  saveRecord,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

const SHAPE: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_letters",
  name: "Letters",
  one: "letter",
  purpose: "",
  title: ["code"],
  columns: [
    { id: "code", name: "Code", kind: "text", needed: true },
    { id: "raised", name: "Raised by", kind: "request" },
    { id: "old", name: "Old number", kind: "text" },
  ],
  rules: [
    {
      id: "r",
      on: "changed",
      when: 'Raised by.status = "under way" and Code = "closed"',
      then: { do: "refuse", say: "Its request is under way." },
    },
  ],
};
const look: Step = {
  id: "look",
  name: "Look",
  kind: "complete",
  button: "Done",
  who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
};
const end: Step = { id: "z", name: "Finish", kind: "finish", result: "sent", tone: "agree" };
const process = (key: string, more: Partial<ProcessDefinition>): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key,
  name: `About ${key}`,
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: key.toUpperCase(), digits: 4 },
  title: "",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  fields: [],
  access: {},
  route: [],
  samples: [],
  ...more,
});
const raising = process("la", {
  fields: [{ id: "code", name: "Called", kind: "text" }],
  route: [
    {
      id: "w",
      name: "Keep",
      kind: "write",
      op: "add",
      register: "t_letters",
      values: [
        { column: "code", value: "Called" },
        { column: "raised", value: "Request" },
      ],
    } as Step,
    look,
    end,
  ],
});
const asking = process("lb", {
  title: "{Earlier.process}",
  fields: [
    { id: "letter", name: "Letter", kind: "look-up", register: "t_letters" },
    { id: "earlier", name: "Earlier", kind: "request" },
    { id: "says", name: "Says", kind: "text", worked: "Earlier.status" },
    {
      id: "of",
      name: "Of letter",
      kind: "text",
      worked: 'Letter.Raised by.number + " " + Letter.Raised by.status',
    },
    { id: "same", name: "Same", kind: "yes or no", worked: "Earlier = Letter.Raised by" },
  ],
  route: [look, end],
});

let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
let sorcha: Actor;
let asker: Actor;
let number: string;
let letter: string;
beforeAll(async () => {
  world = await openWorld();
  [keeper, sorcha, asker] = (await Promise.all(
    ["maeve.dunlea", "sorcha.lind", "piet.hanlon"].map(person),
  )) as [Actor, Actor, Actor];
  const rights = {
    keepers: [keeper.id, "tobias.marrin"],
    see: [{ by: "everybody" as const }],
    columns: {},
    withdrawn: [],
    add: [],
    change: [],
    remove: [],
    fill: {},
  };
  await inTransaction((db) => registers.createRegister(db, SHAPE, rights));
  for (const d of [raising, asking]) {
    value(await createProcess(SYSTEM, d));
    value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  }
  ({ number } = value(await startRequest(asker, "la", { code: "L1" })));
  const [row] = await sql<{ id: string }>("select id::text from register.t_letters where code = 'L1'");
  letter = row!.id;
});
afterAll(() => world.close());

const all = { search: "", filters: [], sort: [], offset: 0, limit: 50 };
const codes = async (where: string) =>
  value(await registerPage(keeper, "t_letters", all, where)).rows.map((r) => r["code"]);
const finish = async (n: string) => {
  const [t] = await sql<{ id: string }>(
    "select t.id from task t join request r on r.id = t.request_id where r.number = $1",
    [n],
  );
  value(await act(sorcha, n, { type: "answer", task: t!.id, answer: "done", note: "", data: {} }));
};
const form = async (n: string) => value(await requestView(await person("tobias.marrin"), n)).form.data;

it("a step keeps the request it belongs to, before that is kept itself; conditions ask for it", async () => {
  const page = value(await recordPage(keeper, "t_letters", letter));
  expect(page.record["raised"]).toBe(number);
  expect(await codes('Raised by.status = "under way"')).toEqual(["L1"]);
  expect(await codes(`Raised by.number = "${number}"`)).toEqual(["L1"]);
  expect(await codes('Raised by.process = "About lb"')).toEqual([]);
  expect(await codes("Raised by = null")).toEqual([]);
  const q = { search: "", filters: [{ column: "raised", value: "la-" }], sort: [] };
  const { bytes } = value(await exportRecords(keeper, "t_letters", q, "", ["code", "raised"], "csv"));
  expect(bytes.toString()).toContain(`L1,${number}`);
});

it("forms, rules and titles read what it is now", async () => {
  const first = value(await startRequest(asker, "lb", { letter, earlier: number })).number;
  expect(await form(first)).toMatchObject({ says: "under way", of: `${number} under way`, same: true });
  const refused = await saveRecord(keeper, "t_letters", letter, null, { code: "closed" });
  expect(JSON.stringify(refused)).toContain("Its request is under way.");
  await finish(number);
  value(await saveRecord(keeper, "t_letters", letter, null, { code: "closed" }));
  value(await saveRecord(keeper, "t_letters", letter, null, { code: "L1" }));
  expect(await form(first)).toMatchObject({ says: "finished", of: `${number} finished` });
  const [row] = await sql<{ title: string }>("select title from request where number = $1", [first]);
  expect(row!.title).toBe("About la");
  expect(await codes('Raised by.result = "sent"')).toEqual(["L1"]);
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
});

it("what is no request is refused, and only one's own are offered", async () => {
  for (const bad of ["LA-9999", "la", "1", "' or true --"]) {
    const r = await saveRecord(keeper, "t_letters", null, null, { code: "X", raised: bad });
    expect(JSON.stringify(r)).toContain("no-request");
    expect((await startRequest(asker, "lb", { letter, earlier: bad })).ok).toBe(false);
  }
  const found = async (who: Actor, words: string) =>
    value(await lookUp(who, REQUESTS, words)).map((r) => r.id);
  expect(await found(asker, "la-0001")).toEqual([number]);
  expect(await found(await person("ruben.aske"), "la-0001")).toEqual([]);
});

it("a text becomes a link where it is the number of one", async () => {
  const other = value(await saveRecord(keeper, "t_letters", null, null, { code: "L2", old: "nonsense" })).id;
  value(await saveRecord(keeper, "t_letters", letter, null, { old: number.toLowerCase() }));
  const { shape } = value(await columnSheet(keeper, "t_letters"));
  const columns = shape.columns.map((c): Column => (c.id === "old" ? { ...c, kind: "request" } : c));
  const to = (lets: string[]) => changeRegister(keeper, "t_letters", shape, { ...shape, columns }, lets);
  expect(JSON.stringify(await to([]))).toContain("nonsense");
  value(await to(["old"]));
  const kept = async (id: string) => value(await recordPage(keeper, "t_letters", id)).record["old"];
  expect([await kept(letter), await kept(other)]).toEqual([number, null]);
});
