import { randomBytes, randomUUID } from "node:crypto";
import type { Step } from "@/core/route";
import { getPool, requests } from "@/db";
import {
  act,
  callBackLinks,
  createProcess,
  followed,
  noticesOf,
  releaseDraft,
  requestView,
  sendAddressCode,
  sendByHand,
  sendChanged,
  sayFollowed,
  sendOpenForm,
  SYSTEM,
  taskView,
  visitorBy,
  watchMailboxes,
  writeFollowed,
  type Actor,
} from "@/services";
import { makeMailbox, openPost, type TestPost } from "./post";
import { openWorld, person, sql, until, value } from "./world";
import { workOff } from "./workOff";

jest.setTimeout(60_000);

const BOX = "wishes@quillhaven.example";
let world: Awaited<ReturnType<typeof openWorld>>;
let post: TestPost;
let owner: Actor;
let decider: Actor;
const stop = new AbortController();
let watching: Promise<void>;

const tell = (id: string, more: object = {}): Step =>
  ({
    id,
    name: "Tell the requester",
    kind: "tell",
    who: { by: "requester" },
    subject: "{Request.number} is being looked at",
    text: "We look at {Wish}.",
    ways: [],
    ...more,
  }) as Step;

const definition = (key: string, prefix: string, asks: "address" | "confirmed") => ({
  format: "cobble-step/process@2" as const,
  key,
  name: `Wishes ${prefix}`,
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix, digits: 3 },
  title: "{Wish}",
  mailbox: BOX,
  starts: [
    { id: "public", kind: "public" as const, letterhead: "Quillhaven Museums", asks, values: true as const },
  ],
  fields: [{ id: "wish", name: "Wish", kind: "text" as const }],
  access: {},
  samples: [],
  route: [
    tell("told"),
    {
      id: "check",
      name: "Sorcha checks",
      kind: "decide",
      who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
      answers: [
        { id: "yes", label: "Yes", tone: "agree", steps: [] },
        { id: "back", label: "Return it", tone: "plain", returns: true, note: "must", steps: [] },
      ],
    },
    { id: "end", name: "Finish", kind: "finish", result: "granted", tone: "agree" },
  ] as Step[],
});

beforeAll(async () => {
  world = await openWorld();
  post = await openPost();
  [owner, decider] = (await Promise.all(["tobias.marrin", "sorcha.lind"].map(person))) as [Actor, Actor];
  await makeMailbox(owner, post, BOX);
  for (const [key, prefix, asks] of [
    ["wish-open", "WISHO", "address"],
    ["wish-sure", "WISHS", "confirmed"],
  ] as const) {
    value(await createProcess(SYSTEM, definition(key, prefix, asks)));
    value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
  }
  watching = watchMailboxes(SYSTEM, stop.signal, () => undefined);
  await until(
    "the mailbox is watched",
    async () => (await sql("select 1 from mailbox_read where looked_at is not null")).length > 0,
  );
});
afterAll(async () => {
  stop.abort();
  await watching;
  await post.stop();
  await world.close();
});

const visitor = async () => (await visitorBy(randomBytes(32).toString("base64url")))!;
const by = (email: string, code = "", wish = "A map") => ({
  name: "Ada Byrne",
  email,
  code,
  trap: "",
  data: { wish },
  passed: {},
});
const sent = async (email: string, actor?: Actor) => {
  const r = value(await sendOpenForm(actor ?? (await visitor()), "wish-open", by(email)));
  await workOff();
  return r;
};
const tokenIn = (text: string): string => /\/follow\/([\w-]{43})/.exec(text)?.[1] ?? "";
const answer = async (number: string, id: string, note = "") => {
  const { tasks } = (await requests.requestForCommand(getPool(), { number }, false))!.state;
  const task = Object.values(tasks).find((t) => t.status === "open")!.id;
  value(await act(decider, number, { type: "answer", task, answer: id, note, data: {} }));
  await workOff();
};
const page = async (token: string) => {
  const p = await followed(token);
  if (p.is !== "open") throw new Error(p.why);
  return p;
};

