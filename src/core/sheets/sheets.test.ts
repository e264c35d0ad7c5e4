import { FIELDS } from "@/fields/kinds";
import {
  guessKind,
  doubtfulDate,
  guessDates,
  guessDecimal,
  guessMatches,
  planRow,
  type PlanContext,
  type SheetPlan,
} from ".";
import type { RegisterShape } from "../form";

const cells = (...texts: string[]) => texts.map((text) => ({ text }));

it("guesses how dates and numbers are read by those that read in one way only", () => {
  expect(guessDates(cells("03/04/2026", "13/04/2026"))).toBe("day");
  expect(guessDates(cells("03/04/2026", "04/13/2026", "12/31/2026"))).toBe("month");
  expect(guessDates(cells("03/04/2026"))).toBe("day");
  expect(guessDecimal(cells("1.250", "3,5"))).toBe(",");
  expect(guessDecimal(cells("1.250,00"))).toBe(",");
  expect(guessDecimal(cells("1.250.000"))).toBe(",");
  expect(guessDecimal(cells("1,250", "2,000"))).toBe(".");
  expect(guessDecimal(cells("EUR 12,50"))).toBe(",");
  expect(guessDecimal([{ text: "3,5", typed: true }])).toBe(".");
  expect(doubtfulDate(cells("13/04/2026", "03/04/2026"))).toBe("03/04/2026");
  expect(doubtfulDate(cells("13/04/2026", "04/04/2026"))).toBeNull();
});

const SHAPE: RegisterShape = {
  format: "cobble-step/register@1",
  key: "crates",
  name: "Crates",
  one: "crate",
  purpose: "",
  title: ["code"],
  columns: [
    { id: "code", name: "Code", kind: "text" },
    { id: "pieces", name: "Number of pieces", kind: "number" },
    { id: "state", name: "State", kind: "choice", options: ["free", "packed"] },
  ],
};

it("matches headings by name, each column once", () => {
  expect(guessMatches(["STATE", "number-of-pieces", "Code", "code", "Colour", ""], SHAPE.columns)).toEqual([
    "state",
    "pieces",
    "code",
    null,
    null,
    null,
  ]);
});

const PLAN: SheetPlan = {
  matches: ["code", "pieces", "state"],
  key: "code",
  reading: { dates: "day", decimal: "." },
  there: "change",
  absent: "add",
  empty: "leave",
  aMinute: null,
  quietly: false,
};
const there = { A1: [{ record: { id: "7", code: "A1", pieces: "3", state: "free" }, version: "70" }] };
const context = (
  known: Record<string, { record: { id: string }; version: string }[]> = there,
): PlanContext => ({
  shape: SHAPE,
  kinds: FIELDS,
  named: () => ({ why: "none" }),
  withKey: (v) => (known[v] ?? []) as never,
  keys: new Map(),
});
const plan = (texts: string[], p: Partial<SheetPlan> = {}, ctx = context(), line = 2) =>
  planRow({ ...PLAN, ...p }, { line, cells: cells(...texts) }, ctx);

it("changes what is there, of the version that was seen, and adds what is not", () => {
  expect(plan(["A1", "5", ""])).toMatchObject({
    as: "write",
    write: { op: "change", id: "7", seen: "70", values: { code: "A1", pieces: "5" } },
  });
  expect(plan(["A2", "5", ""])).toMatchObject({
    as: "write",
    write: { op: "add", values: { code: "A2", pieces: "5" } },
  });
});
it("an empty cell empties only where that is wanted", () => {
  const left = plan(["A1", "", "packed"]);
  expect(left.as === "write" && left.write).toEqual({
    op: "change",
    id: "7",
    seen: "70",
    values: { code: "A1", state: "packed" },
  });
  const emptied = plan(["A1", "", "packed"], { empty: "empty" });
  expect(emptied.as === "write" && emptied.write).toMatchObject({
    values: { code: "A1", pieces: null, state: "packed" },
  });
});
it("leaves what is not wanted, and refuses what cannot be told", () => {
  expect(plan(["A1"], { there: "leave" })).toMatchObject({ as: "left", why: "there" });
  expect(plan(["A2"], { absent: "leave" })).toMatchObject({ as: "left", why: "absent" });
  expect(plan(["", "5"])).toMatchObject({ as: "refused", mistake: { code: "no-key" } });
  expect(plan(["", ""])).toMatchObject({ as: "refused", mistake: { code: "empty-row" } });
  const ctx = context({ ...there, A3: [...there.A1, ...there.A1] });
  expect(plan(["A3"], {}, ctx)).toMatchObject({ mistake: { code: "key-several", count: 2 } });
  expect(plan(["A4"], {}, ctx, 5)).toMatchObject({ as: "write" });
  expect(plan(["A4"], {}, ctx, 6)).toMatchObject({ mistake: { code: "key-twice", line: 5 } });
});
it("without a key every row is a record of its own", () => {
  const ctx = context();
  expect([plan(["A1"], { key: null }, ctx), plan(["A1"], { key: null }, ctx)]).toMatchObject([
    { write: { op: "add" } },
    { write: { op: "add" } },
  ]);
});

it.each<[string, string[], string]>([
  ["Fit", ["yes", "No", ""], "yes or no"],
  // Ones and noughts are figures.
  ["Pieces", ["1", "0", "1"], "number"],
  ["Pieces", ["1", "x"], "text"],
  ["Code", ["007", "12"], "text"],
  ["Worth", ["1.5", "2"], "money"],
  ["Sum of it", ["EUR 5", "3"], "money"],
  ["Day", ["03/04/2026", "13/04/2026"], "date"],
  ["Day", ["03/04/2026", "soon"], "text"],
  ["State", ["a", "b", "a", "b", "a", "b"], "choice"],
  ["State", ["a", "b", "c"], "text"],
  ["Words", ["x".repeat(200)], "long text"],
  ["Nothing", ["", ""], "text"],
])("%s with %j is guessed to be %s", (heading, texts, kind) =>
  expect(guessKind(heading, cells(...texts), { dates: "day", decimal: "." }).kind).toBe(kind),
);
