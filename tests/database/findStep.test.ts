import type { ProcessDefinition, Step } from "@/core/route";
import { compileRelease, NONE_READ, type RequestState } from "@/core/engine";
import {
  act,
  createProcess,
  draftView,
  editDraft,
  releaseDraft,
  requestView,
  startRequest,
  sampleValues,
  stepPreview,
  SYSTEM,
} from "@/services";
import fc from "fast-check";
import {
  compile,
  environment,
  evaluate,
  NUMBER,
  parseFormula,
  TEXT,
  toNum,
  type Value,
} from "@/core/expression";
import { recordScope } from "@/core/form";
import { getPool, registers } from "@/db";
import { KINDS } from "@/kinds";
import { nowMs } from "@/services/kernel/clock";
import { loadDirectory } from "@/services/kernel/directory";
import { engineFacts, factsReader } from "@/services/requests/facts";
import { registersAtHand } from "@/services/requests/registersAtHand";
import { openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

/** The ids a step found. */
function foundBy(s: RequestState, step: string): readonly string[] | undefined {
  const kept = s.kept[step];
  return kept && "ids" in kept ? kept.ids : undefined;
}

interface Row {
  id: string;
  title: string;
  site: string | null;
  status: string | null;
  insured_value: string | null;
  next_check: string | null;
  last_handled_by: string | null;
}
const objects = () =>
  sql<Row>(
    "select id::text, title, site, status, insured_value::text, next_check::text, last_handled_by from register.objects o order by o.id",
  );

let made = 0;
/** A process of one Find, whose later steps read what it found; released. */
async function process(
  find: object,
  after: Step[] = [],
  before: Step[] = [],
  later: Step[] = [],
): Promise<string> {
  const key = `find-${++made}`;
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: `Find ${made}`,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: `FN${100 + made}`, digits: 4 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    access: {},
    samples: [],
    fields: [
      { id: "least", name: "Least", kind: "money" },
      { id: "word", name: "Word", kind: "text" },
      { id: "count", name: "How many", kind: "number" },
      { id: "titles", name: "Titles", kind: "long text" },
    ],
    route: [
      ...before,
      {
        id: "f",
        name: "Things",
        kind: "find",
        register: "objects",
        take: "some",
        most: 20,
        nothing: "on",
        ways: [],
        ...find,
      } as Step,
      ...after,
      {
        id: "d",
        name: "Look",
        kind: "decide",
        who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
        answers: [{ id: "ok", label: "OK", tone: "agree", steps: [] }],
      },
      ...later,
      { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" },
    ],
  };
  value(await createProcess(SYSTEM, definition));
  value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  return key;
}
async function run(key: string, data: object = {}): Promise<RequestState & { id: string }> {
  const n = value(await startRequest(await person("piet.hanlon"), key, data as never));
  const [row] = await sql<{ state: RequestState }>("select state from request where id = $1", [n.id]);
  return { ...row!.state, id: n.id };
}
const COUNT: Step = {
  id: "w",
  name: "Work out",
  kind: "work out",
  set: [
    { field: "count", value: "count(Things)" },
    { field: "titles", value: 'string join(Things.Title, "; ")' },
  ],
};

describe("a Find", () => {
  const num = (v: string | null) => (v === null ? null : Number(v));
  const rows: [string, (r: Row) => boolean][] = [
    ["Insured value > Least", (r) => num(r.insured_value) !== null && num(r.insured_value)! > 1500],
    [
      'Status = "in store" and contains(lower case(Title), Word)',
      (r) => r.status === "in store" && r.title.toLowerCase().includes("ro"),
    ],
    ['Site = "Tower House" or Next check = null', (r) => r.site === "Tower House" || r.next_check === null],
    // Parts of these no database can be asked; the others are.
    [
      'count(split(Title, " ")) > 2 and Insured value <= Least',
      (r) => r.title.split(" ").length > 2 && num(r.insured_value) !== null && num(r.insured_value)! <= 1500,
    ],
    [
      'count(split(Title, " ")) = 2 and (Status = "on show" or count(split(Title, "o")) > 3)',
      (r) => r.title.split(" ").length === 2 && (r.status === "on show" || r.title.split("o").length > 3),
    ],
    ["Last handled by != null and Last handled by = Requester", (r) => r.last_handled_by === "piet.hanlon"],
    ["false", () => false],
  ];
  const sorts: [object[], (a: Row, b: Row) => number][] = [
    [[], (a, b) => Number(a.id) - Number(b.id)],
    [[{ column: "insured_value", descending: true }], (a, b) => byValue(b, a) || Number(b.id) - Number(a.id)],
    [
      [{ column: "site" }, { column: "insured_value" }],
      (a, b) => byText(a.site, b.site) || byValue(a, b) || Number(a.id) - Number(b.id),
    ],
  ];
  const byValue = (a: Row, b: Row) => (num(a.insured_value) ?? -1) - (num(b.insured_value) ?? -1);
  const byText = (a: string | null, b: string | null) =>
    Number((a ?? "") > (b ?? "")) - Number((a ?? "") < (b ?? ""));

  it.each(rows)(
    "for %s finds just what going through all of them finds, in order",
    async (where, model) => {
      const all = await objects();
      for (const [sort, order] of sorts)
        for (const take of ["some", "first", "last"] as const) {
          const meant = all.filter(model).sort(order);
          const most = 7;
          const s = await run(await process({ where, sort, take, most }), { least: "1500", word: "ro" });
          const expected = { some: meant.slice(0, most), first: meant.slice(0, 1), last: meant.slice(-1) }[
            take
          ];
          const [done] = await sql<{ more: boolean }>(
            "select (body -> 'result' -> 'more')::boolean as more from request_event where request_id = $1 and type = 'effect done'",
            [s.id],
          );
          expect([where, take, done!.more]).toEqual([
            where,
            take,
            meant.length > (take === "some" ? most : 1),
          ]);
          expect([where, sort, take, foundBy(s, "f")]).toEqual([
            where,
            sort,
            take,
            expected.map((r) => r.id),
          ]);
        }
    },
    60_000,
  );

  it("finds, however a condition is put together, what the whole of it is true for", async () => {
    // Some parts can be asked of the database, some cannot, some read the request, some are empty.
    const atoms = [
      "Insured value > Least",
      'Status = "in store"',
      "Next check = null",
      "Next check < today()",
      'count(split(Title, " ")) > 2',
      'count(split(Title, "o")) = 2',
      "contains(lower case(Title), Word)",
      'Site = "Old Ropeworks"',
      "Insured value < 900",
      "Word = null",
    ];
    const condition: fc.Arbitrary<string> = fc.letrec<{ c: string }>((tie) => ({
      c: fc.oneof(
        { depthSize: "small", maxDepth: 4 },
        fc.constantFrom(...atoms),
        fc
          .tuple(tie("c"), fc.constantFrom("and", "and", "or"), tie("c"))
          .map(([a, op, b]) => `(${a}) ${op} (${b})`),
        tie("c").map((a) => `not(${a})`),
      ),
    })).c;
    const d = await loadDirectory(getPool());
    const shape = d.registers["objects"]!;
    const ids = (await objects()).map((r) => r.id);
    const records = Object.fromEntries(
      (await registers.recordsByIds(getPool(), shape, ids)).map((r) => [r.id, r]),
    );
    const formulas = fc.sample(condition, { numRuns: 40, seed: 20261126 });
    const word = (i: number) => (i % 4 === 0 ? null : "ro");
    let some = 0;
    for (const [i, where] of formulas.entries()) {
      const s = await run(await process({ where, most: 5000 }), { least: "1500", word: word(i) });
      const scope = {
        ...recordScope(shape, { registers: d.registers, kinds: KINDS }),
        Least: NUMBER,
        Word: TEXT,
      };
      const facts = engineFacts(
        d,
        { people: d.facts, registers: d.registers, records: { objects: records } },
        await nowMs(getPool()),
      );
      const program = compile(parseFormula(where, scope).ast!);
      const meant = ids.filter((id) => {
        const record = facts.record("objects", id);
        const names = new Map<string, Value>([
          ...shape.columns.map((c) => [c.name, record.get(c.name) ?? null] as const),
          ["Least", toNum("1500")],
          ["Word", word(i)],
        ]);
        return evaluate(program, environment(names, facts)) === true;
      });
      expect([where, s.status, foundBy(s, "f")]).toEqual([where, "under way", meant]);
      if (meant.length > 0 && meant.length < ids.length) some++;
    }
    expect(some).toBeGreaterThan(15);
  }, 120_000);

  it("is read by later steps, by texts, and told on the trail, with how many more there are", async () => {
    const key = await process({ where: 'Status = "in store"', most: 6 }, [COUNT]);
    const s = await run(key);
    const meant = (await objects()).filter((r) => r.status === "in store").slice(0, 6);
    expect(s.data).toMatchObject({ count: "6", titles: meant.map((r) => r.title).join("; ") });
    const { trail } = value(await requestView(await person("piet.hanlon"), s.number));
    expect(trail.map((l) => l.text).join("\n")).toMatch(
      /Things: found 6 of more: [^;]+; [^;]+; [^;]+; [^;]+ and 2 more/,
    );
  });

  it("is read by steps that come in a later command, as the records are then", async () => {
    const [made] = await sql<{ id: string }>(
      "insert into register.objects (accession_number, title) values ('QX.LATER.1', 'Before') returning id::text",
    );
    const s = await run(await process({ where: 'Accession number = "QX.LATER.1"' }, [], [], [COUNT]));
    await sql("update register.objects set title = 'After' where id = $1", [made!.id]);
    const task = Object.values(s.tasks)[0]!;
    value(
      await act(await person("sorcha.lind"), s.number, {
        type: "answer",
        task: task.id,
        answer: "ok",
        note: "",
        data: {},
      }),
    );
    const [row] = await sql<{ state: RequestState }>("select state from request where id = $1", [s.id]);
    expect(row!.state).toMatchObject({ status: "finished", data: { count: "1", titles: "After" } });
  });

  it("fetches of what it found only the columns that are read, or all where that is chosen", async () => {
    const keys = async (find: object, after: Step[] = [COUNT]) => {
      const key = await process(find, after);
      const of = "register" in find ? String(find.register) : "objects";
      const definition = value(await draftView(await person("tobias.marrin"), key)).definition;
      const d = await loadDirectory(getPool());
      const release = compileRelease(definition, d.registers, KINDS);
      const shapes = registersAtHand(d, release, NONE_READ);
      const reader = factsReader(getPool(), d, definition, { request: null, by: [] }, shapes);
      const { records } = await reader.load([{ register: of, id: "1" }]);
      return { of: Object.keys(Object.values(records[of]!)[0]!).sort(), registers: Object.keys(records) };
    };
    const d = await loadDirectory(getPool());
    const title = ["id", ...d.registers["objects"]!.title];
    expect(await keys({})).toEqual({ of: [...new Set([...title, "title"])].sort(), registers: ["objects"] });
    // What its condition and its order hang on, and what a link leads to.
    const sorted = await keys({
      where: "Next check = null or Next check != null",
      sort: [{ column: "site" }],
    });
    expect(sorted.of).toEqual([...new Set([...title, "title", "next_check", "site"])].sort());
    const set = (text: string): Step => ({
      id: "v",
      name: "W",
      kind: "work out",
      set: [{ field: "word", value: text }],
    });
    await sql(
      "insert into register.loans (file_number, borrower) select 'L-1', id from register.borrowers limit 1",
    );
    await sql(
      "insert into register.loan_objects (loan, object) select l.id, o.id from register.loans l, register.objects o limit 1",
    );
    const linked = (text: string) => keys({ register: "loan_objects" }, [set(text)]);
    expect((await linked("Things[1].Object.Title")).registers.sort()).toEqual(["loan_objects", "objects"]);
    expect((await linked('Things[1].name + " "')).of).not.toContain("loan");
    const all = ["id", ...d.registers["objects"]!.columns.map((c) => c.id)].sort();
    expect((await keys({ columns: "all" })).of).toEqual(all);
    expect((await keys({}, [COUNT, set('get value(Things[1], "Ti" + "tle")')])).of).toEqual(all);
  });

  it("sees what was written before it in the same command", async () => {
    const add: Step = {
      id: "add",
      name: "Write",
      kind: "write",
      op: "add",
      register: "objects",
      values: [
        { column: "accession_number", value: '"QX.NEW.1"' },
        { column: "title", value: "Word" },
      ],
    };
    const s = await run(await process({ where: "Title = Word" }, [COUNT], [add]), {
      word: "Wholly new thing",
    });
    expect(s.data).toMatchObject({ count: "1", titles: "Wholly new thing" });
  });

  it("is looked at for a sample with nothing done, as a request of the same would find", async () => {
    const owner = await person("tobias.marrin");
    const sample = { id: "s1", name: "Usual", requester: "piet.hanlon", data: { least: "1500", word: "ro" } };
    const look = async (find: object) => {
      const key = await process(find);
      const { version } = value(await draftView(owner, key));
      value(await editDraft(owner, key, version, [{ op: "sample.put", after: null, sample }]));
      const before = await sql("select count(*)::int as n from request_event");
      const seen = value(await stepPreview(owner, key, "f", "s1"));
      expect(await sql("select count(*)::int as n from request_event")).toEqual(before);
      expect(value(await stepPreview(owner, key, "f", "none"))).toBeNull();
      expect(value(await stepPreview(owner, key, "d", "s1"))).toBeNull();
      return { seen, found: foundBy(await run(key, sample.data), "f") ?? [] };
    };
    const { seen, found } = await look({
      where: 'Insured value > Least and count(split(Title, " ")) > 2',
      sort: [{ column: "insured_value", descending: true }],
      most: 9,
    });
    const titles = await sql<{ id: string; t: string }>(
      "select id::text, accession_number || ' · ' || title as t from register.objects",
    );
    const called = found.slice(0, 4).map((id) => titles.find((r) => r.id === id)!.t);
    expect(seen).toEqual({ ok: true, things: called, count: 9, more: true });
    expect((await look({ where: "Insured value > Least and Title = Word" })).seen).toEqual({
      ok: true,
      things: [],
      count: 0,
      more: false,
    });
    const key = await process({ where: "Insured value > Least / 0" });
    const { version } = value(await draftView(owner, key));
    value(await editDraft(owner, key, version, [{ op: "sample.put", after: null, sample }]));
    expect(value(await stepPreview(owner, key, "f", "s1"))).toMatchObject({
      ok: false,
      why: expect.stringContaining("cannot be worked out") as string,
    });
  });

  it("has values after each step for a sample, as a request of the same would, with nothing done", async () => {
    const owner = await person("tobias.marrin");
    const data = { least: "1500", word: "ro" };
    const sample = { id: "s1", name: "Usual", requester: "piet.hanlon", data };
    const each = {
      ...KINDS.steps["for each"].blank("each"),
      name: "Each",
      over: { list: "Things" },
      item: "One",
      collect: "One.Title",
      bodies: [
        {
          id: "b",
          steps: [
            { id: "in", name: "W", kind: "work out", set: [{ field: "word", value: "One.Title" }] } as Step,
          ],
        },
      ],
    } as Step;
    const where = 'Insured value > Least and count(split(Title, " ")) > 2';
    const key = await process({ where, most: 6 }, [COUNT, each]);
    const { version } = value(await draftView(owner, key));
    value(await editDraft(owner, key, version, [{ op: "sample.put", after: null, sample }]));
    const before = await sql("select count(*)::int as n from request_event");
    const seen = value(await sampleValues(owner, key, "s1"))!;
    expect(await sql("select count(*)::int as n from request_event")).toEqual(before);
    const s = await run(key, data);
    const told = (step: string) => seen.values.filter((v) => v.step === step);
    expect(told("f")).toHaveLength(1);
    expect(told("f")[0]!.value).toMatch(/^a list of 6: /);
    expect(told(COUNT.id).map((v) => v.value)).toContain(s.data["count"]);
    // Of each round, the first few, by its name.
    expect(told("in")).toHaveLength(4);
    expect(told("in").map((v) => v.round)[0]).toContain("1 of 6");
    expect(seen.more).toMatchObject({ in: 2 });
    expect(told("each").at(-1)!.value).toMatch(/^a list of 6: /);
    expect(seen.whys).toEqual([]);
    expect(value(await sampleValues(owner, key, "none"))).toBeNull();
    expect(await sampleValues(await person("piet.hanlon"), key, "s1")).toMatchObject({ ok: false });
    // What cannot be searched for is said; what takes too long is left.
    const bad = async (condition: string, extra: Step[] = []) => {
      const other = await process({ where: condition }, [COUNT, ...extra]);
      const at = value(await draftView(owner, other)).version;
      value(await editDraft(owner, other, at, [{ op: "sample.put", after: null, sample }]));
      return value(await sampleValues(owner, other, "s1"))!.whys.join();
    };
    expect(await bad("Insured value > Least / 0")).toContain("cannot be searched for");
    const heavy = Array.from({ length: 40 }, (_, i): Step => ({
      id: `h${i}`,
      name: `H${i}`,
      kind: "work out",
      set: [{ field: "word", value: "string(count(for i in 1..50000 return i * 2))" }],
    }));
    expect(await bad("Insured value > Least", heavy)).toContain("takes too long");
    const rounds = { ...KINDS.steps["for each"].blank("many"), over: { times: "1000000" } } as Step;
    expect(await bad("Insured value > Least", [rounds])).toContain("takes too long");
  }, 60_000);

  it("stops with the reason where its condition cannot be worked out, for a record or at all", async () => {
    const reason = async (where: string, data: object = {}) => {
      const s = await run(await process({ where }, [COUNT]), data);
      expect([where, s.status]).toEqual([where, "stuck"]);
      expect(s.data["count"] ?? null).toBeNull();
      return JSON.stringify(s.stuck[0]!.reason);
    };
    expect(await reason("Insured value > Least / 0", { least: "3" })).toContain("cannot-find");
    expect(await reason("Insured value / 0 > 3")).toContain("cannot-find");
    expect(await reason('count(split(Title, " ")) / 0 > 3')).toContain("cannot be worked out");
  });

  it("that goes round in a circle is stopped as one, and leaves the request as it was", async () => {
    const again = (steps: Step[]): Step => ({
      id: "c",
      name: "Again",
      kind: "choose",
      ways: [
        {
          id: "w1",
          name: "some",
          when: "count(Things) > 0",
          steps,
        },
        { id: "w2", name: "otherwise", steps: [] },
      ],
    });
    // No draft like this can be released; a release is a row.
    const key = await process({ where: 'Status = "in store"' }, [again([])]);
    const [row] = await sql<{ definition: ProcessDefinition }>(
      "select definition from process_release where process_key = $1",
      [key],
    );
    row!.definition.route = row!.definition.route.map((x) =>
      x.id === "c" ? again([{ id: "j", name: "Jump", kind: "jump", to: "f" }]) : x,
    );
    await sql("update process_release set definition = $2 where process_key = $1", [
      key,
      JSON.stringify(row!.definition),
    ]);
    const s = await run(key);
    expect(s).toMatchObject({ status: "stuck", stuck: [{ reason: { code: "runaway" } }], kept: {} });
  }, 60_000);

  it("where the database cannot be asked reads at most so many records, and says so", async () => {
    await sql(
      "insert into register.objects (accession_number, title) select 'MANY.' || g, 'Spare part ' || g from generate_series(1, 5200) g",
    );
    const where = 'count(split(Title, " ")) = 3';
    const s = await run(await process({ where }));
    expect(s.status).toBe("stuck");
    expect(JSON.stringify(s.stuck)).toContain("more than 5000 records");
    // With a part the database can be asked, the rest is few enough.
    const fewer = await run(await process({ where: `${where} and Accession number = "MANY.77"` }));
    expect(foundBy(fewer, "f")).toHaveLength(1);
    await sql("delete from register.objects where accession_number like 'MANY.%'");
  }, 60_000);

  it("that takes too long is given up, and the request is kept with the reason", async () => {
    const [was] = await sql<{ ddl: string }>("select pg_get_functiondef('decimal34'::regproc) as ddl");
    await sql(
      "create or replace function decimal34(x numeric) returns numeric language plpgsql immutable strict as $$ begin perform pg_sleep(0.2); return x; end $$",
    );
    const s = await run(await process({ where: "Insured value * 2 > Least" }, [COUNT]), { least: "1" });
    await sql(was!.ddl);
    expect(s.status).toBe("stuck");
    expect(JSON.stringify(s.stuck)).toContain("takes too long");
  }, 30_000);

  it("goes on after somebody mended what was missing", async () => {
    const key = await process({ where: 'Accession number = "QX.LATE.1"', nothing: "stop" }, [COUNT]);
    const s = await run(key);
    expect(s.stuck[0]!.reason.code).toBe("nothing-found");
    await sql("insert into register.objects (accession_number, title) values ('QX.LATE.1', 'Came late')");
    const owner = await person("tobias.marrin");
    value(await act(owner, s.number, { type: "retry", token: s.stuck[0]!.token }));
    const [row] = await sql<{ state: RequestState }>("select state from request where id = $1", [s.id]);
    expect(row!.state).toMatchObject({ status: "under way", data: { count: "1", titles: "Came late" } });
  });
});

it("a link is looked for by the record it leads to, also where that is one of a Find, or nothing", async () => {
  const [borrower] = await sql<{ id: string }>(
    "insert into register.borrowers (name) values ('Linked') returning id::text",
  );
  const [loan] = await sql<{ id: string }>(
    "insert into register.loans (file_number, borrower) values ('LINKED.1', $1) returning id::text",
    [borrower!.id],
  );
  await sql(
    `insert into register.loan_objects (loan, object)
     select $1, o.id from (select id from register.objects order by id limit 3) o, generate_series(1, 1 + o.id % 3)`,
    [loan!.id],
  );
  const [linked] = await sql<{ object: string }>(
    "select object::text from register.loan_objects group by object order by count(*) desc, object limit 1",
  );
  const ids = await sql<{ id: string }>(
    "select id::text from register.loan_objects where object = $1 order by id desc",
    [linked!.object],
  );
  const [{ accession_number: which } = { accession_number: "" }] = await sql<{ accession_number: string }>(
    "select accession_number from register.objects where id = $1",
    [linked!.object],
  );
  const one = {
    id: "g",
    name: "One",
    kind: "find",
    register: "objects",
    take: "first",
    nothing: "on",
    ways: [],
    where: "Accession number = Word",
  } as unknown as Step;
  const key = await process({ register: "loan_objects", where: "Object = One" }, [], [one]);
  expect(foundBy(await run(key, { word: which }), "f")?.toSorted()).toEqual(ids.map((r) => r.id).toSorted());
  expect(foundBy(await run(key, { word: "none such" }), "f")).toEqual([]);
  const others = await process({ register: "loan_objects", where: "not(Object = One)" }, [], [one]);
  const [{ n: all } = { n: 0 }] = await sql<{ n: number }>(
    "select count(*)::int as n from register.loan_objects",
  );
  const left = foundBy(await run(others, { word: which }), "f")!;
  expect(left.length).toBe(Math.min(20, all - ids.length));
  expect(left.filter((id) => ids.some((r) => r.id === id))).toEqual([]);
});

describe("people of the office", () => {
  /** The same by SQL, said anew. */
  const people = (where: string) =>
    sql<{ id: string }>(
      `select id from person p where active and kind = 'person' and (${where}) order by lower(department), lower(name), id`,
    );
  it("are found by what they are, whom they answer to, and what they are in and hold", async () => {
    const cases: [string, string][] = [
      ['Department = "Conservation"', "department = 'Conservation'"],
      [
        'Site = Requester.site and Department != "Registry"',
        "site = (select site from person where id = 'piet.hanlon') and department <> 'Registry'",
      ],
      ["Manager = null", "manager_id is null"],
      ['Manager.name = "Maeve Dunlea"', "manager_id = 'maeve.dunlea'"],
      [
        'list contains(Duties, "Budget holder")',
        "exists (select from register.role_holders r where r.person = p.id and r.duty = 'Budget holder')",
      ],
      [
        'count(Groups) > 0 or starts with(Name, "O")',
        "exists (select from group_member g where g.person_id = p.id) or name like 'O%'",
      ],
      ["contains(lower case(Job title), Word)", "position('head' in lower(job_title)) > 0"],
    ];
    for (const [where, same] of cases) {
      const key = await process({ register: "@people", where, most: 200, sort: [{ column: "department" }] }, [
        {
          id: "w",
          name: "Work out",
          kind: "work out",
          set: [{ field: "titles", value: 'string join(Things.name, "; ")' }],
        },
      ]);
      const state = await run(key, { word: "head" });
      const found = foundBy(state, "f");
      expect([where, found]).toEqual([where, (await people(same)).map((p) => p.id)]);
      expect(found!.length).toBeGreaterThan(0);
      expect(String(state.data["titles"]).split("; ")).toHaveLength(found!.length);
    }
  });

  it("stop the request where the condition cannot be worked out, for whomever; and are asked in rounds", async () => {
    const unclear = await process({ register: "@people", where: "number(Site) > 1" });
    expect(await run(unclear)).toMatchObject({
      status: "stuck",
      stuck: [{ reason: { code: "cannot-find" } }],
    });
    const first = await process(
      { register: "@people", take: "last", where: 'Department = "Conservation"', sort: [{ column: "name" }] },
      [{ id: "w", name: "Work out", kind: "work out", set: [{ field: "titles", value: "Things.name" }] }],
    );
    const [last] = await sql<{ name: string }>(
      "select name from person where department = 'Conservation' and active order by lower(name) desc limit 1",
    );
    expect((await run(first)).data["titles"]).toBe(last!.name);
    const asked = await process({ register: "@people", where: 'list contains(Duties, "Budget holder")' }, [
      {
        ...KINDS.steps["for each"].blank("e"),
        over: { list: "Things" },
        item: "One",
        bodies: [
          {
            id: "b",
            steps: [
              {
                id: "ask",
                name: "Ask one",
                kind: "complete",
                button: "Done",
                who: { rule: { by: "formula", formula: "One" }, how: "one" },
              },
            ],
          },
        ],
      } as unknown as Step,
    ]);
    const state = await run(asked);
    const holders = await people(
      "exists (select from register.role_holders r where r.person = p.id and r.duty = 'Budget holder')",
    );
    const held = Object.values(state.tasks).map((t) => t.candidates[0]!.for ?? t.candidates[0]!.person);
    expect(held.sort()).toEqual(holders.map((h) => h.id).sort());
  });
});
