import fc from "fast-check";
import { EVERYBODY, type ColumnKind, type RegisterShape } from "@/core/form";
import type { ProcessDefinition, Step } from "@/core/route";
import { inTransaction, registers } from "@/db";
import {
  bringSheet,
  createProcess,
  exportRecords,
  registerPage,
  releaseDraft,
  saveRecord,
  sheetPage,
  startRequest,
  SYSTEM,
  writeSheet,
  type Actor,
} from "@/services";
import { workOff } from "./workOff";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(120_000);

const EVENTS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_events",
  name: "Events",
  one: "event",
  purpose: "",
  title: ["name"],
  columns: [
    { id: "name", name: "Name", kind: "text", unique: true },
    { id: "opens", name: "Opens", kind: "time" },
    { id: "begins", name: "Begins", kind: "date and time" },
    { id: "writes_to", name: "Writes to", kind: "e-mail" },
    { id: "page", name: "Page", kind: "web address" },
    { id: "ends", name: "Ends", kind: "date and time", worked: 'Begins + duration("PT90M")' },
  ],
  rules: [
    { id: "r", on: "added", when: "Begins = null", then: { do: "set", column: "begins", value: "now()" } },
    {
      id: "s",
      on: "changed",
      when: 'Begins > Before.Begins + duration("P400D")',
      then: { do: "refuse", say: "Too far." },
    },
  ],
};
let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
beforeAll(async () => {
  world = await openWorld();
  await inTransaction((db) =>
    registers.createRegister(db, EVENTS, { ...EVERYBODY, keepers: ["maeve.dunlea"] }),
  );
  keeper = await person("maeve.dunlea");
});
afterAll(() => world.close());
beforeEach(() => sql("delete from register.t_events"));

const rows = async () =>
  (
    await sql<{ r: Record<string, string | null> }>(
      `select jsonb_build_object('name', name, 'opens', to_char(opens, 'HH24:MI:SS'), 'begins', begins, 'ends', ends,
       'writes_to', writes_to, 'page', page) as r from register.t_events order by name`,
    )
  ).map((x) => x.r);
const add = (values: Record<string, string | null>) => saveRecord(keeper, "t_events", null, null, values);
const GOOD = {
  name: "Night of the ropes",
  opens: "18:30",
  begins: "2026-11-30T19:15",
  writes_to: "una.quirke@quillhaven.example",
  page: "https://quillhaven.example/ropes?night=1",
};

it("are kept as what they are, worked out, set by rules to the minute, and refused with a sentence of their own", async () => {
  value(await add(GOOD));
  value(await add({ name: "Now", opens: null }));
  const [a, b] = (await rows()) as [Record<string, string>, Record<string, string>];
  expect(a).toEqual({
    ...GOOD,
    opens: "18:30:00",
    begins: "2026-11-30T19:15:00",
    ends: "2026-11-30T20:45:00",
  });
  expect(b["begins"]).toMatch(/^2026-03-0\dT\d\d:\d\d:00$/);
  for (const [column, bad, code] of [
    ["opens", "25:00", "not-a-time"],
    ["begins", "2026-11-31T10:00", "not-a-moment"],
    ["writes_to", "una", "not-an-address"],
    ["page", "javascript:alert(1)", "not-a-web-address"],
  ] as const)
    expect(await add({ ...GOOD, name: "Bad", [column]: bad })).toMatchObject({
      failure: { data: { why: { code: "form", problems: [{ code, path: column }] } } },
    });
});

it("are changed only where they are another, and rules read what they were", async () => {
  const { id, version } = value(await add(GOOD));
  expect(value(await saveRecord(keeper, "t_events", id, null, GOOD)).version).toBe(version);
  expect(await saveRecord(keeper, "t_events", id, null, { begins: "2028-11-30T19:15" })).toMatchObject({
    ok: false,
  });
  value(await saveRecord(keeper, "t_events", id, null, { begins: "2026-12-01T08:00" }));
  expect((await rows())[0]).toMatchObject({ begins: "2026-12-01T08:00:00", ends: "2026-12-01T09:30:00" });
});

