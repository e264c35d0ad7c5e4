import { createHash, randomBytes } from "node:crypto";
import { EVERYBODY, type FormData } from "@/core/form";
import type { Step } from "@/core/route";
import { getPool, outside, requests } from "@/db";
import {
  act,
  addFollowedFile,
  addOpenFile,
  callBackLinks,
  createProcess,
  followed,
  followedFile,
  lookUp,
  openCatalogue,
  openForm,
  passerBy,
  releaseDraft,
  requestView,
  sendChanged,
  sendOpenForm,
  startRequest,
  SYSTEM,
  sweepVisitors,
  visitorBy,
  withdrawFollowed,
  writeFollowed,
  type Actor,
  type OpenSending,
  spooled,
} from "@/services";
import { rights } from "./registerWords";
import { openWorld, person, sql, value } from "./world";
import { allOf, readFile } from "./readFile";

let world: Awaited<ReturnType<typeof openWorld>>;
let owner: Actor;
let decider: Actor;
jest.setTimeout(60_000);
beforeAll(async () => {
  world = await openWorld();
  [owner, decider] = [await person("tobias.marrin"), await person("sorcha.lind")];
  await rights("price_list", { ...EVERYBODY, keepers: ["tobias.marrin"], open: ["item", "unit"] });
  value(await createProcess(SYSTEM, WISH));
  value(await releaseDraft(SYSTEM, "wish-list", "1.0.0", ""));
});
afterAll(() => world.close());

const WISH = {
  format: "cobble-step/process@2" as const,
  key: "wish-list",
  name: "Wishes",
  purpose: "Wishes of visitors.",
  owners: ["tobias.marrin"],
  numbering: { prefix: "WISHES", digits: 4 },
  title: "{Requester.name}: {Wish}",
  starts: [
    {
      id: "public",
      kind: "public" as const,
      letterhead: "Quillhaven Museums",
      asks: "address" as const,
      files: true as const,
      values: true as const,
    },
  ],
  fields: [
    { id: "wish", name: "Wish", kind: "text" as const, needed: "true" },
    { id: "thing", name: "Thing", kind: "look-up" as const, register: "price_list" },
    { id: "unit", name: "Unit", kind: "text" as const, worked: "Thing.Unit" },
    { id: "cost", name: "Cost", kind: "money" as const, worked: "Thing.Price" },
    { id: "guide", name: "Guide", kind: "person" as const },
    { id: "guards", name: "Guards", kind: "number" as const, worked: 'count(holders of("Registrar"))' },
    { id: "like", name: "Like", kind: "request" as const },
    { id: "secret", name: "Secret", kind: "text" as const, starting: '"secretword"' },
    { id: "twice", name: "Twice", kind: "text" as const, worked: 'if Secret = null then "" else "seen"' },
    { id: "paper", name: "Paper", kind: "file" as const },
    {
      id: "stops",
      name: "Stops",
      kind: "lines" as const,
      fields: [
        { id: "place", name: "Place", kind: "text" as const },
        { id: "by", name: "Shown by", kind: "person" as const },
      ],
    },
  ],
  access: {
    start: { secret: "hide" as const },
    check: { secret: "edit" as const, wish: "edit" as const, stops: "edit" as const },
  },
  samples: [],
  route: [
    {
      id: "check",
      name: "Sorcha checks",
      kind: "decide",
      stage: "Being looked at",
      who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
      answers: [
        { id: "yes", label: "Yes", tone: "agree", steps: [] },
        { id: "back", label: "Return it", tone: "plain", returns: true, note: "must", steps: [] },
      ],
    },
    { id: "end", name: "Finish", kind: "finish", result: "granted", tone: "agree", stage: "Decided" },
  ] as Step[],
};

const newVisit = () => randomBytes(32).toString("base64url");
const visitor = async (visit = newVisit()) => (await visitorBy(visit))!;
const sending = (data: FormData = { wish: "A map" }, more: Partial<OpenSending> = {}): OpenSending => ({
  name: "Ada Byrne",
  email: "ada@byrne.example",
  code: "",
  trap: "",
  data,
  passed: {},
  ...more,
});
const sent = async (data?: FormData, by?: Actor) =>
  value(await sendOpenForm(by ?? (await visitor()), "wish-list", sending(data)));
