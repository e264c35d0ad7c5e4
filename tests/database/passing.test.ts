import { EVERYBODY } from "@/core/form";
import type { Step } from "@/core/route";
import {
  createProcess,
  makeKey,
  releaseDraft,
  requestView,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { handleApi } from "@/web/api/handle";
import { rights } from "./registerWords";
import { openWorld, person, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
let lucia: Actor;
let piet: Actor;
jest.setTimeout(60_000);
beforeAll(async () => {
  world = await openWorld();
  [lucia, piet] = [await person("lucia.penrose"), await person("piet.hanlon")];
  value(await createProcess(SYSTEM, DEFINITION));
  value(await releaseDraft(SYSTEM, "bolts", "1.0.0", ""));
});
afterAll(() => world.close());

const DEFINITION = {
  format: "cobble-step/process@2" as const,
  key: "bolts",
  name: "Bolts",
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: "BOLT", digits: 4 },
  title: "",
  starts: [{ id: "form", kind: "form" as const, who: { by: "everybody" as const } }],
  fields: [
    {
      id: "item",
      name: "Item",
      kind: "look-up" as const,
      register: "price_list",
      checks: [{ must: "Item.Price < 1", say: "It is a dear one, above EUR 4711.", passable: true as const }],
    },
    {
      id: "count",
      name: "Count",
      kind: "number" as const,
      checks: [{ must: "Count < 5", say: "That is many.", passable: true as const }],
    },
  ],
  access: { buys: { count: "hide" as const } },
  samples: [],
  route: [
    {
      id: "buys",
      name: "Piet buys",
      kind: "complete",
      who: { rule: { by: "person", person: "piet.hanlon" }, how: "one" },
      button: "Bought",
    },
  ] as Step[],
};
const WHY = { "item#0": "Nothing else holds.", "count#0": "One for each bay." };
const ask = (passed: Record<string, string>) =>
  startRequest(lucia, "bolts", { item: "20", count: "7" }, null, undefined, null, null, passed);
const told = async (who: Actor, number: string) =>
  (value(await requestView(who, number)).form.passed ?? []).map((p) => `${p.by}: ${p.say} ${p.why}`);

it("is kept with the request, and told to whoever may know what the check reads", async () => {
  expect((await ask({})).ok).toBe(false);
  expect((await ask({ "item#0": WHY["item#0"] })).ok).toBe(false);
  const { number } = value(await ask(WHY));
  expect(await told(lucia, number)).toEqual([
    "Lucia Penrose: It is a dear one, above EUR 4711. Nothing else holds.",
    "Lucia Penrose: That is many. One for each bay.",
  ]);
  const mine = { ...EVERYBODY, keepers: ["tobias.marrin"] };
  await rights("price_list", { ...mine, columns: { price: [{ by: "person", person: "sorcha.lind" }] } });
  try {
    // What a check says may tell of a column that is hidden from its reader.
    expect(await told(lucia, number)).toEqual(["Lucia Penrose: That is many. One for each bay."]);
    const all = JSON.stringify(value(await requestView(piet, number)));
    expect(all).not.toContain("4711");
  } finally {
    await rights("price_list", mine);
  }
});

it("a program is told which checks may be passed, and gives its reasons by that", async () => {
  const { key } = value(await makeKey(lucia, lucia.id, "a test"));
  const send = (passed: object) =>
    handleApi({
      method: "POST",
      parts: ["processes", "bolts", "requests"],
      search: new URLSearchParams(),
      authorization: `Bearer ${key}`,
      idempotencyKey: undefined,
      ifMatch: undefined,
      address: "",
      told: null,
      body: (async function* () {
        yield await Promise.resolve(
          Buffer.from(JSON.stringify({ data: { item: "20", count: "7" }, passed })),
        );
      })(),
    });
  const first = JSON.parse((await send({})).body.toString()) as { problems: { pass: string }[] };
  expect(first.problems.map((p) => p.pass)).toEqual(["item#0", "count#0"]);
  expect((await send({ "item#0": "x".repeat(501), "count#0": "y" })).status).toBe(422);
  expect((await send(WHY)).status).toBe(201);
});