it("are filtered, searched, sorted and asked for by formulas", async () => {
  for (const [name, opens, begins] of [
    ["a", "18:30", "2026-11-30T19:15"],
    ["b", "09:00", "2026-03-01T10:00"],
    ["c", "18:30", "2026-11-30T08:00"],
  ] as const)
    value(await add({ ...GOOD, name, opens, begins, writes_to: `${name}@quillhaven.example` }));
  const names = async (more: object, where = "") => {
    const page = await registerPage(
      keeper,
      "t_events",
      { search: "", filters: [], sort: [], offset: 0, limit: 50, ...more },
      where,
    );
    return value(page)
      .rows.map((r) => r["name"])
      .join("");
  };
  const by = (column: string, v: string) => ({ filters: [{ column, value: v }] });
  expect(await names({ sort: [{ column: "begins" }] })).toBe("bca");
  expect(await names({ sort: [{ column: "opens" }, { column: "name" }] })).toBe("bac");
  expect((await names(by("begins", "2026-11-30"))).split("").sort().join("")).toBe("ac");
  expect(await names(by("begins", "2026-11-30 08:00"))).toBe("c");
  expect(await names(by("opens", "09:00"))).toBe("b");
  expect(await names(by("writes_to", "b@quill"))).toBe("b");
  expect(await names({ search: "c@quillhaven" })).toBe("c");
  expect(await names({ sort: [{ column: "name" }] }, "Begins < now()")).toBe("b");
  expect(await names({ sort: [{ column: "name" }] }, 'Opens > time("17:00:00")')).toBe("ac");
  expect(await names({ sort: [{ column: "name" }] }, 'date(Begins) = date("2026-11-30")')).toBe("ac");
  expect(await names({ sort: [{ column: "name" }] }, 'Writes to = "a@quillhaven.example"')).toBe("a");
});

it("go out into a sheet and come back the same, whatever they are", async () => {
  const two = (n: number) => String(n).padStart(2, "0");
  const time = fc
    .tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }))
    .map(([h, m]) => `${two(h)}:${two(m)}`);
  const day = fc
    .date({ min: new Date("1901-01-01"), max: new Date("2400-01-01"), noInvalidDate: true })
    .map((d) => d.toISOString().slice(0, 10));
  const row = fc.record({
    opens: fc.option(time),
    begins: fc.tuple(day, time).map(([d, t]) => `${d}T${t}`),
    writes_to: fc.option(
      fc.constantFrom("una@quillhaven.example", "=cmd@quillhaven.example", "+1@a.example"),
    ),
    page: fc.option(fc.constantFrom("https://a.example", "http://b.example/?x=1;2,3")),
  });
  await fc.assert(
    fc.asyncProperty(
      fc.array(row, { minLength: 1, maxLength: 6 }),
      fc.constantFrom<"csv" | "xlsx">("csv", "xlsx"),
      async (all, format) => {
        await sql("delete from register.t_events");
        for (const [i, r] of all.entries()) value(await add({ name: `E${i}`, ...r }));
        const before = await rows();
        const view = { search: "", filters: [], sort: [] };
        const file = value(await exportRecords(keeper, "t_events", view, "", [], format));
        await sql("delete from register.t_events");
        const sheet = value(await bringSheet(keeper, "t_events", `events.${format}`, file.bytes)).id;
        await workOff();
        const tried = value(await sheetPage(keeper, sheet, null, 0)).sheet;
        expect(tried).toMatchObject({ status: "tried", counts: { added: all.length } });
        value(await writeSheet(keeper, sheet, tried.asking));
        await workOff();
        expect(await rows()).toEqual(before);
      },
    ),
    { numRuns: 12, endOnFailure: true },
  );
});

it("are filled in on forms, read by formulas there, and written into records of the same kind", async () => {
  const write: Step = {
    id: "w",
    name: "Put down",
    kind: "write",
    register: "t_events",
    op: "add",
    values: (["name", "opens", "begins", "writes_to", "page"] as const).map((c) => ({
      column: c,
      value: EVENTS.columns.find((x) => x.id === c)!.name,
    })),
  };
  const kinds: [string, ColumnKind][] = [
    ["name", "text"],
    ["opens", "time"],
    ["begins", "date and time"],
    ["writes_to", "e-mail"],
    ["page", "web address"],
  ];
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key: "put-event",
    name: "Put event",
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: "EVNT", digits: 4 },
    title: "{Name} at {Opens}, {Begins}, until {Until}",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [
      ...kinds.map(([id, kind]) => ({ id, name: EVENTS.columns.find((c) => c.id === id)!.name, kind })),
      { id: "until", name: "Until", kind: "date and time", worked: 'Begins + duration("PT2H")' },
    ],
    access: {},
    route: [write, { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" }],
    samples: [],
  };
  value(await createProcess(SYSTEM, d));
  value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  const { number } = value(await startRequest(keeper, d.key, GOOD));
  expect((await rows())[0]).toMatchObject({ ...GOOD, opens: "18:30:00", begins: "2026-11-30T19:15:00" });
  const [r] = await sql<{ title: string; until: string }>(
    "select title, state::jsonb -> 'data' ->> 'until' as until from request where number = $1",
    [number],
  );
  expect(r!.until).toBe("2026-11-30T21:15");
  expect(r!.title).not.toMatch(/null|T19|@/);
  expect(await startRequest(keeper, d.key, { ...GOOD, begins: "tomorrow" })).toMatchObject({
    failure: { data: { code: "form", data: { problems: [{ code: "not-a-moment", path: "begins" }] } } },
  });
});
