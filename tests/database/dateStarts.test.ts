import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { EVERYBODY, type RegisterShape } from "@/core/form";
import type { ProcessDefinition, StartOf, Step } from "@/core/route";
import { inTransaction, registers } from "@/db";
import {
  createProcess,
  lookDates,
  noticesOf,
  pauseStart,
  releaseDraft,
  saveRecord,
  startByTimetable,
  startsFaring,
  SYSTEM,
  type Actor,
} from "@/services";
import { nowMs } from "@/services/kernel/clock";
import { getPool } from "@/db";
import { workOff } from "./workOff";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(120_000);

const BOXES: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_boxes",
  name: "Boxes",
  one: "box",
  purpose: "",
  title: ["label"],
  columns: [
    { id: "label", name: "Label", kind: "text" },
    { id: "due", name: "Due", kind: "date" },
    { id: "fetched", name: "Fetched", kind: "date and time" },
    { id: "size", name: "Size", kind: "number" },
  ],
};
const OWNER = "tobias.marrin";
let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
beforeAll(async () => {
  world = await openWorld();
  await sql("delete from graphile_worker._private_jobs");
  await inTransaction((db) =>
    registers.createRegister(db, BOXES, { ...EVERYBODY, keepers: ["maeve.dunlea", OWNER] }),
  );
  keeper = await person("maeve.dunlea");
  // The demo's own begins every night, too.
  value(await pauseStart(await person("sorcha.lind"), "check-labels", "nightly", false));
});
afterAll(() => world.close());

const FINISH: Step = { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" };
let made = 0;
async function process(start: Partial<StartOf<"date">>): Promise<string> {
  const n = ++made;
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: `near-${n}`,
    name: `Near ${n}`,
    purpose: "",
    owners: [OWNER],
    numbering: { prefix: `N${n}X`, digits: 4 },
    title: "",
    starts: [
      {
        id: "near",
        kind: "date",
        register: "t_boxes",
        column: "due",
        days: -7,
        at: "02:00",
        into: "box",
        values: [{ field: "what", value: 'Label + " " + string(Due)' }],
        ...start,
      },
    ],
    fields: [
      { id: "box", name: "Box", kind: "look-up", register: "t_boxes" },
      { id: "what", name: "What", kind: "text" },
    ],
    access: {},
    route: [FINISH],
    samples: [],
  };
  await sql("update process set live_release = null where key like 'near-%'");
  value(await createProcess(SYSTEM, d));
  value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  return d.key;
}
const whats = async (key: string) =>
  (
    await sql<{ what: string }>(
      "select state::jsonb -> 'data' ->> 'what' as what from request where process_key = $1 order by id",
      [key],
    )
  ).map((r) => r.what);
/** The day it is, by the office's clock. */
const today = async () =>
  Temporal.Instant.fromEpochMilliseconds(await nowMs(getPool()))
    .toZonedDateTimeISO("Europe/Dublin")
    .toPlainDate();
const inDays = async (n: number) => (await today()).add({ days: n }).toString();
/** To noon of a later day: each day's look comes before. */
const pass = (days: number) =>
  sql("update setting set value = to_jsonb((value #>> '{}')::numeric + $1) where key = 'clock_offset'", [
    days * 86_400_000,
  ]);
const box = async (label: string, due: string | null, size = "1") =>
  value(await saveRecord(keeper, "t_boxes", null, null, { label, due, size })).id;
const look = async () => {
  const near = await lookDates(SYSTEM);
  await workOff();
  return near;
};

it("takes each date once as it comes near, and what was missed while nobody looked", async () => {
  const a = await box("A", await inDays(7));
  await box("B", await inDays(8));
  await box("C", await inDays(11));
  await box("D", await inDays(40));
  const due = [await inDays(7), await inDays(8), await inDays(11)];
  const key = await process({});
  await look();
  expect(await whats(key)).toEqual([`A ${due[0]}`]);
  await look();
  expect(await whats(key)).toHaveLength(1);
  await pass(5);
  await look();
  expect(await whats(key)).toEqual([`A ${due[0]}`, `B ${due[1]}`, `C ${due[2]}`]);
  // Moved away and back it is the same date; another date is another.
  value(await saveRecord(keeper, "t_boxes", a, null, { due: await inDays(30) }));
  value(await saveRecord(keeper, "t_boxes", a, null, { due: due[0]! }));
  await look();
  expect(await whats(key)).toHaveLength(3);
});

