import { EVERYBODY, type RegisterShape } from "@/core/form";
import type { StartPreview } from "@/core/records";
import type { ProcessDefinition, Start, Step } from "@/core/route";
import { inTransaction, registers } from "@/db";
import {
  createProcess,
  lookDates,
  releaseDraft,
  saveRecord,
  startPreview,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { Temporal } from "temporal-polyfill";
import { nowMs } from "@/services/kernel/clock";
import { getPool } from "@/db";
import { workOff } from "./workOff";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(120_000);

const OWNER = "tobias.marrin";
const TUBS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_tubs",
  name: "Tubs",
  one: "tub",
  purpose: "",
  title: ["label"],
  columns: [
    { id: "label", name: "Label", kind: "text" },
    { id: "size", name: "Size", kind: "number" },
    { id: "due", name: "Due", kind: "date" },
    { id: "twin", name: "Twin", kind: "look-up", register: "t_tubs" },
    { id: "price", name: "Price", kind: "number" },
  ],
};
let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
let owner: Actor;
const ids: string[] = [];
const day = async (n: number) =>
  Temporal.Instant.fromEpochMilliseconds(await nowMs(getPool()))
    .toZonedDateTimeISO("Europe/Dublin")
    .toPlainDate()
    .add({ days: n })
    .toString();
beforeAll(async () => {
  world = await openWorld();
  await sql("delete from graphile_worker._private_jobs");
  const only = [{ by: "person" as const, person: "maeve.dunlea" }];
  await inTransaction((db) =>
    registers.createRegister(db, TUBS, {
      ...EVERYBODY,
      keepers: ["maeve.dunlea"],
      columns: { price: only },
    }),
  );
  keeper = await person("maeve.dunlea");
  owner = await person(OWNER);
  for (let i = 0; i < 30; i++) {
    const due = i < 12 ? await day(i - 2) : null;
    const twin = ids[i - 1] ?? null;
    const values = { label: `T${i}`, size: String(i % 7), due, twin, price: String(i) };
    ids.push(value(await saveRecord(keeper, "t_tubs", null, null, values)).id);
  }
});
afterAll(() => world.close());

const FINISH: Step = { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" };
let made = 0;
async function draft(start: Record<string, unknown>): Promise<string> {
  const n = ++made;
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: `tub-${n}`,
    name: `Tub ${n}`,
    purpose: "",
    owners: [OWNER],
    numbering: { prefix: `T${n}Z`, digits: 4 },
    title: "",
    starts: [
      (start["kind"] === "form"
        ? { id: "s", ...start }
        : { id: "s", register: "t_tubs", into: "tub", values: [], ...start }) as unknown as Start,
    ],
    fields: [
      { id: "tub", name: "Tub", kind: "look-up", register: "t_tubs" },
      { id: "what", name: "What", kind: "text" },
    ],
    access: {},
    route: [FINISH],
    samples: [],
  };
  value(await createProcess(SYSTEM, d));
  return d.key;
}
const told = async (key: string, who = owner) => value(await startPreview(who, key, "s"));
type Told = Extract<StartPreview, { ok: true }>;
const good = async (key: string): Promise<Told> => {
  const r = await told(key);
  if (!r?.ok) throw new Error(JSON.stringify(r));
  return r;
};
const record = (when?: string) => ({ kind: "record", on: "changed", ...(when ? { when } : {}) });
const press = (when?: string) => ({
  kind: "press",
  who: { by: "everybody" },
  says: "Open",
  ...(when ? { when } : {}),
});

