import { act, answerSeveral, desk, requestView, startRequest, taskView } from "@/services";
import { KEY, openWorld, orderOf, person, sql, value } from "./world";

/** Tasks of one step answered together, and one that is handed over to be had back. */
let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());
jest.setTimeout(60_000);

const HOLDER = "fintan.galloway";
const row = async (number: string, who: string) =>
  (await desk(await person(who), 500)).rows.find((r) => r.number === number);
/** An order whose budget somebody holds, with its task. */
async function order() {
  const { number } = value(await startRequest(await person("piet.hanlon"), "supplies", orderOf(80)));
  const [held] = await sql<{ person_id: string; task_id: string }>(
    `select c.person_id, c.task_id from task_candidate c join request r on r.id = c.request_id
     where r.number = $1 and c.open`,
    [number],
  );
  return { number, task: held!.task_id, by: held!.person_id };
}
const answersOf = async (number: string) =>
  sql<{ answer: string; note: string; by: string }>(
    `select e.body ->> 'label' as answer, e.body ->> 'note' as note, e.by_person as by
     from request_event e join request r on r.id = e.request_id
     where r.number = $1 and e.type = 'answer given'`,
    [number],
  );

it("several orders are answered in one way, each for itself", async () => {
  const all = [await order(), await order(), await order()];
  const { by } = all[0]!;
  const rows = await Promise.all(all.map((o) => row(o.number, by)));
  expect(new Set(rows.map((r) => r!.with_others?.key)).size).toBe(1);
  expect(rows[0]!.with_others!.answers.map((a) => [a.label, a.note])).toContainEqual(["Decline", true]);
  // A colleague was faster with one of them.
  const actor = await person(by);
  const say = { type: "answer" as const, answer: "approve", note: "", data: {} };
  value(await act(actor, all[1]!.number, { ...say, task: all[1]!.task }));
  const tasks = all.map(({ number, task }) => ({ number, task }));
  const done = value(await answerSeveral(actor, tasks, "approve", "Within budget."));
  expect(done.answered).toBe(2);
  expect(done.refused.map((r) => r.number)).toEqual([all[1]!.number]);
  expect(done.refused[0]!.sentence).toMatch(/has answered this already/);
  expect(await answersOf(all[0]!.number)).toEqual([{ answer: "Approve", note: "Within budget.", by }]);
  expect(await row(all[2]!.number, by)).toBeUndefined();
  // Pressed twice, nothing is answered twice.
  expect(value(await answerSeveral(actor, tasks, "approve", "Within budget.")).answered).toBe(0);
});

it("a note that is needed, an answer that is none and somebody else's task are told one by one", async () => {
  const one = await order();
  const tasks = [{ number: one.number, task: one.task }];
  const refusal = async (who: string, answer: string, note = "") =>
    value(await answerSeveral(await person(who), tasks, answer, note)).refused[0]?.sentence;
  expect(await refusal(one.by, "decline")).toMatch(/needs a note/);
  expect(await refusal(one.by, "no-such")).toMatch(/is not an answer of this step/);
  expect(await refusal("dov.merrick", "approve")).toBe("You may not answer this together with others.");
  expect(await refusal("piet.hanlon", "approve")).toBe("You may not answer this together with others.");
  expect(await answersOf(one.number)).toEqual([]);
});

it("what its owner did not let be answered so is not, whatever is sent", async () => {
  const { number } = value(await startRequest(await person("lucia.penrose"), "store-key", KEY));
  const manager = await person(HOLDER);
  const task = value(await requestView(manager, number)).myTask!;
  expect((await row(number, HOLDER))!.with_others).toBeNull();
  const done = value(await answerSeveral(manager, [{ number, task }], "approve", ""));
  expect(done).toMatchObject({ answered: 0, refused: [{ number, task }] });
  expect(await answersOf(number)).toEqual([]);
});

it("more than a hundred at once are refused as a whole", async () => {
  const tasks = Array.from({ length: 101 }, (_, i) => ({ number: `KEY-${i}`, task: "t1" }));
  const d = await answerSeveral(await person(HOLDER), tasks, "approve", "");
  expect(d.ok ? null : d.failure).toMatchObject({ code: "invalid", data: { path: "tasks" } });
});

it("a task handed over to be had back comes back with what the other would answer", async () => {
  const { number } = value(await startRequest(await person("lucia.penrose"), "store-key", KEY));
  const manager = await person(HOLDER);
  const task = value(await requestView(manager, number)).myTask!;
  const to = "greta.halloran";
  value(await act(manager, number, { type: "hand over", task, to, note: "You know it.", back: true }));
  const greta = await person(to);
  const theirs = value(await taskView(greta, number, task));
  expect(theirs.backTo).toBe("Fintan Galloway");
  expect(theirs.answers[0]!.then).toBe("as you would answer; then Fintan Galloway has it again");
  value(await act(greta, number, { type: "answer", task, answer: "approve", note: "Fine.", data: {} }));
  expect(await row(number, to)).toBeUndefined();
  const again = value(await taskView(manager, number, task));
  expect(again.proposed).toMatchObject({ by: "Greta Halloran", label: "Approve", note: "Fine." });
  expect([again.backTo, again.request.status]).toEqual([null, "under way"]);
  value(await act(manager, number, { type: "answer", task, answer: "decline", note: "No.", data: {} }));
  expect((await answersOf(number)).map((a) => [a.answer, a.by])).toEqual([["Decline", HOLDER]]);
});
