import type { ProcessDefinition } from "@/core/route";
import {
  createProcess,
  mailsToTry,
  releaseDraft,
  sampleOfMail,
  sampleOfMailFile,
  SYSTEM,
  watchMailboxes,
  type Actor,
} from "@/services";
import { makeMailbox, openPost, type TestPost } from "./post";
import { openWorld, person, sql, until, value } from "./world";
import { workOff } from "./workOff";

jest.setTimeout(60_000);

const BOX = "prints@quillhaven.example";
let world: Awaited<ReturnType<typeof openWorld>>;
let post: TestPost;
let owner: Actor;
let office: Actor;
let other: Actor;
const stop = new AbortController();
let watching: Promise<void>;
const definition = (
  key: string,
  prefix: string,
  owners: string[],
  when: string,
  starts = true,
): ProcessDefinition =>
  ({
    format: "cobble-step/process@2",
    key,
    name: key,
    purpose: "",
    owners,
    numbering: { prefix, digits: 3 },
    title: "{Matter}",
    mailbox: BOX,
    starts: starts
      ? [
          {
            id: "mail",
            kind: "mail",
            strangers: "take",
            when,
            values: [{ field: "matter", value: "Mail.subject" }],
          },
        ]
      : [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [{ id: "matter", name: "Matter", kind: "text" }],
    access: {},
    route: [],
    samples: [],
  }) as unknown as ProcessDefinition;

beforeAll(async () => {
  world = await openWorld();
  post = await openPost();
  [owner, office, other] = (await Promise.all(
    ["lucia.penrose", "tobias.marrin", "bridie.okafor"].map(person),
  )) as [Actor, Actor, Actor];
  await makeMailbox(office, post, BOX);
  for (const d of [
    definition("prints", "PRINTS", ["lucia.penrose"], 'contains(Mail.subject, "print")'),
    definition("frames-too", "FRTOO", ["bridie.okafor"], 'contains(Mail.subject, "frame")', false),
    definition("not-yet", "NOTYET", ["anselm.kerr"], 'contains(Mail.subject, "map")'),
  ]) {
    value(
      await createProcess(SYSTEM, {
        ...d,
        route: [{ id: "end", name: "Finish", kind: "finish", result: "done", tone: "plain" }],
      } as ProcessDefinition),
    );
    if (d.key !== "not-yet") value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  }
  watching = watchMailboxes(SYSTEM, stop.signal, () => undefined);
  await until(
    "it is watched",
    async () =>
      (await sql("select 1 from mailbox_read where looked_at is not null and address = $1", [BOX])).length >
      0,
  );
  const send = (subject: string) =>
    post.send({
      from: "ada@x.example",
      to: BOX,
      subject,
      text: "Would you?",
      files: [{ filename: "list.pdf", content: Buffer.from("%PDF-1") }],
    });
  await send("Two prints");
  await send("A question");
  await until("both are taken", async () => {
    await workOff();
    return (await sql("select 1 from message where direction = 'in' and mailbox = $1", [BOX])).length === 2;
  });
  await workOff();
});
afterAll(async () => {
  stop.abort();
  await watching;
  await post.stop();
  await world.close();
});

it("an owner makes a sample of a mail that came, with what its files are and not what stands in them", async () => {
  const came = value(await mailsToTry(owner, "prints"));
  expect(came.map((m) => m.subject).sort()).toEqual(["A question", "Two prints"]);
  const prints = came.find((m) => m.subject === "Two prints")!;
  expect(value(await sampleOfMail(owner, "prints", prints.id))).toEqual({
    sender: "ada@x.example",
    senderName: "",
    to: [BOX],
    subject: "Two prints",
    text: expect.stringContaining("Would you?") as string,
    files: [{ name: "list.pdf", size: 6, type: "application/pdf" }],
  });
});

it("mail is read by those whose process it comes to, and by no other who names its mailbox", async () => {
  const [mine] = value(await mailsToTry(owner, "prints"));
  // Who may design all of them looks after none of this mail.
  expect(value(await mailsToTry(office, "prints"))).toEqual([]);
  expect(await sampleOfMail(office, "prints", mine!.id)).toMatchObject({ ok: false });
  // Its process takes no mail; the other's draft is not agreed to by anybody.
  expect(value(await mailsToTry(other, "frames-too"))).toEqual([]);
  expect(value(await mailsToTry(await person("anselm.kerr"), "not-yet"))).toEqual([]);
  expect(await mailsToTry(other, "prints")).toMatchObject({ ok: false });
  expect(await sampleOfMail(owner, "prints", "999999")).toMatchObject({ ok: false });
});

it("a mail kept as a file is read, and what is none is said", async () => {
  const eml = [
    "From: Ada <ada@x.example>",
    `To: ${BOX}`,
    "Subject: Kept print",
    "Content-Type: text/plain",
    "",
    "Words.",
  ].join("\r\n");
  const read = (bytes: Buffer, who = owner) => sampleOfMailFile(who, "prints", bytes);
  expect(value(await read(Buffer.from(eml)))).toMatchObject({
    sender: "ada@x.example",
    senderName: "Ada",
    to: [BOX],
    subject: "Kept print",
    text: "Words.",
    files: [],
  });
  expect(value(await read(Buffer.from(`${eml}${"x".repeat(50_000)}`))).text).toHaveLength(20_000);
  for (const none of [Buffer.alloc(0), Buffer.from("%PDF-1.7"), Buffer.alloc(100_000, 255)])
    expect(await read(none)).toMatchObject({ ok: false, failure: { code: "invalid" } });
  expect(await read(Buffer.from(eml), other)).toMatchObject({ ok: false });
});
