import { EVERYBODY, type RegisterShape } from "@/core/form";
import type { FormData } from "@/core/form";
import type { ProcessDefinition, Step } from "@/core/route";
import { inTransaction, registers } from "@/db";
import { createProcess, draftProblems, releaseDraft, startRequest, SYSTEM, type Actor } from "@/services";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

const BINS: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_bins",
  name: "Bins",
  one: "bin",
  purpose: "",
  title: ["code"],
  columns: [
    { id: "code", name: "Code", kind: "text", needed: true },
    { id: "place", name: "Place", kind: "text" },
    { id: "times", name: "Times", kind: "number", starting: "0" },
    { id: "stands_in", name: "Stands in", kind: "look-up", register: "t_bins" },
  ],
  rules: [{ id: "r", on: "changed", when: "Times > 90", then: { do: "refuse", say: "Too often." } }],
};

let world: Awaited<ReturnType<typeof openWorld>>;
let asker: Actor;
beforeAll(async () => {
  world = await openWorld();
  await inTransaction((db) =>
    registers.createRegister(db, BINS, { ...EVERYBODY, keepers: ["tobias.marrin"] }),
  );
  asker = await person("lucia.penrose");
});
afterAll(() => world.close());
beforeEach(() => sql("delete from register.t_bins"));

const bins = async (...rows: [code: string, place: string | null, times?: string, inside?: string][]) => {
  const out: string[] = [];
  for (const [code, place, times = "0", inside = null] of rows)
    out.push(
      (
        await sql<{ id: string }>(
          "insert into register.t_bins (code, place, times, stands_in) values ($1, $2, $3, $4) returning id::text as id",
          [code, place, times, inside],
        )
      )[0]!.id,
    );
  return out;
};
const now = async () =>
  (
    await sql<{ code: string; place: string | null; times: string | null; stands_in: string | null }>(
      "select code, place, times::text as times, stands_in::text as stands_in from register.t_bins t order by t.id",
    )
  ).map((r) => [r.code, r.place, r.times] as const);

let made = 0;
const FOUND: Step = {
  id: "f",
  name: "Bins there",
  kind: "find",
  register: "t_bins",
  where: "Place = Where",
  take: "some",
  most: 50,
  nothing: "on",
  ways: [],
};
/** Releases a process that finds the bins of a place and writes. */
async function process(write: object, route: Step[] = [FOUND]): Promise<string> {
  const key = `write-${++made}`;
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: `Write ${made}`,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: `WRT${made}`, digits: 4 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    access: {},
    samples: [],
    fields: [
      { id: "where", name: "Where", kind: "text" },
      { id: "code", name: "Which", kind: "text" },
      { id: "bin", name: "Bin", kind: "look-up", register: "t_bins" },
      { id: "store", name: "Store", kind: "look-up", register: "stores" },
      {
        id: "lines",
        name: "Lines",
        kind: "lines",
        fields: [
          { id: "c", name: "Line code", kind: "text" },
          { id: "p", name: "Line place", kind: "text" },
          { id: "s", name: "Line store", kind: "look-up", register: "stores" },
        ],
      },
    ],
    route: [
      ...route,
      {
        id: "w",
        name: "Write",
        kind: "write",
        register: "t_bins",
        op: "change",
        values: [],
        ...write,
      } as Step,
      { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" },
    ],
  };
  value(await createProcess(SYSTEM, definition));
  return key;
}
const released = async (write: object, route?: Step[]) => {
  const key = await process(write, route);
  value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  return key;
};
const start = async (key: string, data: FormData = {}) => value(await startRequest(asker, key, data));
const status = async (number: string) =>
  (await sql<{ status: string }>("select status from request where number = $1", [number]))[0]!.status;

const COUNT = { record: "Bins there", own: true, values: [{ column: "times", value: "Times + 1" }] };