it("before its time of day a day has not come; one look after another, and two at once, take nothing twice", async () => {
  const now = Temporal.Instant.fromEpochMilliseconds(await nowMs(getPool())).toZonedDateTimeISO(
    "Europe/Dublin",
  );
  const soon = now.add({ hours: 1 });
  // Late in the evening the hour ahead is another day: then there is nothing to be seen here.
  if (soon.toPlainDate().equals(now.toPlainDate())) {
    const late = await process({ days: 0, at: soon.toPlainTime().toString().slice(0, 5) });
    await box("E", await inDays(0));
    await look();
    expect(await whats(late)).toEqual([]);
  }
  const key = await process({ days: 0, at: "00:00" });
  await Promise.all([lookDates(SYSTEM), lookDates(SYSTEM), lookDates(SYSTEM)]);
  await workOff();
  expect(await whats(key)).toEqual([`E ${await inDays(0)}`]);
});

it("a date that is set too late starts at once, or never, as is said", async () => {
  const once = await process({});
  await look();
  const id = await box("F", await inDays(2));
  await workOff();
  expect(await whats(once)).toEqual([`F ${await inDays(2)}`]);
  value(await saveRecord(keeper, "t_boxes", id, null, { size: "2" }));
  await workOff();
  expect(await whats(once)).toHaveLength(1);
  const never = await process({ late: "never" });
  await look();
  const had = await whats(never);
  await box("G", await inDays(3));
  await workOff();
  await look();
  expect(await whats(never)).toEqual(had);
});

it("takes the same date again only where that is wanted", async () => {
  for (const [more, times] of [
    [{ again: true as const }, 2],
    [{}, 1],
  ] as const) {
    const key = await process(more);
    await look();
    const due = await inDays(2);
    const id = await box(`M${times}`, due);
    value(await saveRecord(keeper, "t_boxes", id, null, { due: null }));
    value(await saveRecord(keeper, "t_boxes", id, null, { due }));
    await workOff();
    expect((await whats(key)).filter((w) => w === `M${times} ${due}`)).toHaveLength(times);
  }
});

it("asks its condition of the record as it is then; what cannot be told is said to the owners", async () => {
  const key = await process({ when: "10 / Size > 2" });
  await box("H", await inDays(7), "1");
  await box("I", await inDays(7), "9");
  await box("J", await inDays(7), "0");
  await look();
  expect((await whats(key)).filter((w) => /^[HIJ]/.test(w))).toEqual([`H ${await inDays(7)}`]);
  const [fares] = await startsFaring(await person(OWNER), key);
  expect(fares!.kept.map((k) => k.why).join()).toContain("could not be told");
});

it("paused it leaves out, or catches up, what comes near meanwhile", async () => {
  const owner = await person(OWNER);
  const key = await process({});
  await look();
  await box("K", await inDays(9));
  const due = await inDays(9);
  value(await pauseStart(owner, key, "near", true));
  await pass(3);
  await look();
  const before = await whats(key);
  expect(before).not.toContain(`K ${due}`);
  value(await pauseStart(owner, key, "near", null));
  await look();
  expect(await whats(key)).toContain(`K ${due}`);
  await box("L", await inDays(9));
  const left = await inDays(9);
  value(await pauseStart(owner, key, "near", false));
  await pass(3);
  await look();
  value(await pauseStart(owner, key, "near", null));
  await look();
  expect(await whats(key)).not.toContain(`L ${left}`);
});

