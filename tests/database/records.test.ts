import fc from "fast-check";
import { decideRecord, recordProgram, type RecordWrite } from "@/core/records";
import { EVERYBODY, factsFrom, NOBODY, type RegisterRights, type RegisterShape } from "@/core/form";
import { inTransaction, registers } from "@/db";
import { KINDS } from "@/kinds";
import {
  changeRecords,
  putBack,
  recordForm,
  recordPage,
  removeRecord,
  removedRecords,
  removeRecords,
  saveRecord,
  type Actor,
} from "@/services";
import { loadDirectory } from "@/services/kernel/directory";
import { writeRecords } from "@/services/registers/writeRecords";
import { Temporal } from "temporal-polyfill";
import { openWorld, person, sql, value } from "./world";

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
    { id: "weight", name: "Weight", kind: "number" },
    {
      id: "each",
      name: "Weight each",
      kind: "number",
      worked: "if Pieces = 0 then null else Weight / Pieces",
    },
    { id: "secret", name: "Alarm code", kind: "text" },
  ],
  rules: [
    {
      id: "r1",
      on: "changed",
      when: 'Before.State = "sent" and State != "sent"',
      then: { do: "refuse", say: "A crate that was sent stays sent." },
    },
    {
      id: "r2",
      on: "added or changed",
      when: 'State = "free" and Pieces > 0',
      then: { do: "set", column: "state", value: '"packed"' },
    },
    { id: "r3", on: "removed", when: "Pieces > 10", then: { do: "refuse", say: "Empty it first." } },
  ],
};
const LABELS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_labels",
  name: "Labels",
  one: "label",
  purpose: "",
  title: ["text"],
  columns: [
    { id: "text", name: "Words", kind: "text" },
    { id: "crate", name: "Crate", kind: "look-up", register: "t_crates" },
  ],
};
let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
let reader: Actor;
let partly: Actor;
beforeAll(async () => {
  world = await openWorld();
  const rights: RegisterRights = {
    ...EVERYBODY,
    keepers: ["maeve.dunlea"],
    columns: { secret: [] },
    change: [{ by: "person", person: "tobias.marrin" }],
    fill: { weight: [] },
  };
  await inTransaction(async (db) => {
    await registers.createRegister(db, CRATES, rights);
    await registers.createRegister(db, LABELS, { ...NOBODY, keepers: ["maeve.dunlea"] });
  });
  [keeper, reader, partly] = [
    await person("maeve.dunlea"),
    await person("sorcha.lind"),
    await person("tobias.marrin"),
  ];
});
afterAll(() => world.close());

const add = async (values: Record<string, string | boolean | null>, key = "t_crates") =>
  value(await saveRecord(keeper, key, null, null, values));
const kept = async (id: string, key = "t_crates") => value(await recordPage(keeper, key, id));
const why = (r: Awaited<ReturnType<typeof saveRecord>>) => {
  if (r.ok) throw new Error("was written");
  return r.failure.code === "record-refused" ? r.failure.data.why : r.failure;
};

