import fc from "fast-check";
import { EVERYBODY, NOBODY, type RegisterRights, type RegisterShape } from "@/core/form";
import type { SheetPlan } from "@/core/sheets";
import { getPool, inTransaction, registers, sheetImports } from "@/db";
import {
  bringSheet,
  exportRecords,
  planSheet,
  refusedRows,
  saveRecord,
  setRegisterRights,
  sheetPage,
  stopSheet,
  SYSTEM,
  workSheet,
  writeSheet,
  type Actor,
} from "@/services";
import { openWorld, person, sql, until, value } from "./world";
import { pdfPages } from "../pdfPages";
import { workOff } from "./workOff";

jest.setTimeout(60_000);

const CRATES: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_crates",
  name: "Crates",
  one: "crate",
  purpose: "",
  title: ["code"],
  columns: [
    { id: "code", name: "Code", kind: "text", needed: true, unique: true },
    { id: "state", name: "State", kind: "choice", options: ["free", "packed", "sent"], starting: '"free"' },
    { id: "pieces", name: "Pieces", kind: "number" },
    { id: "packed_on", name: "Packed on", kind: "date" },
    { id: "worth", name: "Worth", kind: "money" },
    { id: "keeper", name: "Keeper", kind: "person" },
    { id: "twice", name: "Twice", kind: "number", worked: "Pieces * 2" },
    { id: "secret", name: "Alarm code", kind: "text" },
    { id: "inside", name: "Stands in", kind: "look-up", register: "t_crates" },
  ],
  rules: [
    {
      id: "r1",
      on: "added or changed",
      when: "Pieces > 100",
      then: { do: "refuse", say: "A crate holds a hundred pieces." },
    },
  ],
};
const rights: RegisterRights = {
  ...EVERYBODY,
  keepers: ["maeve.dunlea"],
  columns: { secret: [] },
  change: [{ by: "person", person: "tobias.marrin" }],
};

let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
let partly: Actor;
let reader: Actor;
beforeAll(async () => {
  world = await openWorld();
  await inTransaction((db) => registers.createRegister(db, CRATES, rights));
  [keeper, partly, reader] = (await Promise.all(
    ["maeve.dunlea", "tobias.marrin", "sorcha.lind"].map(person),
  )) as [Actor, Actor, Actor];
});
afterAll(() => world.close());
beforeEach(() => sql("delete from register.t_crates"));

const begin = async (csv: string | Buffer, who = keeper) =>
  value(await bringSheet(who, "t_crates", "crates.csv", Buffer.from(csv as string))).id;
const page = async (id: string, who = keeper) => value(await sheetPage(who, id, null, 0));
const tried = async (csv: string, change: Partial<SheetPlan> = {}, who = keeper) => {
  const id = await begin(csv, who);
  await workOff();
  if (Object.keys(change).length > 0) {
    const { sheet } = await page(id, who);
    value(await planSheet(who, id, { ...sheet.plan!, ...change }));
    await workOff();
  }
  return { id, ...(await page(id, who)) };
};
const written = async (csv: string, change: Partial<SheetPlan> = {}, who = keeper) => {
  const t = await tried(csv, change, who);
  value(await writeSheet(who, t.id, t.sheet.asking));
  await workOff();
  return page(t.id, who);
};
const crates = () =>
  sql<Record<string, unknown>>(
    "select id::text as id, code, state, pieces, packed_on::text as packed_on, worth, keeper, twice, secret, inside::text as inside from register.t_crates t order by t.id",
  );
const add = async (values: Record<string, string | boolean | null>) =>
  value(await saveRecord(keeper, "t_crates", null, null, values));

