import type { ProcessDefinition, Step } from "@/core/route";
import {
  act,
  askChatCode,
  chatAccount,
  createProcess,
  desk,
  erasePerson,
  mailNotOut,
  putChatRoom,
  releaseDraft,
  requestView,
  sealChatToken,
  showInChat,
  startRequest,
  SYSTEM,
  tieChatAccount,
  untieChatAccount,
  type Actor,
} from "@/services";
import { chat as rows, getPool, messages } from "@/db";
import { callOf, openChat, type TestChat } from "./chatRoom";
import { openWorld, person, sql, value } from "./world";
import { workOff } from "./workOff";

jest.setTimeout(60_000);

const ANSWERS = [
  { id: "yes", label: "Take it", tone: "agree", steps: [] },
  { id: "no", label: "Leave it", tone: "refuse", note: "must", steps: [] },
];
const definition = (key: string, prefix: string, route: object[]): ProcessDefinition =>
  ({
    format: "cobble-step/process@2",
    key,
    name: key,
    purpose: "",
    owners: ["maeve.dunlea"],
    numbering: { prefix, digits: 3 },
    title: "{Matter}",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [
      { id: "matter", name: "Matter", kind: "text" },
      {
        id: "things",
        name: "Things",
        kind: "lines",
        fields: [
          { id: "what", name: "What", kind: "text" },
          { id: "who", name: "Who", kind: "person" },
        ],
      },
    ],
    access: {},
    route: route as Step[],
    samples: [],
  }) as unknown as ProcessDefinition;
const asks = (more: object) => ({
  id: "ask",
  name: "Looks at it",
  kind: "decide",
  byMail: { by: "chat", subject: "{Matter}", text: "Have a look." },
  answers: ANSWERS,
  ...more,
});
const LINES = definition("lines-in-chat", "PEBBLE", [
  {
    id: "each",
    name: "Taken",
    kind: "for each",
    over: { lines: "things" },
    item: "Thing",
    collect: 'if Looks at it.answer = "Take it" then Thing.What else null',
    bodies: [
      {
        id: "body",
        steps: [
          asks({
            who: { rule: { by: "formula", formula: "Thing.Who" }, how: "one" },
            byMail: { by: "chat", subject: "{Thing.What}", text: "From {Matter}." },
          }),
        ],
      },
    ],
  },
  {
    id: "say",
    name: "Say it",
    kind: "tell",
    who: { by: "person", person: "fintan.galloway" },
    subject: "{Request.number}",
    text: '{string join(Taken[item != null], ", ")}',
    chat: { room: '"yard"' },
    ways: [],
  },
]);
const SHARED = definition("shared-in-chat", "COBBLE", [
  asks({ who: { rule: { by: "group", group: "registry" }, how: "one" } }),
]);
const TELLS = definition("told-in-chat", "GRAVEL", [
  {
    id: "tell",
    name: "Say it",
    kind: "tell",
    who: { by: "formula", formula: "Things.Who" },
    subject: "{Matter}",
    text: "So it is.",
    chat: {},
    ways: [
      {
        id: "late",
        steps: [asks({ id: "other", who: { rule: { by: "person", person: "maeve.dunlea" }, how: "one" } })],
      },
    ],
  },
  asks({ id: "last", name: "Last", who: { rule: { by: "person", person: "bridie.okafor" }, how: "one" } }),
]);

let world: Awaited<ReturnType<typeof openWorld>>;
let room: TestChat;
let people: Record<"anselm" | "bridie" | "lucia" | "maeve" | "ines" | "ruben", Actor>;
beforeAll(async () => {
  world = await openWorld();
  room = await openChat(
    ["anselm.kerr", "bridie.okafor", "maeve.dunlea", "ines", "ruben.aske", "lucia.penrose"],
    ["yard"],
  );
  const ids = [
    "anselm.kerr",
    "bridie.okafor",
    "lucia.penrose",
    "maeve.dunlea",
    "ines.corrigan",
    "ruben.aske",
  ];
  const [anselm, bridie, lucia, maeve, ines, ruben] = (await Promise.all(ids.map(person))) as [
    Actor,
    Actor,
    Actor,
    Actor,
    Actor,
    Actor,
  ];
  people = { anselm, bridie, lucia, maeve, ines, ruben };
  await sql("delete from chat_account");
  for (const [id, account] of [
    ["anselm.kerr", "anselm.kerr"],
    ["bridie.okafor", "bridie.okafor"],
    ["maeve.dunlea", "maeve.dunlea"],
    ["ines.corrigan", "ines"],
  ])
    await rows.tieAccount(getPool(), id!, account!, Date.now());
  for (const d of [LINES, SHARED, TELLS]) {
    value(await createProcess(SYSTEM, d));
    value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  }
});
afterAll(async () => {
  await room.stop();
  await world.close();
});

