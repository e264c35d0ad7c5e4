import { randomUUID } from "node:crypto";
import { EVERYBODY, type RegisterShape } from "@/core/form";
import type { ProcessDefinition, StartOf, Step } from "@/core/route";
import { inTransaction, registers } from "@/db";
import {
  askPage,
  catalogue,
  createProcess,
  recordPage,
  releaseDraft,
  saveAskDraft,
  saveRecord,
  startRequest,
  SYSTEM,
  type Actor,
  pauseStart,
  startsFaring,
} from "@/services";
import { workOff } from "./workOff";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(120_000);

const JARS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_jars",
  name: "Jars",
  one: "jar",
  purpose: "",
  title: ["label"],
  columns: [
    { id: "label", name: "Label", kind: "text" },
    { id: "state", name: "State", kind: "text" },
    { id: "size", name: "Size", kind: "number" },
    { id: "price", name: "Price", kind: "number" },
  ],
};
const OWNER = "tobias.marrin";
let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
/** In Registry, and sees no prices. */
let lucia: Actor;
beforeAll(async () => {
  world = await openWorld();
  const onlyKeeper = [{ by: "person" as const, person: "maeve.dunlea" }];
  const rights = { ...EVERYBODY, keepers: ["maeve.dunlea", OWNER], columns: { price: onlyKeeper } };
  await inTransaction((db) => registers.createRegister(db, JARS, rights));
  await inTransaction((db) =>
    registers.createRegister(
      db,
      { ...JARS, key: "t_closed", name: "Closed jars" },
      { ...EVERYBODY, keepers: ["maeve.dunlea", OWNER], see: onlyKeeper },
    ),
  );
  keeper = await person("maeve.dunlea");
  lucia = await person("lucia.penrose");
});
afterAll(() => world.close());

const FINISH: Step = { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" };
let made = 0;
async function process(
  start: Partial<StartOf<"press">>,
  more: Partial<Pick<ProcessDefinition, "access" | "route" | "fields">> = {},
): Promise<string> {
  const n = ++made;
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: `pressed-${n}`,
    name: `Pressed ${n}`,
    purpose: "",
    owners: [OWNER],
    numbering: { prefix: `P${n}X`, digits: 4 },
    title: "",
    starts: [
      {
        id: "press",
        kind: "press",
        who: { by: "everybody" },
        register: "t_jars",
        says: "Open it",
        into: "jar",
        values: [{ field: "what", value: 'Label + " of " + string(Size)' }],
        ...start,
      },
    ],
    fields: [
      { id: "jar", name: "Jar", kind: "look-up", register: "t_jars", needed: "true" },
      { id: "what", name: "What", kind: "text" },
      { id: "why", name: "Why", kind: "text" },
    ],
    access: {},
    route: [FINISH],
    samples: [],
    ...more,
  };
  value(await createProcess(SYSTEM, d));
  value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  return d.key;
}
const jar = async (label: string, more: Record<string, string> = {}, key = "t_jars") =>
  value(await saveRecord(keeper, key, null, null, { label, size: "1", ...more })).id;
const pressIt = (
  who: Actor,
  key: string,
  record: string,
  data = {},
  id: string | null = null,
  start = "press",
) => startRequest(who, key, data, id, undefined, null, { start, record });
const dataOf = async (key: string) =>
  (
    await sql<{ data: Record<string, unknown> }>(
      "select state::jsonb -> 'data' as data from request where process_key = $1 order by id",
      [key],
    )
  ).map((r) => r.data);
const offered = async (who: Actor, record: string, key = "t_jars") =>
  value(await recordPage(who, key, record)).offered.map((o) => o.process);

it("begins with the record and what is worked out over it, asked for by whoever pressed", async () => {
  const key = await process({ atOnce: true });
  const id = await jar("Amber");
  expect(await offered(lucia, id)).toContain(key);
  value(await pressIt(lucia, key, id));
  expect(await dataOf(key)).toMatchObject([{ jar: id, what: "Amber of 1" }]);
  expect(await sql("select requester_id from request where process_key = $1", [key])).toEqual([
    { requester_id: "lucia.penrose" },
  ]);
});

