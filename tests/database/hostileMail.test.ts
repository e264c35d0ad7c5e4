import MailComposer from "nodemailer/lib/mail-composer";
import type { ProcessDefinition, Step } from "@/core/route";
import {
  createProcess,
  mailOfNone,
  releaseDraft,
  requestView,
  settleMailOfNone,
  SYSTEM,
  watchMailboxes,
  type Actor,
} from "@/services";
import { makeMailbox, openPost, type MailSaid, type TestPost } from "./post";
import { openWorld, person, sql, until, value } from "./world";
import { workOff } from "./workOff";
import { readFile } from "./readFile";

jest.setTimeout(90_000);

const BOX = "gate@quillhaven.example";
const SHUT = "shut@quillhaven.example";
const ADA = "ada@guildhall.example";
let world: Awaited<ReturnType<typeof openWorld>>;
let post: TestPost;
let owner: Actor;
const stop = new AbortController();
let watching: Promise<void>;
const definition = (key: string, prefix: string, mailbox: string, start: object): ProcessDefinition =>
  ({
    format: "cobble-step/process@2",
    key,
    name: key,
    purpose: "",
    owners: ["orla.fennimore"],
    numbering: { prefix, digits: 3 },
    title: "{Matter}",
    mailbox,
    starts: [
      {
        id: "mail",
        kind: "mail",
        strangers: "take",
        values: [
          { field: "matter", value: "Mail.subject" },
          { field: "words", value: "Mail.text" },
          { field: "paper", value: "Mail.attachments[1]" },
        ],
        ...start,
      },
    ],
    fields: [
      { id: "matter", name: "Matter", kind: "text" },
      { id: "words", name: "Words", kind: "long text" },
      { id: "paper", name: "Paper", kind: "file" },
    ],
    access: {},
    route: [
      {
        id: "wait",
        name: "Reads it",
        kind: "decide",
        who: { rule: { by: "person", person: "tobias.marrin" }, how: "one" },
        answers: [{ id: "ok", label: "Seen", tone: "plain", steps: [] }],
      },
    ] as unknown as Step[],
    samples: [],
  }) as unknown as ProcessDefinition;

beforeAll(async () => {
  world = await openWorld();
  post = await openPost();
  owner = await person("orla.fennimore");
  const office = await person("tobias.marrin");
  await makeMailbox(office, post, BOX);
  await makeMailbox(office, post, SHUT);
  const refusal = "We take offers of people we know.";
  for (const d of [
    definition("gate", "GATE", BOX, {}),
    definition("shut", "SHUT", SHUT, { strangers: "refuse", refusal }),
  ]) {
    value(await createProcess(SYSTEM, d));
    value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  }
  watching = watchMailboxes(SYSTEM, stop.signal, () => undefined);
  await until(
    "both are watched",
    async () =>
      (
        await sql("select 1 from mailbox_read where looked_at is not null and address in ($1, $2)", [
          BOX,
          SHUT,
        ])
      ).length === 2,
  );
});
afterAll(async () => {
  stop.abort();
  await watching;
  await post.stop();
  await world.close();
});

/** Waits until so many mails have been taken, and does what is to be done. */
async function taken(box: string, n: number) {
  await until(
    `${n} are taken`,
    async () => {
      await workOff();
      const [row] = await sql<{ n: string }>(
        "select count(*) as n from message where direction = 'in' and mailbox = $1",
        [box],
      );
      return Number(row!.n) >= n;
    },
    60_000,
  );
  await workOff();
}
let came = 0;
const raw = async (to: string, bytes: Buffer) => {
  // Into the mailbox as it is: what delivers it would stumble first.
  post.folders.deliver(to, bytes);
  await taken(to, (came += 1));
};
const send = async (m: Partial<MailSaid>) => {
  await post.send({ from: ADA, to: BOX, subject: "x", ...(m.html === undefined ? { text: "y" } : {}), ...m });
  await taken(BOX, (came += 1));
};
const last = async () => {
  const [row] = await sql<{ number: string }>(
    "select number from request where process_key = 'gate' order by id desc limit 1",
  );
  return value(await requestView(owner, row!.number));
};

it("what is written in HTML is kept as words: nothing of it runs, and nothing is fetched", async () => {
  await send({
    subject: "<script>alert(1)</script>",
    html: `<style>p{color:red}</style><p onclick="steal()">Look <img src="http://evil.example/p.png"> <a href="javascript:steal()">here</a></p><script>steal()</script><iframe src="http://evil.example"></iframe><form action="http://evil.example"><input name=p></form>`,
  });
  const v = await last();
  expect(v.form.data["words"]).toMatch(/^Look/);
  for (const said of ["<script", "onclick", "iframe", "<img"])
    expect(String(v.form.data["words"])).not.toContain(said);
  // A subject is a text like any other.
  expect(v.title).toBe("<script>alert(1)</script>");
});