describe("by hand", () => {
  it("begins, works out, sets by rule, and is told in the history by whom", async () => {
    const { id } = await add({ code: "A1", pieces: "4", weight: "10" });
    const page = await kept(id);
    expect(page.record).toMatchObject({ state: "packed", each: "2.5" });
    expect(page.history).toMatchObject([{ did: "added", by_person: "maeve.dunlea", via: "session 0" }]);
  });
  it("nobody writes over what they have not seen", async () => {
    const { id, version } = await add({ code: "A2" });
    value(await saveRecord(keeper, "t_crates", id, version, { weight: "7" }));
    const late = await saveRecord(keeper, "t_crates", id, version, { weight: "8" });
    expect(why(late)).toMatchObject({ code: "changed-since", now: { weight: "7" } });
    const now = (await kept(id)).version;
    const both = await Promise.all(
      ["11", "12", "13"].map((weight) => saveRecord(keeper, "t_crates", id, now, { weight })),
    );
    expect(both.filter((r) => r.ok)).toHaveLength(1);
    expect((await kept(id)).history).toHaveLength(3);
  });
  it("a value no two may share is told with who has it, also when two come at once", async () => {
    const first = await add({ code: "A3" });
    expect(why(await saveRecord(keeper, "t_crates", null, null, { code: "A3" }))).toMatchObject({
      code: "taken",
      column: "Code",
      by: { id: first.id, title: "A3" },
    });
    const both = await Promise.all(
      [1, 2, 3].map(() => saveRecord(keeper, "t_crates", null, null, { code: "A4" })),
    );
    expect(both.filter((r) => r.ok)).toHaveLength(1);
  });
  it("writes nothing where nothing is changed", async () => {
    const { id, version } = await add({ code: "A5", pieces: "2" });
    expect(value(await saveRecord(keeper, "t_crates", id, version, { pieces: "2" })).version).toBe(version);
    expect((await kept(id)).history).toHaveLength(1);
  });
  it("a removed record asks what becomes of links to it, and can be put back", async () => {
    const { id } = await add({ code: "A6", weight: "3" });
    const label = await add({ text: "Fragile", crate: id }, "t_labels");
    const seen = (await kept(id)).version;
    expect((await kept(id)).pointing).toMatchObject([
      { register: "t_labels", column: "crate", count: 1, records: [{ id: label.id, title: "Fragile" }] },
    ]);
    expect(why((await removeRecord(keeper, "t_crates", id, seen, false)) as never)).toMatchObject({
      code: "pointed-at",
      by: [{ register: "t_labels", records: [label.id] }],
    });
    value(await removeRecord(keeper, "t_crates", id, seen, true));
    expect((await kept(label.id, "t_labels")).record["crate"]).toBeNull();
    const [gone] = await sql<{ id: string }>(
      "select id from register_history where register_key = 't_crates' and record_id = $1 and did = 'removed'",
      [id],
    );
    const again = value(await putBack(keeper, "t_crates", String(gone!.id)));
    expect((await kept(again.id)).record).toMatchObject({ code: "A6", weight: "3" });
  });
  it("removed records are listed until they are put back, once, by whoever may", async () => {
    const listed = async (who: Actor) => value(await removedRecords(who, "t_crates")).removed;
    const { id, version } = await add({ code: "R1", weight: "3" });
    value(await removeRecord(keeper, "t_crates", id, version, false));
    const [first] = await listed(keeper);
    expect(first).toMatchObject({ by: "Maeve Dunlea", request: null });
    expect(first!.title).toContain("R1");
    const twice = await Promise.all([1, 2, 3].map(() => putBack(keeper, "t_crates", first!.change)));
    expect(twice.filter((r) => r.ok)).toHaveLength(1);
    expect(twice.find((r) => !r.ok)).toMatchObject({ failure: { code: "invalid" } });
    expect(await sql("select 1 from register.t_crates where code = 'R1'")).toHaveLength(1);
    expect((await listed(keeper)).map((r) => r.change)).not.toContain(first!.change);
    expect(await removedRecords(reader, "t_crates")).toMatchObject({ failure: { code: "not-found" } });
    expect(await removedRecords(keeper, "toString")).toMatchObject({ failure: { code: "not-found" } });
  });
  it("puts one change back and leaves what was changed elsewhere", async () => {
    const { id } = await add({ code: "A7", weight: "1", pieces: "1" });
    value(await saveRecord(keeper, "t_crates", id, null, { weight: "2" }));
    const change = (await kept(id)).history[0]!.id;
    value(await saveRecord(keeper, "t_crates", id, null, { pieces: "5" }));
    value(await putBack(keeper, "t_crates", change));
    expect((await kept(id)).record).toMatchObject({ weight: "1", pieces: "5", each: "0.2" });
  });
  it("rules hold a removal up", async () => {
    const { id, version } = await add({ code: "A8", pieces: "11" });
    const r = await removeRecord(keeper, "t_crates", id, version, true);
    expect(r).toMatchObject({
      ok: false,
      failure: { data: { why: { problems: [{ data: { say: "Empty it first." } }] } } },
    });
  });
  it("several at once: those that are refused stay, and are told", async () => {
    const ids = [
      (await add({ code: "B1", state: "sent" })).id,
      (await add({ code: "B2", pieces: "3" })).id,
      (await add({ code: "B3", state: "packed" })).id,
    ];
    const r = value(await changeRecords(keeper, "t_crates", [...ids, "999999", ids[0]!], "state", "packed"));
    expect(r).toMatchObject({
      changed: 0,
      same: 2,
      refused: [{ id: ids[0] }, { id: "999999", why: { code: "gone" } }],
    });
    const w = value(await changeRecords(keeper, "t_crates", ids, "weight", "6"));
    expect(w).toEqual({ changed: 3, same: 0, refused: [] });
    expect((await kept(ids[1]!)).record["each"]).toBe("2");
    const all = value(await changeRecords(keeper, "t_crates", ids, "code", "SAME"));
    expect(all.changed).toBe(1);
    expect(all.refused.map((x) => x.why.code)).toEqual(["taken", "taken"]);
    expect(value(await removeRecords(keeper, "t_crates", ids))).toEqual({ changed: 3, same: 0, refused: [] });
  });
});

