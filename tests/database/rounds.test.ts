import { NEW_REQUEST, replay, type RequestState } from "@/core/engine";
import type { ProcessDefinition, Step } from "@/core/route";
import {
  act,
  createProcess,
  desk,
  goOn,
  releaseDraft,
  requestView,
  startRequest,
  SYSTEM,
  taskView,
} from "@/services";
import { getPool, requests } from "@/db";
import { openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

const find = (more: object): Step =>
  ({
    id: "f",
    name: "Things",
    kind: "find",
    register: "objects",
    take: "some",
    most: 5000,
    nothing: "on",
    ways: [],
    ...more,
  }) as Step;
const each = (more: object, steps: Step[]): Step =>
  ({
    id: "e",
    name: "Outcomes",
    kind: "for each",
    over: { list: "Things" },
    item: "Thing",
    bodies: [{ id: "b", steps }],
    ...more,
  }) as Step;
const write = (values: object[]): Step =>
  ({
    id: "w",
    name: "Set",
    kind: "write",
    op: "change",
    register: "objects",
    record: "Thing",
    values,
  }) as Step;
const asks = (person: string): Step =>
  ({
    id: "d",
    name: "d",
    kind: "decide",
    who: { rule: { by: "person", person }, how: "one" },
    answers: [
      { id: "yes", label: "Yes", tone: "agree", steps: [] },
      { id: "no", label: "No", tone: "refuse", steps: [] },
    ],
  }) as Step;
const LAST: Step[] = [
  {
    id: "o",
    name: "Work out",
    kind: "work out",
    set: [{ field: "said", value: 'string join(Outcomes, "; ")' }],
  } as Step,
  { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step,
];

let made = 0;
async function released(route: Step[], more: Partial<ProcessDefinition> = {}): Promise<string> {
  const key = `rounds-${++made}`;
  value(
    await createProcess(SYSTEM, {
      format: "cobble-step/process@2",
      key,
      name: `Rounds ${made}`,
      purpose: "",
      owners: ["tobias.marrin"],
      numbering: { prefix: `RD${100 + made}`, digits: 4 },
      title: "Audit",
      starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
      access: {},
      samples: [],
      fields: [
        { id: "word", name: "Word", kind: "text" },
        { id: "said", name: "Said", kind: "long text" },
      ],
      route,
      ...more,
    }),
  );
  value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  return key;
}
async function begin(key: string, data: object = {}): Promise<{ id: string; number: string }> {
  return value(await startRequest(await person("piet.hanlon"), key, data as never));
}
const stateOf = async (id: string): Promise<RequestState> =>
  (await requests.requestForCommand(getPool(), { id }, false))!.state;
const folded = async (id: string) => replay(await requests.eventsOf(getPool(), id), NEW_REQUEST);
const jobsFor = async (id: string): Promise<number> =>
  (
    await sql<{ n: number }>(
      "select count(*)::int as n from graphile_worker.jobs j join graphile_worker._private_jobs p on p.id = j.id where j.task_identifier = 'go_on' and p.payload ->> 'request' = $1",
      [id],
    )
  )[0]!.n;

describe("rounds over records", () => {
  it("each reads its own record and writes it, however many there are; a job goes on, and nothing is written twice", async () => {
    const values = [{ column: "shelf", value: 'Word + " " + Thing.Title' }];
    const route = [
      find({ where: 'Accession number < "ROUND.5" and starts with(Accession number, "ROUND.")' }),
      each({ collect: "Thing number" }, [write(values)]),
      { ...LAST[0]!, set: [{ field: "said", value: "string(sum(Outcomes))" }] } as Step,
      LAST[1]!,
    ];
    await sql(
      "insert into register.objects (accession_number, title) select 'ROUND.' || to_char(g, 'FM000'), 'Part ' || g from generate_series(1, 700) g",
    );
    const all = await sql<{ id: string; title: string }>(
      "select id::text, title from register.objects where accession_number < 'ROUND.5' and accession_number like 'ROUND.%'",
    );
    expect(all).toHaveLength(499);
    const { id, number } = await begin(await released(route), { word: "seen" });
    let state = await stateOf(id);
    expect(state.status).toBe("under way");
    expect(await jobsFor(id)).toBe(1);
    let jobs = 0;
    // Two workers get the same job: one of them finds nothing left to do.
    while (state.status === "under way" && jobs++ < 50) {
      await Promise.all([goOn(SYSTEM, id), goOn(SYSTEM, id)]);
      state = await stateOf(id);
    }
    expect(state).toMatchObject({
      status: "finished",
      data: { said: String((all.length * (all.length + 1)) / 2) },
      runs: {},
      scopes: {},
    });
    expect(jobs).toBeGreaterThan(0);
    const [written] = await sql<{ n: number; most: number }>(
      `select count(*)::int as n, max(c)::int as most
       from (select record_id, count(*) as c from register_history where request_number = $1 group by record_id) h`,
      [number],
    );
    expect(written).toEqual({ n: all.length, most: 1 });
    const [wrong] = await sql<{ n: number }>(
      "select count(*)::int as n from register.objects where accession_number like 'ROUND.%' and coalesce(shelf, '') <> case when accession_number < 'ROUND.5' then 'seen ' || title else '' end",
    );
    expect(wrong!.n).toBe(0);
    expect(await folded(id)).toEqual(state);
  }, 120_000);

  it("people are asked once for all that is theirs, and told what each task is about", async () => {
    const route = [
      find({ where: "contains(Title, Word)", sort: [{ column: "title" }], most: 9 }),
      each(
        {
          gather: { by: "Thing.Site", as: "Place" },
          collect: 'Place + ": " + string(count(Thing)) + " " + d.answer + " " + Thing[1].Title',
        },
        [asks("sorcha.lind")],
      ),
      ...LAST,
    ];
    const { id, number } = await begin(await released(route), { word: "e" });
    const found = await sql<{ title: string; site: string }>(
      "select title, site from register.objects where title like '%e%' order by title collate \"C\", id limit 9",
    );
    const places = [...new Set(found.map((o) => o.site))];
    const sorcha = await person("sorcha.lind");
    const rows = (await desk(sorcha)).rows.filter((r) => r.number === number);
    expect(rows.map((r) => r.about)).toEqual(
      places.map((p, i) => `Place ${i + 1} of ${places.length}: ${p}`),
    );
    const page = value(await taskView(sorcha, number, rows[0]!.task_id));
    expect(page.task.about).toBe(rows[0]!.about);
    // From the last to the first: what comes of it stands in the order of the rounds.
    const answers = new Map(places.map((p, i) => [p, i % 2 === 0 ? "no" : "yes"]));
    for (const r of [...rows].reverse()) {
      const answer = answers.get(r.about.split(": ")[1]!)!;
      value(await act(sorcha, number, { type: "answer", task: r.task_id, answer, note: "", data: {} }));
    }
    const state = await stateOf(id);
    expect(state.data["said"]).toBe(
      places
        .map((p) => {
          const own = found.filter((o) => o.site === p);
          return `${p}: ${own.length} ${answers.get(p) === "no" ? "No" : "Yes"} ${own[0]!.title}`;
        })
        .join("; "),
    );
    expect(await folded(id)).toEqual(state);
    const view = value(await requestView(await person("piet.hanlon"), number));
    const stop = view.path.find((s) => s.kind === "for each")!;
    expect(stop.rounds).toMatchObject({ of: places.length, ended: places.length, off: 0 });
    expect(stop.rounds!.each.map((r) => [r.words, r.stops.map((s) => s.outcome)])).toEqual(
      places.map((p, i) => [
        `Place ${i + 1} of ${places.length}: ${p}`,
        [answers.get(p) === "no" ? "No" : "Yes"],
      ]),
    );
    const said = view.trail.filter((l) => l.text.startsWith("answered")).map((l) => l.round);
    expect(said).toEqual(places.map((p, i) => `Place ${i + 1} of ${places.length}: ${p}`).reverse());
  }, 60_000);

  it("answers to many rounds that come at once are all kept, and the request goes on once", async () => {
    const route = [
      find({ sort: [{ column: "title" }], most: 12 }),
      each({ collect: "d.answer" }, [asks("sorcha.lind")]),
      ...LAST,
    ];
    const { id, number } = await begin(await released(route));
    const sorcha = await person("sorcha.lind");
    const tasks = Object.values((await stateOf(id)).tasks);
    expect(tasks).toHaveLength(12);
    const done = await Promise.all(
      tasks.flatMap((t) =>
        // Each is pressed twice.
        ["yes", "no"].map((answer) =>
          act(sorcha, number, { type: "answer", task: t.id, answer, note: "", data: {} }),
        ),
      ),
    );
    expect(done.filter((d) => d.ok)).toHaveLength(12);
    const state = await stateOf(id);
    expect(state.status).toBe("finished");
    expect(String(state.data["said"]).split("; ")).toHaveLength(12);
    expect(await folded(id)).toEqual(state);
  }, 60_000);

  it("a record that goes while its round is under way is not read as if it were empty", async () => {
    const [made] = await sql<{ id: string }>(
      "insert into register.objects (accession_number, title) values ('GOES.1', 'Goes soon') returning id::text",
    );
    const route = [
      find({ where: 'Title = "Goes soon"' }),
      each({ collect: "Thing.Title" }, [asks("sorcha.lind")]),
      ...LAST,
    ];
    const { id, number } = await begin(await released(route));
    await sql("delete from register.objects where id = $1", [made!.id]);
    const [task] = Object.values((await stateOf(id)).tasks);
    value(
      await act(await person("sorcha.lind"), number, {
        type: "answer",
        task: task!.id,
        answer: "yes",
        note: "",
        data: {},
      }),
    );
    expect((await stateOf(id)).stuck).toMatchObject([{ step: "e", reason: { code: "unclear" } }]);
  });
});

it("what a round is about says nothing that is hidden from somebody", async () => {
  const fields: ProcessDefinition["fields"] = [
    { id: "said", name: "Said", kind: "long text" },
    {
      id: "lines",
      name: "Lines",
      kind: "lines",
      fields: [
        { id: "secret", name: "Secret", kind: "text" },
        { id: "open", name: "Open", kind: "text" },
      ],
    },
  ];
  const lines = [{ "#": "r1", secret: "behind the wall", open: "a wall" }];
  const about = async (over: object, hidden: string[]) => {
    const access = { d: Object.fromEntries(hidden.map((h) => [h, "hide" as const])) };
    const route = [each({ over, collect: "1" }, [asks("sorcha.lind")]), LAST[1]!];
    const { id } = await begin(await released(route, { fields, access }), { lines });
    return Object.values((await stateOf(id)).tasks)[0]!.about;
  };
  expect(await about({ lines: "lines" }, [])).toBe("Thing 1 of 1: behind the wall");
  expect(await about({ lines: "lines" }, ["secret"])).toBe("Thing 1 of 1: a wall");
  expect(await about({ lines: "lines" }, ["secret", "open"])).toBe("Thing 1 of 1");
  expect(await about({ lines: "lines" }, ["lines"])).toBe("Thing 1 of 1");
  expect(await about({ list: "Lines.Secret" }, [])).toBe("Thing 1 of 1: behind the wall");
  expect(await about({ list: "Lines.Secret" }, ["secret"])).toBe("Thing 1 of 1");
  expect(await about({ list: "for l in Lines return l.Secret" }, ["secret"])).toBe("Thing 1 of 1");
});