it("multiparts in multiparts, a hundred deep, hold nothing up", async () => {
  let body = "Content-Type: text/plain\r\n\r\nthe innermost\r\n";
  for (let i = 0; i < 100; i++)
    body = `Content-Type: multipart/mixed; boundary="b${i}"\r\n\r\n--b${i}\r\n${body}\r\n--b${i}--\r\n`;
  const began = Date.now();
  await raw(BOX, Buffer.from(`From: ${ADA}\r\nTo: ${BOX}\r\nSubject: Deep\r\nMIME-Version: 1.0\r\n${body}`));
  expect(Date.now() - began).toBeLessThan(30_000);
  const none = value(await mailOfNone(owner)).some((m) => m.subject === "Deep");
  expect(none || (await last()).title === "Deep").toBe(true);
});

it("a wrong charset, broken base64 and headers without end are kept as far as they can be read", async () => {
  await raw(
    BOX,
    Buffer.concat([
      Buffer.from(
        `From: ${ADA}\r\nTo: ${BOX}\r\nSubject: =?utf-9?Q?B=FCro?=\r\nContent-Type: text/plain; charset=klingon\r\n\r\n`,
      ),
      Buffer.from([0x42, 0xfc, 0x72, 0x6f, 0x00, 0xff, 0xfe]),
    ]),
  );
  expect(String((await last()).form.data["words"])).toContain("B");
  await raw(
    BOX,
    Buffer.from(
      `From: ${ADA}\r\nTo: ${BOX}\r\nSubject: Broken\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\nContent-Type: application/pdf; name="a.pdf"\r\nContent-Transfer-Encoding: base64\r\n\r\n%%%%not base64%%%%\r\n`,
    ),
  );
  await raw(BOX, Buffer.from(`From: ${ADA}\r\nSubject: Many\r\n${"X-A: b\r\n".repeat(50_000)}\r\nwords`));
  expect(came).toBe(5);
});

it("names of files lead nowhere, and a name in a header adds none", async () => {
  await send({
    subject: "Files",
    files: [{ filename: "../../etc/passwd\r\nX-Evil: 1", content: Buffer.from("root") }],
  });
  const v = await last();
  const file = value(await readFile(owner, v.form.data["paper"] as string));
  expect(file.file.name).not.toMatch(/[/\\\r\n]/);
  expect(file.bytes.toString()).toBe("root");
});

it("one of fifty megabytes is known to have come, and what comes after it is taken", async () => {
  const big = await new MailComposer({
    from: ADA,
    to: BOX,
    subject: "Huge",
    text: "a lot",
    attachments: [{ filename: "huge.bin", content: Buffer.alloc(37_000_000, 7) }],
  })
    .compile()
    .build();
  expect(big.length).toBeGreaterThan(50_000_000);
  await raw(BOX, big);
  await send({ subject: "After it" });
  expect((await last()).title).toBe("After it");
  const [row] = await sql<{ body: string }>("select body from message where subject = 'Huge'");
  expect(row!.body).toContain("larger than 30 MB");
});

it("strangers are refused where a start says so: told once, where it is sure that it is them", async () => {
  const before = came;
  came = 0;
  const write = async (m: Partial<MailSaid>) => {
    await post.send({ from: ADA, to: SHUT, subject: "Offer", text: "Would you?", ...m });
    await taken(SHUT, (came += 1));
  };
  await write({});
  const letters = async () => (await post.mails(ADA)).filter((m) => m.from?.text.includes(SHUT));
  expect(await letters()).toHaveLength(1);
  const [letter] = await letters();
  expect(letter).toMatchObject({
    subject: "Re: Offer",
    text: expect.stringContaining("people we know") as string,
  });
  expect(letter!.inReplyTo).toBeTruthy();
  // Looked at again it is refused no second time.
  await sql(
    "select graphile_worker.add_job('mail_start', json_build_object('message', id::text)) from message where subject = 'Offer'",
  );
  await workOff();
  expect(await letters()).toHaveLength(1);
  // Who only says to be somebody would have a letter sent to somebody who never wrote.
  await write({ subject: "Forged", forged: true });
  expect(await letters()).toHaveLength(1);
  for (const subject of ["Two", "Three", "Four", "Five"]) await write({ subject });
  expect(await letters()).toHaveLength(3);
  expect(await sql("select 1 from request where process_key = 'shut'")).toEqual([]);
  const held = value(await mailOfNone(owner)).filter((m) => m.why.startsWith("It is refused"));
  expect(held.map((m) => [m.subject, m.why.endsWith("; they were told.")])).toEqual([
    ["Five", false],
    ["Four", false],
    ["Three", true],
    ["Two", true],
    ["Forged", false],
    ["Offer", true],
  ]);
  // Whoever works here is known; and an owner may start what was refused.
  await write({ from: "lucia.penrose@quillhaven.example", subject: "Of ours" });
  expect(await sql("select title from request where process_key = 'shut'")).toEqual([{ title: "Of ours" }]);
  expect(value(await settleMailOfNone(owner, held[0]!.id, "shut")).number).toMatch(/^SHUT-/);
  came = before;
});
