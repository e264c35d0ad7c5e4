import {
  act,
  addAway,
  addDuty,
  askOthers,
  awayTimes,
  closePerson,
  covered,
  createProcess,
  desk,
  releaseDraft,
  removeAway,
  requestView,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

const HOLDER = "bridie.okafor";
const [USUAL, IN_DUTY, OTHER] = ["anselm.kerr", "dov.merrick", "aoife.lanigan"];
const DUTY = "Bell warden";
let world: Awaited<ReturnType<typeof openWorld>>;
let office: Actor;
let holder: Actor;
let day: string;

const decides = (id: string, rule: object) => ({
  id,
  name: `Step ${id}`,
  kind: "decide",
  who: { rule, how: "one" },
  answers: [{ id: "yes", label: "Yes", tone: "agree", steps: [] }],
});
beforeAll(async () => {
  world = await openWorld();
  [office, holder] = (await Promise.all(["tobias.marrin", HOLDER].map(person))) as [Actor, Actor];
  value(await addDuty(office, HOLDER, DUTY, { site: null, department: null }));
  for (const [key, rule] of [
    ["byduty", { by: "duty", duty: DUTY }],
    ["byname", { by: "person", person: HOLDER }],
  ] as const) {
    value(
      await createProcess(SYSTEM, {
        format: "cobble-step/process@2",
        key,
        name: key,
        purpose: "",
        owners: ["maeve.dunlea"],
        numbering: { prefix: key.toUpperCase(), digits: 3 },
        title: "",
        starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
        fields: [],
        access: {},
        samples: [],
        route: [decides("a", rule)] as never,
      }),
    );
    value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  }
  const [now] = await sql<{ d: string }>(
    "select to_char(now() + make_interval(secs => coalesce((select (value #>> '{}')::float8 from setting where key = 'clock_offset'), 0) / 1000), 'YYYY-MM-DD') d",
  );
  day = now!.d;
});
afterAll(() => world.close());

const begin = async (key: string) => value(await startRequest(await person("lucia.penrose"), key, {})).number;
const with_ = async (number: string) =>
  value(await requestView(await person("maeve.dunlea"), number)).waiting.flatMap((w) => w.people);
const back = async () => {
  for (const a of await awayTimes(holder, HOLDER)) value(await removeAway(holder, HOLDER, a.id));
};
afterEach(back);
const inDuty = [{ duty: DUTY, cover: IN_DUTY! }];

it("another answers in a duty than otherwise, for what comes and for what is open when it begins", async () => {
  const open = await begin("byduty");
  value(await addAway(holder, HOLDER, day, day, USUAL!, inDuty));
  const [byDuty, byName] = [await begin("byduty"), await begin("byname")];
  expect(await with_(byDuty)).toEqual([{ name: "Dov Merrick", coversFor: "Bridie Okafor" }]);
  expect(await with_(byName)).toEqual([{ name: "Anselm Kerr", coversFor: "Bridie Okafor" }]);
  expect(await askOthers(SYSTEM)).toBeGreaterThan(0);
  expect(await with_(open)).toEqual([{ name: "Dov Merrick", coversFor: "Bridie Okafor" }]);
  expect(await askOthers(SYSTEM)).toBe(0);
  const [entry] = await awayTimes(holder, HOLDER);
  expect(entry).toMatchObject({ covers: [{ duty: DUTY, cover: "Dov Merrick" }], stays: false });
});

it("nobody answers otherwise where only a duty is covered", async () => {
  value(await addAway(holder, HOLDER, day, day, null, inDuty));
  expect(await with_(await begin("byname"))).toEqual([{ name: "Bridie Okafor", coversFor: null }]);
  expect(await with_(await begin("byduty"))).toEqual([{ name: "Dov Merrick", coversFor: "Bridie Okafor" }]);
});

it("what is open stays with whoever says so", async () => {
  const open = await begin("byduty");
  value(await addAway(holder, HOLDER, day, day, USUAL!, [], true));
  await askOthers(SYSTEM);
  expect(await with_(open)).toEqual([{ name: "Bridie Okafor", coversFor: null }]);
  expect(await with_(await begin("byduty"))).toEqual([{ name: "Anselm Kerr", coversFor: "Bridie Okafor" }]);
});

it("whoever is back sees what is with their cover and has it again, and nobody else does", async () => {
  value(await addAway(holder, HOLDER, day, day, USUAL!, inDuty));
  const number = await begin("byduty");
  const mine = async () => (await covered(holder, 100)).rows.filter((r) => r.number === number);
  const [t] = await mine();
  expect(t).toMatchObject({ step_name: "Step a", cover: "Dov Merrick" });
  const deed = { type: "take back", task: t!.task_id } as const;
  expect(await act(holder, number, deed)).toMatchObject({ failure: { data: { code: "still-away" } } });
  await back();
  // Whoever it is none of does not learn that it is there.
  expect(await act(await person(OTHER!), number, deed)).toMatchObject({ failure: { code: "not-found" } });
  expect(await act(await person(IN_DUTY!), number, deed)).toMatchObject({
    failure: { data: { code: "not-yours" } },
  });
  value(await act(holder, number, deed));
  expect(await mine()).toEqual([]);
  expect((await desk(holder)).rows.some((r) => r.number === number)).toBe(true);
  expect((await desk(await person(IN_DUTY!))).rows.some((r) => r.number === number)).toBe(false);
  const { trail } = value(await requestView(holder, number));
  expect(trail.at(-1)).toMatchObject({
    byName: "Bridie Okafor",
    text: "took back what was with their cover",
  });
});

it("refuses covers that are nobody, themselves, or twice for one duty", async () => {
  const enter = (covers: { duty: string; cover: string }[]) =>
    addAway(holder, HOLDER, day, day, null, covers);
  const why = async (covers: { duty: string; cover: string }[]) => {
    const r = await enter(covers);
    return r.ok ? "" : JSON.stringify(r.failure);
  };
  expect(await why([{ duty: DUTY, cover: HOLDER }])).toContain("somebody else who is here");
  expect(await why([{ duty: DUTY, cover: "nobody" }])).toContain("somebody else who is here");
  expect(await why([{ duty: " ", cover: USUAL! }])).toContain("Say which duty");
  expect(await why([...inDuty, { duty: ` ${DUTY}`, cover: USUAL! }])).toContain("twice");
  expect(await why(Array.from({ length: 21 }, (_, i) => ({ duty: `D${i}`, cover: USUAL! })))).toContain("20");
});

it("whoever covers in a duty and leaves passes that on", async () => {
  const others = [
    { duty: DUTY, cover: OTHER! },
    { duty: "Registrar", cover: USUAL! },
  ];
  value(await addAway(holder, HOLDER, "2099-01-01", "2099-01-05", OTHER!, others));
  value(await closePerson(office, OTHER!, USUAL!));
  expect((await awayTimes(holder, HOLDER))[0]).toMatchObject({
    cover: "Anselm Kerr",
    covers: [
      { duty: DUTY, cover: "Anselm Kerr" },
      { duty: "Registrar", cover: "Anselm Kerr" },
    ],
  });
  // To whom they cover for it does not go: then nobody answers in it.
  value(await closePerson(office, USUAL!, HOLDER));
  expect((await awayTimes(holder, HOLDER))[0]).toMatchObject({ cover: null, covers: [] });
});