describe("a sheet", () => {
  it("is read, matched by name and tried before anything is written; then it is written as it was shown", async () => {
    const { id: old } = await add({ code: "A1", pieces: "3" });
    const same = await add({ code: "A9", pieces: "9" });
    const t = await tried(
      "Code;pieces;Packed-on;WORTH;Keeper;Colour\nA1;5;13/04/2026;1.250,50;Sorcha Lind;red\nA2;;01/02/2026;;;\nA3;101;;;;\nA9;9;;;;\nA2;1;;;;\n;1;;;;\nA4;4;;;Nobody Here;\n",
    );
    expect(t.sheet).toMatchObject({
      status: "tried",
      counts: { added: 1, changed: 1, same: 1, refused: 4 },
      plan: {
        matches: ["code", "pieces", "packed_on", "worth", "keeper", null],
        key: "code",
        reading: { dates: "day", decimal: "," },
      },
    });
    expect(t.rows.map((r) => [r.line, r.outcome, r.why])).toEqual([
      [2, "changed", null],
      [3, "added", null],
      [4, "refused", expect.stringContaining("A crate holds a hundred pieces.")],
      [5, "same", null],
      [6, "refused", expect.stringContaining("Line 3 has the same Code")],
      [7, "refused", expect.stringContaining("Code is empty")],
      [8, "refused", expect.stringContaining('"Nobody Here" is nobody here')],
    ]);
    expect(t.rows[0]!.what).toContainEqual({ column: "Worth", before: "", after: "1250.50" });
    expect(t.rows[0]!.what).toContainEqual({ column: "Keeper", before: "", after: "Sorcha Lind" });
    // Nothing is written yet, and nothing is locked or noted.
    expect(await crates()).toMatchObject([{ pieces: "3" }, { pieces: "9" }]);
    value(await writeSheet(keeper, t.id, t.sheet.asking));
    await workOff();
    expect((await page(t.id)).sheet).toMatchObject({
      status: "done",
      counts: { added: 1, changed: 1, same: 1, refused: 4 },
    });
    expect(await crates()).toMatchObject([
      {
        id: old,
        pieces: "5",
        packed_on: "2026-04-13",
        worth: "1250.50",
        keeper: "sorcha.lind",
        twice: "10",
      },
      { id: same.id, pieces: "9" },
      // What is left empty begins as its column says.
      { code: "A2", state: "free", pieces: null, packed_on: "2026-02-01" },
    ]);
    const history = await sql(
      "select did, by_person, via from register_history where register_key = 't_crates' order by id desc limit 2",
    );
    expect(history).toMatchObject([
      { by_person: "maeve.dunlea", via: "session 0" },
      { by_person: "maeve.dunlea", via: "session 0" },
    ]);
    const { csv } = value(await refusedRows(keeper, t.id));
    expect(csv).toContain("A3,101,,,,,");
    // The file of refused rows, mended, goes in again; its last column is left aside.
    const again = await written(csv.replace("A3,101", "A3,99"));
    expect(again.sheet.counts).toMatchObject({ added: 1, changed: 1, refused: 2 });
  });
  it("nothing that somebody changed or added meanwhile is written over", async () => {
    const { id } = await add({ code: "A1", pieces: "3" });
    const t = await tried("Code,Pieces\nA1,5\nA2,6\nA3,7\n");
    value(await saveRecord(keeper, "t_crates", id, null, { pieces: "4" }));
    await add({ code: "A2", pieces: "1" });
    value(await writeSheet(keeper, t.id, t.sheet.asking));
    await workOff();
    const after = await page(t.id);
    expect(after.sheet.counts).toMatchObject({ added: 1, changed: 0, refused: 2 });
    expect((await crates()).map((r) => [r["code"], r["pieces"]])).toEqual([
      ["A1", "4"],
      ["A2", "1"],
      ["A3", "7"],
    ]);
    expect(after.rows.map((r) => r.why)).toEqual([
      expect.stringContaining("since you looked"),
      expect.stringContaining("since you looked"),
    ]);
  });
  it("an empty cell empties where that is wanted, and rows are left as is said", async () => {
    await add({ code: "A1", pieces: "3", worth: "5" });
    await written("Code,Pieces,Worth\nA1,,7\nA2,1,1\n", { absent: "leave" });
    expect(await crates()).toMatchObject([{ code: "A1", pieces: "3", worth: "7" }]);
    await written("Code,Pieces,Worth\nA1,,8\n", { empty: "empty" });
    expect(await crates()).toMatchObject([{ code: "A1", pieces: null, worth: "8" }]);
    await written("Code,Pieces\nA1,50\nA3,1\n", { there: "leave" });
    expect((await crates()).map((r) => [r["code"], r["pieces"]])).toEqual([
      ["A1", null],
      ["A3", "1"],
    ]);
  });
  it("links are found by what names their records; a removed one is told", async () => {
    const big = await add({ code: "BIG" });
    const gone = await add({ code: "GONE" });
    await sql("delete from register.t_crates where id = $1", [gone.id]);
    const t = await written("Code,Stands in\nA1,BIG\nA2,GONE\n");
    expect(t.rows.map((r) => r.why)).toEqual([
      'Stands in: there is no "GONE" in Crates. Add it there first, or mend the cell.',
    ]);
    expect(await crates()).toMatchObject([{ code: "BIG" }, { code: "A1", inside: big.id }]);
  });
  it("is its owner's alone, and does what they may do", async () => {
    expect(await bringSheet(reader, "t_crates", "x.csv", Buffer.from("a\n1"))).toMatchObject({ ok: false });
    const id = await begin("Code,Pieces\nA1,1\n");
    await workOff();
    for (const other of [reader, partly])
      for (const r of [
        await sheetPage(other, id, null, 0),
        await writeSheet(other, id, 1),
        await stopSheet(other, id),
        await refusedRows(other, id),
      ])
        expect(r).toMatchObject({ ok: false, failure: { code: "not-found" } });
    // They may change, not add, and know nothing of the alarm code.
    await add({ code: "A1", pieces: "3", secret: "s3cret" });
    const t = await tried("Code,Pieces,Alarm code\nA1,5,x\nA2,6,y\n", {}, partly);
    expect(t.sheet.plan).toMatchObject({ matches: ["code", "pieces", null], absent: "leave" });
    expect(t.sheet.counts).toEqual({ changed: 1, left: 1 });
    expect(JSON.stringify(t)).not.toContain("s3cret");
    expect(await planSheet(partly, t.id, { ...t.sheet.plan!, absent: "add" })).toMatchObject({ ok: false });
    expect(
      await planSheet(partly, t.id, { ...t.sheet.plan!, matches: ["code", null, "secret"] }),
    ).toMatchObject({ ok: false });
    // Their right is withdrawn before it is written.
    value(await writeSheet(partly, t.id, t.sheet.asking));
    value(await setRegisterRights(keeper, "t_crates", rights, { ...rights, change: [] }));
    await workOff();
    expect(await crates()).toMatchObject([{ pieces: "3" }]);
    expect(await sql("select status, why from sheet_import where id = $1", [t.id])).toMatchObject([
      { status: "failed", why: expect.stringContaining("may not write") },
    ]);
    value(await setRegisterRights(keeper, "t_crates", { ...rights, change: [] }, rights));
  });
  it("a plan changed while it is tried counts alone, and a page that is behind writes nothing", async () => {
    await add({ code: "A1", pieces: "3" });
    const id = await begin("Code,Pieces\nA1,5\n");
    await workOff();
    const first = await page(id);
    value(await planSheet(keeper, id, { ...first.sheet.plan!, there: "leave" }));
    expect(await writeSheet(keeper, id, first.sheet.asking)).toMatchObject({ ok: false });
    await workOff();
    expect(await writeSheet(keeper, id, first.sheet.asking)).toMatchObject({ ok: false });
    expect((await page(id)).sheet.counts).toEqual({ left: 1 });
    expect(await crates()).toMatchObject([{ pieces: "3" }]);
  });
  it("is written once, however often and however many at once are asked to", async () => {
    const t = await tried(
      "Code,Pieces\n" + Array.from({ length: 1200 }, (_, i) => `N${i},${i % 50}`).join("\n"),
    );
    value(await writeSheet(keeper, t.id, t.sheet.asking));
    await Promise.all([1, 2, 3].map(() => workSheet(SYSTEM, t.id)));
    await workOff();
    await workSheet(SYSTEM, t.id);
    expect(await crates()).toHaveLength(1200);
    expect(
      await sql(
        "select count(*)::int as n from register_history where register_key = 't_crates' and did = 'added' and after->>'code' like 'N%'",
      ),
    ).toEqual([{ n: 1200 }]);
  });
  it("stopped while it is written, nothing of it is there", async () => {
    const t = await tried("Code,Pieces\n" + Array.from({ length: 3000 }, (_, i) => `S${i},1`).join("\n"));
    value(await writeSheet(keeper, t.id, t.sheet.asking));
    const work = workSheet(SYSTEM, t.id);
    await until("some are written", async () => (await page(t.id)).sheet.done > 0);
    value(await stopSheet(keeper, t.id));
    await work;
    await workOff();
    expect(await crates()).toEqual([]);
    expect((await page(t.id)).sheet.status).toBe("stopped");
  });
  it("stopped at the very end of writing, nothing of it is there either", async () => {
    const t = await tried("Code\nE1\nE2\n");
    await sql(`create function t_stop() returns trigger language plpgsql as $$ begin return null; end $$`);
    await sql(
      "create trigger t_stop before update on sheet_import for each row when (new.status = 'done') execute function t_stop()",
    );
    value(await writeSheet(keeper, t.id, t.sheet.asking));
    await workOff();
    await sql("drop trigger t_stop on sheet_import");
    expect(await crates()).toEqual([]);
  });
  it("a column that may not be filled in any more is not filled in", async () => {
    await add({ code: "A1", worth: "5" });
    const t = await tried("Code,Worth\nA1,7\n", {}, partly);
    value(await writeSheet(partly, t.id, t.sheet.asking));
    const less = { ...rights, fill: { worth: [] } };
    value(await setRegisterRights(keeper, "t_crates", rights, less));
    await workOff();
    value(await setRegisterRights(keeper, "t_crates", less, rights));
    expect(await crates()).toMatchObject([{ worth: "5" }]);
    expect((await page(t.id, partly)).sheet).toMatchObject({
      status: "failed",
      why: "Worth is no column you may fill in.",
    });
  });
  it("what another record has already is said before anything is written", async () => {
    await add({ code: "A1" });
    const t = await tried("Code\nA1\nA2\nA2\n", { key: null });
    expect(t.rows.map((r) => [r.outcome, r.why])).toEqual([
      ["refused", 'No two records of Crates may have the same Code, and A1 has "A1" already.'],
      ["added", null],
      ["refused", "No two records of Crates may have the same Code, and another has this one already."],
    ]);
  });
  it("what an earlier trial still finds out changes nothing of the present one", async () => {
    const t = await tried("Code\nA1\n");
    const late = { line: 2, outcome: "refused", write: null, title: "", what: [], why: "late" } as const;
    await sheetImports.rowsCame(getPool(), t.id, t.sheet.asking - 1, [{ ...late, what: [] }]);
    expect((await page(t.id)).rows).toMatchObject([{ outcome: "added", why: null }]);
  });
  it("what a file cannot be is said in a sentence", async () => {
    const id = await begin("Code\n");
    await workOff();
    expect((await page(id)).sheet).toMatchObject({
      status: "failed",
      why: expect.stringContaining("nothing below"),
    });
  });
});

