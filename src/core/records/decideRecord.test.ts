import { Temporal } from "temporal-polyfill";
import { KINDS } from "@/kinds";
import { factsFrom, type FactsData, type RegisterRule, type RegisterShape, type StoredRecord } from "../form";
import { decideRecord, recordProgram, type RecordValues } from ".";

const borrowers: RegisterShape = {
  format: "cobble-step/register@1",
  key: "borrowers",
  name: "Borrowers",
  one: "borrower",
  purpose: "",
  title: ["name"],
  columns: [
    { id: "name", name: "Borrower name", kind: "text" },
    { id: "standing", name: "Standing", kind: "choice", options: ["good", "poor"] },
  ],
};
const loans = (rules: RegisterRule[] = [], more: Partial<RegisterShape> = {}): RegisterShape => ({
  format: "cobble-step/register@1",
  key: "loans",
  name: "Loans",
  one: "loan",
  purpose: "",
  title: ["file"],
  columns: [
    { id: "file", name: "File", kind: "text", needed: true },
    { id: "borrower", name: "Borrower", kind: "look-up", register: "borrowers" },
    { id: "starts", name: "Starts", kind: "date" },
    { id: "ends", name: "Ends", kind: "date" },
    {
      id: "status",
      name: "Status",
      kind: "choice",
      options: ["proposed", "agreed", "back"],
      starting: '"proposed"',
    },
    { id: "objects", name: "Objects", kind: "number" },
    { id: "value", name: "Value", kind: "money" },
    { id: "each", name: "Value each", kind: "money", worked: "Value / Objects" },
  ],
  rules,
  ...more,
});
const data = (shape: RegisterShape): FactsData => ({
  people: {},
  registers: { borrowers, [shape.key]: shape },
  records: { borrowers: { "1": { id: "1", name: "Aran House", standing: "poor" } } },
});
function decide(
  before: Record<string, string | boolean | null> | null,
  change: RecordValues | null,
  rules: RegisterRule[] = [],
  more: Partial<RegisterShape> = {},
) {
  const shape = loans(rules, more);
  const registers = { borrowers, loans: shape };
  const p = recordProgram(shape, { registers, kinds: KINDS });
  const facts = factsFrom(
    data(shape),
    { now: Temporal.ZonedDateTime.from("2026-03-03T10:00[Europe/Dublin]") },
    KINDS.fields,
  );
  return decideRecord(p, before && ({ id: "9", ...before } as StoredRecord), change, facts);
}
const REFUSE: RegisterRule = {
  id: "r1",
  on: "added or changed",
  when: "Ends < Starts",
  then: { do: "refuse", say: "A loan may not end before it starts." },
};
const full = {
  file: "L-1",
  borrower: null,
  starts: "2026-04-01",
  ends: "2026-05-01",
  status: "agreed",
  objects: "4",
  value: "100.00",
  each: "25",
};

it("begins a new record with what its columns say, and works out the rest", () => {
  const r = decide(null, { file: "L-1", value: "100", objects: "3" });
  expect(r).toMatchObject({ ok: true, values: { status: "proposed", each: "33.33", borrower: null } });
});
it("keeps what is said over what a column begins with", () => {
  expect(decide(null, { file: "L-1", status: "back", value: "1", objects: "1" })).toMatchObject({
    values: { status: "back" },
  });
});
it("never takes a worked-out column from outside", () => {
  expect(decide(null, { file: "L-1", value: "100", objects: "4", each: "7" })).toMatchObject({
    values: { each: "25" },
  });
});
it("does not keep as empty what cannot be worked out", () => {
  const r = decide(null, { file: "L-1", value: "100", objects: "0" });
  expect(r).toMatchObject({ ok: false, problems: [{ code: "unclear", path: "each" }] });
});

describe("what fits", () => {
  it.each([
    [{ file: null }, "needed", "file"],
    [{ file: "   " }, "needed", "file"],
    [{ status: "lost" }, "not-an-option", "status"],
    [{ starts: "1 May" }, "not-a-date", "starts"],
    [{ objects: "many" }, "not-a-number", "objects"],
    [{ value: "1.234" }, "too-many-decimals", "value"],
    [{ borrower: "77" }, "no-record", "borrower"],
    [{ file: true }, "not-a-text", "file"],
  ])("%j is refused", (change, code, path) => {
    for (const before of [full, null]) {
      const r = decide(before, before ? change : { ...full, ...change });
      expect(r).toMatchObject({ ok: false });
      expect(r.ok ? [] : r.problems.map((p) => `${p.code} ${p.path}`)).toContain(`${code} ${path}`);
    }
  });
  it("does not judge what was there and is not touched", () => {
    const old = { ...full, status: "lost", borrower: "77", file: null };
    expect(decide(old, { starts: "2026-04-02" })).toMatchObject({ ok: true, values: { status: "lost" } });
    expect(decide(old, { status: "gone" })).toMatchObject({ ok: false });
  });
});

