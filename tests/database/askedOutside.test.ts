import { randomUUID } from "node:crypto";
import type { Field } from "@/core/form";
import { portsOf } from "@/core/kinds";
import type { ProcessDefinition, Step } from "@/core/route";
import { getPool, requests } from "@/db";
import {
  act,
  answerOutside,
  askedOutside,
  blankDue,
  createProcess,
  fireTimers,
  followed,
  keepChanged,
  linkedBy,
  moveClock,
  releaseDraft,
  replayRequests,
  requestView,
  startRequest,
  sweepVisitors,
  SYSTEM,
  taskView,
  type Actor,
  type AnswerOutside,
} from "@/services";
import { makeMailbox, openPost, type TestPost } from "./post";
import { openWorld, person, sql, value } from "./world";
import { workOff } from "./workOff";

jest.setTimeout(60_000);

const BOX = "agreements@quillhaven.example";
const ADA = "ada@byrne.example";
let world: Awaited<ReturnType<typeof openWorld>>;
let post: TestPost;
let owner: Actor;
let asker: Actor;

const yesNo = (n: string) => [
  { id: "yes", label: "Agree", tone: "agree" as const, steps: [] },
  {
    id: "no",
    label: "Decline",
    tone: "refuse" as const,
    note: "must" as const,
    steps: [{ id: `no-${n}`, name: "Finish", kind: "finish", result: "declined", tone: "refuse" } as Step],
  },
];
const sign = (more: object = {}): Step =>
  ({
    id: "sign",
    name: "Agree to the loan",
    kind: "decide",
    who: { rule: { by: "outside", to: "Address", name: "Borrower" }, how: "one" },
    answers: yesNo("1"),
    ...more,
  }) as Step;

const definition = (
  key: string,
  route: Step[],
  more: Partial<ProcessDefinition> = {},
): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key,
  name: "Loan agreements",
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: key.toUpperCase(), digits: 3 },
  title: "Loan to {Borrower}",
  mailbox: BOX,
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  fields: [
    { id: "borrower", name: "Borrower", kind: "text" },
    { id: "address", name: "Address", kind: "text" },
    { id: "keeper", name: "Keeper", kind: "person" },
    { id: "value", name: "Insured for", kind: "text" },
    { id: "place", name: "Where it will hang", kind: "text" },
  ],
  access: { sign: { value: "hide", place: "edit", keeper: "edit" } },
  samples: [],
  route: [...route, { id: "end", name: "Finish", kind: "finish", result: "agreed", tone: "agree" } as Step],
  ...more,
});
const make = async (key: string, route: Step[], more: Partial<ProcessDefinition> = {}) => {
  value(await createProcess(SYSTEM, definition(key, route, more)));
  value(await releaseDraft(SYSTEM, key, "1.0.0", ""));
};

beforeAll(async () => {
  world = await openWorld();
  post = await openPost();
  [owner, asker] = (await Promise.all(["tobias.marrin", "ines.corrigan"].map(person))) as [Actor, Actor];
  await makeMailbox(owner, post, BOX);
  await make("agr", [sign()]);
});
afterAll(async () => {
  await post.stop();
  await world.close();
});

const begun = async (email: string, key = "agr", data: Record<string, string> = {}) => {
  const values = { borrower: "Ada Byrne", address: email, value: "EUR 90,000", keeper: "greta.halloran" };
  const { number } = value(await startRequest(asker, key, { ...values, ...data }));
  await workOff();
  return number;
};
const tokenIn = (text: string | undefined): string => /\/answer\/([\w-]{43})/.exec(text ?? "")?.[1] ?? "";
const lettersTo = async (email: string, says: string) =>
  (await post.mails(email)).filter((m) => m.subject?.includes(says));
const linkTo = async (email: string, number: string) => tokenIn((await lettersTo(email, number))[0]?.text);
const open = async (token: string) => {
  const p = await askedOutside(token);
  if (p?.is !== "open") throw new Error(p?.why ?? "no link of somebody outside");
  return p;
};
const said = (p: { seen: number }, answer: string, more: Partial<AnswerOutside> = {}): AnswerOutside => ({
  answer,
  note: "",
  data: {},
  seen: p.seen,
  passed: {},
  saw: null,
  ...more,
});
const stateOf = async (number: string) =>
  (await requests.requestForCommand(getPool(), { number }, false))!.state;

