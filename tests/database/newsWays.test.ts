import type { ProcessDefinition, Step } from "@/core/route";
import {
  act,
  chooseNews,
  chooseQuietHours,
  createProcess,
  desk,
  leaveNote,
  newsChosen,
  noticesOf,
  putMailbox,
  readNotices,
  releaseDraft,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { chat as rows, getPool } from "@/db";
import { openChat, type TestChat } from "./chatRoom";
import { makeMailbox, openPost, type TestPost } from "./post";
import { openWorld, person, sql, value } from "./world";
import { workOff } from "./workOff";

jest.setTimeout(60_000);

const NEWS = "told@quillhaven.example";
const LUCIA = "lucia.penrose@quillhaven.example";
let world: Awaited<ReturnType<typeof openWorld>>;
let post: TestPost;
let room: TestChat;
let lucia: Actor;
let bridie: Actor;
let office: Actor;

const definition = (key: string, prefix: string, route: object[]): ProcessDefinition =>
  ({
    format: "cobble-step/process@2",
    key,
    name: key,
    purpose: "",
    owners: ["maeve.dunlea"],
    numbering: { prefix, digits: 3 },
    title: "{Matter}",
    mailbox: NEWS,
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [{ id: "matter", name: "Matter", kind: "text" }],
    access: {},
    route: route as Step[],
    samples: [],
  }) as unknown as ProcessDefinition;
const asks = (more: object = {}) => ({
  id: "ask",
  name: "Looks at it",
  kind: "decide",
  who: { rule: { by: "person", person: "lucia.penrose" }, how: "one" },
  answers: [{ id: "yes", label: "Seen", tone: "plain", steps: [] }],
  ...more,
});
const tells = (more: object) => ({
  id: "tell",
  name: "Say it",
  kind: "tell",
  who: { by: "person", person: "lucia.penrose" },
  subject: "About {Matter}",
  text: "So it is.",
  ways: [],
  ...more,
});

beforeAll(async () => {
  world = await openWorld();
  post = await openPost();
  room = await openChat(["lucia"]);
  [lucia, bridie, office] = (await Promise.all(
    ["lucia.penrose", "bridie.okafor", "tobias.marrin"].map(person),
  )) as [Actor, Actor, Actor];
  await sql("delete from chat_account");
  await rows.tieAccount(getPool(), "lucia.penrose", "lucia", Date.now());
  await sql("update mailbox set news = false");
  await makeMailbox(office, post, NEWS);
  for (const d of [
    definition("asks-her", "ASKS", [asks()]),
    definition("asks-by-mail", "MAILS", [asks({ byMail: { subject: "{Matter}", text: "" } })]),
    definition("tells-own", "OWN", [tells({ own: true })]),
    definition("tells-plain", "PLAIN", [tells({})]),
  ]) {
    value(await createProcess(SYSTEM, d));
    value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  }
});
afterAll(async () => {
  await post.stop();
  await room.stop();
  await world.close();
});

const start = async (process: string, matter: string): Promise<string> =>
  value(await startRequest(bridie, process, { matter })).number;
const mails = async (words: string) => (await post.mails(LUCIA)).filter((m) => m.subject?.includes(words));
const messages = (words: string) => room.of("lucia").filter((m) => m.message.heading.includes(words));
const states = (number: string) =>
  sql(
    "select s.way, s.state, s.why from news_sent s join notice n on n.id = s.notice_id join request r on r.id = n.request_id where r.number = $1 order by s.way",
    [number],
  );

it("says by which ways somebody can be told, and why not by others", async () => {
  expect(value(await newsChosen(lucia))).toMatchObject({
    mail: { why: expect.stringContaining("No mailbox is set up for news") as string },
    chat: { to: "lucia" },
    quiet: null,
  });
  value(
    await putMailbox(office, NEWS, {
      address: NEWS,
      name: "News",
      smtp: { host: "127.0.0.1", port: post.smtpPort },
      imap: { host: "127.0.0.1", port: post.imapPort },
      security: "none",
      user: NEWS,
      password: "quillhaven",
      checksBy: "",
      news: true,
    }),
  );
  expect(value(await newsChosen(lucia)).mail).toEqual({ to: LUCIA });
  expect(value(await newsChosen(bridie)).chat).toMatchObject({
    why: expect.stringContaining("Tie") as string,
  });
  expect(await chooseNews(lucia, "nothing", "mail", true)).toMatchObject({ ok: false });
});

it("nobody gets what they have not chosen", async () => {
  const number = await start("asks-her", "Unchosen");
  await workOff();
  expect(await mails(number)).toEqual([]);
  expect(messages(number)).toEqual([]);
  expect(await states(number)).toEqual([]);
});

it("what somebody has chosen comes by each of these ways, once, with the way there", async () => {
  value(await chooseNews(lucia, "task came", "mail", true));
  value(await chooseNews(lucia, "task came", "chat", true));
  const number = await start("asks-her", "Chosen");
  await workOff();
  const [mail, ...others] = await mails(number);
  expect(others).toEqual([]);
  expect(mail?.subject).toBe(`${number}: Looks at it: it waits for you`);
  expect(mail?.from?.text).toContain(NEWS);
  expect(mail?.text).toMatch(new RegExp(`^Chosen[^]*/desk/${number}/t\\d+[^]*/you#news`));
  expect(mail?.headers.get("auto-submitted")).toBe("auto-generated");
  expect(messages(number).map((m) => m.message.link?.address)).toEqual([
    expect.stringContaining(`/desk/${number}/`),
  ]);
  expect(await states(number)).toMatchObject([{ state: "sent" }, { state: "sent" }]);
  // However often its jobs come again.
  await sql(
    "select graphile_worker.add_job('send_news', json_build_object('notice', notice_id::text, 'way', way)) from news_sent",
  );
  await workOff();
  expect(await mails(number)).toHaveLength(1);
  expect(messages(number)).toHaveLength(1);
});

it("what was read on the screen, or is done, is not sent any more; nor what was asked by that way", async () => {
  const read = await start("asks-her", "Read");
  await readNotices(lucia, (await noticesOf(lucia))[0]!.id);
  const done = await start("asks-her", "Done");
  const task = (await desk(lucia)).rows.find((t) => t.number === done)!.task_id;
  value(await act(lucia, done, { type: "answer", task, answer: "yes", note: "", data: {} }));
  await workOff();
  for (const n of [read, done]) {
    expect(await mails(n)).toEqual([]);
    expect(await states(n)).toMatchObject([{ state: "left" }, { state: "left" }]);
  }
  const asked = await start("asks-by-mail", "Asked");
  await workOff();
  // The process's own mail, and no second one; in chat nobody has asked her.
  expect((await post.mails(LUCIA)).filter((m) => m.subject?.includes("Asked"))).toHaveLength(1);
  expect(await states(asked)).toMatchObject([
    { way: "chat", state: "sent" },
    { way: "mail", state: "left" },
  ]);
});

it("waits for the end of quiet hours, by her own clock", async () => {
  for (const wrong of [
    { from: "25:00", until: "07:00" },
    { from: "7", until: "8" },
    { from: "08:00", until: "08:00" },
  ])
    expect(await chooseQuietHours(lucia, wrong)).toMatchObject({ ok: false });
  // The tests' clock stands at some hour of the day: an hour before until an hour after it is quiet.
  const [{ here }] = (await sql(
    `select to_char((to_timestamp(($1::float8 + (select (value #>> '{}')::float8 from setting where key = 'clock_offset')) / 1000)) at time zone zone, 'HH24:MI') as here
     from person where id = 'lucia.penrose'`,
    [Date.now()],
  )) as [{ here: string }];
  const shift = (by: number) => {
    const m = (Number(here.slice(0, 2)) * 60 + Number(here.slice(3)) + by + 1440) % 1440;
    return `${String(Math.floor(m / 60)).padStart(2, "0")}:${String(m % 60).padStart(2, "0")}`;
  };
  value(await chooseQuietHours(lucia, { from: shift(-60), until: shift(60) }));
  expect(value(await newsChosen(lucia)).quiet).toEqual({ from: shift(-60), until: shift(60) });
  const number = await start("asks-her", "Quiet");
  await workOff();
  expect(await mails(number)).toEqual([]);
  expect((await noticesOf(lucia))[0]).toMatchObject({ number });
  const waits = await sql<{ m: number }>(
    "select extract(epoch from run_at - now()) / 60 as m from graphile_worker._private_jobs where key like 'news:%'",
  );
  expect(waits).toHaveLength(2);
  for (const { m } of waits) expect(Math.abs(Number(m) - 60)).toBeLessThan(2);
  value(await chooseQuietHours(lucia, null));
  await sql("update graphile_worker._private_jobs set run_at = now()");
  await workOff();
  expect(await mails(number)).toHaveLength(1);
  expect(messages(number)).toHaveLength(1);
});

it("what a process leaves to her goes by her ways, what it tells by a notice does not", async () => {
  const before = await start("tells-own", "Before");
  value(await chooseNews(lucia, "told", "chat", true));
  const own = await start("tells-own", "Left to her");
  const plain = await start("tells-plain", "Plain");
  await workOff();
  expect(messages("About")).toMatchObject([{ message: { heading: "About Left to her", text: "So it is." } }]);
  expect((await noticesOf(lucia)).filter((n) => [before, own, plain].includes(n.number!))).toHaveLength(3);
  expect(await mails("About")).toEqual([]);
});

it("a kind that is not wanted on the screen comes by no way", async () => {
  value(await chooseNews(lucia, "task came", "screen", false));
  const number = await start("asks-her", "Unwanted");
  await workOff();
  expect(await states(number)).toEqual([]);
  value(await chooseNews(lucia, "task came", "screen", true));
});

it("who is mentioned on a record is told so by her ways, too", async () => {
  value(await chooseNews(lucia, "mentioned", "mail", true));
  const keeper = await person("maeve.dunlea");
  const [{ id }] = (await sql("select id::text from register.objects order by id limit 1")) as [
    { id: string },
  ];
  value(await leaveNote(keeper, "objects", id, "@Lucia Penrose, look at this."));
  await workOff();
  const [mail] = await mails("mentions you");
  expect(mail?.text).toContain(`/registers/objects/${id}`);
  expect(mail?.text).toContain("look at this");
});

it("a server that is away is tried again, and what may have arrived is let be", async () => {
  value(await chooseNews(lucia, "task came", "chat", false));
  post.setFaults({ refuse: 1 });
  const number = await start("asks-her", "Away");
  await workOff();
  expect(await states(number)).toMatchObject([{ state: "waiting", why: expect.any(String) as string }]);
  post.setFaults({ refuse: 0 });
  const again = () =>
    sql(
      "select graphile_worker.add_job('send_news', json_build_object('notice', notice_id::text, 'way', way)) from news_sent where state in ('waiting', 'given')",
    );
  await again();
  await workOff();
  expect(await mails(number)).toHaveLength(1);
  post.setFaults({ loseAfter: 1 });
  const lost = await start("asks-her", "Lost");
  await workOff();
  post.setFaults({ loseAfter: 0 });
  await again();
  await workOff();
  expect(await mails(lost)).toHaveLength(1);
  expect(await states(lost)).toMatchObject([{ state: "left" }]);
  // Found given by another than who gave it, it is let be.
  await sql("update news_sent set state = 'given' where state = 'left'");
  await again();
  await workOff();
  expect(await mails(lost)).toHaveLength(1);
});