it("takes what is typed into the form, but no other record, and nothing that is only shown or hidden", async () => {
  const key = await process(
    {
      values: [
        { field: "what", value: "Label" },
        { field: "why", value: "State" },
      ],
    },
    { access: { start: { what: "see", why: "hide" } } },
  );
  const id = await jar("Blue", { state: "full" });
  const other = await jar("Other");
  value(await pressIt(lucia, key, id, { jar: other, what: "Mine", why: "Mine" }));
  expect(await dataOf(key)).toMatchObject([{ jar: id, what: "Blue", why: "full" }]);
  const typed = await process({});
  value(await pressIt(lucia, typed, id, { what: "As I say", why: "Because" }));
  expect(await dataOf(typed)).toMatchObject([{ jar: id, what: "As I say", why: "Because" }]);
  // Left as it was filled in, and emptied.
  value(await pressIt(lucia, typed, id, {}));
  value(await pressIt(lucia, typed, id, { what: null }));
  expect((await dataOf(typed)).slice(1)).toMatchObject([{ what: "Blue of 1" }, { what: null }]);
});

it("is offered and begun only where its condition holds now; what cannot be told is refused with the reason", async () => {
  const key = await process({ when: 'State = "full" and 10 / Size > 1' });
  const [full, empty, unclear] = [
    await jar("Full", { state: "full" }),
    await jar("Empty", { state: "empty" }),
    await jar("Unclear", { state: "full", size: "0" }),
  ];
  expect(await offered(lucia, full)).toContain(key);
  expect(await offered(lucia, empty)).not.toContain(key);
  expect(await offered(lucia, unclear)).not.toContain(key);
  const why = async (id: string) => {
    const r = await pressIt(lucia, key, id);
    return r.ok ? "begun" : r.failure;
  };
  expect(await why(empty)).toEqual({
    code: "not-offered",
    data: { says: "Open it", title: "Empty", why: null },
  });
  expect(await why(unclear)).toMatchObject({ code: "not-offered", data: { title: "Unclear" } });
  expect((await why(unclear)) as object).not.toMatchObject({ data: { why: null } });
  // It was open in a browser while the record became another.
  value(await saveRecord(keeper, "t_jars", full, null, { state: "empty" }));
  expect(await why(full)).toMatchObject({ code: "not-offered" });
  expect(await askPage(lucia, key, randomUUID(), { start: "press", record: full })).toMatchObject({
    failure: { code: "not-offered" },
  });
  expect(await dataOf(key)).toEqual([]);
});

it("is for those it says, on records they see, and not to be had by another way", async () => {
  const key = await process({ who: { by: "department", department: "Conservation" } });
  const id = await jar("Green");
  const missing = { ok: false, failure: { code: "not-found" } };
  expect(lucia.department).not.toBe("Conservation");
  expect(await offered(lucia, id)).not.toContain(key);
  expect(await pressIt(lucia, key, id)).toMatchObject(missing);
  expect(await askPage(lucia, key, randomUUID(), { start: "press", record: id })).toMatchObject(missing);
  // Through the form alone nobody starts it.
  expect(await startRequest(keeper, key, { jar: id })).toMatchObject(missing);
  expect(await askPage(keeper, key, randomUUID())).toMatchObject(missing);
  const open = await process({});
  for (const record of ["999999999", "", "1; drop table register.t_jars", "-1"])
    expect(await pressIt(lucia, open, record)).toMatchObject(missing);
  expect(await pressIt(lucia, open, id, {}, null, "form")).toMatchObject(missing);
  // A start by the form is no start to be pressed, and the other way round.
  expect(await pressIt(lucia, "store-key", "1", {}, null, "form")).toMatchObject(missing);
  const closed = await process(
    { register: "t_closed", into: "closed", values: [] },
    { fields: [{ id: "closed", name: "Closed jar", kind: "look-up", register: "t_closed" }] },
  );
  const hidden = await jar("Hidden", {}, "t_closed");
  expect(await pressIt(lucia, closed, hidden)).toMatchObject(missing);
  expect(await offered(keeper, hidden, "t_closed")).toContain(closed);
  value(await pressIt(keeper, closed, hidden));
});