describe("a timetable", () => {
  const everyDay = { every: "week" as const, days: [1, 2, 3, 4, 5, 6, 7] };
  async function timed(start: Partial<StartOf<"timetable">>): Promise<string> {
    const key = await process({});
    const draft = `timed-${made}`;
    const d = (
      await sql<{ definition: ProcessDefinition }>(
        "select definition from process_draft where process_key = $1",
        [key],
      )
    )[0]!;
    const definition: ProcessDefinition = {
      ...d.definition,
      key: draft,
      name: `Timed ${made}`,
      numbering: { prefix: `T${made}X`, digits: 4 },
      starts: [{ id: "times", kind: "timetable", days: everyDay, closed: "as it is", at: "00:00", ...start }],
    };
    await sql("update process set live_release = null where key like 'near-%' or key like 'timed-%'");
    value(await createProcess(SYSTEM, definition));
    value(await releaseDraft(SYSTEM, draft, "1.0.0", ""));
    return draft;
  }
  const begun = async (key: string) =>
    (
      await sql<{ because: string }>(
        "select party ->> 'because' as because from request where process_key = $1 order by id",
        [key],
      )
    ).map((r) => r.because);
  it("starts one request a day, once however many look, and one for all days that were missed", async () => {
    const key = await timed({});
    await startByTimetable(SYSTEM);
    // Of days before its release nothing was missed.
    expect(await begun(key)).toEqual([]);
    await pass(1);
    await Promise.all([startByTimetable(SYSTEM), startByTimetable(SYSTEM), startByTimetable(SYSTEM)]);
    const first = await inDays(0);
    expect(await begun(key)).toEqual([`it was ${first}`]);
    await pass(4);
    await startByTimetable(SYSTEM);
    await startByTimetable(SYSTEM);
    expect(await begun(key)).toEqual([`it was ${first}`, `it was ${await inDays(0)}`]);
  });
  it("goes by a rule of its own: every third day, counted from one", async () => {
    const from = await inDays(1);
    const days = { every: "rule" as const, rule: "FREQ=DAILY;INTERVAL=3", from };
    const key = await timed({ days });
    const came: number[] = [];
    for (let n = 0; n < 8; n++) {
      const before = (await begun(key)).length;
      await startByTimetable(SYSTEM);
      if ((await begun(key)).length > before) came.push(n);
      await pass(1);
    }
    expect(came).toEqual([1, 4, 7]);
  });
  it("starts one for each record that is found then, once a day, with what it holds; and says what cannot be told", async () => {
    await sql("delete from register.t_boxes");
    const each = {
      register: "t_boxes",
      when: "Size > 2 and 12 / (Size - 5) > 0",
      into: "box",
      values: [{ field: "what", value: 'Label + "!"' }],
    };
    const ids: string[] = [];
    for (const [label, size] of [
      ["small", "1"],
      ["big", "7"],
      ["odd", "5"],
      ["huge", "9"],
      ["less", "4"],
    ] as const)
      ids.push(await box(label, null, size));
    const key = await timed({ each });
    await startByTimetable(SYSTEM);
    await workOff();
    expect(await whats(key)).toEqual([]);
    await pass(1);
    const day0 = await inDays(0);
    await Promise.all([startByTimetable(SYSTEM), startByTimetable(SYSTEM)]);
    await workOff();
    expect((await whats(key)).sort()).toEqual(["big!", "huge!"]);
    expect(new Set(await begun(key))).toEqual(
      new Set(["big", "huge"].map((l) => `it was ${day0}, for ${l}`)),
    );
    const [fares] = await startsFaring(await person(OWNER), key);
    expect(fares).toMatchObject({ made: 2, kept: [{ record: ids[2] }] });
    // Writing a record is no day, and the same day comes once.
    value(await saveRecord(keeper, "t_boxes", ids[0]!, null, { size: "8" }));
    await startByTimetable(SYSTEM);
    await workOff();
    expect(await whats(key)).toHaveLength(2);
    await pass(3);
    await startByTimetable(SYSTEM);
    await workOff();
    // For all days that were missed once, as the records are now.
    expect((await whats(key)).slice(2).sort()).toEqual(["big!", "huge!", "small!"]);
  });
  it("paused it leaves days out, or takes them up as one", async () => {
    const owner = await person(OWNER);
    const key = await timed({});
    await startByTimetable(SYSTEM);
    value(await pauseStart(owner, key, "times", false));
    await pass(2);
    await startByTimetable(SYSTEM);
    value(await pauseStart(owner, key, "times", null));
    await startByTimetable(SYSTEM);
    expect(await begun(key)).toEqual([]);
    value(await pauseStart(owner, key, "times", true));
    await pass(2);
    await startByTimetable(SYSTEM);
    expect(await begun(key)).toEqual([]);
    value(await pauseStart(owner, key, "times", null));
    await startByTimetable(SYSTEM);
    expect(await begun(key)).toHaveLength(1);
    expect(await startsFaring(owner, key)).toMatchObject([
      { made: null, words: expect.stringContaining("every day") },
    ]);
  });
  it("tells its owners where a request cannot begin, and goes on the next day", async () => {
    const key = await timed({});
    await sql(
      `update process_release set definition = jsonb_set(definition, '{fields}', $2::jsonb) where process_key = $1`,
      [key, JSON.stringify([{ id: "what", name: "What", kind: "number", hand: "in", starting: "1 / 0" }])],
    );
    await startByTimetable(SYSTEM);
    await pass(1);
    expect(await startByTimetable(SYSTEM)).toEqual({ made: 0 });
    expect(JSON.stringify(await noticesOf(await person(OWNER)))).toContain("was not started");
    await pass(1);
    expect(await startByTimetable(SYSTEM)).toEqual({ made: 0 });
  });
});