it("counts those that meet the condition, whether the database can be asked or not, and says what is filled in", async () => {
  const sizes = ids.map((_, i) => i % 7);
  for (const [when, holds] of [
    [undefined, () => true],
    ["Size > 3", (i: number) => sizes[i]! > 3],
    // No part of it is one for the database.
    ['string length(string(Size) + "x") = 2 and substring(Label, 2) = string(Size)', (i: number) => i < 7],
    ["Size > 3 and string length(Label) > 2", (i: number) => sizes[i]! > 3 && i > 9],
    ["Twin.Size = 2", (i: number) => i > 0 && sizes[i - 1] === 2],
    ["Size > 100", () => false],
  ] as const) {
    const expected = ids.filter((_, i) => holds(i));
    for (const [says, start] of [
      ["holds", record(when)],
      ["offered", press(when)],
    ] as const) {
      const r = await good(await draft({ ...start, values: [{ field: "what", value: 'Label + "!"' }] }));
      expect([says, when, r.says, r.count, r.more]).toEqual([says, when, says, expected.length, false]);
      expect(r.first.map((x) => x.id)).toEqual(expected.slice(0, 20));
      for (const x of r.first) expect(x.begins).toEqual({ tub: x.id, what: `${x.title}!` });
      for (const x of r.first) expect(r.records["t_tubs"]?.[x.id]).toMatchObject({ id: x.id });
    }
  }
});

it("offers what it says is offered, and refuses what it does not", async () => {
  const key = await draft(press("Size > 3 and string length(Label) > 2"));
  const r = await good(key);
  value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  const began = [];
  for (const id of ids)
    if ((await startRequest(owner, key, {}, null, undefined, null, { start: "s", record: id })).ok)
      began.push(id);
  expect(began).toEqual(r.first.map((x) => x.id));
});

it("tells of which it cannot be told, and does not count them", async () => {
  const r = await good(await draft(press("10 / Size > 4")));
  expect(r.count).toBe(ids.filter((_, i) => [1, 2].includes(i % 7)).length);
  expect(r.unclear?.count).toBe(ids.filter((_, i) => i % 7 === 0).length);
});

it("tells how many dates the first look takes, as the look then does, and which come near in the days after", async () => {
  const dated = { kind: "date", column: "due", days: -3, at: "00:00", into: "tub" };
  const key = await draft(dated);
  const before = await good(key);
  // Those due in three days, on the day of the first look; then what is due within thirty days after.
  expect(before.firstLook).toBe(1);
  expect(before.first[0]!.begins).toEqual({ tub: before.first[0]!.id });
  const days = await Promise.all([3, 4, 5, 6, 7, 8, 9].map((n) => day(n - 3)));
  expect(before.first.map((x) => x.day)).toEqual(days);
  expect(before.count).toBe(days.length);
  value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  await lookDates(SYSTEM);
  await workOff();
  expect(
    await sql("select state::jsonb -> 'data' ->> 'tub' as tub from request where process_key = $1", [key]),
  ).toEqual([{ tub: before.first[0]!.id }]);
  const after = await good(key);
  expect([after.firstLook, after.count]).toEqual([0, before.count - 1]);
});

it("says what keeps it from being told: a mistake, what a record was before, what whoever looks may not see", async () => {
  expect(await told(await draft({ kind: "form", who: { by: "everybody" } }))).toBeNull();
  const wrong = await told(await draft(record("Sise > 3")));
  expect(wrong).toMatchObject({ ok: false, why: expect.stringContaining("Sise") });
  expect(await told(await draft({ ...record("Before.Size > 3"), each: true }))).toMatchObject({
    ok: false,
    why: expect.stringContaining("before"),
  });
  for (const start of [
    press("Price > 3"),
    { ...press(), values: [{ field: "what", value: "string(Price)" }] },
  ]) {
    const key = await draft(start);
    const r = await told(key);
    expect(r).toMatchObject({ ok: false, why: expect.stringContaining("may not see") });
    expect(JSON.stringify(r)).not.toMatch(/"1[0-9]"/);
  }
  expect(JSON.stringify(await told(await draft(press())))).not.toContain("price");
  const key = await draft(press());
  expect(await startPreview(await person("lucia.penrose"), key, "s")).toMatchObject({
    failure: { code: "not-found" },
  });
  expect(await startPreview(owner, key, "other")).toMatchObject({ failure: { code: "not-found" } });
});
