import fc from "fast-check";
import { EVERYBODY, type RegisterRights, type RegisterShape } from "@/core/form";
import { getPool, inTransaction, registers } from "@/db";
import {
  bringSheet,
  changeRegister,
  exportRecords,
  lookUp,
  recordPage,
  registerGroups,
  registerPage,
  removeRecord,
  saveRecord,
  shapeHits,
  sheetPage,
  writeSheet,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";
import { workOff } from "./workOff";

jest.setTimeout(60_000);

const shape = (key: string, name: string, one: string, columns: RegisterShape["columns"]): RegisterShape => ({
  format: "cobble-step/register@1",
  key,
  name,
  one,
  purpose: "",
  title: ["name"],
  columns,
});
const BOATS = shape("t_boats", "Boats", "boat", [
  { id: "name", name: "Name", kind: "text" },
  { id: "state", name: "State", kind: "choice", options: ["afloat", "ashore"] },
  { id: "size", name: "Size", kind: "text" },
]);
const OARS = shape("t_oars", "Oars", "oar", [
  { id: "name", name: "Name", kind: "text" },
  { id: "state", name: "State", kind: "choice", options: ["whole", "broken"] },
  { id: "length", name: "Length", kind: "number" },
  { id: "size", name: "Size", kind: "number" },
]);
const SHUT = shape("t_shut_sails", "Sails", "sail", [{ id: "name", name: "Name", kind: "text" }]);
const NOTES = shape("t_remarks", "Remarks", "remark", [
  { id: "name", name: "Name", kind: "text" },
  {
    id: "about",
    name: "About",
    kind: "look-up in several",
    registers: ["t_boats", "t_oars", "t_shut_sails"],
  },
]);
const rights: RegisterRights = { ...EVERYBODY, keepers: ["maeve.dunlea"] };

let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
let reader: Actor;
beforeAll(async () => {
  world = await openWorld();
  await inTransaction(async (db) => {
    for (const s of [BOATS, OARS, NOTES]) await registers.createRegister(db, s, rights);
    await registers.createRegister(db, SHUT, { ...rights, see: [] });
  });
  [keeper, reader] = (await Promise.all(["maeve.dunlea", "sorcha.lind"].map(person))) as [Actor, Actor];
});
afterAll(() => world.close());
beforeEach(async () => {
  for (const s of [NOTES, BOATS, OARS, SHUT])
    await sql(`truncate register.${s.key} restart identity cascade`);
});

const add = async (key: string, values: Record<string, string | null>) =>
  value(await saveRecord(keeper, key, null, null, values)).id;
const list = async (who: Actor, key: string, where = "") =>
  value(await registerPage(who, key, { search: "", filters: [], sort: [], offset: 0, limit: 50 }, where));
const names = async (where: string, who = keeper) =>
  (await list(who, "t_remarks", where)).rows.map((r) => r["name"]);
/** A boat, an oar and a sail of one id, and a remark about each. */
async function three() {
  const boat = await add("t_boats", { name: "Kittiwake", state: "ashore" });
  const oar = await add("t_oars", { name: "Short oar", state: "broken", length: "3" });
  const sail = await add("t_shut_sails", { name: "Jib" });
  expect([boat, oar, sail]).toEqual(["1", "1", "1"]);
  await add("t_remarks", { name: "of boat", about: "t_boats/1" });
  await add("t_remarks", { name: "of oar", about: "t_oars/1" });
  await add("t_remarks", { name: "of sail", about: "t_shut_sails/1" });
  await add("t_remarks", { name: "of nothing" });
}

describe("a link to any of several registers", () => {
  it("is told apart where ids are the same, and read by its title with the way there", async () => {
    await three();
    const { rows } = await list(keeper, "t_remarks");
    expect(rows.map((r) => r["about#"])).toEqual(["Kittiwake", "Short oar", "Jib", null]);
    const page = value(await recordPage(keeper, "t_remarks", "2"));
    expect(page.links["about"]).toEqual({ register: "t_oars", id: "1", title: "Short oar" });
    const boat = value(await recordPage(keeper, "t_boats", "1"));
    expect(boat.pointing).toMatchObject([
      {
        register: "t_remarks",
        column: "about",
        count: 1,
        pointer: "t_boats/1",
        records: [{ title: "of boat" }],
      },
    ]);
    // The way from what points there leads to the same.
    const led = value(
      await registerPage(keeper, "t_remarks", {
        search: "",
        filters: [{ column: "about", value: boat.pointing[0]!.pointer }],
        sort: [],
        offset: 0,
        limit: 5,
      }),
    );
    expect(led.rows.map((r) => r["name"])).toEqual(["of boat"]);
  });
  it("what it pointed at before stands in the history by name", async () => {
    await three();
    value(await saveRecord(keeper, "t_remarks", "1", null, { about: "t_oars/1" }));
    const { linked, history } = value(await recordPage(keeper, "t_remarks", "1"));
    expect(linked["about"]).toEqual({ "t_boats/1": "Kittiwake", "t_oars/1": "Short oar" });
    expect(history[0]).toMatchObject({ before: { about: "t_boats/1" }, after: { about: "t_oars/1" } });
  });
  it.each([
    ["of another register", "stores/1"],
    ["that is not there", "t_boats/99"],
    ["an id alone", "1"],
    ["with more behind it", "t_boats/1/2"],
    ["no number", "t_boats/x"],
    ["beyond any number", "t_boats/9999999999999999999999"],
    ["a register's name", "Boats/1"],
    ["what would end the text", "t_boats'/1"],
  ])("refuses one %s", async (_, about) => {
    await three();
    const r = await saveRecord(keeper, "t_remarks", null, null, { name: "x", about });
    expect(r).toMatchObject({
      ok: false,
      failure: { code: "record-refused", data: { why: { code: "form" } } },
    });
    expect(await sql("select 1 from register.t_remarks where name = 'x'")).toEqual([]);
  });
  it("keeps what it points at from being removed, or is emptied with it", async () => {
    await three();
    const refused = await removeRecord(keeper, "t_oars", "1", null, false);
    expect(refused).toMatchObject({
      ok: false,
      failure: { data: { why: { code: "pointed-at", by: [{ register: "t_remarks", records: ["2"] }] } } },
    });
    value(await removeRecord(keeper, "t_oars", "1", null, true));
    expect(await sql("select name, about from register.t_remarks order by id")).toEqual([
      { name: "of boat", about: "t_boats/1" },
      { name: "of oar", about: null },
      { name: "of sail", about: "t_shut_sails/1" },
      { name: "of nothing", about: null },
    ]);
  });
  it("never points at what is removed at the same moment", async () => {
    for (let i = 0; i < 12; i++) {
      const boat = await add("t_boats", { name: `B${i}` });
      const [linked, gone] = await Promise.all([
        saveRecord(keeper, "t_remarks", null, null, { name: `r${i}`, about: `t_boats/${boat}` }),
        removeRecord(keeper, "t_boats", boat, null, false),
      ]);
      expect([linked.ok, gone.ok].filter(Boolean)).toHaveLength(1);
    }
    expect(
      await sql(
        "select 1 from register.t_remarks r where about is not null and not exists (select 1 from register.t_boats b where 't_boats/' || b.id = r.about)",
      ),
    ).toEqual([]);
  });
  it("that is read and removed before it is written is refused as it is written", async () => {
    const boat = await add("t_boats", { name: "B" });
    const other = await getPool().connect();
    try {
      await other.query("begin");
      await other.query("delete from register.t_boats where id = $1", [boat]);
      const linking = saveRecord(keeper, "t_remarks", null, null, { name: "late", about: `t_boats/${boat}` });
      // It has read that the boat is there, and waits to hold it.
      await new Promise((r) => setTimeout(r, 300));
      await other.query("commit");
      expect(await linking).toMatchObject({
        ok: false,
        failure: { data: { why: { code: "form", problems: [{ code: "no-record", path: "about" }] } } },
      });
    } finally {
      other.release();
    }
  });
  it("is looked for by which register it is of, by what is there, and by the record", async () => {
    await three();
    expect(await names('About.register = "t_oars"')).toEqual(["of oar"]);
    expect(await names('About.State = "broken"')).toEqual(["of oar"]);
    expect(await names("About.Length = 3")).toEqual(["of oar"]);
    expect(await names('About != null and About.State != "broken"')).toEqual(["of boat", "of sail"]);
    expect(await names("About.Length = null")).toEqual(["of boat", "of sail", "of nothing"]);
    expect(await names("About = null")).toEqual(["of nothing"]);
    // A text in one register and a number in another: the database has no one kind for both.
    const q = { search: "", filters: [], sort: [], offset: 0, limit: 5 };
    const mixed = await registerPage(keeper, "t_remarks", q, "About.Size = 3");
    expect(mixed).toMatchObject({ ok: false, failure: { code: "invalid" } });
  });
  it("of a register somebody does not see, nothing is told but that something is there", async () => {
    await three();
    const { rows } = await list(reader, "t_remarks");
    expect(rows.map((r) => r["about#"] ?? null)).toEqual(["Kittiwake", "Short oar", null, null]);
    expect(value(await recordPage(reader, "t_remarks", "3")).links).toEqual({});
    const closed = await registerPage(
      reader,
      "t_remarks",
      { search: "", filters: [], sort: [], offset: 0, limit: 5 },
      'About.State = "broken"',
    );
    expect(closed).toMatchObject({ ok: false });
    expect(await lookUp(reader, "t_shut_sails", "J")).toMatchObject({ ok: false });
  });
  it("goes out with the name of its register, and comes in so, or by a name that is one record's alone", async () => {
    await three();
    await add("t_oars", { name: "Kittiwake" });
    const { bytes } = value(
      await exportRecords(keeper, "t_remarks", { search: "", filters: [], sort: [] }, "", [], "csv"),
    );
    const csv = bytes.toString("utf8").replace("\ufeff", "").trim().split("\r\n");
    expect(csv).toEqual([
      "Name,About",
      "of boat,Boats: Kittiwake",
      "of oar,Oars: Short oar",
      "of sail,Sails: Jib",
      "of nothing,",
    ]);
    const sheet = [
      ...csv,
      "by name,Short oar",
      "which,Kittiwake",
      "whose,Boats: Short oar",
      "low, boats:  kittiwake",
    ];
    const { id } = value(await bringSheet(keeper, "t_remarks", "r.csv", Buffer.from(sheet.join("\n"))));
    await workOff();
    const tried = value(await sheetPage(keeper, id, null, 0));
    expect(tried.rows.map((r) => [r.line, r.outcome, r.why])).toEqual([
      [2, "added", null],
      [3, "added", null],
      [4, "added", null],
      [5, "added", null],
      [6, "added", null],
      [
        7,
        "refused",
        'About: more than one record of Boats or Oars or Sails is called "Kittiwake". Say of which register, for example: Boats: Kittiwake.',
      ],
      [
        8,
        "refused",
        'About: there is no "Boats: Short oar" in Boats or Oars or Sails. Add it there first, or mend the cell.',
      ],
      [9, "refused", expect.stringContaining('there is no "boats:  kittiwake"')],
    ]);
    value(await writeSheet(keeper, id, tried.sheet.asking));
    await workOff();
    const { rows } = await list(keeper, "t_remarks");
    expect(rows.slice(4).map((r) => r["about"])).toEqual([
      "t_boats/1",
      "t_oars/1",
      "t_shut_sails/1",
      null,
      "t_oars/1",
    ]);
  });
  it("records are grouped by what they point at", async () => {
    await three();
    const { groups } = value(
      await registerGroups(keeper, "t_remarks", { search: "", filters: [] }, "", "about"),
    );
    expect(new Set(groups.map((g) => `${g.title ?? "nothing"} ${g.count}`))).toEqual(
      new Set(["Kittiwake 1", "Short oar 1", "Jib 1", "nothing 1"]),
    );
  });
  it("may lead to one register more at any time, to one less only where nothing points there", async () => {
    await three();
    const leadsTo = (keys: string[]): RegisterShape => ({
      ...NOTES,
      columns: NOTES.columns.map((c) => (c.id === "about" ? { ...c, registers: keys } : c)),
    });
    const proved = { ...keeper, proved: true } as Actor;
    expect(value(await shapeHits(keeper, "t_remarks", leadsTo(["t_boats", "t_oars"])))).toMatchObject({
      refusals: [],
      loses: [{ column: "about", count: 1, examples: [{ title: "of sail", text: "Sails: Jib" }] }],
    });
    const more = leadsTo([...NOTES.columns[1]!.registers!, "stores"]);
    expect(value(await shapeHits(keeper, "t_remarks", more))).toMatchObject({ refusals: [], problems: [] });
    value(await changeRegister(proved, "t_remarks", NOTES, more));
    value(await saveRecord(keeper, "t_remarks", "4", null, { about: "stores/1" }));
    value(await saveRecord(keeper, "t_remarks", "4", null, { about: null }));
    const before = value(await shapeHits(keeper, "t_remarks", more));
    expect(before).toEqual({ problems: [], refusals: [], hits: [], loses: [] });
    await sql("update register set definition = $1 where key = 't_remarks'", [JSON.stringify(NOTES)]);
  });
});

it("a condition finds the same records asked of the database as read one by one", async () => {
  await three();
  const boats = await list(keeper, "t_boats");
  expect(boats.rows).toHaveLength(1);
  const term = fc.constantFrom(
    'About.register = "t_boats"',
    'About.State = "broken"',
    'About.State in ("afloat", "whole")',
    "About.Length > 2",
    "About.Length = null",
    "About = null",
    'Name = "of oar"',
    "is empty(About.State)",
  );
  const condition: fc.Arbitrary<string> = fc.oneof(
    term,
    fc.tuple(term, fc.constantFrom("and", "or"), term).map(([a, op, b]) => `(${a}) ${op} (${b})`),
    term.map((t) => `not(${t})`),
  );
  // Slow and plain: what each record holds, by hand.
  const held: Record<string, { register: string | null; state: string | null; length: number | null }> = {
    "of boat": { register: "t_boats", state: "ashore", length: null },
    "of oar": { register: "t_oars", state: "broken", length: 3 },
    "of sail": { register: "t_shut_sails", state: null, length: null },
    "of nothing": { register: null, state: null, length: null },
  };
  type Three = boolean | null;
  const say: Record<string, (n: string) => Three> = {
    'About.register = "t_boats"': (n) => held[n]!.register === "t_boats",
    'About.State = "broken"': (n) => held[n]!.state === "broken",
    'About.State in ("afloat", "whole")': (n) => ["afloat", "whole"].includes(held[n]!.state ?? ""),
    "About.Length > 2": (n) => (held[n]!.length === null ? null : held[n]!.length > 2),
    "About.Length = null": (n) => held[n]!.length === null,
    "About = null": (n) => held[n]!.register === null,
    'Name = "of oar"': (n) => n === "of oar",
    "is empty(About.State)": (n) => held[n]!.state === null,
  };
  const holds = (c: string, n: string): Three => {
    const two = /^\((.*)\) (and|or) \((.*)\)$/.exec(c);
    if (two) {
      const [a, b] = [holds(two[1]!, n), holds(two[3]!, n)];
      const short = two[2] === "or";
      if (a === short || b === short) return short;
      return a === null || b === null ? null : !short;
    }
    const not = /^not\((.*)\)$/.exec(c);
    if (!not) return say[c]!(n);
    const v = holds(not[1]!, n);
    return v === null ? null : !v;
  };
  await fc.assert(
    fc.asyncProperty(condition, async (c) => {
      expect(await names(c)).toEqual(Object.keys(held).filter((n) => holds(c, n) === true));
    }),
    { numRuns: 80, endOnFailure: true },
  );
});

it("whatever is added, pointed elsewhere and removed, each link leads where it was put or nowhere", async () => {
  type Deed =
    | { do: "add"; on: "t_boats" | "t_oars" }
    | { do: "note" | "point"; nth: number; to: number }
    | { do: "remove"; nth: number; clears: boolean };
  const index = fc.nat(7);
  const deed: fc.Arbitrary<Deed> = fc.oneof(
    fc.record({
      do: fc.constant("add" as const),
      on: fc.constantFrom("t_boats" as const, "t_oars" as const),
    }),
    fc.record({ do: fc.constantFrom("note" as const, "point" as const), nth: index, to: index }),
    fc.record({ do: fc.constant("remove" as const), nth: index, clears: fc.boolean() }),
  );
  await fc.assert(
    fc.asyncProperty(fc.array(deed, { maxLength: 14 }), async (deeds) => {
      for (const s of [NOTES, BOATS, OARS]) await sql(`truncate register.${s.key} restart identity cascade`);
      // Slow and plain: what is there, and where each note points.
      let there: string[] = [];
      const notes: (string | null)[] = [];
      for (const x of deeds) {
        if (x.do === "add") there.push(`${x.on}/${await add(x.on, { name: "x" })}`);
        else if (x.do === "remove") {
          const gone = there[x.nth];
          if (gone === undefined) continue;
          const [key, id] = gone.split("/") as [string, string];
          const r = await removeRecord(keeper, key, id, null, x.clears);
          expect(r.ok).toBe(x.clears || !notes.includes(gone));
          if (!r.ok) continue;
          there = there.filter((t) => t !== gone);
          for (const [i, n] of notes.entries()) if (n === gone) notes[i] = null;
        } else {
          const to = there[x.to] ?? null;
          if (x.do === "note") {
            await add("t_remarks", { name: "n", about: to });
            notes.push(to);
          } else if (x.nth < notes.length) {
            value(await saveRecord(keeper, "t_remarks", String(x.nth + 1), null, { about: to }));
            notes[x.nth] = to;
          }
        }
      }
      const kept = await sql<{ about: string | null }>("select about from register.t_remarks order by id");
      expect(kept.map((r) => r.about)).toEqual(notes);
      for (const t of there) {
        const [key, id] = t.split("/") as [string, string];
        const { pointing } = value(await recordPage(keeper, key, id));
        expect(pointing.reduce((n, p) => n + p.count, 0)).toBe(notes.filter((n) => n === t).length);
      }
    }),
    { numRuns: 40, endOnFailure: true },
  );
});
