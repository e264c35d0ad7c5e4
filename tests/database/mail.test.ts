import { getPool, messages } from "@/db";
import type { Field } from "@/core/form";
import type { ProcessDefinition, Step, StepOf } from "@/core/route";
import {
  act,
  addFile,
  answerByLink,
  answerLink,
  createProcess,
  mailOfNone,
  noticesOf,
  releaseDraft,
  requestView,
  settleMail,
  settleMailOfNone,
  startByMail,
  startRequest,
  SYSTEM,
  watchMailboxes,
  type Actor,
  type MailShown,
} from "@/services";
import { makeMailbox, openPost, type TestPost } from "./post";
import { openWorld, person, sql, until, value } from "./world";
import { workOff } from "./workOff";
import { readFile } from "./readFile";

jest.setTimeout(60_000);

const BOX = "walls@quillhaven.example";
let world: Awaited<ReturnType<typeof openWorld>>;
let post: TestPost;
let owner: Actor;
let lucia: Actor;
const stop = new AbortController();
let watching: Promise<void>;
const said: string[] = [];

const tell = (mail: object, ways: object[] = [], more: object = {}): Step =>
  ({
    id: "tell",
    name: "Write to them",
    kind: "tell",
    who: { by: "requester" },
    subject: "{Request.number}: {Matter}",
    text: "About {Matter}.",
    mail,
    ways,
    ...more,
  }) as Step;
const WAITS: Step = {
  id: "wait",
  name: "Reads it",
  kind: "decide",
  who: { rule: { by: "person", person: "orla.fennimore" }, how: "one" },
  answers: [{ id: "ok", label: "Seen", tone: "plain", steps: [] }],
} as unknown as Step;

const processOf = (key: string, prefix: string, route: Step[]): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key,
  name: `Wall notes ${prefix}`,
  purpose: "",
  owners: ["orla.fennimore"],
  numbering: { prefix, digits: 3 },
  title: "{Matter}",
  mailbox: BOX,
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }] as ProcessDefinition["starts"],
  fields: [
    { id: "matter", name: "Matter", kind: "text" },
    { id: "address", name: "Address", kind: "text" },
    { id: "paper", name: "Paper", kind: "file" },
    { id: "papers", name: "Papers", kind: "files" },
    { id: "secret", name: "Secret", kind: "text" },
  ] as ProcessDefinition["fields"],
  access: {},
  route,
  samples: [],
});

async function release(definition: ProcessDefinition) {
  value(await createProcess(SYSTEM, definition));
  value(await releaseDraft(SYSTEM, definition.key, "1.0.0", ""));
}
async function ask(key: string, data: Record<string, string>): Promise<string> {
  const { number } = value(await startRequest(lucia, key, data));
  await workOff();
  return number;
}
const letters = async (who: Actor, number: string): Promise<MailShown[]> =>
  value(await requestView(who, number)).letters;
/** Waits until a mail has come to a request. */
const came = (number: string, count = 1) =>
  until(`${count} mails came to ${number}`, async () => {
    await workOff();
    const found = await sql(
      "select 1 from message m join request r on r.id = m.request_id where r.number = $1 and m.direction = 'in'",
      [number],
    );
    return found.length >= count;
  });

