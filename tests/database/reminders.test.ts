import { badges, fireTimers, noticesOf, readNotices, startRequest, SYSTEM } from "@/services";
import { KEY, openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());
jest.setTimeout(60_000);

const MANAGER = "fintan.galloway";
const start = async () => {
  const { number } = value(await startRequest(await person("lucia.penrose"), "store-key", KEY));
  const [row] = await sql<{ id: string }>("select id from request where number = $1", [number]);
  return { number, id: row!.id };
};
/** Their first rung, which reminds, is due. */
async function remind(id: string) {
  await sql(
    `update timer set due_at = '2000-01-01'
     where request_id = $1 and due_at = (select min(due_at) from timer where request_id = $1)`,
    [id],
  );
  expect((await fireTimers(SYSTEM, id)).fired).toBe(1);
}
const listed = async () =>
  (await noticesOf(await person(MANAGER))).filter((n) => n.text.startsWith("Reminder"));

it("reminders of one minute are one notice, which names them; those of another are another", async () => {
  const all = [await start(), await start(), await start()];
  const manager = await person(MANAGER);
  const before = (await badges(manager)).unread;
  // Within one minute of the clock, whatever it shows just now.
  const left = 60_000 - (Date.now() % 60_000);
  if (left < 8_000) await new Promise((done) => setTimeout(done, left + 200));
  for (const { id } of all) await remind(id);
  const [one, ...others] = await listed();
  expect(others).toEqual([]);
  expect(one).toMatchObject({
    text: "Reminder: 3 answers are waited for",
    href: "/desk",
    read: false,
    number: null,
  });
  expect(one!.body.split(", ")).toEqual(all.map((r) => r.number).reverse());
  expect((await badges(manager)).unread).toBe(before + 1);
  // Nothing of it is lost: each has its line, and its own request's trail tells of it.
  expect(
    await sql("select 1 from notice where person_id = $1 and reminds_at is not null", [MANAGER]),
  ).toHaveLength(3);

  await sql("update notice set reminds_at = reminds_at - 1 where request_id = $1", [all[0]!.id]);
  const [newer, older, ...none] = await listed();
  expect(none).toEqual([]);
  expect(newer!.text).toBe("Reminder: 2 answers are waited for");
  // One alone reads as ever, and leads to its request.
  expect(older).toMatchObject({
    text: `Reminder: Manager decides for ${all[0]!.number}`,
    number: all[0]!.number,
  });

  await readNotices(manager, newer!.id);
  expect((await listed()).map((n) => n.read)).toEqual([true, true]);
  expect((await badges(manager)).unread).toBe(0);
});

it("more than are named are counted", async () => {
  await sql("delete from notice where person_id = $1", [MANAGER]);
  const [row] = await sql<{ id: string }>("select id from request limit 1");
  await sql(
    `insert into notice (person_id, request_id, effect_key, subject, body, created_at, reminds_at)
     select $1, $2, 'test ' || i, 'Reminder', '', now(), 1 from generate_series(1, 700) i`,
    [MANAGER, row!.id],
  );
  const [one, ...others] = await listed();
  expect(others).toEqual([]);
  expect(one!.text).toBe("Reminder: 700 answers are waited for");
  expect(one!.body).toContain(" and 695 more");
  expect((await badges(await person(MANAGER))).unread).toBe(1);
});