it("whoever has the address gets a letter, sees what the step shows people outside, and answers by its link", async () => {
  const number = await begun(ADA);
  const [letter] = await lettersTo(ADA, number);
  expect(letter!.subject).toBe(`${number}: Agree to the loan`);
  const token = tokenIn(letter!.text);
  const page = await open(token);
  expect(page).toMatchObject({
    number,
    name: "Ada Byrne",
    step: "Agree to the loan",
    letterhead: "Test office",
  });
  expect(page.answers.map((a) => a.label)).toEqual(["Agree", "Decline"]);
  // What is hidden at the step is hidden, and so is who works here.
  expect(Object.keys(page.form.data).sort()).toEqual(["address", "borrower", "place"]);
  expect(JSON.stringify(page)).not.toMatch(/90,000|halloran|corrigan|marrin/i);
  value(await keepChanged(token, page.task, randomUUID(), { place: "The hall" }, page.form.before, "Soon."));
  const again = await open(token);
  expect([again.form.data["place"], again.note]).toEqual(["The hall", "Soon."]);
  // What is not theirs to fill in is not taken, whoever sends it.
  const data = { place: "The stairs", value: "EUR 1", keeper: "eamon.stack", borrower: "Bo" };
  const done = value(await answerOutside(token, said(page, "yes", { data, note: "Gladly." })));
  expect(done).toEqual({ number, label: "Agree" });
  const state = await stateOf(number);
  expect(state.data).toMatchObject({
    place: "The stairs",
    value: "EUR 90,000",
    keeper: "greta.halloran",
    borrower: "Ada Byrne",
  });
  expect(state.result?.name).toBe("agreed");
  // A link works once, and opens nothing more.
  expect(await askedOutside(token)).toMatchObject({ is: "gone" });
  expect(await linkedBy(token)).toMatchObject({ gone: expect.any(String) });
  expect(await answerOutside(token, said(page, "no"))).toMatchObject({ ok: false });
  const view = value(await requestView(owner, number));
  expect(view.trail.find((l) => l.note === "Gladly.")).toMatchObject({ byName: "Ada Byrne", means: "link" });
  expect(JSON.stringify(await sql("select * from message"))).not.toContain(token);
});

it("is no link of anybody else's, and no way to follow the request", async () => {
  const number = await begun("bo@hollins.example");
  const token = await linkTo("bo@hollins.example", number);
  expect(await followed(token)).toMatchObject({ is: "gone" });
  const other = await linkTo(ADA, await begun(ADA));
  expect((await open(other)).number).not.toBe(number);
  const by = await linkedBy(token);
  if (!("actor" in by)) throw new Error(by.gone);
  const task = (await open(token)).task;
  // Whoever is asked outside answers, and does nothing else.
  for (const deed of [
    { type: "hand over", task, to: "greta.halloran", note: "" },
    { type: "ask", task, to: null, note: "Who is this?" },
    { type: "cancel", note: "no" },
    { type: "withdraw", note: "no" },
  ] as const)
    expect(await act(by.actor, number, deed)).toMatchObject({ ok: false });
  // Nothing of another request either.
  expect(await taskView(by.actor, (await open(other)).number, task)).toMatchObject({
    ok: false,
    failure: { code: "not-found" },
  });
  expect((await stateOf(number)).status).toBe("under way");
});

it("whoever declines says why, and a form that is not right is told field by field", async () => {
  const number = await begun("cay@hollins.example");
  const token = await linkTo("cay@hollins.example", number);
  const page = await open(token);
  expect(await answerOutside(token, said(page, "no"))).toMatchObject({
    ok: false,
    failure: { data: { code: "note-needed" } },
  });
  value(await answerOutside(token, said(page, "no", { note: "Too far." })));
  expect((await stateOf(number)).result?.name).toBe("declined");
});

it("two presses at once give one answer", async () => {
  const number = await begun("dee@hollins.example");
  const token = await linkTo("dee@hollins.example", number);
  const page = await open(token);
  const both = await Promise.all(
    ["yes", "no"].map((a) => answerOutside(token, said(page, a, { note: "now" }))),
  );
  expect(both.filter((r) => r.ok)).toHaveLength(1);
  const given = Object.values((await stateOf(number)).tasks).filter((t) => t.status === "answered");
  expect(given).toHaveLength(1);
});

it("they are reminded with a link that works, told when they are not asked any more, and their link is dead then", async () => {
  const email = "eve@hollins.example";
  const number = await begun(email);
  const first = await linkTo(email, number);
  const { task } = await open(first);
  value(await act(owner, number, { type: "remind", task, note: "" }));
  await workOff();
  const [reminder] = await lettersTo(email, `Reminder: ${number}`);
  expect((await open(tokenIn(reminder!.text))).task).toBe(task);
  value(
    await act(owner, number, { type: "reassign", task, to: "greta.halloran", note: "Their post bounces." }),
  );
  await workOff();
  expect(await lettersTo(email, "nothing is asked of you any more")).toHaveLength(1);
  for (const token of [first, tokenIn(reminder!.text)])
    expect(await askedOutside(token)).toMatchObject({ is: "gone" });
});

