import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import {
  compile,
  DATETIME,
  dateTimeFrom,
  environment,
  evaluate,
  parseFormula,
  sqlCondition,
  TIME,
  timeFrom,
  type Scope,
  type Value,
} from "@/core/expression";
import { openWorld, sql } from "./world";

jest.setTimeout(120_000);

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

const COLUMNS: Scope = { Begins: DATETIME, Ends: DATETIME, Opens: TIME };
const OUTSIDE: Scope = { Then: DATETIME, Later: DATETIME, Hour: TIME };
const SQL: Record<string, string> = {
  Begins: "extract(epoch from t.begins)",
  Ends: "extract(epoch from t.ends)",
  Opens: "extract(epoch from t.opens)",
};
interface Row {
  id: number;
  begins: string | null;
  ends: string | null;
  opens: string | null;
}

/** Around the hours that clocks leave out and show twice, in zones that change by a whole and by half an hour. */
const NIGHTS = [
  "2026-03-29",
  "2026-10-25",
  "2026-03-08",
  "2026-11-01",
  "2026-04-05",
  "2026-10-04",
  "2026-07-01",
];
const ZONES = ["Europe/Dublin", "America/Halifax", "Australia/Lord_Howe", "UTC", "+05:30"];
const local = fc.tuple(fc.constantFrom(...NIGHTS), fc.integer({ min: 0, max: 4 * 12 })).map(([day, fives]) =>
  Temporal.PlainDateTime.from(`${day}T00:00`)
    .add({ minutes: 5 * fives })
    .toString()
    .slice(0, 16),
);
const zoned = fc
  .tuple(
    local,
    fc.constantFrom(...ZONES),
    fc.constantFrom("earlier" as const, "later" as const),
    fc.constantFrom(0, 1, -1),
  )
  .map(([l, zone, disambiguation, ns]) =>
    Temporal.PlainDateTime.from(l).toZonedDateTime(zone, { disambiguation }).add({ nanoseconds: ns }),
  );
const moment: fc.Arbitrary<Value> = fc.oneof(
  zoned,
  local.map((l) => dateTimeFrom(`${l}:00`)),
  fc.constant(null),
);
const clock = fc
  .integer({ min: 0, max: 287 })
  .map((n) => `${String(Math.floor(n / 12)).padStart(2, "0")}:${String((n % 12) * 5).padStart(2, "0")}`);
const hour: fc.Arbitrary<Value> = fc.oneof(
  clock.map((c) => timeFrom(`${c}:00`)),
  clock.map((c) => timeFrom(`${c}:00.000000001`)),
  fc
    .tuple(clock, fc.constantFrom("Europe/Dublin", "America/Halifax"))
    .map(([c, z]) => timeFrom(`${c}:00@${z}`)),
  fc.tuple(clock, fc.constantFrom("+05:00", "Z")).map(([c, z]) => timeFrom(`${c}:00${z}`)),
  fc.constant(null),
);
const row = fc.record({ begins: fc.option(local), ends: fc.option(local), opens: fc.option(clock) });
const CONDITIONS = [
  ...["<", "<=", ">", ">=", "=", "!="].flatMap((op) => [
    `Begins ${op} Then`,
    `Then ${op} Begins`,
    `Begins ${op} Ends`,
    `Opens ${op} Hour`,
    `Hour ${op} Opens`,
    `Begins ${op} now()`,
  ]),
  "Begins in [Then..Later]",
  "Begins in (Then..Later)",
  "Begins between Then and Later",
  'Opens in [Hour..time("23:00:00")]',
  "Begins = null",
  "Opens != null",
  "is empty(Begins)",
  "Begins > Then and (Ends < Later or Opens > Hour)",
  "not(Begins > Then)",
  'date(Begins) = date("2026-10-25")',
  "date(Begins) > date(Ends)",
];

it("finds by times and moments just those for which the formula holds, also where clocks change", async () => {
  let held = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.array(row, { minLength: 30, maxLength: 30 }),
      fc.record({ Then: moment, Later: moment, Hour: hour }),
      zoned,
      async (values, outer, now) => {
        const rows: Row[] = values.map((r, i) => ({ id: i, ...r }));
        const outside = new Map<string, Value>(Object.entries(outer));
        for (const text of CONDITIONS) {
          const made = sqlCondition(text, COLUMNS, OUTSIDE, (path) => {
            const s = SQL[path.join(".")];
            return s ? { sql: s, type: COLUMNS[path[0]!]! } : null;
          });
          if (!made.ok) throw new Error(`${text}: ${JSON.stringify(made)}`);
          const params: unknown[] = [JSON.stringify(rows)];
          const where = made.condition.where(environment(outside, { now }), (v) => `$${params.push(v)}`);
          const found = await sql<{ id: number }>(
            `select id from jsonb_to_recordset($1::jsonb) t (id int, begins timestamp, ends timestamp, opens time) where ${where} order by id`,
            params,
          );
          const { ast } = parseFormula(text, { ...OUTSIDE, ...COLUMNS });
          const program = compile(ast!);
          const expected = rows.filter((r) => {
            const names = new Map<string, Value>([
              ...outside,
              ["Begins", r.begins === null ? null : dateTimeFrom(`${r.begins}:00`)],
              ["Ends", r.ends === null ? null : dateTimeFrom(`${r.ends}:00`)],
              ["Opens", r.opens === null ? null : timeFrom(`${r.opens}:00`)],
            ]);
            return evaluate(program, environment(names, { now })) === true;
          });
          held += expected.length;
          expect([text, found.map((f) => f.id)]).toEqual([text, expected.map((r) => r.id)]);
        }
      },
    ),
    { numRuns: 15, endOnFailure: true },
  );
  // Or nothing was ever told apart.
  expect(held).toBeGreaterThan(1000);
});
