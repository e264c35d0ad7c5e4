import type { Letter as Kept } from "@/core/letter";
import type { ProcessDefinition, Step } from "@/core/route";
import {
  act,
  createProcess,
  find,
  draftView,
  keepLetter,
  keptLetterList,
  letterByHand,
  releaseDraft,
  removeKeptLetter,
  requestView,
  sendByHand,
  startRequest,
  SYSTEM,
  watchMailboxes,
  type Actor,
  type LetterByHand,
} from "@/services";
import { makeMailbox, openPost, type TestPost } from "./post";
import { openWorld, person, sql, until, value } from "./world";
import { workOff } from "./workOff";

jest.setTimeout(60_000);

const BOX = "frames@quillhaven.example";
const ADA = "ada@guildhall.example";
let world: Awaited<ReturnType<typeof openWorld>>;
let post: TestPost;
let owner: Actor;
let decider: Actor;
let lucia: Actor;
let other: Actor;
const stop = new AbortController();
let watching: Promise<void>;

const p = (...runs: (string | { value: string; bold?: true })[]) => ({
  part: "paragraph" as const,
  runs: runs.map((r) => (typeof r === "string" ? { text: r } : r)),
});
const LETTERS: Kept[] = [
  {
    id: "first",
    name: "First letter",
    closing: "sign",
    texts: [
      {
        language: "en",
        subject: "{Request.number}: {Matter}",
        parts: [
          p("About ", { value: "Matter", bold: true }, "."),
          {
            part: "lines",
            of: "Frames",
            as: "Frame",
            columns: [{ title: "Which", value: "Frame.What" }],
          },
        ],
      },
    ],
  },
  {
    id: "question",
    name: "A question",
    byHand: true,
    texts: [
      {
        language: "en",
        subject: "{Request.number}: a question",
        parts: [p("About ", { value: "Matter" }, "?")],
      },
    ],
  },
  {
    id: "inside",
    name: "What we think",
    byHand: true,
    texts: [
      { language: "en", subject: "x", parts: [{ part: "when", when: 'Secret = "y"', parts: [p("Sorry.")] }] },
    ],
  },
  {
    id: "sign",
    name: "Signs",
    closes: true,
    texts: [{ language: "en", subject: "", parts: [p("The frame shop")] }],
  },
];
const definition = {
  format: "cobble-step/process@2",
  key: "frames",
  name: "Frames",
  purpose: "",
  owners: ["orla.fennimore"],
  numbering: { prefix: "GILT", digits: 3 },
  title: "{Matter}",
  mailbox: BOX,
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  fields: [
    { id: "matter", name: "Matter", kind: "text" },
    { id: "secret", name: "Secret", kind: "text" },
    { id: "frames", name: "Frames", kind: "lines", fields: [{ id: "what", name: "What", kind: "text" }] },
  ],
  access: { wait: { secret: "hide" } },
  route: [
    {
      id: "tell",
      name: "Write to them",
      kind: "tell",
      who: { by: "formula", formula: `"${ADA}"` },
      subject: "",
      text: "",
      mail: {},
      letter: "first",
      ways: [],
    },
    {
      id: "wait",
      name: "Reads it",
      kind: "decide",
      who: { rule: { by: "person", person: "tobias.marrin" }, how: "one" },
      byMail: { subject: "", text: "", letter: "first", reply: true },
      answers: [{ id: "ok", label: "Seen", tone: "plain", steps: [] }],
    },
  ] as unknown as Step[],
  samples: [],
  letters: LETTERS,
} as ProcessDefinition;