const things = (...of: [string, string][]) => of.map(([what, who], i) => ({ "#": String(i + 1), what, who }));
async function start(process: string, matter: string, ...of: [string, string][]): Promise<string> {
  const { number } = value(await startRequest(people.lucia, process, { matter, things: things(...of) }));
  await workOff();
  return number;
}
const message = (account: string, heading: string) => {
  const found = room.of(account).find((m) => m.message.heading === heading);
  if (!found) throw new Error(`${account} has no message ${heading}`);
  return found;
};
const trail = async (number: string) => value(await requestView(people.maeve, number)).trail;

it("each thing of a list is a message, answered one by one; each shows what was decided, and what is taken goes on", async () => {
  const number = await start(
    "lines-in-chat",
    "a guild",
    ["Jar", "anselm.kerr"],
    ["Banner", "bridie.okafor"],
    ["Rope", "anselm.kerr"],
  );
  const jar = message("anselm.kerr", "Jar");
  expect(jar.message).toMatchObject({
    text: "From a guild.",
    over: null,
    answers: [
      { id: "yes", label: "Take it", note: "may" },
      { id: "no", label: "Leave it", note: "must" },
    ],
  });
  expect(await room.press("anselm.kerr", jar, "yes")).toMatchObject({ say: "Your answer is kept: Take it." });
  expect(message("anselm.kerr", "Jar").message).toMatchObject({
    over: "Take it, by Anselm Kerr.",
    answers: [],
  });
  // A note is needed, and nothing is decided without.
  const banner = message("bridie.okafor", "Banner");
  expect(await room.press("bridie.okafor", banner, "no")).toMatchObject({
    say: expect.stringMatching(/^Nothing was done: .*why/i) as string,
  });
  expect(message("bridie.okafor", "Banner").message.over).toBeNull();
  expect(await room.press("bridie.okafor", banner, "no", "We have three.")).toMatchObject({
    say: "Your answer is kept: Leave it.",
  });
  expect(room.messages.of({ room: "yard" })).toEqual([]);
  await room.press("anselm.kerr", message("anselm.kerr", "Rope"), "yes");
  await workOff();
  expect(room.messages.of({ room: "yard" })[0]?.message).toMatchObject({
    heading: number,
    text: "Jar, Rope",
  });
  const view = value(await requestView(people.maeve, number));
  expect(view.status).toBe("finished");
  const declined = view.trail.find((l) => l.note === "We have three.");
  expect(declined).toMatchObject({ byName: "Bridie Okafor", means: "chat" });
  // Pressed once more, or told twice, it changes nothing and says what is so.
  const before = (await trail(number)).length;
  expect(await room.press("bridie.okafor", banner, "yes")).toMatchObject({
    say: "Nothing was done. Leave it, by Bridie Okafor.",
  });
  expect((await trail(number)).length).toBe(before);
  // All of it stands in the conversation, and only for whom it is.
  expect(view.letters.map((l) => [l.channel, l.subject, l.to[0]])).toEqual([
    ["chat", "Jar", "Anselm Kerr"],
    ["chat", "Banner", "Bridie Okafor"],
    ["chat", "Rope", "Anselm Kerr"],
    ["chat", number, "the room yard"],
  ]);
  expect(value(await requestView(people.bridie, number)).letters.map((l) => l.subject)).toEqual([
    "Banner",
    number,
  ]);
});