it("changes all that were found, each over its own columns as they are", async () => {
  await bins(["a", "loft", "1"], ["b", "loft", "5"], ["c", "cellar", "7"]);
  const { number } = await start(await released(COUNT), { where: "loft" });
  expect(await status(number)).toBe("finished");
  expect(await now()).toEqual([
    ["a", "loft", "2"],
    ["b", "loft", "6"],
    ["c", "cellar", "7"],
  ]);
});
it("loses no count when many add to it at once", async () => {
  await bins(["a", "loft", "0"], ["b", "loft", "10"]);
  const key = await released(COUNT);
  await Promise.all(Array.from({ length: 12 }, () => start(key, { where: "loft" })));
  expect(await now()).toEqual([
    ["a", "loft", "12"],
    ["b", "loft", "22"],
  ]);
});
it("names of the route stand behind the record's own; a column that hides one wins", async () => {
  await bins(["a", "loft", "3"]);
  const key = await released({
    ...COUNT,
    values: [{ column: "place", value: 'Code + " of " + Where + ", " + string(count(Bins there))' }],
  });
  await start(key, { where: "loft" });
  expect(await now()).toEqual([["a", "a of loft, 1", "3"]]);
});
it("an empty list writes nothing and goes on, a record that is not there stops, one twice in a list is meant once", async () => {
  const [a] = await bins(["a", "loft", "1"]);
  expect(await status((await start(await released(COUNT), { where: "attic" })).number)).toBe("finished");
  const one = await released({ ...COUNT, record: "Bin" });
  expect(await status((await start(one, {})).number)).toBe("stuck");
  await start(one, { bin: a! });
  const twice = await released({ ...COUNT, record: "concatenate(Bins there, Bins there)" });
  await start(twice, { where: "loft" });
  expect(await now()).toEqual([["a", "loft", "3"]]);
});
it("what cannot be worked out of one writes none of them", async () => {
  await bins(["a", "loft", "1"], ["b", "loft", "0"], ["c", "loft", "90"]);
  const divided = await released({ ...COUNT, values: [{ column: "times", value: "10 / Times" }] });
  expect(await status((await start(divided, { where: "loft" })).number)).toBe("stuck");
  // A rule of the register refuses one of three.
  expect(await status((await start(await released(COUNT), { where: "loft" })).number)).toBe("stuck");
  expect((await now()).map((r) => r[2])).toEqual(["1", "0", "90"]);
});
it("own columns are read after what must hold, on the same locked record", async () => {
  await bins(["a", "loft", "1"], ["b", "loft", "5"]);
  const key = await released({ ...COUNT, must: "Times < 3", otherwise: "leave" });
  await Promise.all(Array.from({ length: 6 }, () => start(key, { where: "loft" })));
  expect((await now()).map((r) => r[2])).toEqual(["3", "5"]);
});

const PUT = {
  op: "put",
  key: "code",
  values: [
    { column: "code", value: "Which" },
    { column: "place", value: "Where" },
  ],
};
describe("add or change by a key", () => {
  it("adds what is not there, changes what is, and stops where several are", async () => {
    await bins(["a", "loft", "4"], ["d", "x"], ["d", "y"]);
    const key = await released(PUT, []);
    await start(key, { code: "a", where: "hall" });
    await start(key, { code: "b", where: "hall" });
    expect(await status((await start(key, { code: "d", where: "hall" })).number)).toBe("stuck");
    expect(await status((await start(key, { where: "hall" })).number)).toBe("stuck");
    expect(await now()).toEqual([
      ["a", "hall", "4"],
      ["d", "x", "0"],
      ["d", "y", "0"],
      ["b", "hall", "0"],
    ]);
  });
  it("adds one when many put the same at once, though the column need not be unique", async () => {
    // Of several processes: requests of one are numbered one after another.
    const keys = [];
    for (let n = 0; n < 6; n++) keys.push(await released(PUT, []));
    await Promise.all(keys.map((key, i) => start(key, { code: "new", where: `place ${i}` })));
    expect(await now()).toHaveLength(1);
  });
  it("line by line, the same key twice in one step is one record with what the later line says", async () => {
    await bins(["a", "loft", "4"]);
    const key = await released(
      {
        ...PUT,
        each: "lines",
        values: [
          { column: "code", value: "Line code" },
          { column: "place", value: "Line place" },
        ],
      },
      [],
    );
    const line = (n: number, c: string, p: string) => ({ "#": String(n), c, p });
    await start(key, {
      lines: [line(1, "b", "one"), line(2, "a", "two"), line(3, "b", "three"), line(4, "b", "four")],
    });
    expect(await now()).toEqual([
      ["a", "two", "4"],
      ["b", "four", "0"],
    ]);
  });
});
it("removing stops where something points at it, or empties those links", async () => {
  const [a] = await bins(["a", "loft"]);
  await bins(["b", "attic", "0", a!]);
  const keeps = await released({ op: "remove", record: "Bins there", values: [] });
  expect(await status((await start(keeps, { where: "loft" })).number)).toBe("stuck");
  expect(await now()).toHaveLength(2);
  await start(await released({ op: "remove", record: "Bins there", values: [], clears: true }), {
    where: "loft",
  });
  expect(await sql("select code, stands_in from register.t_bins")).toEqual([{ code: "b", stands_in: null }]);
});
it("says what is wrong with how it is set up", async () => {
  const codes = async (write: object) =>
    value(await draftProblems(SYSTEM, await process(write, []))).map((p) => p.code);
  expect(await codes({ ...PUT, key: undefined })).toContain("no-key");
  expect(await codes({ ...PUT, key: "times" })).toContain("no-key-value");
  expect(await codes(PUT)).toContain("key-not-unique");
  expect(await codes({ ...PUT, own: true })).toContain("own-columns");
  expect(
    await codes({ ...COUNT, record: "Bin", values: [{ column: "times", value: "Tims + 1" }] }),
  ).toContain("unknown-name");
});

