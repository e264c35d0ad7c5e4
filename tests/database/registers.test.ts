import { getPool, recordsLinked, registers } from "@/db";
import { lookUp, recordPage, registerPage } from "@/services";
import { loadDirectory } from "@/services/kernel/directory";
import { openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());
const all = { search: "", filters: [], sort: [], offset: 0, limit: 50 };

it("finds, filters, sorts and pages on the server", async () => {
  const maeve = await person("maeve.dunlea");
  const first = value(await registerPage(maeve, "objects", all));
  expect(first.rows).toHaveLength(50);
  expect(first.total).toBe(300);
  const dear = value(
    await registerPage(maeve, "objects", { ...all, sort: [{ column: "insured_value", descending: true }] }),
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
        sort: [{ column: "1; drop", descending: false }],
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

it("reads records with what they link to in one statement, as going from link to link would", async () => {
  const db = getPool();
  const { registers: shapes } = await loadDirectory(db);
  await sql("insert into register.borrowers (name) values ('Harbour Trust'), ('Moor House')");
  await sql(
    `insert into register.loans (file_number, borrower, ends, total_insured_value)
     select 'L-' || b.id || g, b.id, date '2027-02-28', 0.50 from register.borrowers b, generate_series(1, 2) g`,
  );
  await sql(
    `insert into register.loan_objects (loan, object, value_at_signing, decision)
     select l.id, o.id, '12345678901234567890.10', 'accepted'
     from (select id from register.loans order by id limit 3) l, (select id from register.objects order by id limit 4) o`,
  );
  const idsOf = async (key: string, limit: number) =>
    (await sql<{ id: string }>(`select id from register.${key} order by id desc limit ${limit}`)).map(
      (r) => r.id,
    );
  /** Slow, and obviously right. */
  const walked = async (wanted: Map<string, string[]>, depth: number) => {
    const found = new Map<string, unknown>();
    let level = wanted;
    for (let i = 0; i <= depth; i++) {
      const next = new Map<string, string[]>();
      for (const [key, ids] of level)
        for (const r of await registers.recordsByIds(db, shapes[key]!, ids)) {
          found.set(`${key}/${r.id}`, r);
          for (const c of shapes[key]!.columns)
            if (c.register && r[c.id])
              next.set(c.register, [...(next.get(c.register) ?? []), String(r[c.id])]);
        }
      level = next;
    }
    return found;
  };
  const wanted = new Map([
    ["loan_objects", [...(await idsOf("loan_objects", 9)), "999999999999999999"]],
    ["objects", await idsOf("objects", 2)],
    ["price_list", []],
  ]);
  for (const depth of [0, 1, 2]) {
    const found = new Map(
      (await recordsLinked(db, shapes, wanted, depth)).map((r) => [`${r.register}/${r.record.id}`, r.record]),
    );
    const right = await walked(wanted, depth);
    expect(right.size).toBeGreaterThan(10);
    expect(Object.fromEntries(found)).toEqual(Object.fromEntries(right));
  }
});