const open = async (token: string) => {
  const page = await followed(token);
  if (page.is !== "open") throw new Error(page.why);
  return page;
};
const stateOf = async (number: string) =>
  (await requests.requestForCommand(getPool(), { number }, false))!.state;
const answer = async (number: string, id: string, note = "", data: FormData = {}) => {
  const task = Object.values((await stateOf(number)).tasks).find((t) => t.status === "open")!.id;
  return value(await act(decider, number, { type: "answer", task, answer: id, note, data }));
};

describe("a form that is open", () => {
  it("is in the list of those that are, and nobody signed in starts by it", async () => {
    expect((await openCatalogue(await passerBy())).map((f) => f.key)).toContain("wish-list");
    const lucia = await person("lucia.penrose");
    expect(await startRequest(lucia, "wish-list", { wish: "x" })).toMatchObject({
      ok: false,
      failure: { code: "not-found" },
    });
    // Nor is a form of the office open to anybody outside.
    for (const key of ["store-key", "nothing", "constructor"])
      expect(await openForm(await passerBy(), key)).toMatchObject({
        ok: false,
        failure: { code: "not-found" },
      });
    expect(await sendOpenForm(await visitor(), "store-key", sending())).toMatchObject({
      ok: false,
      failure: { code: "not-found" },
    });
  });

  it("tells nothing of who works here, of what is hidden, and of columns that were not opened", async () => {
    const page = value(await openForm(await passerBy(), "wish-list", { Thing: "11", Secret: "mine" }));
    const all = JSON.stringify(page);
    expect(page.form.access).toMatchObject({ wish: "edit", thing: "edit" });
    for (const id of ["guide", "like", "secret"]) expect(page.form.access).not.toHaveProperty(id);
    expect(all).not.toMatch(/secretword|sorcha|tobias|quillhaven\.example/i);
    expect(Object.keys(page.form.facts.people)).toEqual([]);
    expect(page.form.facts.office).toMatchObject({ managers: {}, duties: [] });
    expect(page.form.data["thing"]).toBe("11");
    const record = page.form.facts.records["price_list"]!["11"]!;
    expect(Object.keys(record).sort()).toEqual(["id", "item", "unit"]);
    expect(page.form.facts.registers["price_list"]!.columns.map((c) => c.id)).toEqual(["item", "unit"]);
    // What reads a column that is not theirs has no formula there.
    expect(page.form.form.programs["cost"]).toEqual({});
    expect(page.form.form.programs["unit"]).not.toEqual({});
    // Nor what asks who holds a duty; it comes to what the server found.
    expect(page.form.form.programs["guards"]).toEqual({});
    expect(Number(page.form.data["guards"])).toBeGreaterThan(0);
    expect(page.said.join()).toMatch(/Secret.*no field/);
  });

  it("lets records be looked for by what was opened, and nothing else", async () => {
    const by = await passerBy();
    const found = value(await lookUp(by, "price_list", ""));
    expect(found.length).toBeGreaterThan(3);
    for (const { record } of found)
      expect(Object.keys(record).every((k) => ["id", "item", "unit"].includes(k))).toBe(true);
    for (const key of ["treatments", "role_holders", "stores", "@requests"]) {
      const others = await lookUp(by, key, "");
      expect(others.ok ? others.value : []).toEqual([]);
    }
  });
});

