import { EVERYBODY, type FormAnswer, type FormData, type FormQuestion } from "@/core/form";
import type { Step } from "@/core/route";
import {
  act,
  askAtOpen,
  askAtSample,
  askAtStart,
  askAtTask,
  createProcess,
  desk,
  passerBy,
  releaseDraft,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { rights } from "./registerWords";
import { openWorld, person, sql, value } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
let lucia: Actor;
let piet: Actor;
jest.setTimeout(60_000);
beforeAll(async () => {
  world = await openWorld();
  [lucia, piet] = [await person("lucia.penrose"), await person("piet.hanlon")];
  value(await createProcess(SYSTEM, DEFINITION));
  value(await releaseDraft(SYSTEM, "lendings", "1.0.0", ""));
});
afterAll(() => world.close());

const there = (there: "none" | "some") => ({ register: "loans", there });
const DEFINITION = {
  format: "cobble-step/process@2" as const,
  key: "lendings",
  name: "Lendings",
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: "LENDING", digits: 4 },
  title: "",
  starts: [
    { id: "form", kind: "form" as const, who: { by: "everybody" as const } },
    {
      id: "public",
      kind: "public" as const,
      letterhead: "Quillhaven Museums",
      asks: "nothing" as const,
      values: true as const,
    },
  ],
  fields: [
    { id: "site", name: "Site", kind: "text" as const },
    {
      id: "object",
      name: "Object",
      kind: "look-up" as const,
      register: "objects",
      offered: 'Site = Form.Site and Status = "in store"',
    },
    {
      id: "borrower",
      name: "Borrower",
      kind: "look-up" as const,
      register: "borrowers",
      checks: [
        {
          must: 'Borrower = Form.Borrower and Status = "running" and Starts <= Until and Ends >= From',
          say: "They have a loan running in these weeks.",
          records: there("none"),
        },
      ],
    },
    { id: "from", name: "From", kind: "date" as const },
    { id: "until", name: "Until", kind: "date" as const },
    {
      id: "guide",
      name: "Guide",
      kind: "person" as const,
      offered: 'list contains(Duties, "Registrar") or Department = Form.Site',
    },
    {
      id: "lines",
      name: "Lines",
      kind: "lines" as const,
      fields: [
        { id: "most", name: "Most", kind: "money" as const },
        {
          id: "price",
          name: "Thing",
          kind: "look-up" as const,
          register: "price_list",
          // No part of this can be asked of the database.
          offered: "Price < Most and string length(string(Price)) < 6",
        },
        {
          id: "kindly",
          name: "Sort of thing",
          kind: "choice" as const,
          among: { register: "price_list", column: "category" },
          offered: "Price < Most",
        },
      ],
    },
    {
      id: "sort",
      name: "Category",
      kind: "choice" as const,
      among: { register: "price_list", column: "category" },
    },
    {
      id: "items",
      name: "Items",
      kind: "several choices" as const,
      among: { register: "price_list", column: "item" },
      offered: "Category = Form.Category",
    },
    { id: "secret", name: "Secret", kind: "text" as const },
    {
      id: "hushed",
      name: "Hushed",
      kind: "look-up" as const,
      register: "price_list",
      offered: "Item name = Form.Secret",
    },
  ],
  access: { start: { secret: "hide" as const }, buys: { secret: "edit" as const, from: "edit" as const } },
  samples: [{ id: "one", name: "One", requester: "lucia.penrose", data: {} }],
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
const offered = (field: string, search = "", row: string | null = null): FormQuestion => ({
  ask: "offered",
  field,
  row,
  search,
});
const titles = (a: FormAnswer) => a.offered.map((o) => o.title);
const ask = async (data: FormData, q: FormQuestion) =>
  value(await askAtStart(lucia, "lendings", null, data, q));
const send = (data: FormData) => startRequest(lucia, "lendings", data, null);
const problems = async (data: FormData) => {
  const r = await send(data);
  if (r.ok) return [];
  const f = r.failure;
  if (f.code !== "refused" || f.data.code !== "form") throw new Error(JSON.stringify(f));
  return f.data.data.problems.map((p) => `${p.path} ${p.code}`);
};
const SITE = "Tower House";

it("lists what meets the condition as the form is now, by the words looked for, and holds by the same", async () => {
  const listed = await ask({ site: SITE }, offered("object"));
  expect(listed.offered.length).toBeGreaterThan(5);
  for (const { record } of listed.offered) expect(record).toMatchObject({ site: SITE, status: "in store" });
  const words = await ask({ site: SITE }, offered("object", "with herons"));
  expect(titles(words).every((t) => t.includes("with herons"))).toBe(true);
  expect(await ask({}, offered("object"))).toMatchObject({ offered: [] });
  const [first] = listed.offered;
  expect(await problems({ site: SITE, object: first!.id })).toEqual([]);
  expect(await problems({ site: "Old Ropeworks", object: first!.id })).toEqual(["object not-offered"]);
  await sql("update register.objects set status = 'on loan' where id = $1", [first!.id]);
  expect(await problems({ site: SITE, object: first!.id })).toEqual(["object not-offered"]);
  expect((await ask({ site: SITE }, offered("object"))).offered.map((o) => o.id)).not.toContain(first!.id);
});

it("lists people by duties, department and what is filled in, and nobody else is taken", async () => {
  const registrars = await sql<{ name: string }>(
    "select distinct p.name from register.role_holders d join person p on p.id = d.person where d.duty = 'Registrar' order by 1",
  );
  expect(registrars.length).toBeGreaterThan(0);
  expect(titles(await ask({}, offered("guide")))).toEqual(registrars.map((r) => r.name));
  const more = await ask({ site: "Security" }, offered("guide"));
  expect(more.offered.length).toBeGreaterThan(registrars.length);
  const guard = more.offered.find((o) => !registrars.some((r) => r.name === o.title))!;
  expect(await problems({ site: "Security", guide: guard.id })).toEqual([]);
  expect(await problems({ site: "Registry", guide: guard.id })).toEqual(["guide not-offered"]);
});

it("lists for a row what its own values let, though the database cannot be asked", async () => {
  const lines = [
    { "#": "a", most: "10", price: null },
    { "#": "b", most: "20", price: null },
  ];
  const a = await ask({ lines }, offered("price", "", "a"));
  const b = await ask({ lines }, offered("price", "", "b"));
  expect(a.offered.length).toBeGreaterThan(0);
  expect(b.offered.length).toBeGreaterThan(a.offered.length);
  for (const { record } of a.offered) expect(Number(record!["price"])).toBeLessThan(10);
  expect(await ask({ lines }, offered("price", "", "gone"))).toMatchObject({ offered: [] });
  const dear = b.offered.find((o) => !a.offered.some((x) => x.id === o.id))!;
  const picked = [
    { "#": "a", most: "10", price: dear.id },
    { "#": "b", most: "20", price: dear.id },
  ];
  expect(await problems({ lines: picked })).toEqual(["lines/a/price not-offered"]);
});

describe("a check of what stands in a register", () => {
  let loan: { borrower: string; starts: string; ends: string };
  beforeAll(async () => {
    [loan] = (await sql<typeof loan>(
      "insert into register.loans (file_number, borrower, status, starts, ends) values ('X-1', 3, 'running', '2026-05-01', '2026-05-20') returning borrower::text, starts::text, ends::text",
    )) as [typeof loan];
  });
  const weeks = (from: string, until: string) => ({ borrower: loan.borrower, from, until });
  it("is answered while it is filled in, and held when it is sent", async () => {
    const over = weeks("2026-05-10", "2026-06-01");
    const a = await ask(over, { ask: "records" });
    expect(Object.values(a.records)).toEqual([{ there: true }]);
    expect(await problems(over)).toEqual(["borrower check"]);
    const free = weeks("2026-06-10", "2026-07-01");
    expect(Object.values((await ask(free, { ask: "records" })).records)).toEqual([{ there: false }]);
    expect(await problems(free)).toEqual([]);
  });
  it("is held at a step as well, over what is kept and what is filled in there", async () => {
    const { number } = value(await send(weeks("2026-06-10", "2026-07-01")));
    const row = (await desk(piet)).rows.find((r) => r.number === number);
    const answer = (data: FormData) =>
      act(piet, number, { type: "answer", task: row!.task_id, answer: "done", note: "", data });
    const asked = value(
      await askAtTask(piet, number, row!.task_id, { from: "2026-05-19" }, { ask: "records" }),
    );
    expect(Object.values(asked.records)).toEqual([{ there: true }]);
    expect(await answer({ from: "2026-05-19" })).toMatchObject({
      failure: { data: { code: "form", data: { problems: [{ path: "borrower", code: "check" }] } } },
    });
    expect((await answer({ from: "2026-06-01" })).ok).toBe(true);
    expect((await askAtTask(lucia, number, row!.task_id, {}, { ask: "records" })).ok).toBe(false);
  });
  it("holds two that are sent at once, and what a form of many lines asks on another thread", async () => {
    const over = weeks("2026-05-10", "2026-06-01");
    const both = await Promise.all([problems(over), problems(over)]);
    expect(both).toEqual([["borrower check"], ["borrower check"]]);
    const lines = Array.from({ length: 300 }, (_, i) => ({ "#": String(i), most: "1" }));
    expect(await problems({ ...over, lines })).toEqual(["borrower check"]);
    expect(await problems({ ...weeks("2026-06-10", "2026-07-01"), lines })).toEqual([]);
  });
  it("stops where the register may not be read any more, and lists nothing of it", async () => {
    await rights("loans", { ...EVERYBODY, withdrawn: ["lendings"] });
    await rights("objects", { ...EVERYBODY, withdrawn: ["lendings"] });
    try {
      expect(await problems(weeks("2026-06-10", "2026-07-01"))).toEqual(["borrower unclear"]);
      const none = await ask({ site: SITE }, offered("object"));
      expect(none).toMatchObject({ offered: [], none: expect.stringContaining("may not be read") });
    } finally {
      await rights("loans", EVERYBODY);
      await rights("objects", EVERYBODY);
    }
  });
});

describe("what stands in a column of a register is chosen from", () => {
  const texts = async (data: FormData, q: FormQuestion) => (await ask(data, q)).offered.map((o) => o.id);
  const inColumn = async (where: string, column = "category") =>
    (
      await sql<{ text: string }>(
        `select distinct ${column} as text from register.price_list where ${where} order by 1 limit 30`,
      )
    ).map((r) => r.text);
  it("each text once, in order, by the words looked for and by what is filled in", async () => {
    const all = await texts({}, offered("sort"));
    expect(all.length).toBeGreaterThan(2);
    expect(all).toEqual(await inColumn("true"));
    const part = all[1]!.slice(1, 4).toUpperCase();
    expect(await texts({}, offered("sort", part))).toEqual(all.filter((t) => t.toUpperCase().includes(part)));
    expect(await texts({}, offered("sort", "%"))).toEqual([]);
    const [first] = all;
    expect(await texts({ sort: first! }, offered("items"))).toEqual(
      await inColumn(`category = '${first}'`, "item"),
    );
    expect(await texts({}, offered("items"))).toEqual([]);
    const lines = [{ "#": "a", most: "12", kindly: null }];
    const cheap = await inColumn("price < 12");
    expect(cheap.length).toBeGreaterThan(1);
    expect(await texts({ lines }, offered("kindly", "", "a"))).toEqual(cheap);
  });
  it("is held by the same when it is sent, each of several, and in many lines by few searches", async () => {
    const [first, second] = (await inColumn("true")) as [string, string];
    const of = (c: string) => inColumn(`category = '${c}'`, "item");
    const [mine, others] = [await of(first), await of(second)];
    expect(await problems({ sort: first, items: mine.slice(0, 3).join("\n") })).toEqual([]);
    expect(await problems({ sort: "no such thing" })).toEqual(["sort not-offered"]);
    expect(await problems({ sort: first.toUpperCase() + " " })).toEqual(["sort not-offered"]);
    expect(await problems({ sort: second, items: mine[0]! })).toEqual(["items not-offered"]);
    expect(await problems({ sort: first, items: `${mine[0]}\n${others[0]}` })).toEqual(["items not-offered"]);
    expect(await problems({ sort: "x".repeat(501) })).toEqual(["sort too-long"]);
    expect(await problems({ sort: `${first}\n${second}` })).toEqual(["sort not-a-text"]);
    expect(
      await problems({ sort: first, items: Array.from({ length: 101 }, (_, i) => `t${i}`).join("\n") }),
    ).toEqual(["items too-many-chosen"]);
    const [cheap] = await inColumn("price < 12");
    const lines = Array.from({ length: 300 }, (_, i) => ({
      "#": String(i),
      most: i === 7 ? "0" : "12",
      kindly: cheap!,
    }));
    expect(await problems({ lines })).toEqual(["lines/7/kindly not-offered"]);
  });
  it("says while it is typed what is not there; a text that is taken out of the register is none afterwards", async () => {
    const [first] = await inColumn("true");
    const asked = async (data: FormData) =>
      Object.entries((await ask(data, { ask: "records" })).records).flatMap(([key, a]) =>
        key.startsWith("sort#") ? [a] : [],
      );
    expect(await asked({ sort: first! })).toEqual([{ there: true }]);
    expect(await asked({ sort: "no such thing" })).toEqual([{ there: false }]);
    expect(await asked({})).toEqual([]);
    const { number } = value(await send({ sort: first! }));
    await sql("update register.price_list set category = category || ' (old)' where category = $1", [first]);
    try {
      expect(await problems({ sort: first! })).toEqual(["sort not-offered"]);
      // What was asked with it reads as before, and goes on.
      const row = (await desk(piet)).rows.find((r) => r.number === number)!;
      const done = await act(piet, number, {
        type: "answer",
        task: row.task_id,
        answer: "done",
        note: "",
        data: { from: "2026-06-01" },
      });
      expect(done).toMatchObject({ ok: true });
    } finally {
      await sql("update register.price_list set category = $1 where category = $1 || ' (old)'", [first]);
    }
  });
  it("is not chosen from by whoever may not see the column, and not where the register is withdrawn", async () => {
    const [first] = await inColumn("true");
    const mine = { ...EVERYBODY, keepers: ["tobias.marrin"] };
    await rights("price_list", { ...mine, columns: { category: [{ by: "person", person: "sorcha.lind" }] } });
    try {
      expect(await ask({}, offered("sort"))).toMatchObject({
        offered: [],
        none: expect.stringContaining("may not see"),
      });
      expect(await ask({ sort: first! }, { ask: "records" })).toMatchObject({ records: {} });
      expect(await ask({ sort: first! }, offered("items"))).not.toMatchObject({ offered: [] });
    } finally {
      await rights("price_list", EVERYBODY);
    }
    await rights("price_list", { ...EVERYBODY, withdrawn: ["lendings"] });
    try {
      expect(await problems({ sort: first! })).toEqual(["sort unclear"]);
      expect(await ask({}, offered("sort"))).toMatchObject({
        offered: [],
        none: expect.stringContaining("any more"),
      });
    } finally {
      await rights("price_list", EVERYBODY);
    }
  });
});

describe("nothing is told that its reader may not know", () => {
  it("a condition over a hidden field lists what it says, and is not told itself", async () => {
    expect(await ask({ secret: "Tissue" }, offered("hushed"))).toMatchObject({ offered: [] });
    expect(await ask({}, offered("secret"))).toEqual({ offered: [], none: null, records: {} });
    const { number } = value(await send({}));
    const row = (await desk(piet)).rows.find((r) => r.number === number)!;
    const seen = value(await askAtTask(piet, number, row.task_id, {}, offered("guide")));
    // Who may only see a field is offered nothing in it.
    expect(seen).toEqual({ offered: [], none: null, records: {} });
    expect(await ask({}, offered("site"))).toEqual({ offered: [], none: null, records: {} });
    expect(await ask({}, offered("nothing"))).toEqual({ offered: [], none: null, records: {} });
  });
  it("of a register that is closed to them nothing is listed, of a closed column nothing told", async () => {
    const mine = { ...EVERYBODY, keepers: ["tobias.marrin"] };
    await rights("objects", { ...mine, columns: { title: [{ by: "person", person: "sorcha.lind" }] } });
    await rights("loans", { ...mine, columns: { starts: [{ by: "person", person: "sorcha.lind" }] } });
    try {
      const some = await ask({ site: SITE }, offered("object"));
      expect(some.offered.length).toBeGreaterThan(0);
      for (const { record } of some.offered) expect(record).not.toHaveProperty("title");
      const over = { borrower: "3", from: "2026-05-10", until: "2026-06-01" };
      expect((await ask(over, { ask: "records" })).records).toEqual({});
      expect(await problems(over)).toEqual(["borrower check"]);
    } finally {
      await rights("objects", EVERYBODY);
      await rights("loans", EVERYBODY);
    }
  });
  it("people outside are offered nobody, and of registers what is open to them", async () => {
    const outside = await passerBy();
    const open = async (q: FormQuestion) => value(await askAtOpen(outside, "lendings", { site: SITE }, q));
    expect(await open(offered("guide"))).toMatchObject({ offered: [] });
    expect(await open(offered("object"))).toMatchObject({ offered: [] });
    await rights("objects", { ...EVERYBODY, open: ["title", "accession_number"] });
    try {
      const some = await open(offered("object"));
      expect(some.offered.length).toBeGreaterThan(0);
      for (const { record } of some.offered)
        expect(Object.keys(record!).sort()).toEqual(["accession_number", "id", "title"]);
    } finally {
      await rights("objects", EVERYBODY);
    }
  });
  it("whoever designs it is listed what the draft would offer for a sample; nobody else is", async () => {
    const owner = await person("tobias.marrin");
    const of = (who: Actor, data: FormData) =>
      askAtSample(who, "lendings", "one", "start", data, offered("object"));
    expect(value(await of(owner, { site: SITE })).offered.length).toBeGreaterThan(5);
    expect((await of(lucia, { site: SITE })).ok).toBe(false);
    const none = await askAtSample(owner, "lendings", "another", "start", { site: SITE }, offered("object"));
    expect(value(none)).toMatchObject({ offered: [], none: expect.stringContaining("Choose a sample") });
    // A process that has none yet is tried all the same.
    const { samples: _, ...rest } = DEFINITION;
    value(
      await createProcess(SYSTEM, {
        ...rest,
        samples: [],
        key: "lendings-2",
        numbering: { prefix: "LENDTWO", digits: 4 },
      }),
    );
    const fresh = await askAtSample(owner, "lendings-2", "", "start", { site: SITE }, offered("object"));
    expect(value(fresh).offered.length).toBeGreaterThan(5);
    expect((await askAtSample(lucia, "lendings-2", "", "start", {}, offered("object"))).ok).toBe(false);
  });
});