it("is as a plain list would have it, however dates are moved and looks are missed", async () => {
  const key = await process({ days: -3 });
  await sql("delete from register.t_boxes");
  await look();
  const op = fc.oneof(
    fc.record({ op: fc.constant("add" as const), due: fc.integer({ min: -6, max: 12 }) }),
    fc.record({
      op: fc.constant("move" as const),
      nth: fc.nat(4),
      due: fc.option(fc.integer({ min: -6, max: 12 })),
    }),
    fc.record({ op: fc.constant("pass" as const), days: fc.integer({ min: 1, max: 4 }) }),
    fc.record({ op: fc.constant("look" as const) }),
  );
  let looked = await today();
  await fc.assert(
    fc.asyncProperty(fc.array(op, { minLength: 1, maxLength: 14 }), async (ops) => {
      await look();
      looked = await today();
      const begun = (await whats(key)).length;
      await sql("delete from register.t_boxes");
      const boxes: { id: string; label: string; due: string | null }[] = [];
      const taken = new Set<string>();
      const near = (due: string) => Temporal.PlainDate.from(due).subtract({ days: 3 });
      const nearBy = (due: string, day: Temporal.PlainDate) =>
        Temporal.PlainDate.compare(near(due), day) <= 0;
      for (const o of ops) {
        if (o.op === "pass") await pass(o.days);
        else if (o.op === "look") {
          await look();
          const day = await today();
          for (const b of boxes)
            if (b.due && nearBy(b.due, day) && !nearBy(b.due, looked)) taken.add(`${b.label} ${b.due}`);
          looked = day;
        } else if (o.op === "add") {
          const due = await inDays(o.due);
          const label = `R${made++}x`;
          boxes.push({ id: await box(label, due), label, due });
          if (nearBy(due, looked)) taken.add(`${label} ${due}`);
        } else {
          const b = boxes[o.nth];
          if (!b) continue;
          const due = o.due === null ? null : await inDays(o.due);
          value(await saveRecord(keeper, "t_boxes", b.id, null, { due }));
          if (due !== null && due !== b.due && nearBy(due, looked)) taken.add(`${b.label} ${due}`);
          b.due = due;
        }
      }
      await workOff();
      expect((await whats(key)).slice(begun).sort()).toEqual([...taken].sort());
    }),
    { numRuns: 25, endOnFailure: true },
  );
});

it("takes a moment hours or minutes before it, once, at once where it is set too late, and what was missed", async () => {
  /** A moment so many minutes from now, as it is kept. */
  const inMinutes = async (n: number) =>
    Temporal.Instant.fromEpochMilliseconds(await nowMs(getPool()))
      .toZonedDateTimeISO("Europe/Dublin")
      .toPlainDateTime()
      .add({ minutes: n })
      .toString({ smallestUnit: "minute" });
  const crate = async (label: string, minutes: number) =>
    value(await saveRecord(keeper, "t_boxes", null, null, { label, fetched: await inMinutes(minutes) })).id;
  const minutes = (n: number) => pass(n / 1440);
  await crate("Soon", 119);
  const a = await crate("Two hours", 125);
  await crate("Later", 300);
  await crate("Long past", -600);
  const start: Partial<StartOf<"date">> = {
    column: "fetched",
    days: -2,
    clock: "hours",
    values: [{ field: "what", value: "Label" }],
  };
  const key = await process(start);
  await look();
  // What has come near before anybody looked was nobody's to take; the minute of the first look is.
  expect(await whats(key)).toEqual([]);
  await minutes(6);
  await look();
  await look();
  expect(await whats(key)).toEqual(["Two hours"]);
  // Moved a minute on it is another moment; set within the two hours it is late.
  value(await saveRecord(keeper, "t_boxes", a, null, { fetched: await inMinutes(20) }));
  await look();
  expect(await whats(key)).toEqual(["Two hours", "Two hours"]);
  await minutes(400);
  await look();
  expect(await whats(key)).toEqual(["Two hours", "Two hours", "Later"]);
  const never = await process({ ...start, days: 30, clock: "minutes", late: "never" });
  await look();
  await crate("Half an hour ago", -31);
  await crate("Just now", 0);
  await look();
  expect(await whats(never)).toEqual([]);
  await minutes(31);
  await look();
  expect(await whats(never)).toEqual(["Just now"]);
});

it("goes on from where it looked where a release counts otherwise", async () => {
  const key = await process({ column: "fetched", days: 0, clock: "minutes" });
  await look();
  await sql("update start_mark set looked = left(looked, 10) where process_key = $1", [key]);
  await look();
  const [mark] = await sql<{ looked: string }>("select looked from start_mark where process_key = $1", [key]);
  expect(mark!.looked).toMatch(/^\d{4}-\d\d-\d\dT\d\d:\d\d$/);
});