beforeAll(async () => {
  world = await openWorld();
  post = await openPost();
  [owner, lucia] = (await Promise.all(["orla.fennimore", "lucia.penrose"].map(person))) as [Actor, Actor];
  const keeper = await person("tobias.marrin");
  await makeMailbox(keeper, post, BOX);
  watching = watchMailboxes(SYSTEM, stop.signal, (line) => said.push(line));
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

it("writes to whoever asked and to an address, each by a mail of their own, in threads that can be answered", async () => {
  await release(processOf("wall-a", "WA", [tell({ to: "Address", replyTo: "" }), WAITS]));
  const number = await ask("wall-a", { matter: "Fresco", address: "ada@elsewhere.example" });
  const [mine] = await post.mails("lucia.penrose@quillhaven.example");
  const [hers] = await post.mails("ada@elsewhere.example");
  expect(mine!.subject).toBe(`${number}: Fresco`);
  expect(mine!.text!.trim()).toBe("About Fresco.");
  expect(mine!.from!.text).toBe('"Test office" <walls@quillhaven.example>');
  expect(hers!.to).toMatchObject({ text: "ada@elsewhere.example" });
  expect(hers!.messageId).not.toBe(mine!.messageId);
  expect(hers!.references).toBeDefined();
  const shown = await letters(owner, number);
  expect(shown.map((l) => [l.direction, l.to, l.state])).toEqual([
    ["out", ["Lucia Penrose"], "sent"],
    ["out", ["ada@elsewhere.example"], "sent"],
  ]);

  await post.send({
    from: "ada@elsewhere.example",
    to: BOX,
    answers: hers!,
    text: "Thank you.\n\nOn Tuesday Test office wrote:\n> About Fresco.\n",
    files: [{ filename: "wall.txt", content: Buffer.from("plaster") }],
  });
  await came(number);
  const reply = (await letters(owner, number)).at(-1)!;
  expect(reply).toMatchObject({ direction: "in", text: "Thank you.", from: "ada@elsewhere.example" });
  expect(reply.quoted).toContain("> About Fresco.");
  expect(reply.files.map((f) => f.name)).toEqual(["wall.txt"]);
  expect(value(await readFile(lucia, reply.files[0]!.id)).bytes.toString()).toBe("plaster");
  // Whoever has a task of it is told.
  expect((await noticesOf(owner)).some((n) => n.text.includes("ada@elsewhere.example has written"))).toBe(
    true,
  );
  // Somebody who may not see the request sees neither.
  const stranger = await person("sorcha.lind");
  expect((await requestView(stranger, number)).ok).toBe(false);
  expect((await readFile(stranger, reply.files[0]!.id)).ok).toBe(false);
});

it("puts what answers nothing to no request, and takes what is delivered twice once", async () => {
  const number = await ask("wall-a", { matter: "Twice", address: "bo@elsewhere.example" });
  const [hers] = await post.mails("bo@elsewhere.example");
  const before = (await sql("select 1 from message where request_id is null")).length;
  post.setFaults({ twice: 1 });
  for (let i = 0; i < 2; i++)
    await post.send({ from: "bo@elsewhere.example", to: BOX, answers: hers!, text: "Once only" });
  await came(number);
  await post.send({ from: "bo@elsewhere.example", to: BOX, subject: "Something else", text: "Hello" });
  await until(
    "it was taken",
    async () => (await sql("select 1 from message where request_id is null")).length > before,
  );
  post.setFaults({ twice: 0 });
  const texts = (await letters(owner, number)).map((l) => l.text);
  // Written twice by hand it is two mails; put into the mailbox twice it is one.
  expect(texts.filter((t) => t === "Once only").length).toBeLessThanOrEqual(2);
  const [none] = await sql<{ why: string }>(
    "select why from message where request_id is null order by id desc limit 1",
  );
  expect(none!.why).toBe("It answers nothing of ours.");
});

it("gives copies, unseen ones too, carries files, and answers go where it is said", async () => {
  await release(
    processOf("wall-b", "WB", [
      tell({
        copy: '["c1@elsewhere.example", "c2@elsewhere.example"]',
        blind: '"b@elsewhere.example"',
        replyTo: '"answers@elsewhere.example"',
        files: "Paper",
      }),
      WAITS,
    ]),
  );
  const file = value(await addFile(lucia, "plan.txt", Buffer.from("a plan")));
  const number = await ask("wall-b", { matter: "Copies", paper: file.id });
  const [mail] = await post.mails("b@elsewhere.example");
  expect(mail!.cc).toMatchObject({ text: "c1@elsewhere.example, c2@elsewhere.example" });
  expect(mail!.bcc).toBeUndefined();
  expect(mail!.headerLines.some((h) => h.line.includes("b@elsewhere"))).toBe(false);
  expect(mail!.replyTo!.text).toBe("answers@elsewhere.example");
  expect(mail!.attachments.map((a) => [a.filename, a.content.toString()])).toEqual([["plan.txt", "a plan"]]);
  expect((await post.mails("c1@elsewhere.example"))[0]!.messageId).toBe(mail!.messageId);
  // Who else has it unseen, only the owners see.
  expect((await letters(lucia, number))[0]!.copies).not.toContain("b@elsewhere.example");
  expect((await letters(owner, number))[0]!.copies).toContain("b@elsewhere.example");
});

it("cannot be made to send more than it says: no header, and no receiver, comes in by a value", async () => {
  const number = await ask("wall-a", {
    matter: "Break\r\nBcc: evil@elsewhere.example",
    address: "ada@elsewhere.example\r\nRCPT TO:<evil@elsewhere.example>",
  });
  expect(await post.mails("evil@elsewhere.example")).toEqual([]);
  const shown = await letters(owner, number);
  expect(shown[1]!.state).toBe("returned");
  expect(shown[1]!.trouble).toContain("is no address");
});

it("is told of what is refused and of what comes back, and does what the step says then, once", async () => {
  const way = {
    id: "w",
    steps: [
      {
        id: "mend",
        name: "Mend the address",
        kind: "decide",
        who: { rule: { by: "person", person: "orla.fennimore" }, how: "one" },
        answers: [{ id: "ok", label: "Mended", tone: "plain", steps: [] }],
      },
    ],
  };
  await release(
    processOf("wall-c", "WC", [
      tell({ to: "Address" }, [way], { who: { by: "formula", formula: "null" } }),
      WAITS,
    ]),
  );
  const refused = await ask("wall-c", { matter: "Refused", address: "nobody@elsewhere.example" });
  const v = value(await requestView(owner, refused));
  expect(v.waiting.map((w) => w.step).sort()).toEqual(["Mend the address", "Reads it"]);
  expect(v.trail.some((l) => l.text.includes("could not be delivered to nobody@elsewhere.example"))).toBe(
    true,
  );

  const returned = await ask("wall-c", { matter: "Returned", address: "moved@elsewhere.example" });
  await came(returned);
  await workOff();
  const back = value(await requestView(owner, returned));
  expect(back.waiting.map((w) => w.step).sort()).toEqual(["Mend the address", "Reads it"]);
  expect((await letters(owner, returned))[0]!.trouble).toContain("moved@elsewhere.example: 550 5.1.1");
  // The same report once more changes nothing.
  const [report] = post.folders
    .list(BOX)
    .filter((k) => post.folders.read(BOX, k.name)!.includes("Undelivered"));
  post.folders.deliver(
    BOX,
    Buffer.concat([post.folders.read(BOX, report!.name)!, Buffer.from("\r\nmore\r\n")]),
  );
  await new Promise((r) => setTimeout(r, 500));
  expect(value(await requestView(owner, returned)).waiting).toHaveLength(2);
});

it("tries again what is refused for now, and lets be what may have arrived, unless it may be sent once more", async () => {
  post.setFaults({ refuse: 1 });
  const number = await ask("wall-a", { matter: "Later", address: "later@elsewhere.example" });
  expect((await letters(owner, number)).map((l) => l.state)).toEqual(["waiting", "waiting"]);
  post.setFaults({ refuse: 0 });
  await sql("update graphile_worker._private_jobs set run_at = now()");
  await workOff();
  expect((await letters(owner, number)).map((l) => l.state)).toEqual(["sent", "sent"]);
  expect(await post.mails("later@elsewhere.example")).toHaveLength(1);

  post.setFaults({ loseAfter: 1 });
  const lost = await ask("wall-a", { matter: "Lost", address: "lost@elsewhere.example" });
  post.setFaults({ loseAfter: 0 });
  expect((await letters(owner, lost)).map((l) => l.state)).toEqual(["perhaps", "perhaps"]);
  await sql("update graphile_worker._private_jobs set run_at = now()");
  await workOff();
  expect(await post.mails("lost@elsewhere.example")).toHaveLength(1);
  // Its owner says so; whoever asked may not.
  const { id } = (await letters(owner, lost))[1]!;
  expect((await settleMail(lucia, id, "send")).ok).toBe(false);
  value(await settleMail(owner, id, "send"));
  await workOff();
  const both = await post.mails("lost@elsewhere.example");
  expect(both).toHaveLength(2);
  expect(both[0]!.messageId).toBe(both[1]!.messageId);
  expect((await settleMail(owner, id, "send")).ok).toBe(false);

  await release(
    processOf("wall-d", "WD", [
      tell({ to: "Address", again: true }, [], { who: { by: "formula", formula: "null" } }),
      WAITS,
    ]),
  );
  post.setFaults({ loseAfter: 1 });
  const again = await ask("wall-d", { matter: "Again", address: "again@elsewhere.example" });
  post.setFaults({ loseAfter: 0 });
  await sql("update graphile_worker._private_jobs set run_at = now()");
  await workOff();
  expect((await letters(owner, again)).map((l) => l.state)).toEqual(["sent"]);
  expect(new Set((await post.mails("again@elsewhere.example")).map((m) => m.messageId)).size).toBe(1);
});

it("gives text from when on it cannot be known before any of it: one ended before that is sent, one after is not", async () => {
  const number = await ask("wall-a", { matter: "Ended", address: "ended@elsewhere.example" });
  const mail = (await letters(owner, number))[1]!;
  for (const [state, sent] of [
    ["sending", 2],
    ["given", 2],
  ] as const) {
    await sql("update message set state = $2 where id = $1", [mail.id, state]);
    await sql("select graphile_worker.add_job('send_message', json_build_object('message', $1::text))", [
      mail.id,
    ]);
    await workOff();
    expect(await post.mails("ended@elsewhere.example")).toHaveLength(sent);
  }
  expect((await letters(owner, number))[1]!.state).toBe("perhaps");
});

it("shows what tells of something hidden to its receivers and the owners only", async () => {
  const definition = processOf("wall-e", "WE", [
    tell({ to: "Address" }, [], { text: "It says {Secret}.", who: { by: "formula", formula: "null" } }),
    {
      ...WAITS,
      who: { rule: { by: "person", person: "lucia.penrose" }, how: "one", requesterToo: true },
    } as Step,
  ]);
  definition.access = { wait: { secret: "hide" } };
  await release(definition);
  const number = await ask("wall-e", { matter: "Hidden", address: "x@elsewhere.example", secret: "osprey" });
  expect(await letters(owner, number)).toHaveLength(1);
  const sorcha = await person("sorcha.lind");
  value(
    await startRequest(sorcha, "wall-e", {
      matter: "Hers",
      address: "sorcha.lind@quillhaven.example",
      secret: "wren",
    }),
  );
  await workOff();
  expect(await letters(lucia, number)).toHaveLength(0);
});

describe("a task that is answered by mail", () => {
  const ORLA = "orla.fennimore@quillhaven.example";
  const asks = (mail: object): Step =>
    ({
      ...WAITS,
      id: "asked",
      name: "Orla decides",
      byMail: { subject: "{Request.number}: {Matter}", text: "It is about {Matter}.", ...mail },
      answers: [
        {
          id: "yes",
          label: "Approve",
          tone: "agree",
          words: "yes, ok, tak",
          steps: [],
        },
        {
          id: "no",
          label: "Decline",
          tone: "refuse",
          note: "must",
          words: "no, nie",
          steps: [{ id: "end", name: "Finish", kind: "finish", result: "declined", tone: "refuse" }],
        },
      ],
    }) as unknown as Step;
  /** The same over a price that is copied, and read anew with its first answer. */
  const priced = (key: string, prefix: string, step: Step): ProcessDefinition => {
    const d = processOf(key, prefix, [
      {
        ...step,
        answers: (step as StepOf<"decide">).answers.map((a) =>
          a.id === "yes" ? { ...a, anew: ["cost"] } : a,
        ),
      } as Step,
    ]);
    const item: Field = { id: "item", name: "Item", kind: "look-up", register: "price_list" };
    const cost: Field = { id: "cost", name: "Cost", kind: "money", worked: "Item.Price", copied: true };
    return { ...d, fields: [...d.fields, item, cost] };
  };
  const tokenIn = (text: string): string => /\/answer\/([\w-]{43})/.exec(text)![1]!;
  const mailAbout = async (number: string) =>
    (await post.mails(ORLA)).filter((m) => m.subject!.includes(number)).at(-1)!;
  const backs = async (number: string) =>
    (await post.mails(ORLA)).filter((m) => m.subject === `Re: ${number}: Plaster`).map((m) => m.text!);

  beforeAll(async () => {
    await release(processOf("wall-r", "WR", [asks({ link: "free", reply: true })]));
    await release(processOf("wall-s", "WS", [asks({ link: "signed in" })]));
    await release(priced("wall-p", "WP", asks({ link: "free", reply: true })));
    await release(priced("wall-t", "WT", asks({ link: "signed in" })));
  });

  it("carries what it is about, the answers and what they lead to; a link acts when somebody presses, once", async () => {
    const number = await ask("wall-r", { matter: "Plaster" });
    const mail = await mailAbout(number);
    expect(mail.text).toContain("It is about Plaster.");
    expect(mail.text).toContain("for “Decline”: decline, no, nie");
    expect(mail.text).toContain("?as=yes");
    const token = tokenIn(mail.text!);
    // What stands in the database opens nothing.
    const [kept] = await sql<{ hash: Buffer }>("select hash from answer_link order by made_at desc limit 1");
    expect(await answerLink(kept!.hash.toString("base64url").padEnd(43, "A"), null)).toMatchObject({
      is: "gone",
    });
    // Opened by a program, many times: nothing is done.
    for (let i = 0; i < 3; i++) expect(await answerLink(token, null)).toMatchObject({ is: "open", number });
    expect(value(await requestView(owner, number)).status).toBe("under way");
    expect((await answerByLink(token, null, "no", "")).ok).toBe(false);
    expect(value(await answerByLink(token, null, "no", "Too wet"))).toEqual({ number, label: "Decline" });
    const v = value(await requestView(owner, number));
    expect(v.result!.name).toBe("declined");
    expect(v.trail.find((l) => l.means === "link")).toMatchObject({ by: "orla.fennimore", note: "Too wet" });
    expect((await answerByLink(token, null, "yes", "")).ok).toBe(false);
    expect(await answerLink(token, null)).toMatchObject({ is: "gone" });
    expect(await answerLink("A".repeat(43), null)).toMatchObject({ is: "gone" });
  });

  it("asks for signing in as the one asked where the step says so, also of whoever has the link", async () => {
    const number = await ask("wall-s", { matter: "Plaster" });
    const token = tokenIn((await mailAbout(number)).text!);
    expect(await answerLink(token, null)).toEqual({ is: "sign in" });
    expect(await answerLink(token, lucia)).toEqual({ is: "somebody else's", name: "Orla Fennimore" });
    expect((await answerByLink(token, null, "yes", "")).ok).toBe(false);
    expect((await answerByLink(token, lucia, "yes", "")).ok).toBe(false);
    value(await answerByLink(token, owner, "yes", ""));
    expect(value(await requestView(owner, number)).status).toBe("finished");
    // No reply answers there.
  });

  it("lets nobody agree unseen to values that an answer reads anew, by whatever way it comes", async () => {
    const costs = (price: number) => sql("update register.price_list set price = $1 where id = 20", [price]);
    const stands = async (number: string) => value(await requestView(owner, number)).status;
    await costs(10);
    const open = await ask("wall-p", { matter: "Plaster", item: "20" });
    const own = await ask("wall-t", { matter: "Plaster", item: "20" });
    await costs(4711);
    // Whoever has the mail sees what it says, and no value besides.
    const mail = await mailAbout(open);
    const free = await answerByLink(tokenIn(mail.text!), null, "yes", "");
    expect(JSON.stringify(free)).toContain("on the page of");
    expect(JSON.stringify(free)).not.toMatch(/4711|4\D?711/);
    await post.send({ from: ORLA, to: BOX, answers: mail, text: "Yes" });
    await came(open);
    await workOff();
    expect((await backs(open)).at(-1)).toContain("reads values anew");
    expect([await stands(open), await stands(own)]).toEqual(["under way", "under way"]);
    // The one who was asked, signed in, sees them and presses once more.
    const token = tokenIn((await mailAbout(own)).text!);
    const seen = await answerByLink(token, owner, "yes", "");
    expect(seen).toMatchObject({ ok: false, failure: { data: { code: "read-anew" } } });
    expect((await answerByLink(token, owner, "yes", "", { cost: "10" })).ok).toBe(false);
    value(await answerByLink(token, owner, "yes", "", { cost: "4711" }));
    expect(await stands(own)).toBe("finished");
    // Refusing reads nothing.
    value(await answerByLink(tokenIn(mail.text!), null, "no", "Too dear"));
    expect(await stands(open)).toBe("finished");
  });

  it("ends with the task, and with who has it", async () => {
    const number = await ask("wall-r", { matter: "Plaster" });
    const token = tokenIn((await mailAbout(number)).text!);
    const { waiting } = value(await requestView(owner, number));
    value(
      await act(owner, number, { type: "hand over", task: waiting[0]!.task, to: "maeve.dunlea", note: "" }),
    );
    expect(await answerLink(token, null)).toMatchObject({ is: "gone" });
    await workOff();
    // Whoever has it now has a mail of their own.
    const hers = (await post.mails("maeve.dunlea@quillhaven.example")).filter((m) =>
      m.subject!.includes(number),
    );
    expect(hers).toHaveLength(1);
    expect(await answerLink(tokenIn(hers[0]!.text!), null)).toMatchObject({ is: "open" });
  });

  it("is decided by a reply that plainly says so, of the one asked, whom the server vouches for", async () => {
    const number = await ask("wall-r", { matter: "Plaster" });
    const mail = await mailAbout(number);
    const quoted = `\n\nOn Tue, 3 Mar 2026 at 10:00, Test office <${BOX}> wrote:\n\n> It is about Plaster.\n> Decline: no\n`;
    // Somebody else, in the thread; and somebody who only says to be Orla.
    await post.send({
      from: "lucia.penrose@quillhaven.example",
      to: BOX,
      answers: mail,
      text: `yes${quoted}`,
    });
    await post.send({ from: ORLA, to: BOX, answers: mail, text: `no, forged${quoted}`, forged: true });
    await came(number, 2);
    expect(value(await requestView(owner, number)).status).toBe("under way");
    await post.send({ from: ORLA, to: BOX, answers: mail, text: `No, too wet.\n\nAsk in May.${quoted}` });
    await came(number, 3);
    const v = value(await requestView(owner, number));
    expect(v.result!.name).toBe("declined");
    expect(v.trail.find((l) => l.means === "reply")).toMatchObject({ note: "too wet.\n\nAsk in May." });
    // What comes after that is kept, told so, and decides nothing.
    await post.send({ from: ORLA, to: BOX, answers: mail, text: "Yes after all" });
    await came(number, 4);
    await workOff();
    expect((await backs(number)).at(-1)).toContain("does not wait for your answer any more");
    expect((await letters(owner, number)).filter((l) => l.direction === "in")).toHaveLength(4);
  });

  it("is not decided by a mail that has its number alone: that comes to the request, and no further", async () => {
    const number = await ask("wall-r", { matter: "Plaster" });
    await mailAbout(number);
    await post.send({ from: ORLA, to: BOX, subject: `Re: ${number}: Plaster`, text: "yes" });
    await came(number);
    await workOff();
    expect(value(await requestView(owner, number)).status).toBe("under way");
    expect((await letters(owner, number)).map((l) => l.direction)).toEqual(["out", "in"]);
    // What somebody is asked is between them and the process.
    expect(await letters(lucia, number)).toEqual([]);
  });

  it("is for no more eyes where somebody outside answers what was handed on to them, and is forgotten whole", async () => {
    const number = await ask("wall-r", { matter: "Plaster" });
    const answers = await mailAbout(number);
    await post.send({ from: "bo@elsewhere.example", to: BOX, answers, text: "Osprey nests there" });
    await came(number);
    expect((await letters(owner, number)).at(-1)!.text).toBe("Osprey nests there");
    expect(await letters(lucia, number)).toEqual([]);
    const [{ id }] = (await sql<{ id: string }>("select id from request where number = $1", [number])) as [
      { id: string },
    ];
    await messages.forgetMessages(getPool(), id);
    const left = JSON.stringify(await sql("select * from message where request_id = $1", [id]));
    for (const word of ["Osprey", "bo@elsewhere", "Plaster", "orla.fennimore@"])
      expect([word, left.includes(word)]).toEqual([word, false]);
  });

  it("asks back, once for each, where it cannot be told, and hears no program", async () => {
    const number = await ask("wall-r", { matter: "Plaster" });
    const mail = await mailAbout(number);
    let n = 0;
    for (const text of ["No problem, approve", "yes or no?", "Let me think", "", "Decline"]) {
      await post.send({ from: ORLA, to: BOX, answers: mail, text: text || "> quoted only" });
      await came(number, ++n);
      await workOff();
      expect(value(await requestView(owner, number)).status).toBe("under way");
    }
    const said = await backs(number);
    expect(said).toHaveLength(5);
    expect(said[0]).toContain("for “Approve”: approve, yes, ok, tak");
    // A note is needed to decline, and there was none.
    expect(said[4]).toContain("could not be taken");
    // A program that answers what was asked back, too, goes on for so long and no longer.
    await post.send({
      from: ORLA,
      to: BOX,
      answers: mail,
      text: "yes",
      headers: { "Auto-Submitted": "auto-replied" },
    });
    await came(number, ++n);
    await workOff();
    expect(value(await requestView(owner, number)).status).toBe("under way");
    expect(await backs(number)).toHaveLength(5);
    // A reply to what was asked back answers as well.
    const back = (await post.mails(ORLA)).findLast((m) => m.subject!.startsWith(`Re: ${number}`))!;
    await post.send({ from: ORLA, to: BOX, answers: back, text: "Decline\nToo wet" });
    await came(number, ++n);
    expect(value(await requestView(owner, number)).result!.name).toBe("declined");
  });

  it("is not decided by who reads what stood when the mail was written, and is another by now", async () => {
    const number = await ask("wall-r", { matter: "Plaster" });
    const mail = await mailAbout(number);
    await sql(
      "update request set state = jsonb_set(state::jsonb, '{changedAt,matter}', '999')::text::json where number = $1",
      [number],
    );
    await post.send({ from: ORLA, to: BOX, answers: mail, text: "yes" });
    await came(number);
    await workOff();
    expect(value(await requestView(owner, number)).status).toBe("under way");
    expect((await backs(number)).at(-1)).toContain("Matter");
    expect((await answerByLink(tokenIn(mail.text!), null, "yes", "")).ok).toBe(false);
  });
});

describe("a process that mail starts", () => {
  const ADA = "ada.wren@elsewhere.example";
  const mailStart = (more: object = {}) => ({
    id: "mail",
    kind: "mail",
    when: 'contains(lower case(Mail.subject), "offer")',
    strangers: "take",
    values: [
      { field: "matter", value: "Mail.subject" },
      { field: "address", value: "Mail.sender" },
      { field: "paper", value: "Mail.attachments[1]" },
      { field: "papers", value: "Mail.attachments" },
    ],
    ...more,
  });
  const startOf = (more: object = {}) => [mailStart(more)] as unknown as ProcessDefinition["starts"];
  const byMail = async (key: string, prefix: string, box: string, more: object = {}) => {
    const definition = processOf(key, prefix, [tell({}, [], { text: "We have {Matter}." }), WAITS]);
    await release({ ...definition, mailbox: box, starts: startOf(more) });
  };
  const OFFERS = "proposals@quillhaven.example";
  const requestsOf = (key: string) =>
    sql<{ number: string }>("select number from request where process_key = $1 order by id", [key]);
  const taken = async (subject: string) => {
    await until(`“${subject}” is taken`, async () => {
      await workOff();
      return (
        (await sql("select 1 from message where direction = 'in' and subject = $1", [subject])).length > 0
      );
    });
    await workOff();
  };

  beforeAll(async () => {
    await makeMailbox(await person("tobias.marrin"), post, OFFERS);
    await byMail("wall-m", "WM", OFFERS);
    await until(
      "it is watched",
      async () =>
        (await sql("select 1 from mailbox_read where address = $1 and looked_at is not null", [OFFERS]))
          .length > 0,
    );
  });

  it("begins with what was written, by whoever wrote, with the files, in the thread of the mail", async () => {
    await post.send({
      from: ADA,
      to: OFFERS,
      subject: "Offer: two prints",
      text: "Would you like them?",
      files: [
        { filename: "prints.pdf", content: Buffer.from("%PDF") },
        { filename: "list.txt", content: Buffer.from("two prints") },
      ],
    });
    await taken("Offer: two prints");
    const [{ number }] = (await requestsOf("wall-m")) as [{ number: string }];
    const v = value(await requestView(owner, number));
    expect(v.requester).toMatchObject({ kind: "outside", email: ADA });
    expect(v.form.data).toMatchObject({ matter: "Offer: two prints", address: ADA });
    const [file, list, ...more] = (v.form.data["papers"] as string).split("\n");
    expect([file, more]).toEqual([v.form.data["paper"], []]);
    expect(value(await readFile(owner, file!)).bytes.toString()).toBe("%PDF");
    expect(value(await readFile(owner, list!)).bytes.toString()).toBe("two prints");
    expect(v.form.facts.files?.[list!]).toMatchObject({ name: "list.txt" });
    const all = await letters(owner, number);
    expect(all.map((l) => l.direction)).toEqual(["in", "out"]);
    const [mine] = await post.mails(ADA);
    const [first] = await post.mails(OFFERS);
    expect(mine!.inReplyTo).toBe(first!.messageId);
    // An answer to it goes to the request, and starts none.
    await post.send({ from: ADA, to: OFFERS, answers: mine!, subject: "Re: offer", text: "Please hurry." });
    await taken("Re: offer");
    expect(await requestsOf("wall-m")).toHaveLength(1);
    expect((await letters(owner, number)).at(-1)!.text).toBe("Please hurry.");
  });

  it("is started once, however often its mail is delivered or looked at", async () => {
    post.setFaults({ twice: 1 });
    const mail = {
      from: ADA,
      to: OFFERS,
      subject: "Offer: once",
      text: "x",
      headers: { "Message-ID": "<once@x.example>", Date: "Tue, 03 Mar 2026 09:00:00 +0000" },
    };
    await post.send(mail);
    await post.send(mail);
    post.setFaults({ twice: 0 });
    await taken("Offer: once");
    await new Promise((r) => setTimeout(r, 600));
    const [{ id }] = (await sql<{ id: string }>(
      "select id::text as id from message where subject = 'Offer: once'",
    )) as [{ id: string }];
    await Promise.all([startByMail(SYSTEM, id), startByMail(SYSTEM, id)]);
    await workOff();
    expect(await sql("select 1 from message where subject = 'Offer: once'")).toHaveLength(1);
    expect(await sql("select 1 from request where title = 'Offer: once'")).toHaveLength(1);
  });

  it("is not started by what it does not take, by programs, or by two at once; its owner sees why and starts it", async () => {
    for (const [subject, headers] of [
      ["Something else", {}],
      ["Offer: out of office", { "Auto-Submitted": "auto-replied" }],
      ["Offer: by a list", { "List-Id": "<l.example>" }],
    ] as const)
      await post.send({ from: ADA, to: OFFERS, subject, text: "x", headers: { ...headers } });
    await taken("Offer: by a list");
    expect(
      await sql(
        "select 1 from request where title in ('Something else', 'Offer: out of office', 'Offer: by a list')",
      ),
    ).toEqual([]);
    const none = value(await mailOfNone(owner));
    const other = none.find((m) => m.subject === "Something else")!;
    expect(other.why).toBe("No process takes it by what it says.");
    expect(value(await mailOfNone(lucia))).toEqual([]);
    expect((await settleMailOfNone(lucia, other.id, "wall-m")).ok).toBe(false);
    const { number } = value(await settleMailOfNone(owner, other.id, "wall-m"));
    expect(value(await requestView(owner, number!)).title).toBe("Something else");
    expect((await settleMailOfNone(owner, other.id, "wall-m")).ok).toBe(false);
    const list = none.find((m) => m.subject === "Offer: by a list")!;
    value(await settleMailOfNone(owner, list.id, null));
    expect(value(await mailOfNone(owner)).map((m) => m.subject)).not.toContain("Offer: by a list");

    await byMail("wall-n", "WN", OFFERS, { strangers: "hold", when: 'contains(Mail.subject, "both")' });
    await post.send({ from: ADA, to: OFFERS, subject: "Offer for both", text: "x" });
    await taken("Offer for both");
    expect(value(await mailOfNone(owner)).find((m) => m.subject === "Offer for both")!.why).toContain(
      "would take it",
    );
  });

  it("holds what strangers write, and takes it of people who work here, where the server vouches for them", async () => {
    await post.send({ from: ADA, to: OFFERS, subject: "both: stranger", text: "x" });
    await post.send({
      from: "lucia.penrose@quillhaven.example",
      to: OFFERS,
      subject: "both: forged",
      text: "x",
      forged: true,
    });
    await post.send({
      from: "lucia.penrose@quillhaven.example",
      to: OFFERS,
      subject: "both: hers",
      text: "x",
    });
    await taken("both: hers");
    const made = await sql<{ title: string; requester_id: string }>(
      "select title, requester_id from request where process_key = 'wall-n'",
    );
    expect(made).toEqual([{ title: "both: hers", requester_id: "lucia.penrose" }]);
    const why = value(await mailOfNone(owner))
      .filter((m) => m.subject.startsWith("both:"))
      .map((m) => m.why);
    expect(why).toHaveLength(2);
    expect(why.every((w) => w.startsWith("It is held"))).toBe(true);
  });
});