it("a message goes by what is so: answered elsewhere, taken, put back; and others see it", async () => {
  const number = await start("shared-in-chat", "Shelf");
  // Three of four have an account; who has none is asked on the desk, and that is said.
  const task = (await desk(people.ruben)).rows.find((t) => t.number === number)!.task_id;
  expect(room.of("maeve.dunlea")[0]?.message.heading).toBe("Shelf");
  expect(room.of("ruben.aske")).toEqual([]);
  expect((await mailNotOut(people.maeve)).ok).toBe(true);
  value(await act(people.ines, number, { type: "take", task }));
  await workOff();
  expect(message("maeve.dunlea", "Shelf").message.over).toBe("It is with Ines Corrigan now.");
  expect(message("ines", "Shelf").message.over).toBeNull();
  expect(await room.press("maeve.dunlea", message("maeve.dunlea", "Shelf"), "yes")).toMatchObject({
    say: "Nothing was done. It is with Ines Corrigan now.",
  });
  value(await act(people.ines, number, { type: "put back", task }));
  await workOff();
  expect(message("maeve.dunlea", "Shelf").message).toMatchObject({
    over: null,
    answers: [{ id: "yes" }, { id: "no" }],
  });
  value(await act(people.ruben, number, { type: "answer", task, answer: "yes", note: "", data: {} }));
  await workOff();
  for (const a of ["maeve.dunlea", "ines"])
    expect(message(a, "Shelf").message.over).toBe("Take it, by Ruben Aske.");
});

it("only who is asked decides: no other account, no account of nobody, nobody who has left", async () => {
  const number = await start("shared-in-chat", "Crate");
  const crate = message("maeve.dunlea", "Crate");
  const before = (await trail(number)).length;
  for (const [account, words] of [
    ["anselm.kerr", "Nothing was done. You are not asked here."],
    ["nobody", "Cobble Step does not know you by this account yet."],
    ["maeve.dunlea ", "Cobble Step does not know you by this account yet."],
  ] as const)
    expect(await room.press(account, crate, "yes")).toMatchObject({
      say: expect.stringContaining(words) as string,
    });
  await sql("update person set active = false where id = 'maeve.dunlea'");
  expect(await room.press("maeve.dunlea", crate, "yes")).toMatchObject({
    say: expect.stringContaining("does not know you") as string,
  });
  await sql("update person set active = true where id = 'maeve.dunlea'");
  expect(await room.press("maeve.dunlea", crate, "no such answer", "x")).toMatchObject({
    say: expect.stringMatching(/^Nothing was done/) as string,
  });
  expect((await trail(number)).length).toBe(before);
  // Another of those asked may press on somebody else's message, as themselves.
  expect(await room.press("ines", crate, "yes")).toMatchObject({
    say: "Your answer is kept: Take it.",
    message: null,
  });
  await workOff();
  expect(message("maeve.dunlea", "Crate").message.over).toBe("Take it, by Ines Corrigan.");
});

it("believes only what the room has signed, lately, over exactly that", async () => {
  const number = await start("shared-in-chat", "Signed");
  const press = {
    message: message("maeve.dunlea", "Signed").id,
    account: "maeve.dunlea",
    answer: "yes",
    note: "",
  };
  const changes: Parameters<typeof callOf>[1][] = [
    { key: "another key" },
    { key: "" },
    { at: Date.now() - 301_000 },
    { at: Date.now() + 301_000 },
    { path: "/api/chat/" },
    { body: JSON.stringify({ ...press, answer: "no", note: "x" }) },
    { headers: { signature: "" } },
    { headers: { "content-digest": "" } },
    { headers: { signature: "call=::" } },
    { headers: { "signature-input": 'call=("@method");created=1;keyid="x";alg="hmac-sha256"' } },
  ];
  for (const c of changes) expect((await callOf(press, c)).status).toBe(401);
  const before = (await trail(number)).length;
  expect((await callOf({ ...press, message: "another" })).status).toBe(404);
  expect((await callOf({ ...press, answer: "" })).status).toBe(400);
  expect((await trail(number)).length).toBe(before);
  // Where there is no room nothing is believed.
  await sql("update chat_room set signing_key = '\\x00'");
  expect((await callOf(press)).status).toBe(401);
  await rows.deleteChatRoom(getPool());
  expect((await callOf(press)).status).toBe(401);
  await room.stop();
  room = await openChat(
    ["anselm.kerr", "bridie.okafor", "maeve.dunlea", "ines", "ruben.aske", "lucia.penrose"],
    ["yard"],
  );
});