beforeAll(async () => {
  world = await openWorld();
  post = await openPost();
  [owner, decider, lucia, other] = (await Promise.all(
    ["orla.fennimore", "tobias.marrin", "lucia.penrose", "bridie.okafor"].map(person),
  )) as [Actor, Actor, Actor, Actor];
  await makeMailbox(decider, post, BOX);
  value(await createProcess(SYSTEM, definition));
  value(await releaseDraft(SYSTEM, "frames", "1.0.0", ""));
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

async function ask(matter: string): Promise<string> {
  const data = { matter, secret: "y", frames: [{ "#": "1", what: "Gilt <oval>" }] };
  const { number } = value(await startRequest(lucia, "frames", data));
  await workOff();
  return number;
}
const byHand = (more: Partial<LetterByHand> = {}): LetterByHand => ({
  key: crypto.randomUUID(),
  letter: null,
  to: [ADA],
  subject: "A word",
  text: "Dear Ada,\n\nwhich one?",
  files: [],
  ...more,
});
const mailsTo = async (subject: string) =>
  (await post.mails(ADA)).filter((m) => m.subject?.includes(subject));

it("a step sends a letter: as HTML and as text, closed by its signature, and kept as it was sent", async () => {
  const number = await ask("Ovals");
  const [mail] = await mailsTo(number);
  expect(mail?.subject).toBe(`${number}: Ovals`);
  expect(mail?.html).toContain("<b>Ovals</b>");
  expect(mail?.html).toContain("Gilt &#60;oval&#62;");
  expect(mail?.html).toContain('lang="en"');
  expect(mail?.text?.trim()).toBe(
    "About Ovals.\n\nWhich\n------------\nGilt <oval>\n\nThe frame shop".replace(
      "------------",
      "-".repeat(11),
    ),
  );
  const shown = value(await requestView(owner, number)).letters.find((l) => l.outside.length > 0);
  expect(shown?.parts?.[0]).toEqual({
    part: "paragraph",
    runs: [{ text: "About " }, { text: "Ovals", bold: true }, { text: "." }],
  });
  // Who is asked gets the same letter, with the ways to answer below it.
  const asked = (await post.mails("tobias.marrin@quillhaven.example")).find((m) =>
    m.subject?.includes(number),
  );
  expect(asked?.html).toMatch(/<b>Ovals<\/b>.*Reply/s);
});

it("who works on a request writes by hand, in the same thread, and the answer comes to the request", async () => {
  const number = await ask("Rounds");
  const drafted = value(await letterByHand(decider, number, "question"));
  expect(drafted).toEqual({ subject: `${number}: a question`, text: "About Rounds?" });
  const letter = byHand({
    letter: "question",
    subject: `${number}: a question`,
    text: "About Rounds? Which?",
  });
  value(await sendByHand(decider, number, letter));
  // A second press, or a try whose answer was lost.
  value(await sendByHand(decider, number, letter));
  // Changed since, when the answer was lost: it is not taken for sent.
  for (const more of [{ text: "Which one?" }, { subject: "Other" }, { to: [ADA, "eve@x.example"] }])
    expect(await sendByHand(decider, number, { ...letter, ...more })).toMatchObject({
      ok: false,
      failure: { code: "invalid", data: { message: expect.stringContaining("went out already") } },
    });
  await workOff();
  const sent = await mailsTo(number);
  expect(sent.map((m) => m.subject)).toEqual([`${number}: Rounds`, `${number}: a question`]);
  const [first, second] = sent;
  expect(second!.references).toContain(first!.messageId);
  await post.send({ from: ADA, to: BOX, subject: `Re: ${number}`, text: "The gilt one.", answers: second! });
  await until("the answer came", async () => {
    await workOff();
    return value(await requestView(owner, number)).letters.some((l) => l.text.includes("The gilt one."));
  });
  const view = value(await requestView(owner, number));
  const told = view.trail.map((l) => l.text);
  expect(told).toContain(`Tobias Marrin wrote to ${ADA}: ${number}: a question`);
  expect(told.at(-1)).toBe(`${ADA} wrote: Re: ${number}`);
  expect(view.mayWrite?.to).toEqual([
    { name: "Lucia Penrose", email: "lucia.penrose@quillhaven.example" },
    { name: "", email: ADA },
  ]);
});

it("a letter that is sent as it is keeps its looks, and a changed one is a text in which nothing is markup", async () => {
  const number = await ask("Squares");
  const { subject, text } = value(await letterByHand(owner, number, "question"));
  value(await sendByHand(owner, number, byHand({ letter: "question", subject, text })));
  value(await sendByHand(owner, number, byHand({ subject: `${number} b`, text: "<script>x</script>" })));
  await workOff();
  const shown = value(await requestView(owner, number)).letters.filter((l) => l.byHand);
  expect(shown.map((l) => l.parts)).toEqual([
    [{ part: "paragraph", runs: [{ text: "About " }, { text: "Squares" }, { text: "?" }] }],
    [{ part: "paragraph", runs: [{ text: "<script>x</script>" }] }],
  ]);
  expect((await mailsTo(`${number} b`))[0]!.html).not.toContain("<script>");
});

it("nobody else writes, nothing is told that its writer may not see, and what is wrong is said", async () => {
  const number = await ask("Hexagons");
  const message = async (who: Actor, l: LetterByHand) => {
    const r = await sendByHand(who, number, l);
    if (r.ok) throw new Error("it was sent");
    return r.failure.code === "invalid" ? r.failure.data.message : r.failure.code;
  };
  expect(await message(lucia, byHand())).toBe("not-allowed");
  expect(await message(other, byHand())).toBe("not-found");
  expect(value(await requestView(lucia, number)).mayWrite).toBeNull();
  // The decider may not see what its condition reads; neither may the owner, for whom nothing else is said.
  for (const who of [decider]) {
    const r = await letterByHand(who, number, "inside");
    expect(r).toMatchObject({ ok: false, failure: { code: "invalid", data: { path: "letter" } } });
    expect(await message(who, byHand({ letter: "inside" }))).toContain("may not see");
  }
  // One that a step alone sends is none of those.
  expect(await letterByHand(decider, number, "first")).toMatchObject({
    ok: false,
    failure: { code: "not-found" },
  });
  expect(await message(decider, byHand({ to: [] }))).toContain("to whom");
  expect(await message(decider, byHand({ to: ["ada@x.example\r\nBcc: eve@x.example"] }))).toContain(
    "no address",
  );
  expect(
    await message(decider, byHand({ to: Array.from({ length: 11 }, (_, i) => `a${i}@x.example`) })),
  ).toContain("at most 10");
  expect(await message(decider, byHand({ text: " " }))).toBe("Write something.");
  expect(await message(decider, byHand({ text: "x".repeat(20_001) }))).toContain("20000");
  expect(await message(decider, byHand({ subject: "\n" }))).toContain("what it is about");
  // Once it waits for them no more they write no more.
  const { myTask } = value(await requestView(decider, number));
  value(await act(decider, number, { type: "answer", task: myTask!, answer: "ok", note: "", data: {} }));
  expect(await message(decider, byHand())).toBe("not-allowed");
});

it("what was written is found by those who may read it, with the words around", async () => {
  const number = await ask("Lozenges");
  value(
    await sendByHand(
      owner,
      number,
      byHand({ text: `${"before ".repeat(30)} Zwischgold 100% ${"after ".repeat(30)}` }),
    ),
  );
  const found = async (who: Actor, words: string) =>
    (await find(who, words)).filter((f) => f.kind === "conversation");
  const [hit, ...more] = await found(owner, "zwischgold 100%");
  expect(more).toEqual([]);
  expect(hit).toMatchObject({ name: `${number} · A word`, href: `/requests/${number}#conversation` });
  expect(hit!.where).toMatch(/^….*before Zwischgold 100% after.*…$/);
  // Signs that stand for others in a search stand for themselves.
  expect(await found(owner, "zwischgold 1__%")).toEqual([]);
  // Who made the request reads what went to somebody outside; nobody else does.
  expect(await found(lucia, "Zwischgold")).toHaveLength(1);
  expect(await found(other, "Zwischgold")).toEqual([]);
  // What one who works here was asked is between them and the process.
  expect((await found(lucia, "About Lozenges")).map((f) => f.name)).toEqual([`${number}: Lozenges`]);
  expect((await found(decider, "About Lozenges")).length).toBe(2);
});

it("what stands in very many mails of others is found in one's own still", async () => {
  const data = { matter: "Hexel", secret: "", frames: [] };
  const theirs = value(await startRequest(other, "frames", data)).number;
  await workOff();
  await sql(
    `
      insert into message (request_id, direction, mailbox, state, subject, body, at)
      select m.request_id, 'in', 'many', 'kept', 'Hexel', m.body, m.at
      from message m, generate_series(1, 6000)
      where m.id = (select min(x.id) from message x join request r on r.id = x.request_id where r.number = $1)
    `,
    [theirs],
  );
  const mine = await ask("Hexel");
  const names = (await find(lucia, "Hexel")).filter((f) => f.kind === "conversation").map((f) => f.name);
  expect(names).toEqual([`${mine}: Hexel`]);
  await sql("delete from message where mailbox = 'many'");
});

it("a letter is kept for all by who designs its process, and its next words are for them and the office", async () => {
  const kept = value(await keepLetter(owner, "frames", "sign"));
  expect(kept.version).toBe(1);
  expect(await keepLetter(lucia, "frames", "sign")).toMatchObject({ ok: false });
  expect(await keepLetter(owner, "frames", "gone")).toMatchObject({
    ok: false,
    failure: { code: "not-found" },
  });
  const two = {
    ...definition,
    key: "frames-two",
    owners: ["lucia.penrose"],
    numbering: { prefix: "GILU", digits: 3 },
  };
  const taken = { ...LETTERS[3]!, id: "mine", from: kept };
  value(await createProcess(SYSTEM, { ...two, letters: [taken, LETTERS[0]!] }));
  const [inOffice] = value(await keptLetterList(decider));
  expect(inOffice).toMatchObject({
    name: "Signs",
    version: 1,
    from: "Frames",
    taken: [{ key: "frames-two", version: 1 }],
  });
  expect(await keptLetterList(lucia)).toMatchObject({ ok: false, failure: { code: "not-allowed" } });
  expect(value(await draftView(lucia, "frames-two")).office.letters).toMatchObject([
    { id: kept.letter, version: 1 },
  ]);
  // Whoever took it does not change it for all.
  expect(await keepLetter(lucia, "frames-two", "mine")).toMatchObject({
    ok: false,
    failure: { code: "not-allowed" },
  });
  expect(await removeKeptLetter(lucia, kept.letter)).toMatchObject({ ok: false });
  // What is that process's alone does not go along.
  value(await keepLetter(owner, "frames", "first"));
  const first = value(await draftView(owner, "frames")).office.letters.find((k) => k.name === "First letter");
  expect(Object.keys(first!.letter).sort()).toEqual(["id", "name", "texts"]);
  value(await removeKeptLetter(decider, kept.letter));
  expect(value(await keptLetterList(decider)).map((k) => k.name)).toEqual(["First letter"]);
});

it("a step waits for what is answered to another's letter, and takes its words and files along", async () => {
  const asks = {
    ...definition,
    key: "answers",
    numbering: { prefix: "GILA", digits: 3 },
    access: {},
    fields: [
      ...definition.fields,
      { id: "answer", name: "Answer", kind: "long text" },
      { id: "paper", name: "Paper", kind: "file" },
    ],
    route: [
      {
        ...definition.route[0],
        id: "ask",
        name: "Ask them",
        letter: "question",
        mail: { replies: true },
      },
      {
        id: "wait",
        name: "Their answer",
        kind: "wait",
        for: [
          { id: "came", holds: "Ask them.reply != null" },
          { id: "late", length: { amount: 5, unit: "days" } },
        ],
        ways: [
          {
            id: "none",
            steps: [{ id: "end", name: "Give up", kind: "finish", result: "no answer", tone: "plain" }],
          },
        ],
      },
      {
        id: "keep",
        name: "Keep it",
        kind: "work out",
        set: [
          { field: "answer", value: 'Ask them.by + ": " + Ask them.reply' },
          { field: "paper", value: "Ask them.files[1]" },
        ],
      },
      { id: "done", name: "Done", kind: "finish", result: "answered", tone: "agree" },
    ],
  } as unknown as ProcessDefinition;
  value(await createProcess(SYSTEM, asks));
  value(await releaseDraft(SYSTEM, "answers", "1.0.0", ""));
  const { number } = value(await startRequest(lucia, "answers", { matter: "Leaf" }));
  await workOff();
  const [mail] = await mailsTo(number);
  const files = [{ filename: "leaf.txt", content: Buffer.from("22 carat") }];
  // What a program writes answers nothing.
  await post.send({
    from: ADA,
    to: BOX,
    subject: "Away",
    text: "I am away.",
    answers: mail!,
    headers: { "Auto-Submitted": "auto-replied" },
  });
  await post.send({
    from: ADA,
    to: BOX,
    subject: `Re: ${number}`,
    text: "22 carat, please.",
    answers: mail!,
    files,
  });
  await until("it is over", async () => {
    await workOff();
    return value(await requestView(owner, number)).status === "finished";
  });
  const view = value(await requestView(owner, number));
  expect(view.result?.name).toBe("answered");
  expect(view.form.data).toMatchObject({ answer: `${ADA}: 22 carat, please.` });
  const paper = view.form.data["paper"];
  expect(view.letters.at(-1)?.files.map((f) => [f.id, f.name])).toEqual([[paper, "leaf.txt"]]);
  // One that comes later changes nothing any more.
  await post.send({ from: ADA, to: BOX, subject: `Re: ${number}`, text: "No, 24.", answers: mail! });
  await until("it came", async () => {
    await workOff();
    return value(await requestView(owner, number)).letters.some((l) => l.text === "No, 24.");
  });
  expect(value(await requestView(owner, number)).form.data).toMatchObject({
    answer: `${ADA}: 22 carat, please.`,
  });
});