it("what was tried is what is written, for any sheet", async () => {
  const cell = fc.constantFrom(
    "",
    "A1",
    "A2",
    "A3",
    "5",
    "101",
    "sent",
    "Free",
    "nonsense",
    "1,5",
    "13/04/2026",
  );
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(fc.constantFrom("A1", "A2", "B1", "B2", "B3", ""), cell, cell, cell), {
        minLength: 1,
        maxLength: 8,
      }),
      fc.record({
        there: fc.constantFrom("change", "leave"),
        absent: fc.constantFrom("add", "leave"),
        empty: fc.constantFrom("empty", "leave"),
      }),
      async (rows, how) => {
        await sql("delete from register.t_crates");
        await add({ code: "A1", pieces: "3" });
        await add({ code: "A2", state: "sent", packed_on: "2026-01-01" });
        const csv = ["Code|Pieces|State|Packed on", ...rows.map((r) => r.join("|"))].join("\n");
        const before = await crates();
        const t = await tried(csv, how as Partial<SheetPlan>);
        expect(await crates()).toEqual(before);
        // Row by row: what it says it will be, is; what it does not say, stays.
        const want = new Map(
          before.map((r) => [
            r["code"],
            { pieces: r["pieces"], state: r["state"], packed_on: r["packed_on"] },
          ]),
        );
        for (const r of t.rows) {
          if (r.outcome !== "added" && r.outcome !== "changed") continue;
          const code = r.cells[0]!.text;
          const now = { ...(want.get(code) ?? { pieces: null, state: null, packed_on: null }) };
          const ids = { Pieces: "pieces", State: "state", "Packed on": "packed_on" } as const;
          for (const w of r.what ?? [])
            if (w.column in ids) now[ids[w.column as keyof typeof ids]] = w.after || null;
          want.set(code, now);
        }
        value(await writeSheet(keeper, t.id, t.sheet.asking));
        await workOff();
        const after = await crates();
        expect(
          new Map(
            after.map((r) => [
              r["code"],
              { pieces: r["pieces"], state: r["state"], packed_on: r["packed_on"] },
            ]),
          ),
        ).toEqual(want);
        expect((await page(t.id)).sheet.counts).toMatchObject({ ...t.sheet.counts });
      },
    ),
    { numRuns: 25, endOnFailure: true },
  );
});