it("an account is somebody's once they have said the code that was sent to it", async () => {
  expect(value(await chatAccount(people.ruben))).toEqual({ room: "Test chat", account: null, asked: null });
  expect(await askChatCode(people.ruben, "two words")).toMatchObject({ ok: false });
  expect(await askChatCode(people.ruben, "no.such")).toMatchObject({
    ok: false,
    failure: { data: { message: "There is no account no.such." } },
  });
  value(await askChatCode(people.ruben, "@ruben.aske"));
  expect(await askChatCode(people.ruben, "ruben.aske")).toMatchObject({ ok: false });
  const code = room.of("ruben.aske")[0]!.message.heading.slice(0, 6);
  expect(code).toMatch(/^\d{6}$/);
  // It is this person's alone.
  expect(await tieChatAccount(people.ines, code)).toMatchObject({ ok: false });
  const wrong = code === "000000" ? "000001" : "000000";
  for (let i = 0; i < 4; i++) expect(await tieChatAccount(people.ruben, wrong)).toMatchObject({ ok: false });
  expect(value(await tieChatAccount(people.ruben, ` ${code.slice(0, 3)} ${code.slice(3)}`))).toEqual({
    account: "ruben.aske",
  });
  expect(value(await chatAccount(people.ruben)).account).toBe("ruben.aske");
  value(await untieChatAccount(people.ruben));
  // Whoever asks again and again waits longer each time.
  expect(await askChatCode(people.ruben, "ruben.aske")).toMatchObject({
    ok: false,
    failure: {
      data: {
        message: expect.stringMatching(/^A code was sent just now. Ask for another in \d+ seconds/) as string,
      },
    },
  });
  const wait = (seconds: number) =>
    sql("update chat_code set made_at = made_at - make_interval(secs => $1)", [seconds]);
  await wait(20);
  // Tried five times it counts no more; nor does an old one.
  value(await askChatCode(people.ruben, "ruben.aske"));
  const second = room.of("ruben.aske")[0]!.message.heading.slice(0, 6);
  for (let i = 0; i < 5; i++) await tieChatAccount(people.ruben, second === "000000" ? "000001" : "000000");
  expect(await tieChatAccount(people.ruben, second)).toMatchObject({ ok: false });
  await sql("update chat_code set tries = 0, made_at = made_at - interval '16 minutes'");
  expect(await tieChatAccount(people.ruben, second)).toMatchObject({ ok: false });
  // Whose an account is already, it stays.
  expect(await askChatCode(people.ruben, "ines")).toMatchObject({ ok: true });
  expect(await askChatCode(people.ruben, "ines")).toMatchObject({ ok: false });
  await wait(60);
  expect(await askChatCode(people.ruben, "ines")).toMatchObject({ ok: false });
  await sql("delete from chat_code");
  value(await askChatCode(people.ruben, "ines"));
  const ines = room.of("ines")[0]!.message.heading.slice(0, 6);
  expect(await tieChatAccount(people.ruben, ines)).toMatchObject({
    ok: false,
    failure: { data: { message: "ines is tied to somebody else here." } },
  });
});

it("who has no account is missed: the way for that is gone, once, and nothing else is held up", async () => {
  const number = await start("told-in-chat", "Told", ["a", "anselm.kerr"], ["b", "lucia.penrose"]);
  expect(message("anselm.kerr", "Told").message).toMatchObject({ text: "So it is.", answers: [] });
  expect((await desk(people.maeve)).rows.filter((t) => t.number === number)).toHaveLength(1);
  const { letters } = value(await requestView(people.maeve, number));
  expect(letters.find((l) => l.to[0] === "Lucia Penrose")).toMatchObject({
    state: "returned",
    trouble: expect.stringContaining("has not tied an account of Test chat yet") as string,
  });
});

