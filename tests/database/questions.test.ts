import type { ProcessDefinition, Step } from "@/core/route";
import {
  act,
  addFile,
  answerOnPage,
  createProcess,
  desk,
  noticesOf,
  releaseDraft,
  requestView,
  sendByHand,
  startRequest,
  SYSTEM,
  type Actor,
  type LetterByHand,
} from "@/services";
import { makeMailbox, openPost, type TestPost } from "./post";
import { openWorld, person, sql, value } from "./world";
import { workOff } from "./workOff";
import { readFile } from "./readFile";

jest.setTimeout(60_000);

const BOX = "queries@quillhaven.example";
let world: Awaited<ReturnType<typeof openWorld>>;
let post: TestPost;
let owner: Actor;
let decider: Actor;
let asker: Actor;
let other: Actor;
const definition = (key: string, prefix: string, more: object): ProcessDefinition =>
  ({
    format: "cobble-step/process@2",
    key,
    name: key,
    purpose: "",
    owners: ["orla.fennimore"],
    numbering: { prefix, digits: 3 },
    title: "{Matter}",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [{ id: "matter", name: "Matter", kind: "text" }],
    access: {},
    route: [
      {
        id: "tell",
        name: "Write to them",
        kind: "tell",
        who: { by: "requester" },
        subject: "{Matter}",
        text: "Is that so?",
        ...(key === "with-box" ? { mail: { replies: true } } : {}),
        ways: [],
      },
      {
        id: "ask",
        name: "Looks at it",
        kind: "decide",
        who: { rule: { by: "person", person: "tobias.marrin" }, how: "one" },
        answers: [{ id: "yes", label: "Seen", tone: "plain", steps: [] }],
      },
      {
        id: "keep",
        name: "Keep it",
        kind: "work out",
        set: key === "with-box" ? [{ field: "matter", value: "Write to them.reply" }] : [],
      },
    ] as unknown as Step[],
    samples: [],
    ...more,
  }) as unknown as ProcessDefinition;

beforeAll(async () => {
  world = await openWorld();
  post = await openPost();
  [owner, decider, asker, other] = (await Promise.all(
    ["orla.fennimore", "tobias.marrin", "lucia.penrose", "bridie.okafor"].map(person),
  )) as [Actor, Actor, Actor, Actor];
  await makeMailbox(decider, post, BOX);
  for (const d of [definition("with-box", "BOXED", { mailbox: BOX }), definition("no-box", "BARE", {})]) {
    value(await createProcess(SYSTEM, d));
    value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  }
});
afterAll(async () => {
  await post.stop();
  await world.close();
});

const start = async (process: string): Promise<string> => {
  const { number } = value(await startRequest(asker, process, { matter: "Walls" }));
  await workOff();
  return number;
};
const letter = (to: string[], more: Partial<LetterByHand> = {}): LetterByHand => ({
  key: crypto.randomUUID(),
  letter: null,
  to,
  subject: "A question",
  text: "Which wall?",
  files: [],
  ...more,
});
const LUCIA = "lucia.penrose@quillhaven.example";
const view = async (who: Actor, number: string) => value(await requestView(who, number));
const told = async (who: Actor) => (await noticesOf(who)).map((n) => n.text);

it("a question to who asked is answered where it stands, without any mail where there is no mailbox", async () => {
  const number = await start("no-box");
  expect((await view(decider, number)).mayWrite).toMatchObject({
    mailed: false,
    to: [{ name: "Lucia Penrose", email: LUCIA }],
  });
  // Who may not open the request could not read it.
  expect(await sendByHand(decider, number, letter(["bridie.okafor@quillhaven.example"]))).toMatchObject({
    ok: false,
    failure: {
      data: { path: "to", message: expect.stringContaining("Bridie Okafor may not open that") as string },
    },
  });
  expect(await sendByHand(decider, number, letter(["ada@x.example"]))).toMatchObject({ ok: false });
  value(await sendByHand(decider, number, letter([LUCIA])));
  expect(await workOff()).not.toContain("send_message");
  expect(await told(asker)).toContain(`${number}: Tobias Marrin has written to you`);
  const asked = (await view(asker, number)).letters.at(-1)!;
  expect(asked).toMatchObject({
    from: "Tobias Marrin",
    subject: "A question",
    state: "kept",
    trouble: "",
    mayAnswer: true,
  });
  expect((await view(decider, number)).letters.at(-1)).toMatchObject({ mayAnswer: false });
  const key = crypto.randomUUID();
  value(await answerOnPage(asker, asked.id, key, " The north one. "));
  // Pressed twice it is kept once; and what was changed since is not taken for kept.
  value(await answerOnPage(asker, asked.id, key, "The north one."));
  expect(await answerOnPage(asker, asked.id, key, "The south one.")).toMatchObject({ ok: false });
  const { letters } = await view(decider, number);
  expect(letters.map((l) => [l.from, l.text])).toEqual([
    ["Tobias Marrin", "Which wall?"],
    ["Lucia Penrose", "The north one."],
  ]);
  expect((await told(decider)).filter((t) => t === `${number}: Lucia Penrose has written`)).toHaveLength(1);
  expect((await view(asker, number)).letters.map((l) => l.mayAnswer)).toEqual([false, false]);
  // It moves nothing.
  expect((await desk(decider)).rows.some((t) => t.number === number)).toBe(true);
});

