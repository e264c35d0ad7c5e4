import { personParty } from "@/core/form";
import { NEW_REQUEST, NONE_READ, type Command } from "@/core/engine";
import { getPool, processes } from "@/db";
import { KINDS } from "@/kinds";
import { compileRelease } from "@/core/engine";
import { startRequest } from "@/services";
import { loadDirectory } from "@/services/kernel/directory";
import { factsReader } from "@/services/requests/facts";
import { isLarge, think, thinkElsewhere } from "@/services/thinking/think";
import { thinkThrough, type Question } from "@/services/thinking/thought";
import { openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

const order = (lines: number) => ({
  project: "Guild banners",
  urgent: false,
  reason: "Needed.",
  items: Array.from({ length: lines }, (_, i) => ({
    "#": String(i),
    item: String(1 + (i % 9)),
    quantity: "2",
  })),
});

async function question(lines: number, more: Partial<Question> = {}) {
  const d = await loadDirectory(getPool());
  const { released: definition } = (await processes.liveRelease(getPool(), "supplies"))!;
  const release = compileRelease(definition, d.registers, KINDS);
  const data = order(lines);
  const command: Command = {
    type: "start",
    actor: "yara.quill",
    requester: personParty("yara.quill"),
    number: "SUP-9999",
    data,
  };
  const facts = await factsReader(getPool(), d, definition, { request: null, by: [] }).load([], data);
  const at = Date.UTC(2026, 10, 26, 10);
  return { d, release, q: { state: NEW_REQUEST, command, facts, at, seconds: 20, ...more } as Question };
}

it("comes to the same on another thread, and lets this one go on meanwhile", async () => {
  const { d, release, q } = await question(600);
  let turns = 0;
  let ticking = setImmediate(function tick() {
    turns++;
    ticking = setImmediate(tick);
  });
  const there = await thinkElsewhere(release, d, q, NONE_READ);
  clearImmediate(ticking);
  expect(turns).toBeGreaterThan(20);
  const here = thinkThrough(release, d.office, q, NONE_READ);
  expect(there).toEqual(here);
  expect(here).toMatchObject({ decision: { ok: true, state: { status: "under way" } } });
  const state = { ...NEW_REQUEST, requester: personParty("yara.quill"), data: { total: "5" } };
  const named = await thinkElsewhere(release, d, { ...q, state, command: undefined as never }, NONE_READ);
  expect(named).toMatchObject({ title: expect.stringContaining("Supplies for Conservation") as string });
});

it("is where the request has many lines, and only there", async () => {
  const [small, large] = [await question(3), await question(300)];
  expect([isLarge(small.q), isLarge(large.q)]).toEqual([false, true]);
  expect(isLarge({ ...small.q, state: { ...NEW_REQUEST, data: large.q.command!["data" as never] } })).toBe(
    true,
  );
  expect(await think(large.release, large.d, large.q, NONE_READ)).toEqual(
    thinkThrough(large.release, large.d.office, large.q, NONE_READ),
  );
});

it("a thread never answers out of an office of a moment ago", async () => {
  const first = await question(300);
  const asked = (t: unknown) =>
    Object.values((t as { decision: { state: { tasks: object } } }).decision.state.tasks).flatMap(
      (x: { candidates: { person: string }[] }) => x.candidates.map((c) => c.person),
    );
  const before = asked(await thinkElsewhere(first.release, first.d, first.q, NONE_READ));
  await sql("update person set active = false where id = any($1)", [before]);
  const then = await question(300);
  const after = await thinkElsewhere(then.release, then.d, then.q, NONE_READ);
  expect(after).toEqual(thinkThrough(then.release, then.d.office, then.q, NONE_READ));
  expect(asked(after)).not.toEqual(before);
  await sql("update person set active = true");
});

it("gives up what takes longer than it may", async () => {
  const { d, release, q } = await question(300, { seconds: 0 });
  expect(await thinkElsewhere(release, d, q, NONE_READ)).toBe("too heavy");
});

it("a thread that does not come to an end is given up, and the next question finds another", async () => {
  const { d, release, q } = await question(600);
  await expect(thinkElsewhere(release, d, q, NONE_READ, 1)).rejects.toMatchObject({
    failure: { code: "unavailable", data: { why: "busy" } },
  });
  expect(await thinkElsewhere(release, d, q, NONE_READ)).toEqual(
    thinkThrough(release, d.office, q, NONE_READ),
  );
});

it("a request of many lines is kept like a small one", async () => {
  const { number } = value(await startRequest(await person("yara.quill"), "supplies", order(300)));
  const [row] = await sql<{ n: number; title: string }>(
    "select json_array_length(state -> 'data' -> 'items')::int as n, title from request where number = $1",
    [number],
  );
  expect(row).toMatchObject({ n: 300, title: expect.stringContaining("Supplies for") as string });
});