it("a faulty room gets each message once, and shows what is so in the end", async () => {
  room.setFaults({ refuse: 0.3, loseAfter: 0.4 });
  const numbers: string[] = [];
  for (let i = 0; i < 12; i++) numbers.push(await start("shared-in-chat", `Fault ${i}`));
  const tasks = new Map<string, string>((await desk(people.ruben)).rows.map((t) => [t.number, t.task_id]));
  for (const [i, n] of numbers.entries())
    if (i % 2 === 0)
      value(
        await act(people.ruben, n, {
          type: "answer",
          task: tasks.get(n)!,
          answer: "yes",
          note: "",
          data: {},
        }),
      );
  const waiting = () =>
    sql<{ id: string }>("select id::text from message where channel = 'chat' and state = 'waiting'");
  const jobs = () => sql("select 1 from graphile_worker._private_jobs");
  for (let i = 0; i < 1000 && (await jobs()).length + (await waiting()).length > 0; i++) {
    if (i === 200) room.setFaults({ refuse: 0, loseAfter: 0 });
    // A job that asks for itself once more is not held here as a worker would hold it, and so goes with its end.
    for (const { id } of await waiting()) await messages.queueMessage(getPool(), id, 0);
    await sql("update graphile_worker._private_jobs set run_at = now()");
    // A day of trying is too short for so bad a room; one that was tried is still known to have been.
    await sql("update message set tries = 1 where tries > 5");
    await workOff((n) => Math.floor(Math.random() * n)).catch(() => undefined);
  }
  for (const [i] of numbers.entries())
    for (const account of ["maeve.dunlea", "ines"]) {
      const of = room.of(account).filter((m) => m.message.heading === `Fault ${i}`);
      // One that was answered before it was out went to nobody.
      expect(of.length).toBeLessThanOrEqual(1);
      if (i % 2 === 1) expect(of[0]?.message.over).toBeNull();
      else if (of[0]) expect(of[0].message.over).toBe("Take it, by Ruben Aske.");
    }
  expect(
    await sql("select 1 from message where channel = 'chat' and state not in ('sent', 'returned')"),
  ).toEqual([]);
});

it("a room that does not let us in has shown nothing: it is tried again, and shows what is so then", async () => {
  await room.stop();
  room = await openChat(["maeve.dunlea", "ines"]);
  await start("shared-in-chat", "Locked");
  const task = (await desk(people.ruben)).rows.find((r) => r.title === "Locked")!;
  value(
    await act(people.ruben, task.number, {
      type: "answer",
      task: task.task_id,
      answer: "yes",
      note: "",
      data: {},
    }),
  );
  const token = (await rows.chatRoom(getPool()))!;
  await rows.putChatRoom(getPool(), { ...token, token: sealChatToken("another") });
  await expect(workOff()).rejects.toThrow("does not let Cobble Step in");
  expect(message("maeve.dunlea", "Locked").message.over).toBeNull();
  await rows.putChatRoom(getPool(), token);
  await workOff();
  expect(message("maeve.dunlea", "Locked").message.over).toBe("Take it, by Ruben Aske.");
});

it("what is blanked here is blanked in the room; and whoever is blanked has no account there", async () => {
  await room.stop();
  room = await openChat(["anselm.kerr", "maeve.dunlea", "ines"]);
  const number = await start("shared-in-chat", "Private matter");
  expect(message("maeve.dunlea", "Private matter").message.answers).toHaveLength(2);
  await room.press("maeve.dunlea", message("maeve.dunlea", "Private matter"), "yes");
  await workOff();
  const office = await person("tobias.marrin");
  expect(value(await erasePerson(office, "lucia.penrose")).requests).toBeGreaterThan(0);
  await workOff();
  for (const account of ["maeve.dunlea", "ines"])
    expect(JSON.stringify(room.of(account))).not.toContain("Private matter");
  expect(room.of("ines")[0]?.message).toMatchObject({ over: "What stood here was blanked.", answers: [] });
  const { letters } = value(await requestView(people.maeve, number));
  expect(JSON.stringify(letters)).not.toContain("Private matter");
  value(await erasePerson(office, "ines.corrigan"));
  expect(await rows.accountOf(getPool(), "ines.corrigan")).toBeNull();
  // Once blanked, there is nothing more to be blanked.
  expect(value(await erasePerson(office, "lucia.penrose")).requests).toBe(0);
});

