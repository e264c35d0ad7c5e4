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

/** Nights in which clocks leave hours out or show them twice, by a whole or half an hour, and one in which they do not. */
const NIGHTS = [
  ["2026-03-29", "Europe/Dublin"],
  ["2026-10-25", "Europe/Dublin"],
  ["2026-03-08", "America/Halifax"],
  ["2026-11-01", "America/Halifax"],
  ["2026-04-05", "Australia/Lord_Howe"],
  ["2026-10-04", "Australia/Lord_Howe"],
  ["2026-07-01", "+05:30"],
] as const;
/** Mostly at half hours, because clocks change then. */
const localOf = (day: string) =>
  fc
    .oneof(
      fc.integer({ min: 0, max: 8 }).map((halves) => halves * 30),
      fc.integer({ min: 0, max: 24 }).map((tens) => tens * 10),
    )
    .map((minutes) => Temporal.PlainDateTime.from(`${day}T00:00`).add({ minutes }).toString().slice(0, 16));
const zonedOf = (day: string, zone: string) =>
  fc
    .tuple(localOf(day), fc.constantFrom("earlier" as const, "later" as const), fc.constantFrom(0, 0, 1, -1))
    .map(([l, disambiguation, ns]) =>
      Temporal.PlainDateTime.from(l).toZonedDateTime(zone, { disambiguation }).add({ nanoseconds: ns }),
    );
const momentOf = (day: string, zone: string): fc.Arbitrary<Value> =>
  fc.oneof(
    { weight: 6, arbitrary: zonedOf(day, zone) },
    { weight: 2, arbitrary: localOf(day).map((l) => dateTimeFrom(`${l}:00`)) },
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
const night = fc.constantFrom(...NIGHTS).chain(([day, zone]) =>
  fc.record({
    values: fc.array(
      fc.record({ begins: fc.option(localOf(day)), ends: fc.option(localOf(day)), opens: fc.option(clock) }),
      { minLength: 30, maxLength: 30 },
    ),
    outer: fc.record({ Then: momentOf(day, zone), Later: momentOf(day, zone), Hour: hour }),
    now: zonedOf(day, zone),
  }),
);
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
  'date(Begins) = date("2026-10-25") or date(Begins) < date(Then)',
  "date(Begins) > date(Ends)",
];

it("finds by times and moments just those for which the formula holds, also where clocks change", async () => {
  let held = 0;
  await fc.assert(
    fc.asyncProperty(night, async ({ values, outer, now }) => {
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
    }),
    { numRuns: 40, endOnFailure: true },
  );
  // Or nothing was ever told apart.
  expect(held).toBeGreaterThan(1000);
});
