import type { StoredRow } from "@/core/form";
import { EVERYBODY } from "@/core/form";
import type { Step } from "@/core/route";
import { getPool, requests } from "@/db";
import {
  act,
  createProcess,
  makeKey,
  releaseDraft,
  requestView,
  saveRecord,
  startRequest,
  SYSTEM,
  taskView,
  type Actor,
} from "@/services";
import { handleApi } from "@/web/api/handle";
import { rights } from "./registerWords";
import { openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
let lucia: Actor;
let piet: Actor;
let keeper: Actor;
jest.setTimeout(60_000);
beforeAll(async () => {
  world = await openWorld();
  [lucia, piet, keeper] = [
    await person("lucia.penrose"),
    await person("piet.hanlon"),
    await person("tobias.marrin"),
  ];
  value(await createProcess(SYSTEM, DEFINITION));
  value(await releaseDraft(SYSTEM, "glue", "1.0.0", ""));
});
afterAll(() => world.close());

const GLUE = "20";
const DEFINITION = {
  format: "cobble-step/process@2" as const,
  key: "glue",
  name: "Glue",
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: "GLUE", digits: 4 },
  title: "",
  starts: [{ id: "form", kind: "form" as const, who: { by: "everybody" as const } }],
  fields: [
    {
      id: "items",
      name: "Items",
      kind: "lines" as const,
      fields: [
        { id: "item", name: "Item", kind: "look-up" as const, register: "price_list" },
        { id: "quantity", name: "Quantity", kind: "number" as const },
        { id: "price", name: "Price", kind: "money" as const, worked: "Item.Price", copied: true as const },
      ],
    },
    {
      id: "total",
      name: "Total",
      kind: "money" as const,
      worked: "sum(for i in Items return i.Quantity * i.Price)",
    },
    { id: "offer", name: "Offer", kind: "money" as const, worked: "Total * 2", fixed: true as const },
  ],
  access: { buys: { items: "see" as const } },
  samples: [],
  route: [
    {
      id: "buys",
      name: "Piet buys",
      kind: "complete",
      who: { rule: { by: "person", person: "piet.hanlon" }, how: "one" },
      button: "Bought",
      anew: ["price"],
    },
    { id: "z", name: "Finish", kind: "finish", result: "bought", tone: "agree" },
  ] as Step[],
};

const costs = async (price: string) => value(await saveRecord(keeper, "price_list", GLUE, null, { price }));
const ask = async () =>
  value(await startRequest(lucia, "glue", { items: [{ "#": "1", item: GLUE, quantity: "3" }] })).number;
const stateOf = async (number: string) =>
  (await requests.requestForCommand(getPool(), { number }, false))!.state;
const press = async (number: string, anew?: Record<string, string>) => {
  const task = Object.keys((await stateOf(number)).tasks)[0]!;
  return act(piet, number, {
    type: "answer",
    task,
    answer: "done",
    note: "",
    data: {},
    ...(anew ? { anew } : {}),
  });
};
const told = (r: Awaited<ReturnType<typeof press>>) => {
  if (r.ok || r.failure.code !== "refused" || r.failure.data.code !== "read-anew")
    throw new Error("not told");
  return r.failure.data.data.changes;
};

it("a price that rose is seen before it counts, then kept, and told on the trail", async () => {
  await costs("10");
  const number = await ask();
  await costs("12.50");
  // The page shows what was agreed until then.
  const { form } = value(await taskView(piet, number, Object.keys((await stateOf(number)).tasks)[0]!));
  expect(form.data["total"]).toBe("30");
  const changes = told(await press(number));
  expect(changes.map((c) => `${c.name}: ${c.from} → ${c.to}`)).toEqual([
    "Price of Fish glue: 10.00 → 12.50",
    "Total: 30.00 → 37.50",
  ]);
  expect((await stateOf(number)).data["total"]).toBe("30");
  const saw = Object.fromEntries(changes.map((c) => [c.path, c.value as string]));
  await costs("13");
  told(await press(number, saw));
  await costs("12.50");
  value(await press(number, saw));
  const { data } = await stateOf(number);
  expect([(data["items"] as StoredRow[])[0]!["price"], data["total"], data["offer"]]).toEqual([
    "12.5",
    "37.5",
    "60",
  ]);
  const { trail } = value(await requestView(lucia, number));
  const line = trail.find((l) => l.text === "read values anew with the answer")!;
  expect(line.by).toBe("piet.hanlon");
  expect(line.changes?.map((c) => [c.name, c.from, c.to])).toEqual([
    ["Items, line 1: Price", "10.00", "12.50"],
    ["Total", "30.00", "37.50"],
  ]);
});

it("two who press at once read it anew once, by what both saw", async () => {
  await costs("10");
  const number = await ask();
  await costs("11");
  const saw = Object.fromEntries(told(await press(number)).map((c) => [c.path, c.value as string]));
  const both = await Promise.all([press(number, saw), press(number, saw)]);
  expect(both.map((r) => r.ok).sort()).toEqual([false, true]);
  const events = await sql<{ n: number }>(
    "select count(*)::int as n from request_event e join request r on r.id = e.request_id where r.number = $1 and e.type = 'data changed'",
    [number],
  );
  expect(events[0]!.n).toBe(1);
});

it("a line is not called by what whoever answers may not see of the register", async () => {
  await costs("10");
  const number = await ask();
  await costs("15");
  const mine = { ...EVERYBODY, keepers: ["tobias.marrin"] };
  await rights("price_list", { ...mine, columns: { item: [{ by: "person", person: "sorcha.lind" }] } });
  try {
    expect(told(await press(number))[0]!.name).toBe("Price, line 1");
    // Somebody else's not seeing it is no reason to keep it from them.
    await rights("price_list", { ...mine, columns: { item: [{ by: "person", person: "piet.hanlon" }] } });
    expect(told(await press(number))[0]!.name).toBe("Price of Fish glue");
  } finally {
    await rights("price_list", mine);
  }
});

it("a program is told what came to be another, and sends it back to agree", async () => {
  await costs("10");
  const number = await ask();
  await costs("16");
  const { key } = value(await makeKey(piet, piet.id, "a test"));
  const send = async (more: object) => {
    const task = Object.keys((await stateOf(number)).tasks)[0]!;
    const body = JSON.stringify({ answer: "done", note: "", seen: (await stateOf(number)).seq, ...more });
    return handleApi({
      method: "POST",
      parts: ["requests", number, "tasks", task, "answer"],
      search: new URLSearchParams(),
      authorization: `Bearer ${key}`,
      idempotencyKey: undefined,
      ifMatch: undefined,
      address: "",
      told: null,
      body: (async function* () {
        yield await Promise.resolve(Buffer.from(body));
      })(),
    });
  };
  const first = JSON.parse((await send({})).body.toString()) as {
    code: string;
    changes: { path: string; value: string }[];
  };
  expect(first.code).toBe("read-anew");
  expect(first.changes.map((c) => [c.path, c.value])).toEqual([
    ["items/1/price", "16"],
    ["total", "48"],
  ]);
  const anew = Object.fromEntries(first.changes.map((c) => [c.path, c.value]));
  expect((await send({ anew })).status).toBe(200);
});