describe("a file of a view", () => {
  const VIEW = { search: "", filters: [], sort: [] };
  it("holds what is found and shown, harmless, and reads back as it was", async () => {
    const big = await add({ code: "BIG", worth: "-1250.50", keeper: "sorcha.lind", packed_on: "1890-01-02" });
    await add({ code: "=cmd|' /C calc'!A0", pieces: "-5", inside: big.id });
    await add({ code: "@x", secret: "s3cret" });
    for (const format of ["csv", "xlsx"] as const) {
      const file = value(await exportRecords(keeper, "t_crates", VIEW, "", [], format));
      if (format === "csv") {
        const text = file.bytes.toString("utf8");
        expect(text.startsWith("\ufeffCode,State,")).toBe(true);
        expect(text).toContain("\r\nBIG,free,,1890-01-02,-1250.50,Sorcha Lind,");
        expect(text).toContain("\r\n\"'=cmd|' /C calc'!A0\",free,-5,");
        expect(text).toContain('\r\n"\'@x",');
        expect(text).toContain(",BIG\r\n");
      }
      const before = await crates();
      await sql("delete from register.t_crates where code <> 'BIG'");
      await sql("update register.t_crates set packed_on = null, keeper = null");
      const id = value(await bringSheet(keeper, "t_crates", file.name, file.bytes)).id;
      await workOff();
      const t = await page(id);
      expect(t.sheet).toMatchObject({ status: "tried", counts: { changed: 1, added: 2 } });
      value(await writeSheet(keeper, id, t.sheet.asking));
      await workOff();
      const plain = (rows: Record<string, unknown>[]) => rows.map(({ id: _, ...r }) => r);
      expect(plain(await crates())).toEqual(plain(before));
    }
  });
  it("is a list or labels to print, as people read it, with what its reader sees alone", async () => {
    await sql("delete from register.t_crates");
    const big = await add({ code: "BIG", worth: "-1250.50", keeper: "sorcha.lind", packed_on: "1890-01-02" });
    await add({ code: "SMALL", inside: big.id, secret: "s3cret" });
    const columns = ["code", "secret", "packed_on", "worth", "keeper", "inside"];
    const list = value(await exportRecords(reader, "t_crates", VIEW, "", columns, "pdf"));
    expect(list).toMatchObject({ name: "Crates.pdf", type: "application/pdf" });
    const text = pdfPages(list.bytes).join(" ");
    for (const part of [
      "Crates",
      "2 records",
      "BIG",
      "Thu 2 Jan 1890",
      "EUR -1",
      "250.50",
      "Sorcha Lind",
      "SMALL",
    ])
      expect(text).toContain(part);
    expect(text).not.toContain("s3cret");
    const grid = { across: 2, down: 5, skip: 9, margin: 8 };
    const labels = value(await exportRecords(reader, "t_crates", VIEW, "", columns, grid));
    expect(labels.name).toBe("Crates, labels.pdf");
    const sheets = pdfPages(labels.bytes);
    expect(sheets).toHaveLength(2);
    expect(sheets[0]).toMatch(/^BIG .*Sorcha Lind/);
    expect(sheets[1]).toMatch(/^SMALL BIG/);
    expect(await exportRecords(reader, "t_crates", VIEW, "", [], { ...grid, skip: 10 })).toMatchObject({
      ok: false,
      failure: { data: { message: "A sheet has 10 labels; of those at most 9 can be used already." } },
    });
    expect(
      await exportRecords(reader, "t_crates", VIEW, "", [], { ...grid, across: Number.NaN }),
    ).toMatchObject({
      ok: false,
      failure: { data: { message: expect.stringContaining("Labels across is a whole number") } },
    });
  });
  it("holds only what its reader sees, and only what matches", async () => {
    await add({ code: "A1", secret: "s3cret", pieces: "1" });
    await add({ code: "A2", pieces: "2" });
    const text = value(
      await exportRecords(reader, "t_crates", VIEW, "Pieces > 1", ["secret", "code"], "csv"),
    ).bytes.toString();
    expect(text).toBe("\ufeffCode\r\nA2\r\n");
    expect(await exportRecords(reader, "t_crates", VIEW, "Alarm code = 1", [], "csv")).toMatchObject({
      ok: false,
    });
    value(await setRegisterRights(keeper, "t_crates", rights, { ...NOBODY, keepers: ["maeve.dunlea"] }));
    expect(await exportRecords(reader, "t_crates", VIEW, "", [], "csv")).toMatchObject({
      ok: false,
      failure: { code: "not-found" },
    });
    value(await setRegisterRights(keeper, "t_crates", { ...NOBODY, keepers: ["maeve.dunlea"] }, rights));
  });
});