it("nobody outside is told who here has answered meanwhile", async () => {
  const email = "fay@hollins.example";
  await make("pair", [
    sign({
      who: {
        rule: {
          by: "several",
          take: "all",
          of: [
            { by: "outside", to: "Address" },
            { by: "person", person: "greta.halloran" },
          ],
        },
        how: "first",
      },
    }),
  ]);
  const number = await begun(email, "pair");
  const token = await linkTo(email, number);
  const page = await open(token);
  const greta = (await person("greta.halloran"))!;
  const theirs = Object.values((await stateOf(number)).tasks).find((t) => t.holder === greta.id)!.id;
  value(await act(greta, number, { type: "answer", task: theirs, answer: "yes", note: "", data: {} }));
  await workOff();
  expect(JSON.stringify(await answerOutside(token, said(page, "yes")))).not.toMatch(/greta|halloran/i);
  expect(await lettersTo(email, "nothing is asked of you any more")).toHaveLength(1);
  // Here they are called by their address where they have no name.
  expect(JSON.stringify(value(await requestView(owner, number)).trail)).toContain(email);
});

it("a ladder reminds them by a letter with a link", async () => {
  const email = "gus@hollins.example";
  const rung = { id: "r1", when: "at", action: { do: "remind" } };
  await make("lad", [sign({ limit: { otherwise: { amount: 1, unit: "hours" }, rungs: [rung] } })]);
  const number = await begun(email, "lad");
  const [row] = await sql<{ id: string }>("select id from request where number = $1", [number]);
  await sql("update timer set due_at = '2000-01-01' where request_id = $1", [row!.id]);
  expect((await fireTimers(SYSTEM, row!.id)).fired).toBe(1);
  await workOff();
  const [reminder] = await lettersTo(email, "Reminder");
  expect((await open(tokenIn(reminder!.text))).number).toBe(number);
  // Nobody outside has notices.
  expect(await sql("select 1 from notice where person_id like 'visitor.%'")).toEqual([]);
});

it("accounts of those who are asked stay, and hold up no sweeping", async () => {
  const email = "hal@hollins.example";
  const token = await linkTo(email, await begun(email));
  await sql("update person set since = now() - interval '3 days' where kind = 'visitor'");
  await sweepVisitors(SYSTEM);
  expect((await open(token)).name).toBe("Ada Byrne");
});

it("asks from within a procedure, and knows them there and outside of it", async () => {
  const email = "ivy@hollins.example";
  const fields: Field[] = [{ id: "to", name: "To", kind: "text", hand: "in" }];
  value(
    await createProcess(SYSTEM, {
      ...definition("askout", [sign({ who: { rule: { by: "outside", to: "To" }, how: "one" } })]),
      procedure: true,
      starts: [],
      title: "",
      access: {},
      fields,
    }),
  );
  value(await releaseDraft(SYSTEM, "askout", "1.0.0", ""));
  const call = { kind: "hand to", procedure: "askout", ...portsOf(fields) };
  await make("outer", [
    { ...call, id: "call", name: "Have it agreed", values: [{ port: "to", value: "Address" }] } as Step,
  ]);
  const number = await begun(email, "outer");
  const token = await linkTo(email, number);
  const page = await open(token);
  expect(page.form.data).toEqual({ to: email });
  value(await answerOutside(token, said(page, "yes")));
  expect((await stateOf(number)).result?.name).toBe("agreed");
  expect(value(await requestView(owner, number)).trail.some((l) => l.byName === email)).toBe(true);
});

it("is forgotten when the request is, whatever its fields are, and it still replays", async () => {
  const email = "zoe@forgotten.example";
  await make(
    "gone",
    [sign({ who: { rule: { by: "outside", to: `"${email}"`, name: '"Zoe Quint"' }, how: "one" } })],
    {
      keepPersonalDays: 1,
      title: "{Agree to the loan.by.name}",
    },
  );
  const number = await begun("nobody@forgotten.example", "gone");
  const token = await linkTo(email, number);
  value(await answerOutside(token, said(await open(token), "yes")));
  const whereIs = async () => {
    const found = await sql<{ t: string }>(
      `select 'request' as t from request r where number = $1 and r::text ~* 'zoe'
       union all select 'event' from request_event e join request r on r.id = e.request_id where number = $1 and e::text ~* 'zoe'
       union all select 'message' from message m join request r on r.id = m.request_id where number = $1 and m::text ~* 'zoe'`,
      [number],
    );
    return [...new Set(found.map((f) => f.t))].sort();
  };
  expect(await whereIs()).toEqual(["event", "message", "request"]);
  value(await moveClock(owner, 2 * 86_400_000, true));
  expect((await blankDue(SYSTEM)).requests).toBe(1);
  expect(await whereIs()).toEqual([]);
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
  expect(value(await requestView(owner, number)).result?.name).toBe("agreed");
});