describe("what was written is read by the name of the step", () => {
  const NOTHING = { record: "[]", values: [{ column: "place", value: '"x"' }] };
  const then = (value: string, ...before: Step[]): Step[] => [
    ...before,
    { id: "o", name: "Tell it", kind: "work out", set: [{ field: "code", value }] } as Step,
  ];
  const read = async (write: object, value: string, data: FormData = {}, before: Step[] = []) => {
    const step = { id: "x", kind: "write", register: "t_bins", op: "change", values: [], ...write };
    const key = await released(NOTHING, [
      FOUND,
      ...then(value, ...before, { name: "Put down", keeps: true, ...step } as Step),
    ]);
    const { number } = await start(key, data);
    const [row] = await sql<{ status: string; code: string | null }>(
      "select status, state::jsonb -> 'data' ->> 'code' as code from request where number = $1",
      [number],
    );
    return row!.status === "finished" ? row!.code : row!.status;
  };
  const add = { op: "add", values: [{ column: "code", value: "Which" }] };

  it("one that was added, with what the register made of it", async () => {
    expect(await read(add, 'Put down.Code + "/" + string(Put down.Times)', { code: "n1" })).toBe("n1/0");
    expect((await now()).map(([code]) => code)).toEqual(["n1"]);
  });

  it("one that was changed, as it is afterwards; nothing where it was left alone", async () => {
    const [a] = await bins(["a", "loft", "3"]);
    const change = { record: "Bin", own: true, values: [{ column: "times", value: "Times + 1" }] };
    const must = { must: "Times < 5", otherwise: "leave" };
    const value = 'if Put down = null then "left" else string(Put down.Times)';
    expect(await read(change, "string(Put down.Times)", { bin: a! })).toBe("4");
    expect(await read({ ...change, ...must }, value, { bin: a! })).toBe("5");
    expect(await read({ ...change, ...must }, value, { bin: a! })).toBe("left");
  });

  it("all that were changed as a list, also none of them, and one for each line", async () => {
    await bins(["a", "loft", "1"], ["b", "loft", "5"], ["c", "cellar", "7"]);
    const count = { record: "Bins there", own: true, values: [{ column: "times", value: "Times + 1" }] };
    const value = 'string(count(Put down)) + ":" + string join(Put down.Code, ",")';
    expect(await read(count, value, { where: "loft" })).toBe("2:a,b");
    expect(await read(count, value, { where: "nowhere" })).toBe("0:");
    const must = { must: "Times > 3", otherwise: "leave" };
    expect(await read({ ...count, ...must }, value, { where: "loft" })).toBe("1:b");
    const each = { op: "add", each: "lines", values: [{ column: "code", value: "Line code" }] };
    const lines = [
      { "#": "1", c: "l1", p: null },
      { "#": "2", c: "l2", p: null },
    ];
    expect(await read(each, value, { lines })).toBe("2:l1,l2");
    expect(await read(each, value, { lines: [] })).toBe("0:");
  });

  it("one that was found again by its key, or added", async () => {
    await bins(["k", "loft", "2"]);
    const put = {
      op: "put",
      key: "code",
      values: [
        { column: "code", value: "Which" },
        { column: "place", value: '"shed"' },
      ],
    };
    const value = "Put down.Place + string(Put down.Times)";
    expect(await read(put, value, { code: "k" })).toBe("shed2");
    expect(await read(put, value, { code: "new" })).toBe("shed0");
  });

  it("in two writes after each other, and through a later command", async () => {
    const [a] = await bins(["a", "loft", "1"]);
    const again = {
      id: "y",
      name: "Put again",
      kind: "write",
      register: "t_bins",
      op: "change",
      record: "Bin",
      own: true,
      keeps: true,
      values: [{ column: "times", value: "Times + 10" }],
    } as unknown as Step;
    const change = { record: "Bin", own: true, values: [{ column: "times", value: "Times + 1" }] };
    expect(
      await read(change, 'string(Put again.Times) + "/" + string(Put down.Times)', { bin: a! }, [again]),
    ).toBe("12/12");
  });

  it("is said where a name cannot be read, and where it may be nothing", async () => {
    const problems = async (write: object, more: Step[] = []) =>
      value(await draftProblems(SYSTEM, await process(write, [FOUND, ...more]))).map((p) => p.code);
    expect(await problems({ ...add, keeps: true, name: "Which" })).toContain("name-twice");
    expect(await problems({ ...add, keeps: true, name: "2 + 2" })).toContain("bad-name");
    expect(await problems({ ...add, name: "2 + 2" })).not.toContain("bad-name");
    const left = {
      record: "Bin",
      must: "Times < 5",
      otherwise: "leave",
      values: [{ column: "times", value: "1" }],
    };
    const read = then("Put down.Code", {
      id: "x",
      name: "Put down",
      kind: "write",
      register: "t_bins",
      op: "change",
      keeps: true,
      ...left,
    } as unknown as Step);
    expect(await problems({ ...add, name: "Last" }, read)).toContain("may-be-nothing");
    // Without being asked for, its name is nothing a formula knows.
    const unasked = then("Put down.Code", {
      id: "x",
      name: "Put down",
      kind: "write",
      register: "t_bins",
      ...add,
    } as unknown as Step);
    expect(await problems({ ...add, name: "Last" }, unasked)).toContain("unknown-name");
  });
});