describe("who may", () => {
  it("nobody adds, changes or removes who is not said to", async () => {
    const { id } = await add({ code: "C1" });
    for (const r of [
      await saveRecord(reader, "t_crates", null, null, { code: "C9" }),
      await saveRecord(reader, "t_crates", id, null, { code: "C9" }),
      await removeRecord(reader, "t_crates", id, null, true),
      await changeRecords(reader, "t_crates", [id], "code", "C9"),
      await removeRecords(reader, "t_crates", [id]),
      await recordForm(reader, "t_crates", id),
      await recordForm(reader, "t_crates", null),
      await saveRecord(partly, "t_crates", null, null, { code: "C9" }),
      await removeRecord(partly, "t_crates", id, null, true),
    ])
      expect(r).toMatchObject({ ok: false, failure: { code: "not-allowed" } });
    expect(await saveRecord(partly, "t_labels", "1", null, { text: "x" })).toMatchObject({
      failure: { code: "not-found" },
    });
    value(await saveRecord(partly, "t_crates", id, null, { code: "C2" }));
  });
  it("of hidden columns nothing can be written or found out, not even by guessing", async () => {
    const { id } = await add({ code: "D1", secret: "4711", weight: "5", pieces: "1" });
    for (const guess of ["4711", "0000"])
      expect(await saveRecord(partly, "t_crates", id, null, { secret: guess })).toMatchObject({
        failure: { code: "invalid" },
      });
    expect(await changeRecords(partly, "t_crates", [id], "secret", "1")).toMatchObject({ ok: false });
    expect(await saveRecord(partly, "t_crates", id, null, { weight: "6" })).toMatchObject({
      failure: { code: "not-allowed" },
    });
    value(await saveRecord(partly, "t_crates", id, null, { weight: "5", code: "D2" }));
    expect((await kept(id)).record).toMatchObject({ secret: "4711", code: "D2" });
    const form = JSON.stringify(value(await recordForm(partly, "t_crates", id)));
    expect(form).not.toContain("4711");
    expect(form).not.toContain("Alarm code");
    // Nor by what a refusal says: who has a value already, and what keeps it from being written.
    await add({ code: "D9", secret: "0815" });
    const taken = await saveRecord(partly, "t_crates", id, null, { code: "D9" });
    expect(why(taken)).toEqual({ code: "taken", column: "Code", value: "", by: null });
    // What another change held of it cannot be put back by somebody who does not fill it in.
    value(await saveRecord(keeper, "t_crates", id, null, { secret: "4712" }));
    const [change] = (await kept(id)).history;
    expect(await putBack(partly, "t_crates", change!.id)).toMatchObject({ ok: false });
  });
});