it("whoever sent it hears of it by letters, each with a link of its own that leads to it", async () => {
  const email = "ada@letters.example";
  const { number } = await sent(email);
  await answer(number, "back", "Which map?");
  // In a mailbox those of one second stand in any order.
  const mails = await post.mails(email);
  const [first, told, back] = [": Wishes", " is being", ": something"].map((says) =>
    mails.find((m) => m.subject!.startsWith(`${number}${says}`))!,
  );
  expect(first!.subject).toBe(`${number}: Wishes WISHO`);
  // What a step tells by a notice goes out as a letter to somebody who has no screen here.
  expect(told!.subject).toBe(`${number} is being looked at`);
  expect(told!.text).toContain("We look at A map.");
  expect(back!.subject).toBe(`${number}: something is to be changed`);
  expect(back!.text).toContain("Which map?");
  const tokens = [first, told, back].map((m) => tokenIn(m!.text!));
  expect(new Set(tokens).size).toBe(3);
  for (const token of tokens) expect((await page(token)).number).toBe(number);
  const { task, seen } = (await page(tokens[0]!)).changes!;
  value(await sendChanged(tokens[0]!, { task, data: { wish: "The old map" }, seen, passed: {} }));
  await answer(number, "yes");
  const last = (await post.mails(email)).find((m) => m.subject === `${number}: it has ended`)!;
  expect(last.text).toContain("granted");
  // All of it is one conversation, and nothing of a link is kept with it.
  const letters = value(await requestView(owner, number)).letters;
  expect(letters.map((l) => l.subject)).toEqual([first, told, back, last].map((m) => m!.subject));
  expect(JSON.stringify(await sql("select * from message"))).not.toMatch(/\/follow\/[\w-]{43}/);
  expect((await page(tokens[0]!)).letters.map((l) => l.from)).toEqual(Array(4).fill("Quillhaven Museums"));
});

it("whoever decides asks them something, and the answer they give on their page comes back to the task", async () => {
  const email = "ada@asked.example";
  const { number } = await sent(email);
  const { myTask } = value(await requestView(decider, number));
  const shown = value(await taskView(decider, number, myTask!));
  expect(shown.asker?.name).toBe("Ada Byrne");
  const ask = (note: string) =>
    act(decider, number, { type: "ask", task: myTask!, to: shown.asker!.id, note });
  value(await ask("Which map do you mean?"));
  await workOff();
  const letter = (await post.mails(email)).find((m) => m.subject === `${number}: a question to you`)!;
  expect(letter.text).toContain("Which map do you mean?");
  const token = tokenIn(letter.text!);
  const { questions, changes } = await page(token);
  expect([questions.map((q) => [q.text, q.by]), changes]).toEqual([[["Which map do you mean?", null]], null]);
  expect(await sayFollowed(token, questions[0]!.task, "  ")).toMatchObject({ ok: false });
  value(await sayFollowed(token, questions[0]!.task, "The one of the harbour."));
  expect((await page(token)).questions).toEqual([]);
  expect(await sayFollowed(token, questions[0]!.task, "Again.")).toMatchObject({ ok: false });
  const [asked] = value(await taskView(decider, number, myTask!)).questions;
  expect(asked!.answer).toMatchObject({ text: "The one of the harbour.", by: "Ada Byrne" });
  expect((await noticesOf(decider)).some((n) => n.number === number && /answer/i.test(n.text))).toBe(true);
  // What nobody waits for any more is said, and is no question about changes.
  value(await ask("And when?"));
  await answer(number, "back", "Which map?");
  expect((await post.mails(email)).map((m) => m.subject)).toContain(
    `${number}: no answer is needed any more`,
  );
  const after = await page(token);
  expect([after.questions, after.changes !== null]).toEqual([[], true]);
});

it("a reply that repeats the link gives it to nobody here", async () => {
  const email = "ada@repeats.example";
  const { number } = await sent(email);
  const [first] = await post.mails(email);
  const token = tokenIn(first!.text!);
  await post.send({
    from: email,
    to: BOX,
    answers: first!,
    text: `Thank you.\n\nYou wrote:\n> http://x.example/follow/${token}\n`,
  });
  await until("it came", async () => {
    await workOff();
    return value(await requestView(owner, number)).letters.some((l) => l.direction === "in");
  });
  expect(JSON.stringify(value(await requestView(owner, number)))).not.toContain(token);
  expect(JSON.stringify(await sql("select * from message where direction = 'in'"))).not.toContain(token);
  expect((await page(token)).letters.at(-1)).toMatchObject({
    direction: "in",
    text: expect.stringMatching(/^Thank you\./),
  });
});

it("letters written by hand are answered on the page, and others' letters are not seen there", async () => {
  const email = "ada@hand.example";
  const { number, token } = await sent(email);
  const write = (to: string, text: string) =>
    sendByHand(decider, number, {
      key: randomUUID(),
      letter: null,
      to: [to],
      subject: "A question",
      text,
      files: [],
    });
  value(await write(email, "Which map do you mean?"));
  value(await write("printer@elsewhere.example", "What would a print cost?"));
  await workOff();
  const shown = await page(token!);
  expect(shown.letters.map((l) => l.text)).toContain("Which map do you mean?");
  expect(JSON.stringify(shown)).not.toMatch(/print cost|printer|sorcha/i);
  // A letter to somebody else holds no link.
  const [other] = await post.mails("printer@elsewhere.example");
  expect(other!.text).not.toContain("/follow/");
  // Nor does one that somebody else has as well.
  const both = { key: randomUUID(), letter: null, to: [email, "framer@elsewhere.example"], files: [] };
  value(await sendByHand(decider, number, { ...both, subject: "To both", text: "Who frames it?" }));
  await workOff();
  for (const to of both.to) {
    const mail = (await post.mails(to)).find((m) => m.subject === "To both")!;
    expect(mail.text).not.toContain("/follow/");
  }
  const id = shown.letters.find((l) => l.mayAnswer)!.id;
  const key = randomUUID();
  value(await writeFollowed(token!, id, key, "The old one."));
  value(await writeFollowed(token!, id, key, "The old one."));
  const letters = value(await requestView(decider, number)).letters.filter((l) => l.direction === "in");
  expect(letters).toMatchObject([{ text: "The old one.", from: "Ada Byrne" }]);
  expect(JSON.stringify(await noticesOf(decider))).toContain(`${number}: Ada Byrne has written`);
  // By another's link nobody answers it.
  const elsewhere = await sent("eve@hand.example");
  expect(await writeFollowed(elsewhere.token!, id, randomUUID(), "Mine")).toMatchObject({ ok: false });
});