describe("a record of another register", () => {
  const values = [{ column: "place", value: '"hit"' }];
  it("is told before release, alone and in lists", async () => {
    const codes = async (record: string) =>
      value(await draftProblems(SYSTEM, await process({ record, values }))).map((p) => p.code);
    expect(await codes("Store")).toContain("other-register");
    expect(await codes("[Store]")).toContain("other-register");
    expect(await codes("Bin")).not.toContain("other-register");
    expect(await codes("Bins there")).not.toContain("other-register");
  });
  it("never has the record with its id written in its place, alone, in a list, or line by line", async () => {
    const there = () =>
      sql(
        "insert into register.t_bins (id, code, place, times) overriding system value values (1, 'a', 'loft', 1)",
      );
    await there();
    // What it is can be told only when it is worked out.
    const either = 'if Where = "bin" then Bin else Store';
    const cases: [object, FormData][] = [
      [{ record: either }, {}],
      [{ record: `[${either}]` }, {}],
      [{ each: "lines", record: "Line store" }, { lines: [{ "#": "1", c: null, p: null, s: "1" }] }],
    ];
    for (const [write, data] of cases) {
      const { number } = await start(await released({ ...write, values }), { store: "1", ...data });
      expect([write, await status(number)]).toEqual([write, "stuck"]);
      expect(await now()).toEqual([["a", "loft", "1"]]);
    }
    value(await startRequest(asker, await released({ record: either, values }), { where: "bin", bin: "1" }));
    expect(await now()).toEqual([["a", "hit", "1"]]);
  });
});
