import { act, find, startRequest } from "@/services";
import { KEY, openWorld, orderOf, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
let mine = "";
let theirs = "";
beforeAll(async () => {
  world = await openWorld();
  mine = value(await startRequest(await person("lucia.penrose"), "store-key", KEY)).number;
  theirs = value(await startRequest(await person("piet.hanlon"), "supplies", orderOf(80))).number;
});
afterAll(() => world.close());

const names = async (who: string, text: string) =>
  (await find(await person(who), text)).map((f) => `${f.kind}: ${f.name}`);

it("finds forms, what was asked, and records, by any part of their name", async () => {
  const all = await find(await person("lucia.penrose"), "store");
  expect(all[0]).toEqual({
    kind: "form",
    name: "Store key",
    where: "make a request",
    href: "/ask/store-key",
  });
  expect(all).toContainEqual({
    kind: "request",
    name: `${mine} · Cold room, Tower House, Lucia Penrose`,
    where: "Store key",
    href: `/requests/${mine}`,
  });
  expect(all.filter((f) => f.kind === "record").every((f) => f.name.toLowerCase().includes("store"))).toBe(
    true,
  );
  const [store] = await sql<{ id: string }>("select id::text from register.stores order by id limit 1");
  expect(
    (await find(await person("lucia.penrose"), "cold room, tower")).find((f) => f.kind === "record")!.href,
  ).toBe(`/registers/stores/${store!.id}`);
});

it("shows nobody what they may not see", async () => {
  expect(await names("lucia.penrose", theirs)).toEqual([]);
  expect(await names("piet.hanlon", theirs.toLowerCase())).toEqual([
    expect.stringContaining(`request: ${theirs}`),
  ]);
  // Who decides it, who owns the process.
  expect(await names("sorcha.lind", theirs)).toHaveLength(1);
  expect(await names("tobias.marrin", theirs)).toHaveLength(1);
  // What somebody answered once is still found by its number.
  const [task] = Object.keys(
    (await sql<{ state: { tasks: object } }>("select state from request where number = $1", [theirs]))[0]!
      .state.tasks,
  );
  value(
    await act(await person("sorcha.lind"), theirs, {
      type: "answer",
      task: task!,
      answer: "approve",
      note: "",
      data: {},
    }),
  );
  expect(await names("sorcha.lind", theirs)).toHaveLength(1);
  // Fields and steps only for those who design.
  expect((await names("lucia.penrose", "budget")).filter((n) => !n.startsWith("record"))).toEqual([]);
  expect(await names("tobias.marrin", "budget holder dec")).toEqual(["step: Budget holder decides"]);
  const quote = (await find(await person("tobias.marrin"), "quote")).find((f) => f.kind === "field")!;
  expect(quote).toMatchObject({
    where: "Conservation supplies",
    href: "/workshop/supplies/form#field-quote",
  });
});

it("gives few of each, those that begin so first, and takes signs for themselves", async () => {
  const key = await find(await person("tobias.marrin"), "key");
  const fields = key.filter((f) => f.kind === "field").map((f) => f.name);
  expect(fields[0]).toBe("Key number");
  for (const kind of ["form", "request", "field", "step"])
    expect(key.filter((f) => f.kind === kind).length).toBeLessThanOrEqual(6);
  expect(await names("tobias.marrin", "%")).toEqual([]);
  expect(await names("tobias.marrin", "___")).toEqual([]);
  expect(await names("tobias.marrin", "  ")).toEqual([]);
  expect(await names("tobias.marrin", "x".repeat(5000))).toEqual([]);
});