describe("what is sent", () => {
  it("is a request of whoever says who they are, once, however often it is sent", async () => {
    const by = await visitor();
    const all = await Promise.all([1, 2, 3].map(() => sendOpenForm(by, "wish-list", sending())));
    const numbers = new Set(all.map((r) => value(r).number));
    expect(numbers.size).toBe(1);
    const [number] = [...numbers];
    const { requester } = await stateOf(number!);
    expect(requester).toMatchObject({ kind: "outside", name: "Ada Byrne", email: "ada@byrne.example" });
    expect(await sql("select title from request where number = $1", [number])).toEqual([
      { title: "Ada Byrne: A map" },
    ]);
    expect(await sendOpenForm(by, "wish-list", sending({ wish: "Another" }))).toMatchObject({
      ok: false,
      failure: { code: "already-sent", data: { number } },
    });
    // Whoever knows the account by its id knows nothing by which they could be it.
    const account = requester.kind === "outside" ? requester.through! : "";
    expect(await visitorBy(account)).toBeNull();
  });

  it("keeps nobody who decides from deciding, by typing their address", async () => {
    const by = await visitor();
    const typed = sending(undefined, { email: "sorcha.lind@quillhaven.example" });
    const { number } = value(await sendOpenForm(by, "wish-list", typed));
    const { tasks } = await stateOf(number);
    expect(Object.values(tasks).map((t) => t.candidates)).toEqual([[{ person: "sorcha.lind" }]]);
  });

  it("holds nothing that is not theirs to fill in", async () => {
    const { number } = await sent({
      wish: "A map",
      secret: "mine",
      guide: "sorcha.lind",
      like: "KEY-0001",
      cost: "1",
      thing: "11",
    });
    expect(await stateOf(number)).toMatchObject({ data: { wish: "A map", thing: "11" } });
    const { data } = await stateOf(number);
    for (const id of ["secret", "guide", "like"]) expect(data[id] ?? null).toBeNull();
    expect(data["cost"]).not.toBe("1");
  });

  it.each([
    ["without a name", { name: " " }, /Say who you are/],
    ["with a name of a thousand letters", { name: "x".repeat(1000) }, /at most 200/],
    ["without an address", { email: "" }, /ada\.byrne@example/],
    ["with an address that is none", { email: "ada at byrne" }, /ada\.byrne@example/],
    ["by what fills in every input", { trap: "http://cheap.example" }, /nobody sees/],
    ["with what is too long", { data: { wish: "x".repeat(600) } }, null],
    ["without what is needed", { data: {} }, null],
  ])("%s it is refused in a sentence, and nothing is kept", async (_, more, says) => {
    const before = await sql("select count(*)::int as n from request");
    const r = await sendOpenForm(await visitor(), "wish-list", sending({ wish: "A map" }, more));
    expect(r.ok).toBe(false);
    if (says) expect(JSON.stringify(r)).toMatch(says);
    else expect(r).toMatchObject({ failure: { code: "refused", data: { code: "form" } } });
    expect(await sql("select count(*)::int as n from request")).toEqual(before);
  });

  it("is taken from a class of thirty behind one address, and not without end", async () => {
    const before = await sql<{ n: number }>("select count(*)::int as n from request");
    let taken = 0;
    let refused = "";
    for (let i = 0; i < 130 && refused === ""; i++) {
      const r = await sendOpenForm(await visitor(), "wish-list", sending());
      if (r.ok) taken++;
      else refused = JSON.stringify(r.failure);
    }
    expect(taken).toBeGreaterThanOrEqual(60);
    expect(refused).toMatch(/within 10 minutes/);
    await sql("delete from outside_pace");
    const after = await sql<{ n: number }>("select count(*)::int as n from request");
    expect(after[0]!.n - before[0]!.n).toBe(taken);
  });
});