it("links that were called back lead nowhere, and a letter brings a new one", async () => {
  const email = "ada@back.example";
  const { number, token } = await sent(email);
  const first = (await post.mails(email))[0];
  expect(value(await callBackLinks(owner, number, true))).toMatchObject({ sent: true });
  await workOff();
  for (const old of [token!, tokenIn(first!.text!)])
    expect(await followed(old)).toMatchObject({ is: "gone" });
  const last = (await post.mails(email)).find((m) => m.subject === `${number}: a new link`)!;
  expect((await page(tokenIn(last.text!))).number).toBe(number);
});

describe("an address that is to be confirmed", () => {
  const email = "ada@sure.example";
  /** Those that are known already: in a mailbox those of one second stand in any order. */
  const codes = new Set<string>();
  const codeFor = async (actor: Actor, to: string) => {
    value(await sendAddressCode(actor, "wish-sure", to));
    const mails = await post.mails(to);
    return mails.map((m) => /\d{6}/.exec(m.subject!)![0]).find((code) => !codes.has(code))!;
  };
  const send = (actor: Actor, to: string, code: string) => sendOpenForm(actor, "wish-sure", by(to, code));
  const refused = (says: RegExp) => ({
    ok: false,
    failure: { data: { message: expect.stringMatching(says) } },
  });

  it("is by the code that was sent to it, for whoever had it sent", async () => {
    const [mine, other] = [await visitor(), await visitor()];
    expect(await send(mine, email, "123456")).toMatchObject(refused(/None was sent/));
    const code = await codeFor(mine, email);
    expect(await send(mine, "eve@sure.example", code)).toMatchObject(refused(/None was sent/));
    expect(await send(other, email, code)).toMatchObject(refused(/None was sent/));
    expect(await send(mine, email, code === "000000" ? "000001" : "000000")).toMatchObject(
      refused(/not the code/),
    );
    expect(
      value(await send(mine, ` ${email.toUpperCase()} `, ` ${code.slice(0, 3)} ${code.slice(3)}`)).number,
    ).toMatch(/^WISHS-/);
    // An address that was shown to be theirs counts as theirs.
    const [{ party }] = (await sql<{ party: object }>(
      "select party from request where number like 'WISHS-%'",
    )) as [{ party: object }];
    expect(party).not.toHaveProperty("unsure");
    expect(await sql("select 1 from address_code where code_hash::text like $1", [`%${code}%`])).toEqual([]);
  });
  it("is not found out by trying, also not side by side", async () => {
    const mine = await visitor();
    const code = await codeFor(mine, "ada@tries.example");
    const wrong = code === "111111" ? "222222" : "111111";
    await Promise.all([1, 2, 3, 4, 5].map(() => send(mine, "ada@tries.example", wrong)));
    expect(await send(mine, "ada@tries.example", code)).toMatchObject(refused(/tried 5 times/));
    codes.add(code);
    const another = await codeFor(mine, "ada@tries.example");
    expect((await send(mine, "ada@tries.example", another)).ok).toBe(true);
  });
  it("has no code that is old, and gets no more than a few in an hour", async () => {
    const mine = await visitor();
    const code = await codeFor(mine, "ada@slow.example");
    await sql("update address_code set made_at = made_at - interval '31 minutes'");
    expect(await send(mine, "ada@slow.example", code)).toMatchObject(refused(/30 minutes/));
    let sentCodes = 1;
    while ((await sendAddressCode(await visitor(), "wish-sure", "ada@slow.example")).ok) sentCodes++;
    expect(sentCodes).toBe(5);
  });
  it("is sent none where nobody asks for one", async () => {
    expect(await sendAddressCode(await visitor(), "wish-open", email)).toMatchObject({ ok: false });
    expect(await sendAddressCode(await visitor(), "wish-sure", "nobody at all")).toMatchObject({ ok: false });
  });
});
