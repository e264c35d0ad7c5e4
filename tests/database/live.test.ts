import { onChanges, showsOf, startRequest } from "@/services";
import { requests } from "@/db";
import { NEW_REQUEST } from "@/core/engine";
import { KEY, openWorld, person, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

it("a page is ticked for what it may show, and for nothing else", async () => {
  const ticks: Record<string, number> = {};
  const watch = (who: string, request: string | null = null, anybody = false) =>
    onChanges({ person: who, request, anybody }, () => {
      const page = `${who} ${request ?? (anybody ? "all" : "own")}`;
      ticks[page] = (ticks[page] ?? 0) + 1;
    });
  const next = async (who: string) => value(await startRequest(await person(who), "store-key", KEY)).number;
  const first = await next("lucia.penrose");
  const stops = await Promise.all([
    watch("lucia.penrose"),
    watch("fintan.galloway"),
    watch("piet.hanlon"),
    watch("piet.hanlon", first),
    watch("piet.hanlon", null, true),
  ]);
  await next("lucia.penrose");
  // Ticks come by another connection.
  for (let i = 0; i < 100 && !ticks["piet.hanlon all"]; i++) await new Promise((r) => setTimeout(r, 20));
  expect(ticks).toEqual({ "lucia.penrose own": 1, "fintan.galloway own": 1, "piet.hanlon all": 1 });
  stops.forEach((stop) => stop());
  await next("lucia.penrose");
  await new Promise((r) => setTimeout(r, 200));
  expect(ticks["lucia.penrose own"]).toBe(1);
});

it("a page about a request listens for it only where its reader may see it", async () => {
  const made = value(await startRequest(await person("lucia.penrose"), "store-key", KEY));
  const at = async (who: string, path: string) => (await showsOf(await person(who), path)).request;
  expect(await at("lucia.penrose", `/requests/${made.number}`)).toBe(made.number);
  expect(await at("lucia.penrose", `/desk/${made.number}/t1`)).toBe(made.number);
  expect(await at("piet.hanlon", `/requests/${made.number}`)).toBeNull();
  expect(await at("piet.hanlon", "/requests/KEY-9999")).toBeNull();
  expect(await at("piet.hanlon", "/desk")).toBeNull();
});

describe("what a tick says", () => {
  const state = { ...NEW_REQUEST, number: "KEY-1", requester: "una" };
  const changes = { tasks: [], setTimers: [], clearTimers: [] };
  it("names whom it concerns, or nobody where it may be anybody", () => {
    const did = { seq: 1, at: 0, by: "carmel" };
    const tick = (events: object[], tasks: object[] = []) =>
      requests.readTick(
        requests.tickOf({ state, events: events as never, changes: { ...changes, tasks: tasks as never } }),
      ).people;
    expect(tick([{ ...did, type: "task taken", task: "t" }])).toEqual(["una", "carmel"]);
    expect(tick([{ ...did, type: "timer cleared" }], [{ candidates: [{ person: "fergus" }] }])).toContain(
      "fergus",
    );
    expect(tick([{ ...did, type: "task handed over" }])).toBeNull();
    expect(tick([{ ...did, type: "effect done" }])).toBeNull();
    const many = Array.from({ length: 900 }, (_, i) => ({ person: `person.number.${i}` }));
    expect(tick([], [{ candidates: many }])).toBeNull();
  });
  it("that cannot be read is for everybody", () => {
    for (const odd of ["", "7", "null", "{", '{"people":[]}'])
      expect(requests.readTick(odd)).toEqual({ number: "", people: null });
  });
});
