import { accountOf, personParty } from "@/core/form";
import { act, badges, desk, myRequests, noticesOf, onChanges, showsOf, startRequest } from "@/services";
import type { RequestState } from "@/core/engine";
import { requests } from "@/db";
import { NEW_REQUEST } from "@/core/engine";
import { KEY, openWorld, orderOf, person, sql, until, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
/** Whoever still listens keeps a connection, and the pool from ending. */
const stops: (() => void)[] = [];
afterEach(() => stops.splice(0).forEach((stop) => stop()));
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
  const watching = await Promise.all([
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
  watching.forEach((stop) => stop());
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

it("whoever's own pages are changed by a deed is ticked for it, whatever the deed (120 random ones)", async () => {
  let seed = 3;
  const one = <T>(of: readonly T[]): T => of[(seed = (seed * 48271) % 2147483647) % of.length]!;
  const people = await Promise.all(
    (await sql<{ id: string }>("select id from person where kind = 'person' order by id")).map((p) =>
      person(p.id),
    ),
  );
  /** What somebody's own pages say, the slow way: all of them fetched; time left passes without any deed. */
  const pages = async () =>
    new Map(
      await Promise.all(
        people.map(async (p): Promise<[string, string]> => {
          const rows = (await desk(p)).rows.map((r) => ({ ...r, left: null }));
          return [
            p.id,
            JSON.stringify([rows, await myRequests(p, 0, 100), await badges(p), await noticesOf(p)]),
          ];
        }),
      ),
    );
  const ticked = new Set<string>();
  for (const p of people)
    stops.push(await onChanges({ person: p.id, request: null, anybody: false }, () => ticked.add(p.id)));
  let any = false;
  stops.push(await onChanges({ person: "", request: null, anybody: true }, () => (any = true)));
  let changed = 0;
  const open: string[] = [];
  let before = await pages();
  for (let i = 0; i < 120; i++) {
    ticked.clear();
    any = false;
    if (open.length < 4) {
      const made =
        one([true, false]) || open.length === 0
          ? await startRequest(await person("lucia.penrose"), "store-key", KEY)
          : await startRequest(await person("ruben.aske"), "supplies", orderOf(one([1, 40])));
      open.push(value(made).number);
    } else {
      const number = one(open);
      const [row] = await sql<{ state: RequestState }>("select state from request where number = $1", [
        number,
      ]);
      const task = one(
        Object.values(row!.state.tasks).filter((t) => t.status === "open" || t.status === "taken"),
      );
      const who = await person(
        task?.holder ?? one(task?.candidates ?? [{ person: accountOf(row!.state.requester)! }]).person,
      );
      const requester = await person(accountOf(row!.state.requester)!);
      const deed = one([
        "take",
        "put back",
        "hand over",
        "remind",
        "answer",
        "answer",
        "answer",
        "withdraw",
      ] as const);
      const id = task?.id ?? "";
      if (deed === "take" || deed === "put back") await act(who, number, { type: deed, task: id });
      else if (deed === "hand over")
        await act(who, number, { type: deed, task: id, to: one(people).id, note: "away" });
      else if (deed === "remind")
        await act(await person("tobias.marrin"), number, { type: deed, task: id, note: "" });
      else if (deed === "withdraw") await act(requester, number, { type: deed, note: "not needed" });
      else
        await act(who, number, {
          type: deed,
          task: id,
          answer: one(["approve", "allow", "decline", "refuse", "done", "sent", "back"]),
          note: "said so",
          data: {},
        });
      const [now] = await sql<{ status: string }>(
        "select state->>'status' as status from request where number = $1",
        [number],
      );
      if (now!.status !== "under way") open.splice(open.indexOf(number), 1);
    }
    const after = await pages();
    const differ = people.map((p) => p.id).filter((id) => before.get(id) !== after.get(id));
    if (differ.length > 0) {
      changed++;
      await until("a tick came", async () => any);
      expect(differ.filter((id) => !ticked.has(id))).toEqual([]);
    }
    before = after;
  }
  expect(changed).toBeGreaterThan(40);
}, 60_000);

describe("what a tick says", () => {
  const state = { ...NEW_REQUEST, number: "KEY-1", requester: personParty("una") };
  const changes = { tasks: [], setTimers: [], clearTimers: [], watches: [] };
  it("names whom it concerns, or nobody where it may be anybody", () => {
    const did = { seq: 1, at: 0, by: "carmel" };
    const tick = (
      events: object[],
      tasks: object[] = [],
      told: { effect: string; people: string[] }[] = [],
    ) =>
      requests.readTick(
        requests.tickOf({
          state,
          events: events as never,
          changes: { ...changes, tasks: tasks as never },
          told,
        }),
      ).people;
    expect(tick([{ ...did, type: "task taken", task: "t" }])).toEqual(["una", "carmel"]);
    expect(tick([{ ...did, type: "timer cleared" }], [{ candidates: [{ person: "fergus" }] }])).toContain(
      "fergus",
    );
    expect(tick([{ ...did, type: "task handed over" }])).toBeNull();
    expect(tick([{ ...did, type: "effect done" }])).toBeNull();
    const told = [{ effect: "e1", people: ["sorcha"] }];
    expect(tick([{ ...did, type: "effect done", effect: "e1" }], [], told)).toEqual([
      "una",
      "carmel",
      "sorcha",
    ]);
    expect(tick([{ ...did, type: "effect done", effect: "e2" }], [], told)).toBeNull();
    // In procedures within procedures, too.
    const inside = (event: object) => ({
      ...did,
      type: "in call",
      call: "c4",
      event: { ...did, type: "in call", call: "c2", event },
    });
    expect(tick([inside({ ...did, type: "task handed over" })])).toBeNull();
    expect(tick([inside({ ...did, type: "task taken", task: "t" })])).toEqual(["una", "carmel"]);
    const deep = [{ effect: "c4~c2~e1", people: ["sorcha"] }];
    expect(tick([inside({ ...did, type: "effect done", effect: "e1" })], [], deep)).toContain("sorcha");
    expect(tick([inside({ ...did, type: "effect done", effect: "e2" })], [], deep)).toBeNull();
    const many = Array.from({ length: 900 }, (_, i) => ({ person: `person.number.${i}` }));
    expect(tick([], [{ candidates: many }])).toBeNull();
  });
  it("that cannot be read is for everybody", () => {
    for (const odd of ["", "7", "null", "{", '{"people":[]}'])
      expect(requests.readTick(odd)).toEqual({ number: "", people: null });
  });
});