describe("rules", () => {
  it("refuse with their sentence, when added and when changed", () => {
    const bad = {
      ok: false,
      problems: [{ code: "check", path: "", data: { say: "A loan may not end before it starts." } }],
    };
    expect(decide(null, { ...full, ends: "2026-03-01" }, [REFUSE])).toEqual({
      ...bad,
      problems: [
        { ...bad.problems[0], data: { field: "Loans", say: "A loan may not end before it starts." } },
      ],
    });
    expect(decide(full, { ends: "2026-03-01" }, [REFUSE])).toMatchObject(bad);
    expect(decide(full, { ends: "2026-04-01" }, [REFUSE])).toMatchObject({ ok: true });
    expect(decide(full, { ends: null }, [REFUSE])).toMatchObject({ ok: true });
  });
  it.each([
    ["added", null, full, true],
    ["added", full, { file: "L-2" }, false],
    ["changed", null, full, false],
    ["changed", full, { file: "L-2" }, true],
    ["removed", full, { file: "L-2" }, false],
    ["removed", null, full, false],
    ["removed", full, null, true],
    ["added or changed", full, null, false],
    ["changed", full, null, false],
  ] as const)("when %s", (on, before, change, asked) => {
    const r = decide(before, change, [{ id: "r", on, when: "true", then: { do: "refuse", say: "No." } }]);
    expect(r.ok).toBe(!asked);
  });
  it("set a column, each seeing what those before it have set, and what is worked out follows", () => {
    const r = decide(full, { status: "back" }, [
      {
        id: "a",
        on: "changed",
        when: 'Status = "back" and Before.Status != "back"',
        then: { do: "set", column: "ends", value: "today()" },
      },
      {
        id: "b",
        on: "changed",
        when: 'Ends = date("2026-03-03")',
        then: { do: "set", column: "objects", value: "Before.Objects + 1" },
      },
    ]);
    expect(r).toMatchObject({ ok: true, values: { ends: "2026-03-03", objects: "5", each: "20" } });
    expect(
      decide({ ...full, status: "back" }, { file: "L-2" }, [
        {
          id: "a",
          on: "changed",
          when: 'Status = "back" and Before.Status != "back"',
          then: { do: "set", column: "ends", value: "today()" },
        },
      ]),
    ).toMatchObject({ values: { ends: "2026-05-01" } });
  });
  it("follow links, as they are now", () => {
    const rule: RegisterRule = {
      id: "r",
      on: "added or changed",
      when: 'Borrower.Standing = "poor"',
      then: { do: "refuse", say: "Not to them." },
    };
    expect(decide(full, { borrower: "1" }, [rule])).toMatchObject({
      ok: false,
      problems: [{ code: "check" }],
    });
    expect(decide({ ...full, borrower: "1" }, { borrower: null }, [rule])).toMatchObject({ ok: true });
    // Of a record that is gone nothing can be told, which is no "no".
    expect(decide({ ...full, borrower: "77" }, { file: "L-3" }, [rule])).toMatchObject({
      ok: false,
      problems: [{ code: "unclear" }],
    });
  });
  it("that cannot be worked out hold the record up, for a new one too; Before is empty then", () => {
    const rule = (when: string): RegisterRule => ({
      id: "r",
      on: "added or changed",
      when,
      then: { do: "refuse", say: "No." },
    });
    expect(decide(full, { objects: "2" }, [rule("1 / (Objects - 2) > 1")])).toMatchObject({
      ok: false,
      problems: [{ code: "unclear" }],
    });
    expect(decide(null, full, [rule('Before.Status = "agreed"')])).toMatchObject({ ok: true });
    expect(decide(full, { objects: "2" }, [rule('Before.Status = "agreed"')])).toMatchObject({ ok: false });
    expect(decide(full, { objects: "2" }, [rule("Nonsense +")])).toMatchObject({ ok: false });
  });
  it("tell that Before cannot be read rather than taking it for empty", () => {
    const rule: RegisterRule = {
      id: "r",
      on: "changed",
      when: "Before.Starts < today()",
      then: { do: "set", column: "file", value: '"x"' },
    };
    expect(decide({ ...full, starts: "nonsense" }, { starts: "2026-04-02" }, [rule])).toMatchObject({
      ok: false,
      problems: [{ code: "unclear" }],
    });
  });
  it("neither write over what was typed wrong, nor take it for empty", () => {
    const fill: RegisterRule = {
      id: "r1",
      on: "added or changed",
      when: "Ends = null",
      then: { do: "set", column: "ends", value: "Starts" },
    };
    for (const [ends, code] of [
      ["2026-02-31", "not-a-date"],
      ["soon", "not-a-date"],
    ])
      expect(decide(null, { ...full, ends: ends! }, [fill])).toMatchObject({
        ok: false,
        problems: [{ code, path: "ends" }],
      });
    expect(decide(full, { borrower: "77" }, [{ ...fill, when: "Borrower = null" }])).toMatchObject({
      problems: [{ code: "no-record", path: "borrower" }],
    });
    // What stands there wrongly already is nobody's typing.
    expect(decide({ ...full, status: "gone" }, { file: "L-2" }, [fill])).toMatchObject({ ok: true });
    expect(decide(null, { ...full, ends: "" }, [fill])).toMatchObject({ values: { ends: "2026-04-01" } });
  });
  it("are held to their column: what does not fit is not set", () => {
    const r = decide(full, { objects: "2" }, [
      { id: "r", on: "changed", when: "true", then: { do: "set", column: "status", value: '"lost"' } },
    ]);
    expect(r).toMatchObject({ ok: false, problems: [{ code: "unclear", path: "status" }] });
  });
});