it("is answered by those it was written to, and by nobody else", async () => {
  const number = await start("no-box");
  value(await sendByHand(decider, number, letter([LUCIA])));
  const { id } = (await view(asker, number)).letters.at(-1)!;
  const answer = (who: Actor, of = id, text = "x") => answerOnPage(who, of, crypto.randomUUID(), text);
  for (const who of [other, decider, owner]) expect(await answer(who)).toMatchObject({ ok: false });
  for (const none of ["", "x", "999999999999"])
    expect(await answer(asker, none)).toMatchObject({ ok: false });
  expect(await answer(asker, id, "  ")).toMatchObject({ ok: false });
  expect(await answer(asker, id, "x".repeat(20_001))).toMatchObject({ ok: false });
  expect((await view(owner, number)).letters).toHaveLength(1);
  // An owner reads what was said; somebody asked at another time does not.
  value(await answer(asker));
  expect((await view(owner, number)).letters).toHaveLength(2);
});

it("what a step wrote by mail is answered on the page as by mail, and read by the step", async () => {
  const number = await start("with-box");
  const { id } = (await view(asker, number)).letters.find((l) => l.mayAnswer)!;
  value(await answerOnPage(asker, id, crypto.randomUUID(), "Yes, the north wall."));
  const task = (await desk(decider)).rows.find((t) => t.number === number)!.task_id;
  value(await act(decider, number, { type: "answer", task, answer: "yes", note: "", data: {} }));
  const [row] = await sql<{ title: string }>("select title from request where number = $1", [number]);
  expect(row!.title).toBe("Yes, the north wall.");
});

it("a colleague is written to as one, by mail and with a notice; a mail to who asks of others is no letter to them", async () => {
  const number = await start("with-box");
  value(await sendByHand(decider, number, letter(["Lucia.Penrose@quillhaven.example", "ada@x.example"])));
  await workOff();
  expect((await post.mails(LUCIA)).filter((m) => m.subject === "A question")).toHaveLength(1);
  expect((await view(owner, number)).letters.at(-1)?.to).toEqual(["Lucia Penrose", "ada@x.example"]);
  expect(await told(asker)).toContain(`${number}: Tobias Marrin has written to you`);
});

it("carries files of its writer's, once, and none of somebody else's", async () => {
  const number = await start("with-box");
  const add = async (who: Actor, name: string) =>
    value(await addFile(who, name, Buffer.from(`of ${name}`))).id;
  const [mine, more, others] = [
    await add(decider, "plan.pdf"),
    await add(decider, "more.pdf"),
    await add(other, "x.pdf"),
  ];
  const sent = letter(["ada@x.example"], { files: [mine, mine] });
  for (const files of [[others], ["none"], Array.from({ length: 11 }, (_, i) => `f${i}`)])
    expect(await sendByHand(decider, number, letter(["ada@x.example"], { files }))).toMatchObject({
      ok: false,
      failure: { data: { path: "files" } },
    });
  value(await sendByHand(decider, number, sent));
  value(await sendByHand(decider, number, sent));
  expect(await sendByHand(decider, number, { ...sent, files: [mine, more] })).toMatchObject({ ok: false });
  await workOff();
  const mails = (await post.mails("ada@x.example")).filter((m) => m.attachments.length > 0);
  expect(mails.map((m) => m.attachments.map((a) => [a.filename, a.content.toString()]))).toEqual([
    [["plan.pdf", "of plan.pdf"]],
  ]);
  // Who may read the letter opens the file, and nobody else.
  expect(value(await readFile(owner, mine)).bytes.toString()).toBe("of plan.pdf");
  expect(await readFile(other, mine)).toMatchObject({ ok: false });
  // It went with a request; it goes with no other.
  const second = await start("with-box");
  expect(await sendByHand(decider, second, letter(["ada@x.example"], { files: [mine] }))).toMatchObject({
    ok: false,
  });
  expect((await view(owner, second)).letters.some((l) => l.subject === "A question")).toBe(false);
});
