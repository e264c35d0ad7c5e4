import fc from "fast-check";
import { EVERYBODY, type RegisterShape } from "@/core/form";
import { inTransaction, registers } from "@/db";
import {
  bringSheet,
  changeRecords,
  exportRecords,
  registerGroups,
  registerPage,
  saveRecord,
  shapeHits,
  sheetPage,
  writeSheet,
  type Actor,
} from "@/services";
import { groupView } from "@/app/(inside)/registers/[register]/groupView";
import { listView } from "@/app/(inside)/registers/[register]/listView";
import { openWorld, person, sql, value } from "./world";
import { workOff } from "./workOff";

jest.setTimeout(60_000);

const OPTIONS = ["dry", "dark", "dark room", "cool"];
const PACKS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_packs",
  name: "Packs",
  one: "pack",
  purpose: "",
  title: ["name"],
  columns: [
    { id: "name", name: "Name", kind: "text" },
    { id: "wants", name: "Wants", kind: "several choices", options: OPTIONS },
    { id: "one", name: "One", kind: "text" },
    { id: "many", name: "How many", kind: "number", worked: "count(Wants)" },
  ],
  rules: [
    {
      id: "r",
      on: "added or changed",
      when: 'list contains(Wants, "dark") and list contains(Wants, "dark room")',
      then: { do: "refuse", say: "A dark room is dark." },
    },
  ],
};
let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
beforeAll(async () => {
  world = await openWorld();
  await inTransaction((db) =>
    registers.createRegister(db, PACKS, { ...EVERYBODY, keepers: ["maeve.dunlea"] }),
  );
  keeper = await person("maeve.dunlea");
});
afterAll(() => world.close());
beforeEach(() => sql("truncate register.t_packs restart identity"));

const add = (name: string, wants: string | null, one: string | null = null) =>
  saveRecord(keeper, "t_packs", null, null, { name, wants, one });
const list = async (where = "", filters: { column: string; value: string }[] = []) =>
  value(
    await registerPage(keeper, "t_packs", { search: "", filters, sort: [], offset: 0, limit: 50 }, where),
  ).rows.map((r) => r["name"]);

it("are kept, counted, held to the rules of the register, and found one by one", async () => {
  value(await add("a", "dry\ncool"));
  value(await add("b", "dark room"));
  value(await add("c", null));
  expect(await add("d", "dark\ndark room")).toMatchObject({ ok: false });
  expect(await add("d", "damp")).toMatchObject({ ok: false });
  expect(await sql("select name, many::text as many from register.t_packs order by id")).toEqual([
    { name: "a", many: "2" },
    { name: "b", many: "1" },
    { name: "c", many: "0" },
  ]);
  expect(await list("", [{ column: "wants", value: "cool" }])).toEqual(["a"]);
  // A part of a choice is not the choice.
  expect(await list("", [{ column: "wants", value: "dark" }])).toEqual([]);
  expect(await list("", [{ column: "wants", value: "" }])).toEqual(["c"]);
  const { groups } = value(await registerGroups(keeper, "t_packs", { search: "", filters: [] }, "", "wants"));
  expect(groups.map((g) => [g.value, g.count])).toEqual(
    expect.arrayContaining([
      ["dry\ncool", 1],
      [null, 1],
    ]),
  );
  // A group is what is exactly so, also of one choice among records that have it beside others.
  value(await add("e", "dry"));
  const column = PACKS.columns[1]!;
  for (const [group, names] of [
    ["dry\ncool", ["a"]],
    ["dry", ["e"]],
    [null, ["c"]],
  ] as const) {
    const { filters } = listView(new URLSearchParams(groupView("group=wants", column, group)));
    expect(await list("", filters)).toEqual(names);
  }
  value(await changeRecords(keeper, "t_packs", ["1", "3"], "wants", "cool"));
  expect(await list("", [{ column: "wants", value: "cool" }])).toEqual(["a", "c"]);
});

it("a group of an address is that address alone", async () => {
  const mail = { id: "mail", name: "Mail", kind: "e-mail" } as const;
  const { where } = listView(new URLSearchParams(groupView("where=One%20!%3D%20null", mail, "a@b.example")));
  expect(where).toBe('(One != null) and Mail = "a@b.example"');
});

it("a condition finds the same asked of the database as worked out by hand", async () => {
  const subset = fc.subarray(["dry", "dark", "cool"]).map((o) => o.join("\n") || null);
  const text = fc.constantFrom(null, "", "dry", "dark", "dark room", "dry\ncool");
  await fc.assert(
    fc.asyncProperty(fc.array(fc.tuple(subset, text), { minLength: 1, maxLength: 6 }), async (rows) => {
      await sql("truncate register.t_packs restart identity");
      for (const [i, [wants, one]] of rows.entries())
        await sql("insert into register.t_packs (name, wants, one) values ($1, $2, $3)", [
          String(i),
          wants,
          one,
        ]);
      const has = (wants: string | null, o: string | null) =>
        o !== null && (wants ?? "").split("\n").filter(Boolean).includes(o);
      const want = (f: (wants: string | null, one: string | null) => boolean | null) =>
        rows.flatMap(([w, o], i) => (f(w, o === "" ? null : o) === true ? [String(i)] : []));
      expect(await list('list contains(Wants, "dry")')).toEqual(want((w) => has(w, "dry")));
      expect(await list('not(list contains(Wants, "dry"))')).toEqual(want((w) => !has(w, "dry")));
      expect(await list("list contains(Wants, One)")).toEqual(want((w, o) => has(w, o)));
      expect(await list("not(list contains(Wants, One))")).toEqual(want((w, o) => !has(w, o)));
      expect(await list("is empty(Wants)")).toEqual(want((w) => w === null));
      expect(await list("Wants = null")).toEqual([]);
      expect(await list('list contains(Wants, "cool") or One = "dark"')).toEqual(
        want((w, o) => has(w, "cool") || o === "dark"),
      );
    }),
    { numRuns: 30, endOnFailure: true },
  );
});

it("go out and come in by name, and a choice that goes is counted where it is chosen", async () => {
  value(await add("a", "dry\ndark room"));
  const q = { search: "", filters: [], sort: [] };
  const { bytes } = value(await exportRecords(keeper, "t_packs", q, "", ["name", "wants"], "csv"));
  expect(bytes.toString("utf8").replace("\ufeff", "").trim()).toBe("Name,Wants\r\na,dry; dark room");
  const csv = 'Name,Wants\nb,dry; dark room\nc,"Cool, dry"\nd,damp\n';
  const { id } = value(await bringSheet(keeper, "t_packs", "p.csv", Buffer.from(csv)));
  await workOff();
  const tried = value(await sheetPage(keeper, id, null, 0));
  expect(tried.rows.map((r) => [r.outcome, r.why === null])).toEqual([
    ["added", true],
    ["added", true],
    ["refused", false],
  ]);
  value(await writeSheet(keeper, id, tried.sheet.asking));
  await workOff();
  expect(await sql("select wants from register.t_packs order by id")).toEqual([
    { wants: "dry\ndark room" },
    { wants: "dry\ndark room" },
    { wants: "dry\ncool" },
  ]);
  const without = {
    ...PACKS,
    columns: PACKS.columns.map((c) => (c.id === "wants" ? { ...c, options: ["dry", "dark", "cool"] } : c)),
  };
  expect(value(await shapeHits(keeper, "t_packs", without)).hits).toEqual([
    '2 records go on holding dark room in "Wants", which can be chosen no more.',
  ]);
});
