import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import {
  aroundRecords,
  compileForm,
  evaluateForm,
  factsFrom,
  formAround,
  prepareForm,
  type Field,
  type FormData,
  type StoredRecord,
} from "@/core/form";
import { getPool, registers } from "@/db";
import { KINDS } from "@/kinds";
import { openWorld, sql } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
jest.setTimeout(60_000);
beforeAll(async () => {
  world = await openWorld();
  await sql("update register.price_list set unit = null where id % 5 = 0");
  await sql("update register.price_list set category = null where id % 7 = 0");
});
afterAll(() => world.close());

const amount = fc.constantFrom("null", "0", "5", "11.20", "16.8", "40");
const word = fc.constantFrom('"packing"', '"tools"', '"PACKING"', "Form.Category", "Word", "null");
const part = fc.oneof(
  fc
    .tuple(
      fc.constantFrom("<", ">", "<=", "=", "!="),
      fc.oneof(amount, fc.constantFrom("Most", "Form.Price")),
    )
    .map(([op, v]) => `Price ${op} ${v}`),
  fc.tuple(fc.constantFrom("=", "!="), word).map(([op, w]) => `Category ${op} ${w}`),
  fc.constantFrom(
    "Unit = null",
    "Unit != null",
    'starts with(Item name, "A")',
    "contains(Item name, Word)",
    "string length(Item name) > 12",
    "Price in [5..Most]",
    'Category in ("packing", "tools")',
    "Price * 2 > Most",
    "not(Category = Form.Category)",
    "true",
  ),
);
const condition: fc.Arbitrary<string> = fc
  .array(fc.tuple(part, fc.constantFrom(" and ", " or ")), { minLength: 1, maxLength: 3 })
  .map((all) => all.map(([p, join], i) => (i === 0 ? p : `${join}${p}`)).join(""));
const maybe = <T>(a: fc.Arbitrary<T>) => fc.option(a, { nil: null });

it("lists just those that are taken when they are sent, whatever the condition and what is filled in", async () => {
  const db = getPool();
  const d = Object.fromEntries((await registers.allRegisters(db)).map((r) => [r.key, r]));
  const around = { registers: d, kinds: KINDS };
  const shape = d["price_list"]!;
  const all = await registers.recordsByIds(
    db,
    shape,
    (await sql<{ id: string }>("select id::text from register.price_list")).map((r) => r.id),
  );
  const records = { price_list: Object.fromEntries(all.map((r) => [r.id, r as StoredRecord])) };
  const now = Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]");
  const facts = factsFrom({ people: {}, registers: d, records }, { now }, KINDS.fields);
  let listed = 0;
  await fc.assert(
    fc.asyncProperty(
      condition,
      fc.record({
        most: maybe(fc.constantFrom("5", "12", "40")),
        price: maybe(fc.constantFrom("11.2", "20")),
        category: maybe(fc.constantFrom("packing", "tools")),
        word: maybe(fc.constantFrom("a", "box")),
      }),
      async (offered, typed) => {
        const fields: Field[] = [
          { id: "most", name: "Most", kind: "money" },
          { id: "price", name: "Price", kind: "money" },
          { id: "category", name: "Category", kind: "text" },
          { id: "word", name: "Word", kind: "text" },
          { id: "pick", name: "Pick", kind: "look-up", register: "price_list", offered },
        ];
        const { form, problems } = prepareForm(fields, around);
        fc.pre(problems.length === 0);
        const program = compileForm(form, KINDS.fields);
        const run = (data: FormData) => evaluateForm(program, data, () => "edit", facts);
        const { names } = run(typed);
        const sought = {
          shape,
          condition: offered,
          outside: aroundRecords(fields, [], around),
          names: formAround(names, fields, undefined),
          facts,
          most: 1000,
          around,
          load: async () => facts,
          ms: 2000,
        };
        const found = await registers.recordsMeeting(db, { ...sought, sort: [], backwards: false });
        const taken = all
          .map((r) => ({ id: r.id, codes: run({ ...typed, pick: r.id }).problems.map((p) => p.code) }))
          .filter((r) => !r.codes.includes("not-offered") && !r.codes.includes("unclear"))
          .map((r) => r.id);
        if (!Array.isArray(found)) return;
        listed += found.length;
        expect([...found].sort()).toEqual(taken.sort());
        // What stands in a column is chosen of just those records.
        for (const column of ["category", "item"]) {
          const texts = await registers.textsMeeting(db, { ...sought, column });
          const held = all.filter((r) => taken.includes(r.id)).flatMap((r) => r[column] ?? []);
          expect([...(texts as string[])].sort()).toEqual([...new Set(held)].map(String).sort());
          const [first] = texts as string[];
          if (first === undefined) continue;
          const only = [first, "no such thing"];
          expect(await registers.textsMeeting(db, { ...sought, column, only })).toEqual([first]);
        }
      },
    ),
    { numRuns: 150, endOnFailure: true },
  );
  expect(listed).toBeGreaterThan(100);
});
