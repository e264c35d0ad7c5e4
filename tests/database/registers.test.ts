import { lookUp, recordPage, registerPage } from "@/services";
import { openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());
const all = { search: "", filters: [], sort: null, offset: 0, limit: 50 };

it("finds, filters, sorts and pages on the server", async () => {
  const maeve = await person("maeve.dunlea");
  const first = value(await registerPage(maeve, "objects", all));
  expect(first.rows).toHaveLength(50);
  expect(first.total).toBe(300);
  const dear = value(
    await registerPage(maeve, "objects", { ...all, sort: { column: "insured_value", descending: true } }),
  ).rows.map((r) => Number(r["insured_value"]));
  expect(dear).toEqual([...dear].sort((a, b) => b - a));
  const store = value(
    await registerPage(maeve, "objects", { ...all, filters: [{ column: "status", value: "on show" }] }),
  );
  expect(store.total).toBe(
    Number(
      (await sql<{ n: string }>("select count(*) n from register.objects where status = 'on show'"))[0]!.n,
    ),
  );
  const next = value(await registerPage(maeve, "objects", { ...all, offset: 50 }));
  expect(next.rows[0]!.id).not.toBe(first.rows[0]!.id);
});
it("takes what people type as text, never as SQL or a pattern", async () => {
  const maeve = await person("maeve.dunlea");
  for (const search of ["%", "_", "\\", "'; drop table register.objects; --", "\u0000".slice(1)])
    expect((await registerPage(maeve, "objects", { ...all, search })).ok).toBe(true);
  expect(value(await registerPage(maeve, "objects", { ...all, search: "%" })).total).toBe(0);
  expect(
    value(
      await registerPage(maeve, "objects", {
        ...all,
        filters: [{ column: "id) or (1=1", value: "x" }],
        sort: { column: "1; drop", descending: false },
      }),
    ).total,
  ).toBe(300);
  expect(await registerPage(maeve, 'objects"; drop', all)).toMatchObject({
    ok: false,
    failure: { code: "not-found" },
  });
  for (const key of ["constructor", "toString", "__proto__", "hasOwnProperty"]) {
    const missing = { ok: false, failure: { code: "not-found" } };
    expect(await registerPage(maeve, key, all)).toMatchObject(missing);
    expect(await recordPage(maeve, key, "1")).toMatchObject(missing);
    expect(await lookUp(maeve, key, "x")).toMatchObject(missing);
  }
  expect(await recordPage(maeve, "objects", "1 or 1=1")).toMatchObject({ ok: false });
});
it("looks up records by a part of their title, with their values", async () => {
  const found = value(await lookUp(await person("piet.hanlon"), "price_list", "gloves"));
  expect(found).toMatchObject([{ title: "Nitrile gloves", record: { unit: "box of 100" } }]);
});

it("a condition that cannot be worked out finds nothing wrongly: it is refused with the reason", async () => {
  const maeve = await person("maeve.dunlea");
  const find = (condition: string) => registerPage(maeve, "price_list", all, condition);
  for (const [condition, why] of [
    ["Price > 1 / 0", "divided by zero"],
    ["Price = 3 or not(Price > 1 / 0)", "divided by zero"],
    ["Price > count(for i in 1..99999 return (i / 7) ** 0.37)", "more work"],
  ] as const)
    expect(await find(condition)).toMatchObject({
      ok: false,
      failure: { code: "invalid", data: { message: expect.stringContaining(why) as string } },
    });
  // An end of a range is written twice and worked out once: it may take what is allowed.
  const large = "count(for i in 1..99999 return i + i)";
  const every = value(await find("Price >= 0")).total;
  expect(value(await find(`Price in [0 .. ${large}]`)).total).toBe(every);
  expect(value(await find("Price > null")).total).toBe(0);
});