it("asks for what it reads though whoever presses does not see it, and tells them nothing of it", async () => {
  const key = await process({ when: "Price > 5", values: [] });
  const dear = await jar("Dear", { price: "6" });
  const cheap = await jar("Cheap", { price: "4" });
  expect([await offered(lucia, dear), await offered(lucia, cheap)].map((o) => o.includes(key))).toEqual([
    true,
    false,
  ]);
  expect(JSON.stringify(value(await recordPage(lucia, "t_jars", dear)))).not.toContain("price");
  value(await pressIt(lucia, key, dear));
});

it("nothing that is written to the record starts it", async () => {
  const key = await process({});
  const id = await jar("Quiet");
  value(await saveRecord(keeper, "t_jars", id, null, { state: "other" }));
  await workOff();
  expect(await dataOf(key)).toEqual([]);
  expect(await sql("select 1 from record_start where process_key = $1", [key])).toEqual([]);
});

it("of two who press at once only one begins where that makes the condition hold no more", async () => {
  const write: Step = {
    id: "mark",
    name: "Mark",
    kind: "write",
    register: "t_jars",
    op: "change",
    record: "Jar",
    values: [{ column: "state", value: '"taken"' }],
  };
  const key = await process({ when: "State = null" }, { route: [write, FINISH] });
  const id = await jar("Once");
  const all = await Promise.all(Array.from({ length: 6 }, () => pressIt(lucia, key, id)));
  expect(all.filter((r) => r.ok)).toHaveLength(1);
  for (const r of all) if (!r.ok) expect(r.failure).toMatchObject({ code: "not-offered" });
  expect(await dataOf(key)).toHaveLength(1);
});

it("sent twice it begins once; by the same key on another record it is refused", async () => {
  const key = await process({});
  const [a, b] = [await jar("A"), await jar("B")];
  const draft = randomUUID();
  const first = value(await pressIt(lucia, key, a, {}, draft)).number;
  // By then nothing is to be offered any more.
  value(await saveRecord(keeper, "t_jars", a, null, { label: "A, changed" }));
  expect(value(await pressIt(lucia, key, a, {}, draft)).number).toBe(first);
  expect(await pressIt(lucia, key, b, {}, draft)).toMatchObject({
    failure: { code: "already-sent", data: { number: first } },
  });
  expect(await dataOf(key)).toHaveLength(1);
});

it("keeps what was typed with what was pressed, and shows the record as it is now", async () => {
  const key = await process(
    { values: [{ field: "what", value: "Label" }] },
    { access: { start: { what: "see" } } },
  );
  const id = await jar("Old name");
  const draft = randomUUID();
  const press = { start: "press", record: id };
  const page = value(await askPage(lucia, key, draft, press));
  expect(page.form.data).toMatchObject({ jar: id, what: "Old name" });
  expect(page.form.access["jar"]).toBe("see");
  expect(page.press).toEqual({ says: "Open it", register: "t_jars", id, title: "Old name" });
  value(await saveAskDraft(lucia, key, draft, { ...page.form.data, why: "Begun" }, press));
  value(await saveRecord(keeper, "t_jars", id, null, { label: "New name" }));
  expect((await catalogue(lucia)).drafts).toContainEqual(
    expect.objectContaining({ id: draft, process: key, press }),
  );
  expect(value(await askPage(lucia, key, draft, press)).form.data).toMatchObject({
    jar: id,
    what: "New name",
    why: "Begun",
  });
});

it("one that is paused is offered on no record, and a page from before begins none", async () => {
  const key = await process({ atOnce: true });
  const id = await jar("Paused");
  const owner = await person(OWNER);
  value(await pauseStart(owner, key, "press", false));
  expect(await offered(lucia, id)).not.toContain(key);
  expect(JSON.stringify(await pressIt(lucia, key, id))).toContain("paused for a while");
  expect((await startsFaring(owner, key)).map((s) => [s.id, s.pressed, s.paused])).toEqual([
    ["press", true, { keeps: false }],
  ]);
  value(await pauseStart(owner, key, "press", null));
  expect(await offered(lucia, id)).toContain(key);
  value(await pressIt(lucia, key, id));
});
