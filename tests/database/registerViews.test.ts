import fc from "fast-check";
import { EVERYBODY, type RegisterRights, type RegisterShape } from "@/core/form";
import { inTransaction, registers } from "@/db";
import { keepView, keptViews, registerGroups, registerPage, removeView, type Actor } from "@/services";
import { groupView } from "@/app/(inside)/registers/[register]/groupView";
import { listView } from "@/app/(inside)/registers/[register]/listView";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

const POTS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_pots",
  name: "Pots",
  one: "pot",
  purpose: "",
  title: ["name"],
  columns: [
    { id: "name", name: "Name", kind: "text" },
    { id: "state", name: "State", kind: "choice", options: ["whole", "broken"] },
    { id: "worth", name: "Worth", kind: "money" },
    { id: "found", name: "Found", kind: "date" },
    { id: "sound", name: "Sound", kind: "yes or no" },
    { id: "keeper", name: "Keeper", kind: "person" },
    { id: "inside", name: "Stands in", kind: "look-up", register: "t_pots" },
    { id: "secret", name: "Secret", kind: "number" },
  ],
};
const rights: RegisterRights = { ...EVERYBODY, keepers: ["maeve.dunlea"], columns: { secret: [] } };

let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
let reader: Actor;
beforeAll(async () => {
  world = await openWorld();
  await inTransaction((db) => registers.createRegister(db, POTS, rights));
  [keeper, reader] = [await person("maeve.dunlea"), await person("sorcha.lind")];
});
afterAll(() => world.close());

type Pot = Record<"name" | "state" | "worth" | "found" | "keeper", string | null> & { sound: boolean | null };
const put = async (pots: Pot[]) => {
  await sql("delete from register.t_pots");
  for (const p of pots)
    await sql(
      "insert into register.t_pots (name, state, worth, found, sound, keeper, secret) values ($1, $2, $3, $4, $5, $6, 7)",
      [p.name, p.state, p.worth, p.found, p.sound, p.keeper],
    );
  await sql("update register.t_pots set inside = (select min(id) from register.t_pots) where name = 'a'");
};
const ALL = { search: "", filters: [] };

it("groups come to what counting and adding by hand comes to, and each leads to its records", async () => {
  const pot: fc.Arbitrary<Pot> = fc.record({
    // Names that hold each other, and what would end a text.
    name: fc.constantFrom(null, "", "a", "ab", 'a"b', "a\\b"),
    state: fc.constantFrom(null, "whole", "broken"),
    worth: fc.constantFrom(null, "1.10", "2.25", "-3"),
    found: fc.constantFrom(null, "2026-01-02", "1890-12-31"),
    sound: fc.constantFrom(null, true, false),
    keeper: fc.constantFrom(null, "maeve.dunlea", "sorcha.lind"),
  });
  await fc.assert(
    fc.asyncProperty(
      fc.array(pot, { maxLength: 9 }),
      fc.constantFrom("name", "state", "worth", "found", "sound", "keeper", "inside"),
      fc.constantFrom("", "Worth > 0"),
      async (pots, by, where) => {
        await put(pots);
        const column = POTS.columns.find((c) => c.id === by)!;
        const all = value(
          await registerPage(keeper, "t_pots", { ...ALL, sort: [], offset: 0, limit: 50 }, where),
        );
        const want = new Map<string, { count: number; worth: number }>();
        for (const r of all.rows) {
          const key = String(r[by] === "" ? null : (r[by] ?? null));
          const g = want.get(key) ?? { count: 0, worth: 0 };
          want.set(key, { count: g.count + 1, worth: g.worth + Math.round(Number(r["worth"] ?? 0) * 100) });
        }
        const { groups, more } = value(await registerGroups(keeper, "t_pots", ALL, where, by));
        expect(more).toBe(false);
        const got = new Map<string, { count: number; worth: number }>();
        for (const g of groups) {
          const key = String(g.value);
          const before = got.get(key) ?? { count: 0, worth: 0 };
          const worth = by === "worth" ? g.count * Number(g.value ?? 0) : Number(g.sums["worth"] ?? 0);
          got.set(key, { count: before.count + g.count, worth: before.worth + Math.round(worth * 100) });
        }
        expect(got).toEqual(want);
        for (const g of groups.filter((x) => x.value !== null)) {
          const view = listView(
            new URLSearchParams(
              groupView(`where=${encodeURIComponent(where)}&group=${by}&page=3`, column, g.value),
            ),
          );
          expect(view.group).toBeNull();
          const led = value(
            await registerPage(
              keeper,
              "t_pots",
              { search: view.search, filters: view.filters, sort: [], offset: 0, limit: 50 },
              view.where,
            ),
          );
          expect(led.rows.map((r) => r[by])).toEqual(Array(g.count).fill(g.value));
        }
      },
    ),
    { numRuns: 60, endOnFailure: true },
  );
});
it("nobody groups by what they do not see, nor sees its sum", async () => {
  await put([{ name: "x", state: "whole", worth: "1", found: null, sound: null, keeper: null }]);
  expect(await registerGroups(reader, "t_pots", ALL, "", "secret")).toMatchObject({ ok: false });
  const { groups } = value(await registerGroups(reader, "t_pots", ALL, "", "state"));
  expect(groups).toMatchObject([{ value: "whole", count: 1, sums: { worth: "1" } }]);
  expect(groups[0]!.sums).not.toHaveProperty("secret");
  expect(value(await registerGroups(keeper, "t_pots", ALL, "", "state")).groups[0]!.sums).toHaveProperty(
    "secret",
  );
});

describe("kept views", () => {
  const names = async (who: Actor) => (await keptViews(who, "t_pots")).map((v) => v.name);
  beforeEach(() => sql("delete from register_view"));
  it("are one's own, or everybody's where whoever looks after the register says so", async () => {
    value(await keepView(reader, "t_pots", "Mine", "is.state=whole", false));
    value(await keepView(keeper, "t_pots", "Ours", "sort=-worth", true));
    expect(await keepView(reader, "t_pots", "Ours too", "", true)).toMatchObject({ ok: false });
    expect(await names(reader)).toEqual(["Mine", "Ours"]);
    expect(await names(keeper)).toEqual(["Ours"]);
    const [mine, ours] = await keptViews(reader, "t_pots");
    expect([mine!.mine, ours!.mine]).toEqual([true, false]);
    expect(await removeView(reader, ours!.id)).toMatchObject({ ok: false });
    expect(await removeView(keeper, mine!.id)).toMatchObject({ ok: false, failure: { code: "not-found" } });
    value(await removeView(keeper, ours!.id));
    expect(await names(reader)).toEqual(["Mine"]);
  });
  it("one of the same name becomes the new one, whatever its capitals", async () => {
    value(await keepView(reader, "t_pots", "Due", "q=a", false));
    value(await keepView(reader, "t_pots", " due ", "q=b", false));
    expect(await keptViews(reader, "t_pots")).toMatchObject([{ name: "due", view: "q=b" }]);
    for (const name of ["", "x".repeat(61)])
      expect(await keepView(reader, "t_pots", name, "", false)).toMatchObject({ ok: false });
  });
  it("of one that asks for what they do not see nobody is told", async () => {
    for (const view of [
      "is.secret=7",
      "sort=-secret",
      "cols=name,secret",
      "group=secret",
      "where=Secret+%3D+7",
    ])
      value(await keepView(keeper, "t_pots", view, view, true));
    value(await keepView(keeper, "t_pots", "open", "where=Worth+%3D+7&cols=name", true));
    expect(await names(reader)).toEqual(["open"]);
    expect(await names(keeper)).toHaveLength(6);
  });
});