/** All at once must come to the same as one after another, decided by a table that is a plain list. */
it("many at once are as one after another", async () => {
  const shape = CRATES;
  const names = ["e1", "e2", "e3", "e4"];
  const values = fc.record(
    {
      code: fc.constantFrom(...names, null),
      state: fc.constantFrom("free", "packed", "sent", "lost", null),
      pieces: fc.constantFrom("0", "3", "12", "x", null),
      weight: fc.constantFrom("6", "7.5", null),
    },
    { requiredKeys: [] },
  );
  const write = fc.oneof(
    values.map((v) => ({ op: "add" as const, values: v })),
    fc.record({ op: fc.constant("change" as const), nth: fc.nat(5), values }),
    fc.record({ op: fc.constant("remove" as const), nth: fc.nat(5) }),
  );
  await fc.assert(
    fc.asyncProperty(
      fc.array(values, { maxLength: 4 }),
      fc.array(write, { maxLength: 8 }),
      async (first, then) => {
        await sql("delete from register.t_labels");
        await sql("delete from register.t_crates");
        const got = await inTransaction(async (db) => {
          const directory = await loadDirectory(db);
          const w = {
            db,
            directory,
            at: Date.parse("2026-03-03T10:00:00Z"),
            by: null,
            via: null,
            request: null,
            behind: null,
            chain: [],
          };
          const begun = await writeRecords(
            w,
            "t_crates",
            first.map((v) => ({ op: "add", values: v })),
          );
          const ids = begun.map((r) => (r.ok ? r.record.id : "0"));
          const writes = then.map((x): RecordWrite => {
            if (x.op === "add") return x;
            const id = ids[x.nth] ?? "0";
            return x.op === "change" ? { op: "change", id, values: x.values } : { op: "remove", id };
          });
          const wrote = await writeRecords(w, "t_crates", writes);
          return {
            begun,
            ids,
            wrote,
            rows: await registers.everyRecord(
              db,
              shape,
              shape.columns.map((c) => c.id),
              100,
            ),
          };
        });
        const program = recordProgram(shape, { registers: { t_crates: shape }, kinds: KINDS });
        const facts = factsFrom(
          { people: {}, registers: {}, records: {} },
          { now: Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]") },
          KINDS.fields,
        );
        let table: (Record<string, string | boolean | null> & { id: string })[] = [];
        const one = (x: RecordWrite, id: string): boolean => {
          const before = x.op === "add" ? null : (table.find((r) => r.id === x.id) ?? null);
          if (x.op !== "add" && !before) return false;
          const d = decideRecord(program, before, x.op === "remove" ? null : x.values, facts);
          if (!d.ok) return false;
          if (x.op === "remove") table = table.filter((r) => r !== before);
          else if (table.some((r) => r !== before && r["code"] === d.values["code"])) return false;
          else if (before) Object.assign(before, d.values);
          else table.push({ ...d.values, id });
          return true;
        };
        const mine = first.map((v, i) => one({ op: "add", values: v }, got.ids[i]!));
        expect(got.begun.map((r) => r.ok)).toEqual(mine);
        const after = then.map((x, i) => {
          const r = got.wrote[i]!;
          if (x.op === "add") return one(x, r.ok ? r.record.id : "0");
          const id = got.ids[x.nth] ?? "0";
          return one(x.op === "change" ? { op: "change", id, values: x.values } : { op: "remove", id }, id);
        });
        expect(got.wrote.map((r) => r.ok)).toEqual(after);
        const byId = (a: { id: string }, b: { id: string }) => Number(a.id) - Number(b.id);
        expect([...got.rows].sort(byId)).toEqual(
          table.map((r) => ({ ...r, secret: r["secret"] ?? null })).sort(byId),
        );
      },
    ),
    { numRuns: 60, endOnFailure: true },
  );
});