describe("whoever follows it by a link", () => {
  it("sees where it stands in plain words, and what they sent, and not how it is dealt with", async () => {
    const { number, token } = await sent({ wish: "A map", thing: "11" });
    const page = await open(token!);
    expect(page).toMatchObject({
      number,
      letterhead: "Quillhaven Museums",
      status: "under way",
      stages: { names: ["Being looked at", "Decided"], at: 0 },
      mayWithdraw: true,
      changes: null,
    });
    const all = JSON.stringify(page);
    expect(all).not.toMatch(/sorcha|tobias|Sorcha checks|secretword/i);
    expect(page.form!.data).toMatchObject({ wish: "A map" });
    expect(page.form!.access).not.toHaveProperty("secret");
  });

  it("is asked for changes and sends them, by the form as they have it", async () => {
    const { number, token } = await sent();
    await answer(number, "back", "Which map?", { secret: "ofsorcha", wish: "A map" });
    const page = await open(token!);
    expect(page.changes).toMatchObject({ note: "Which map?", by: null });
    expect(JSON.stringify(page)).not.toMatch(/ofsorcha|sorcha/i);
    const { task, seen } = page.changes!;
    const change = (data: FormData) => sendChanged(token!, { task, data, seen, passed: {} });
    expect(await change({ wish: "" })).toMatchObject({ ok: false, failure: { data: { code: "form" } } });
    value(await change({ wish: "A map of the Lakeside", secret: "mine", guide: "sorcha.lind" }));
    expect((await stateOf(number)).data).toMatchObject({ wish: "A map of the Lakeside", secret: "ofsorcha" });
    expect((await stateOf(number)).data["guide"] ?? null).toBeNull();
    expect(await change({ wish: "Again" })).toMatchObject({ ok: false });
    expect((await open(token!)).changes).toBeNull();
    await answer(number, "yes");
    expect(await open(token!)).toMatchObject({
      status: "finished",
      result: { name: "granted" },
      mayWithdraw: false,
    });
  });

  it("neither fills in nor loses what is not theirs in lines they change", async () => {
    const { number, token } = await sent({
      wish: "A tour",
      stops: [
        { "#": "1", place: "Tower", by: "sorcha.lind" },
        { "#": "2", place: "Ropeworks", by: null },
      ],
    });
    expect((await stateOf(number)).data["stops"]).toMatchObject([{ by: null }, { by: null }]);
    const guided = [
      { "#": "1", place: "Tower", by: "piet.hanlon" },
      { "#": "2", place: "Ropeworks", by: "ruben.aske" },
    ];
    await answer(number, "back", "Which day?", { stops: guided });
    const { task, seen, form } = (await open(token!)).changes!;
    expect(JSON.stringify(form)).not.toMatch(/piet|ruben/);
    const stops = [
      { "#": "2", place: "Ropeworks, upstairs", by: "sorcha.lind" },
      { "#": "1", place: "Tower", by: null },
      { "#": "9", place: "Lakeside", by: "sorcha.lind" },
    ];
    value(await sendChanged(token!, { task, data: { stops }, seen, passed: {} }));
    expect((await stateOf(number)).data["stops"]).toEqual([
      { "#": "2", place: "Ropeworks, upstairs", by: "ruben.aske" },
      { "#": "1", place: "Tower", by: "piet.hanlon" },
      { "#": "9", place: "Lakeside", by: null },
    ]);
  });

  it("withdraws it, and is the only one outside who can", async () => {
    const mine = await sent();
    const others = await sent();
    const actor = (await visitor())!;
    for (const command of [{ type: "withdraw", note: "" }] as const)
      expect(await act(actor, mine.number, command)).toMatchObject({
        ok: false,
        failure: { code: "not-found" },
      });
    const byOther = (await stateOf(others.number)).requester;
    expect(byOther).not.toEqual((await stateOf(mine.number)).requester);
    value(await withdrawFollowed(mine.token!, "Not any more"));
    expect((await stateOf(mine.number)).status).toBe("withdrawn");
    expect((await stateOf(others.number)).status).toBe("under way");
  });

  it.each(["", "x", "a".repeat(43), "../../x", "constructor"])("comes to nothing by “%s”", async (token) => {
    expect(await followed(token)).toMatchObject({ is: "gone" });
    expect(await withdrawFollowed(token, "")).toMatchObject({ ok: false });
    expect(await writeFollowed(token, "1", "k", "x")).toMatchObject({ ok: false });
    expect(await followedFile(token, "x")).toMatchObject({ ok: false });
  });

  it("comes to nothing by a link that was called back, and by a new one they do", async () => {
    const by = await visitor();
    const { number, token } = await sent(undefined, by);
    expect(await callBackLinks(decider, number, true)).toMatchObject({ ok: false });
    expect(value(await callBackLinks(owner, number, true))).toEqual({ void: 1, sent: false });
    expect(await followed(token!)).toMatchObject({ is: "gone", why: expect.stringMatching(/called back/) });
    expect(await withdrawFollowed(token!, "")).toMatchObject({ ok: false });
    // Nor by sending the same once more.
    expect(value(await sendOpenForm(by, "wish-list", sending()))).toEqual(
      expect.objectContaining({ number, token: null }),
    );
    expect((await stateOf(number)).status).toBe("under way");
    // Of somebody who works here nobody follows anything by links.
    const own = value(await requestView(owner, number));
    expect(own.links).toEqual({ send: false });
  });

  it("keeps no link as it is", async () => {
    const { token } = await sent();
    const [{ n }] = (await sql<{ n: number }>(
      "select count(*)::int as n from tracking_link where hash = $1",
      [createHash("sha256").update(token!).digest()],
    )) as [{ n: number }];
    expect(n).toBe(1);
    expect(JSON.stringify(await sql("select * from tracking_link"))).not.toContain(token);
  });
});

