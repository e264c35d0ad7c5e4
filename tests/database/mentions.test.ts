import type { ProcessDefinition, Step } from "@/core/route";
import {
  act,
  createProcess,
  find,
  noticesOf,
  releaseDraft,
  requestView,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
let decider: Actor;
let named: Actor;
const definition = (key: string, more: Partial<ProcessDefinition>): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key,
  name: `Mentions ${key}`,
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: key.toUpperCase(), digits: 3 },
  title: "{What}",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  fields: [
    { id: "what", name: "What", kind: "text" },
    { id: "remarks", name: "Remarks", kind: "text" },
  ],
  access: { start: { remarks: "hide" }, check: { remarks: "edit" } },
  samples: [],
  route: ["check", "again"].map(
    (id): Step =>
      ({
        id,
        name: `Step ${id}`,
        kind: "decide",
        who: { rule: { by: "person", person: "greta.halloran" }, how: "one" },
        answers: [{ id: "yes", label: "Yes", tone: "agree", steps: [] }],
      }) as Step,
  ),
  ...more,
});
beforeAll(async () => {
  world = await openWorld();
  [decider, named] = (await Promise.all(["greta.halloran", "dov.merrick"].map(person))) as [Actor, Actor];
  for (const [key, more] of [
    ["ment", { mentions: true }],
    ["none", {}],
  ] as const) {
    value(await createProcess(SYSTEM, definition(key, more)));
    value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  }
});
afterAll(() => world.close());

const begin = async (key = "ment") =>
  value(await startRequest(await person("lucia.penrose"), key, { what: "A bell" })).number;
const answer = async (number: string, note: string, data = {}) => {
  const { myTask } = value(await requestView(decider, number));
  return value(await act(decider, number, { type: "answer", task: myTask!, answer: "yes", note, data }));
};
const told = async (who: Actor, number: string) =>
  (await noticesOf(who)).filter((n) => n.number === number).map((n) => [n.text, n.href]);
const sees = async (who: Actor, number: string) => (await requestView(who, number)).ok;

it("whoever is mentioned is told, and looks at the request as it was sent and at nothing hidden there", async () => {
  const number = await begin();
  expect(await sees(named, number)).toBe(false);
  await answer(number, "Does this fit, @Dov Merrick?", { remarks: "For Registry alone" });
  expect(await told(named, number)).toEqual([
    [`Greta Halloran mentions you on ${number}`, `/requests/${number}`],
  ]);
  const view = value(await requestView(named, number));
  expect(view.form.data).toEqual({ what: "A bell" });
  expect(JSON.stringify(view)).not.toContain("Registry alone");
  expect(view.trail.some((l) => l.note.includes("@Dov Merrick"))).toBe(true);
  // They look, and do nothing.
  expect(view).toMatchObject({ myTask: null, mayWithdraw: false, mayWatch: false, mayWrite: null });
  const open = Object.values(view.waiting)[0]!.task;
  expect(
    await act(named, number, { type: "answer", task: open, answer: "yes", note: "", data: {} }),
  ).toMatchObject({ failure: { data: { code: "not-yours" } } });
  expect(await act(named, number, { type: "cancel", note: "x" })).toMatchObject({ ok: false });
  // By its number they find it, as whoever took part does.
  expect(JSON.stringify(await find(named, number))).toContain(number);
  expect(await sees(await person("piet.hanlon"), number)).toBe(false);
});

it("tells nobody where the owner does not let it, where the name is several people's, or oneself", async () => {
  const closed = await begin("none");
  await answer(closed, "@Dov Merrick, look");
  expect([await told(named, closed), await sees(named, closed)]).toEqual([[], false]);

  await sql("update person set name = 'Dov Merrick' where id = 'piet.hanlon'");
  const number = await begin();
  await answer(number, "@Dov Merrick and @Greta Halloran and mail@Anselm Kerr and @Nobody Here");
  expect([await told(named, number), await sees(named, number)]).toEqual([[], false]);
  expect(await sees(await person("anselm.kerr"), number)).toBe(false);
  expect(
    await sql("select * from request_mention m join request r on r.id = m.request_id where number = $1", [
      number,
    ]),
  ).toEqual([]);
  await sql("update person set name = 'Piet Hanlon' where id = 'piet.hanlon'");
});

it("once for a person however often they are named, again in another note, by any deed with words", async () => {
  const number = await begin();
  const { myTask } = value(await requestView(decider, number));
  const asked = { type: "ask", task: myTask!, to: null, note: "@dov merrick @Dov Merrick: why?" } as const;
  value(await act(decider, number, asked));
  expect(await told(named, number)).toHaveLength(1);
  await answer(number, "Thank you @Dov Merrick");
  expect(await told(named, number)).toHaveLength(2);
  const hand = value(await requestView(decider, number)).myTask!;
  value(
    await act(decider, number, {
      type: "hand over",
      task: hand,
      to: "anselm.kerr",
      note: "@Ines Corrigan knows",
    }),
  );
  expect(await sees(await person("ines.corrigan"), number)).toBe(true);
});

it("names fifty people at most", async () => {
  const number = await begin();
  const all = await sql<{ id: string; name: string }>(
    "select min(id) as id, name from person where active and kind = 'person' and id <> $1 group by name having count(*) = 1 order by name limit 60",
    [decider.id],
  );
  await answer(
    number,
    all
      .map((p) => `@${p.name}`)
      .join(" ")
      .slice(0, 3900),
  );
  const [n] = await sql<{ n: number }>(
    "select count(*)::int n from request_mention m join request r on r.id = m.request_id where number = $1",
    [number],
  );
  expect(n!.n).toBe(Math.min(50, all.length));
});
