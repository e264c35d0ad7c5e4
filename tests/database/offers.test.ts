import type { RequestState } from "@/core/engine";
import type { Field } from "@/core/form";
import type { ProcessDefinition, Step } from "@/core/route";
import { getPool, requests } from "@/db";
import { act, createProcess, releaseDraft, startRequest, SYSTEM, taskView, type Actor } from "@/services";
import { openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
let lucia: Actor;
let piet: Actor;
beforeAll(async () => {
  world = await openWorld();
  [lucia, piet] = [await person("lucia.penrose"), await person("piet.hanlon")];
});
afterAll(() => world.close());

const FIELDS: Field[] = [
  { id: "thing", name: "Thing", kind: "look-up", register: "objects" },
  { id: "who", name: "Who", kind: "person" },
  { id: "secret", name: "Secret", kind: "choice", options: ["the code is 4711", "none"] },
];
let made = 0;
async function process(access: ProcessDefinition["access"]): Promise<string> {
  const key = `offers-${++made}`;
  const definition: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: key,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: `OF${made}X`, digits: 4 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: FIELDS,
    access,
    samples: [],
    route: [
      {
        id: "f",
        name: "Free",
        kind: "find",
        register: "objects",
        where: 'Status = "in store"',
        take: "some",
        most: 3,
        nothing: "stop",
        ways: [],
      },
      {
        id: "pick",
        name: "Pick",
        kind: "complete",
        who: { rule: { by: "person", person: "piet.hanlon" }, how: "one" },
        button: "Done",
        offers: [
          { field: "thing", of: "Free" },
          { field: "who", of: "[Requester]" },
          { field: "secret", of: '["the code is 4711"]' },
        ],
      },
      { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" },
    ] as Step[],
  };
  value(await createProcess(SYSTEM, definition));
  value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  return key;
}
const stateOf = async (number: string): Promise<RequestState> =>
  (await requests.requestForCommand(getPool(), { number }, false))!.state;
const answer = (number: string, data: Record<string, string>) =>
  act(piet, number, { type: "answer", task: "t4", answer: "done", note: "", data });

it("what was found is offered with what it is called, and told of hidden fields to nobody", async () => {
  const key = await process({ pick: { thing: "edit", who: "see", secret: "hide" } });
  const number = value(await startRequest(lucia, key, {})).number;
  const found = (await stateOf(number)).kept["f"]!;
  const ids = "ids" in found ? found.ids : [];
  expect(ids).toHaveLength(3);
  const task = Object.keys((await stateOf(number)).tasks)[0]!;
  expect(task).toBe("t4");
  const { form } = value(await taskView(piet, number, task));
  expect(form.offers).toEqual({ thing: ids });
  for (const id of ids) expect(form.facts.records["objects"]![id]!["title"]).toEqual(expect.any(String));
  expect(JSON.stringify(form)).not.toContain("4711");

  const [other] = await sql<{ id: string }>(
    "select id::text from register.objects where not id = any($1::bigint[]) limit 1",
    [ids],
  );
  expect(await answer(number, { thing: other!.id })).toMatchObject({
    ok: false,
    failure: { data: { code: "form", data: { problems: [{ code: "not-offered", path: "thing" }] } } },
  });
  // What was on the list can be sent, whatever became of it meanwhile.
  await sql("update register.objects set status = 'on loan' where id = $1", [ids[1]]);
  value(await answer(number, { thing: ids[1]! }));
  expect(await stateOf(number)).toMatchObject({ status: "finished", data: { thing: ids[1] } });
});

it("two who answer at once are each held to it, and one of them is refused as ever", async () => {
  const key = await process({ pick: { who: "edit" } });
  const number = value(await startRequest(lucia, key, {})).number;
  const all = await Promise.all([
    answer(number, { who: "lucia.penrose" }),
    answer(number, { who: "piet.hanlon" }),
  ]);
  expect(all.map((r) => r.ok).sort()).toEqual([false, true]);
  expect((await stateOf(number)).data["who"]).toBe("lucia.penrose");
});