describe("files", () => {
  const bytes = Buffer.from("a paper");
  it("are added before it is sent, read by their own browser alone, and go with it", async () => {
    const [mine, other] = [await visitor(), await visitor()];
    const file = value(await addOpenFile(mine, { process: "wish-list" }, "Paper.pdf", spooled(bytes)));
    expect(value(await readFile(mine, file.id)).bytes).toEqual(bytes);
    expect(await readFile(other, file.id)).toMatchObject({ ok: false });
    expect(await readFile(await passerBy(), file.id)).toMatchObject({ ok: false });
    // Nobody else sends it.
    const stolen = await sendOpenForm(other, "wish-list", sending({ wish: "Mine", paper: file.id }));
    expect(stolen).toMatchObject({ ok: false, failure: { data: { code: "form" } } });
    const { number, token } = await sent({ wish: "A map", paper: file.id }, mine);
    expect((await stateOf(number)).data["paper"]).toBe(file.id);
    expect(await allOf(value(await followedFile(token!, file.id)).parts)).toEqual(bytes);
    const elsewhere = await sent();
    expect(await followedFile(elsewhere.token!, file.id)).toMatchObject({ ok: false });
    expect(value(await readFile(decider, file.id)).bytes).toEqual(bytes);
  });
  it("are not taken where that is not let, nor without end", async () => {
    expect(
      await addOpenFile(await visitor(), { process: "store-key" }, "a.pdf", spooled(bytes)),
    ).toMatchObject({
      ok: false,
      failure: { code: "not-found" },
    });
    const { token } = await sent();
    value(await addFollowedFile(token!, "more.pdf", spooled(bytes)));
    const mine = await visitor();
    const large = Buffer.alloc(24_000_000, 1);
    let taken = 0;
    while ((await addOpenFile(mine, { process: "wish-list" }, "large.bin", spooled(large))).ok) taken++;
    expect(taken).toBe(4);
  });
  it("and accounts of those who sent nothing are gone after a day; what was sent stays", async () => {
    const by = await visitor();
    const kept = value(await addOpenFile(by, { process: "wish-list" }, "Kept.pdf", spooled(bytes)));
    const { number } = await sent({ wish: "x", paper: kept.id }, by);
    await addOpenFile(await visitor(), { process: "wish-list" }, "Gone.pdf", spooled(bytes));
    expect(await sweepVisitors(SYSTEM)).toBe(0);
    await sql("update person set since = now() - interval '25 hours' where kind = 'visitor'");
    expect(await sweepVisitors(SYSTEM)).toBeGreaterThan(0);
    const left = await sql<{ name: string }>(
      "select f.name from file f join person p on p.id = f.added_by where p.kind = 'visitor' and f.request_id is null",
    );
    expect(left).toEqual([]);
    expect(value(await readFile(decider, kept.id)).bytes).toEqual(bytes);
    expect((await stateOf(number)).status).toBe("under way");
  });
});

it("the directory knows nobody of them, and is not read anew for them", async () => {
  const version = async () =>
    (await sql<{ value: unknown }>("select value from setting where key = 'directory_version'"))[0];
  const before = await version();
  await sent();
  expect(await version()).toEqual(before);
  await outside.insertVisitor(getPool(), "visitor.test");
  expect(await version()).toEqual(before);
  await sql("update person set name = name where id = 'lucia.penrose'");
  expect(await version()).not.toEqual(before);
});

it("what the web asks for that is not there does not fill the log", async () => {
  const count = async () => (await sql<{ n: number }>("select count(*)::int as n from office_log"))[0]!.n;
  const before = await count();
  for (const key of ["a", "b", "c"]) await openForm(await passerBy(), `nothing-${key}`);
  await act(await visitor(), "KEY-0001", { type: "withdraw", note: "" });
  expect(await count()).toBe(before);
});

it("whoever made changes sees afterwards what the start shows, and not what those see who asked for them", async () => {
  value(
    await createProcess(SYSTEM, {
      ...WISH,
      key: "inner-wish",
      numbering: { prefix: "INNER", digits: 4 },
      starts: [{ id: "form", kind: "form" as const, who: { by: "everybody" as const } }],
    }),
  );
  value(await releaseDraft(SYSTEM, "inner-wish", "1.0.0", ""));
  const lucia = await person("lucia.penrose");
  const { number } = value(await startRequest(lucia, "inner-wish", { wish: "A map" }));
  await answer(number, "back", "Which?", { secret: "ofsorcha" });
  const view = value(await requestView(lucia, number));
  expect(view.form.access).not.toHaveProperty("secret");
  expect(JSON.stringify(view)).not.toContain("ofsorcha");
});
