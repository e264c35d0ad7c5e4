import { EVERYBODY, NOBODY, type RegisterShape } from "@/core/form";
import type { ProcessDefinition, Step } from "@/core/route";
import { inTransaction, registers } from "@/db";
import {
  chooseNews,
  createProcess,
  draftProblems,
  leaveNote,
  noticesOf,
  recordPage,
  releaseDraft,
  removeNote,
  saveRecord,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

const KITES: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_kites",
  name: "Kites",
  one: "kite",
  purpose: "",
  title: ["code", "secret"],
  columns: [
    { id: "code", name: "Code", kind: "text" },
    { id: "secret", name: "Hidden name", kind: "text" },
    { id: "pair", name: "Pair", kind: "look-up", register: "t_kites" },
  ],
};
let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
let lucia: Actor;
let sorcha: Actor;
let kite: string;
let shut: string;
beforeAll(async () => {
  world = await openWorld();
  const only = [{ by: "person" as const, person: "maeve.dunlea" }];
  await inTransaction((db) =>
    registers.createRegister(db, KITES, {
      ...EVERYBODY,
      keepers: ["maeve.dunlea"],
      columns: { secret: only },
    }),
  );
  await inTransaction((db) =>
    registers.createRegister(
      db,
      { ...KITES, key: "t_shut", name: "Shut kites", columns: KITES.columns.slice(0, 1), title: ["code"] },
      {
        ...NOBODY,
        keepers: ["maeve.dunlea"],
        see: [...only, { by: "person", person: "sorcha.lind" }],
        add: only,
      },
    ),
  );
  [keeper, lucia, sorcha] = (await Promise.all(
    ["maeve.dunlea", "lucia.penrose", "sorcha.lind"].map(person),
  )) as [Actor, Actor, Actor];
  kite = value(await saveRecord(keeper, "t_kites", null, null, { code: "K1", secret: "Osprey" })).id;
  shut = value(await saveRecord(keeper, "t_shut", null, null, { code: "S1" })).id;
});
afterAll(() => world.close());
beforeEach(async () => {
  await sql("delete from record_note");
  await sql("delete from notice where kind = 'mentioned'");
});
const notes = async (who: Actor, register = "t_kites", id = kite) =>
  value(await recordPage(who, register, id)).notes;
const mentioned = async (who: Actor) => (await noticesOf(who)).filter((n) => n.text.includes("mentions you"));

it("is left, shown newest first with who said it, and tells whom it mentions, with the way there", async () => {
  value(await leaveNote(lucia, "t_kites", kite, "  First  "));
  const left = value(await leaveNote(lucia, "t_kites", kite, "@Sorcha Lind, frame is loose. @Lucia Penrose"));
  expect(left).toMatchObject({ told: ["Sorcha Lind"], unseeing: [], several: [] });
  expect((await notes(sorcha)).map((n) => [n.by_name, n.body, n.mentioned, n.mayRemove])).toEqual([
    ["Lucia Penrose", "@Sorcha Lind, frame is loose. @Lucia Penrose", ["Sorcha Lind"], false],
    ["Lucia Penrose", "First", [], false],
  ]);
  expect(await mentioned(sorcha)).toMatchObject([
    {
      text: "Lucia Penrose mentions you on K1",
      body: "@Sorcha Lind, frame is loose. @Lucia Penrose",
      href: `/registers/t_kites/${kite}`,
      read: false,
    },
  ]);
  // Nobody is told of what they said themselves.
  expect(await mentioned(lucia)).toEqual([]);
});

it("tells nobody of a record they do not see, nor by a name they may not read, nor who wants no such news", async () => {
  const left = value(await leaveNote(keeper, "t_shut", shut, "@Lucia Penrose @Sorcha Lind @Nobody Here"));
  expect(left).toMatchObject({ told: ["Sorcha Lind"], unseeing: ["Lucia Penrose"] });
  expect(await mentioned(lucia)).toEqual([]);
  value(await leaveNote(keeper, "t_kites", kite, "@Lucia Penrose"));
  expect(JSON.stringify(await mentioned(lucia))).not.toContain("Osprey");
  value(await chooseNews(sorcha, "mentioned", "screen", false));
  value(await leaveNote(keeper, "t_kites", kite, "@Sorcha Lind"));
  expect(await mentioned(sorcha)).toHaveLength(1);
  value(await chooseNews(sorcha, "mentioned", "screen", true));
});

it("means nobody who has left", async () => {
  await sql("update person set active = false where id = 'dov.merrick'");
  const left = value(await leaveNote(keeper, "t_kites", kite, "@Dov Merrick, are you there?"));
  expect(left).toMatchObject({ told: [], unseeing: [], several: [] });
  await sql("update person set active = true where id = 'dov.merrick'");
});