it("is set up by the office: where its secrets cannot be had by whoever changes it", async () => {
  const office = await person("tobias.marrin");
  const said = {
    name: "Chat",
    address: "https://chat.example.org/",
    token: "t",
    signingKey: "0123456789abcdef",
  };
  expect(await putChatRoom(people.lucia, said)).toMatchObject({ ok: false });
  for (const wrong of [
    { address: "chat.example.org" },
    { address: "http://chat.example.org" },
    { address: "https://a:b@chat.example.org" },
    { address: "file:///etc/passwd" },
    { signingKey: "short" },
    { name: " " },
    { token: null },
  ])
    expect(await putChatRoom(office, { ...said, ...wrong })).toMatchObject({ ok: false });
  value(await putChatRoom(office, said));
  expect(await putChatRoom(office, { ...said, name: "Other", token: null, signingKey: null })).toMatchObject({
    ok: true,
  });
  expect(await rows.chatRoom(getPool())).toMatchObject({
    name: "Other",
    address: "https://chat.example.org",
  });
  await showInChat(SYSTEM, "1", ["t1"]);
});

it("a short form is filled in beside the answer: read as a form reads it, and refused as one", async () => {
  await room.stop();
  room = await openChat(["anselm.kerr"]);
  const d = definition("filled-in-chat", "FILLS", [
    asks({
      who: { rule: { by: "person", person: "anselm.kerr" }, how: "one" },
      byMail: {
        by: "chat",
        subject: "{Matter}",
        text: "",
        fills: ["price", "kind", "sure", "secret"],
      },
    }),
  ]);
  value(
    await createProcess(SYSTEM, {
      ...d,
      fields: [
        ...d.fields,
        { id: "price", name: "Price", kind: "money", needed: "true" },
        { id: "kind", name: "Kind", kind: "choice", options: ["jar", "bowl"] },
        { id: "sure", name: "Sure", kind: "yes or no" },
        { id: "secret", name: "Secret", kind: "text" },
      ] as ProcessDefinition["fields"],
      access: {
        start: { price: "hide", kind: "hide", sure: "hide" },
        ask: { price: "edit", kind: "edit", sure: "edit", secret: "see" },
      },
    }),
  );
  value(await releaseDraft(SYSTEM, "filled-in-chat", "1.0.0", ""));
  const { number } = value(
    await startRequest(people.lucia, "filled-in-chat", { matter: "Pot", secret: "s" }),
  );
  await workOff();
  const pot = message("anselm.kerr", "Pot");
  expect(pot.message.fills).toEqual([
    { id: "price", label: "Price", value: "", needed: true, choices: null },
    { id: "kind", label: "Kind", value: "", needed: false, choices: ["jar", "bowl"] },
    { id: "sure", label: "Sure", value: "", needed: false, choices: ["yes", "no"] },
  ]);
  const press = async (fills: Record<string, string>) => {
    const said = await callOf({ message: pot.id, account: "anselm.kerr", answer: "yes", note: "", fills });
    return said.status === 200 ? said.say : said.why;
  };
  const wrongs: Record<string, string>[] = [
    {},
    { price: "" },
    { price: "dear" },
    { price: "12", kind: "vase" },
    { price: "12", sure: "perhaps" },
  ];
  for (const wrong of wrongs) expect(await press(wrong)).toMatch(/^Nothing was done/);
  const before = value(await requestView(people.maeve, number));
  expect(before.status).toBe("under way");
  // What is not theirs to fill in is not filled in.
  expect(await press({ price: " 1,250.50 ", kind: "jar", sure: "no", secret: "stolen", matter: "x" })).toBe(
    "Your answer is kept: Take it.",
  );
  const { form } = value(await requestView(people.maeve, number));
  expect(form.data).toMatchObject({ matter: "Pot", price: "1250.50", kind: "jar", sure: false, secret: "s" });
});