it("is refused where the record is not theirs to see, is not there, or the words are none or too many", async () => {
  const missing = { ok: false, failure: { code: "not-found" } };
  expect(await leaveNote(lucia, "t_shut", shut, "Hello")).toMatchObject(missing);
  expect(await leaveNote(lucia, "t_kites", "999999", "Hello")).toMatchObject(missing);
  expect(await leaveNote(lucia, "t_kites", "x", "Hello")).toMatchObject(missing);
  expect(await leaveNote(lucia, "toString", "1", "Hello")).toMatchObject(missing);
  for (const bad of ["", " \n ", "x".repeat(4001)])
    expect(await leaveNote(lucia, "t_kites", kite, bad)).toMatchObject({ failure: { code: "invalid" } });
  expect(await sql("select 1 from record_note")).toEqual([]);
});

it("is taken away by whoever wrote it or keeps the register, with its words, and by nobody else", async () => {
  const { id } = value(await leaveNote(lucia, "t_kites", kite, "Mine"));
  expect(await removeNote(sorcha, id)).toMatchObject({ failure: { code: "not-found" } });
  value(await removeNote(lucia, id));
  expect(await removeNote(lucia, id)).toMatchObject({ failure: { code: "not-found" } });
  const other = value(await leaveNote(lucia, "t_kites", kite, "Other")).id;
  expect((await notes(keeper))[0]!.mayRemove).toBe(true);
  value(await removeNote(keeper, other));
  expect(await notes(lucia)).toEqual([]);
  expect(await sql("select body from record_note")).toEqual([{ body: "" }, { body: "" }]);
  expect(await removeNote(lucia, "abc")).toMatchObject({ failure: { code: "not-found" } });
});

describe("a Tell step", () => {
  let made = 0;
  const process = async (on: string, who: object = { by: "requester" }): Promise<string> => {
    const tell = {
      id: "t",
      name: "Tell",
      kind: "tell",
      who,
      subject: "About {Kite.Code}",
      text: "Seen by {Requester.name}",
      ways: [],
      on,
    };
    const d: ProcessDefinition = {
      format: "cobble-step/process@2",
      key: `kite-${++made}`,
      name: `Kite ${made}`,
      purpose: "",
      owners: ["tobias.marrin"],
      numbering: { prefix: `KT${made}X`, digits: 4 },
      title: "",
      starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
      fields: [
        { id: "kite", name: "Kite", kind: "look-up", register: "t_kites" },
        { id: "word", name: "Word", kind: "text" },
        {
          id: "ps",
          name: "Kites flown",
          kind: "lines",
          fields: [{ id: "k", name: "Flown", kind: "look-up", register: "t_kites" }],
        },
      ],
      access: {},
      route: [
        tell as unknown as Step,
        { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" },
      ],
      samples: [],
    };
    value(await createProcess(SYSTEM, d));
    return d.key;
  };
  const released = async (on: string, who?: object) => {
    const key = await process(on, who);
    value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
    return key;
  };

  it("leaves its text on a record, on each of several once, and on none that is not there", async () => {
    const other = value(await saveRecord(keeper, "t_kites", null, null, { code: "K2" })).id;
    const { number } = value(await startRequest(lucia, await released("Kite"), { kite }));
    expect(await notes(sorcha)).toMatchObject([
      { by_name: null, request_number: number, body: "Seen by Lucia Penrose", mayRemove: false },
    ]);
    const ps = [kite, other, kite].map((k, i) => ({ "#": String(i), k }));
    value(await startRequest(lucia, await released("Kites flown.Flown"), { ps }));
    expect(await notes(sorcha)).toHaveLength(2);
    expect(await notes(sorcha, "t_kites", other)).toHaveLength(1);
    value(await startRequest(lucia, await released("Kite"), {}));
    expect(await sql("select 1 from record_note")).toHaveLength(3);
    const [said] = await sql<{ body: { result?: { notes?: number } } }>(
      "select body from request_event where type = 'effect done' order by request_id limit 1",
    );
    expect(said!.body.result?.notes ?? 0).toBeGreaterThan(0);
  });

  it("is refused where that is no record", async () => {
    const errors = async (on: string) =>
      value(await draftProblems(SYSTEM, await process(on)))
        .filter((p) => p.severity === "error")
        .map((p) => p.code);
    expect(await errors("Word")).toContain("no-record");
    expect(await errors("Requester")).toContain("no-record");
    expect(await errors("Kite")).toEqual([]);
    expect(await errors("Kites flown.Flown")).toEqual([]);
  });
});
