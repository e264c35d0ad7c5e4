import { outsideAccount } from "@/core/form";
import type { ProcessDefinition } from "@/core/route";
import { getPool, requests } from "@/db";
import { KINDS } from "@/kinds";
import * as services from "@/services";
import {
  act,
  addFile,
  createProcess,
  makeKey,
  releaseDraft,
  startRequest,
  SYSTEM,
  type Actor,
} from "@/services";
import { handleApi } from "@/web/api/handle";
import { decide } from "@/steps/decide/kind";
import { Random } from "../../demo/random";
import { openWorld, person, sql, value } from "./world";
import { pdfPages } from "../pdfPages";
import { makeMailbox, openPost, type TestPost } from "./post";

/**
 * What one may not see does not exist: random access tables over fields at every depth, each field holding a word that
 * stands nowhere else, and everything anybody can ask for looked through for the words hidden from them.
 */
let world: Awaited<ReturnType<typeof openWorld>>;
let post: TestPost;
beforeAll(async () => {
  world = await openWorld();
  post = await openPost();
  await makeMailbox(await person(OFFICE), post, BOX);
});
afterAll(async () => {
  await post.stop();
  await world.close();
});

/** Whoever is asked outside at the first step, beside somebody who works here. */
const GUEST = "guest@away.example";
const BOX = "leaks@quillhaven.example";
const guestOf = (number: string): Actor => ({
  kind: "visitor",
  id: outsideAccount(number, GUEST),
  name: "",
  department: "",
  groups: [],
  officeRights: false,
  zone: "Europe/Dublin",
  via: { kind: "outside", id: "link" },
});

/** `ADVISOR` is asked for advice at the first step, and the requester something about what they sent. */
const [REQUESTER, FIRST, SECOND, OWNER, OFFICE, STRANGER, ADVISOR] = [
  "lucia.penrose",
  "aoife.lanigan",
  "sorcha.lind",
  "maeve.dunlea",
  "tobias.marrin",
  "dov.merrick",
  "greta.halloran",
] as const;
const EVERYBODY = [REQUESTER, FIRST, SECOND, OWNER, OFFICE, STRANGER, ADVISOR];
const STEPS = ["start", "first", "second", "watch"] as const;

const text = (id: string) => ({ id, name: `N ${id}`, kind: "text" as const });
const FIELDS = [
  text("top"),
  { id: "sec", name: "N sec", kind: "section" as const, fields: [text("insec")] },
  {
    id: "page",
    name: "N page",
    kind: "page" as const,
    fields: [
      text("onpage"),
      {
        id: "deepsec",
        name: "N deepsec",
        kind: "section" as const,
        fields: [
          text("deep"),
          {
            id: "deeprows",
            name: "N deeprows",
            kind: "lines" as const,
            fields: [text("dcol"), text("dother")],
          },
        ],
      },
    ],
  },
  { id: "rows", name: "N rows", kind: "lines" as const, fields: [text("col"), text("other")] },
  { id: "doc", name: "N doc", kind: "file" as const },
];
const LEAVES = ["top", "insec", "onpage", "deep", "dcol", "dother", "col", "other", "doc"] as const;
/** Every field with what it stands in, outermost first. */
const CHAINS: Record<string, string[]> = {
  top: ["top"],
  insec: ["sec", "insec"],
  onpage: ["page", "onpage"],
  deep: ["page", "deepsec", "deep"],
  dcol: ["page", "deepsec", "deeprows", "dcol"],
  dother: ["page", "deepsec", "deeprows", "dother"],
  col: ["rows", "col"],
  other: ["rows", "other"],
  doc: ["doc"],
};
type Table = Record<string, Record<string, "edit" | "see" | "hide">>;

/** The slow model: hidden as soon as anything it stands in is; a field's own word counts before that of what holds it. */
const shownAt = (table: Table, step: string, leaf: string): boolean => {
  let now: string = "see";
  for (const id of CHAINS[leaf]!) {
    if (now === "hide") return false;
    now = table[step]?.[id] ?? now;
  }
  return now !== "hide";
};

function definitionOf(key: string, table: Table): ProcessDefinition {
  const asked = (id: string, who: string, ...others: object[]) => ({
    ...decide.blank(id),
    name: `Step ${id}`,
    who: {
      rule: { by: "several", take: "all", of: [{ by: "person", person: who }, ...others] },
      how: "first",
    },
    answers: decide.blank(id).answers,
  });
  // The way taken says why, with the values put in.
  const choose = (id: string, when: string) => ({
    ...KINDS.steps.choose.blank(id),
    ways: [
      { id: `${id}-w1`, name: "by it", when, steps: [] },
      { id: `${id}-w2`, name: "else", steps: [] },
    ],
  });
  const ways = [
    choose("c1", 'N top != "no such"'),
    choose("c2", 'N rows[1].N col != "no such"'),
    choose("c3", 'some r in N deeprows satisfies r.N dcol != "no such"'),
    choose("c4", 'N deep != "no such" and N insec != "no such"'),
  ];
  return {
    format: "cobble-step/process@2",
    key,
    name: `Leaks ${key}`,
    purpose: "",
    owners: [OWNER],
    numbering: { prefix: key.toUpperCase(), digits: 4 },
    title: "A request",
    mailbox: BOX,
    starts: [KINDS.starts.form.blank("form")],
    fields: FIELDS,
    access: table,
    route: [
      asked("first", FIRST, { by: "outside", to: `"${GUEST}"` }),
      ...ways,
      asked("second", SECOND),
    ] as never,
    samples: [],
  };
}

const wordOf = (key: string, leaf: string) => `canary-${key}-${leaf}`;
const rowsOf = (key: string, ...cols: string[]) => [
  { "#": "1", ...Object.fromEntries(cols.map((c) => [c, wordOf(key, c)])) },
];

/** Everything somebody can ask for that has to do with a request, by name. */
async function surfaces(
  actor: Actor,
  apiKey: string,
  number: string,
  words: string[],
): Promise<Record<string, unknown>> {
  const api = async (path: string) => {
    const [parts, query = ""] = path.split("?");
    const r = await handleApi({
      method: "GET",
      parts: parts!.split("/").filter(Boolean),
      search: new URLSearchParams(query),
      authorization: `Bearer ${apiKey}`,
      idempotencyKey: undefined,
      ifMatch: undefined,
      address: "",
      told: null,
      body: (async function* () {})(),
    });
    return r.body.toString();
  };
  const tasks = ["t1", "t2", "t3", "t4", "t5", "t6", "t7", "t8"];
  const list = { search: "", offset: 0, limit: 50 };
  const out: Record<string, unknown> = {
    request: await services.requestView(actor, number),
    desk: await services.desk(actor),
    own: await services.myRequests(actor, 0, 50),
    progress: await services.progress(actor, { ...list, state: "open" } as never),
    notices: await services.noticesOf(actor),
    badges: await services.badges(actor),
    ticks: await services.showsOf(actor, `/requests/${number}`),
    office: await services.officePage(actor),
    log: await services.exportLog(actor, { kind: "", person: "", before: "" }),
    withdraw: actor.id === REQUESTER ? null : await act(actor, number, { type: "withdraw", note: "" }),
    "api requests": await api("requests?limit=100"),
    "api request": await api(`requests/${number}`),
    "api tasks": await api("tasks"),
  };
  for (const t of tasks) {
    out[`task ${t}`] = await services.taskView(actor, number, t);
    out[`api task ${t}`] = await api(`requests/${number}/tasks/${t}`);
    out[`answer ${t}`] = await act(actor, number, {
      type: "answer",
      task: t,
      answer: "no such answer",
      note: "",
      data: {},
      seen: 0,
    } as never);
    if (actor.id === STRANGER || actor.id === OFFICE)
      out[`hand over ${t}`] = await act(actor, number, { type: "hand over", task: t, to: "una", note: "" });
  }
  for (const w of words) out[`find ${w}`] = await services.find(actor, w);
  return out;
}

/** Reading a PDF takes a program of its own: not in all rounds. */
const ROUNDS_PRINTED = 3;
/** Its whole text, as a search finds it; lines may have been broken anywhere. */
async function printed(actor: Actor, number: string): Promise<string> {
  const pdf = await services.printedRequest(actor, number);
  return pdf.ok ? pdfPages(pdf.value.bytes).join("").replace(/\s/g, "") : JSON.stringify(pdf.failure);
}

it("nobody is shown what is hidden from them, wherever it stands and whatever they ask for", async () => {
  const random = new Random(20261126);
  const ids = [
    "top",
    "sec",
    "insec",
    "page",
    "onpage",
    "deepsec",
    "deep",
    "deeprows",
    "dcol",
    "dother",
    "rows",
    "col",
    "other",
    "doc",
  ];
  const keys = new Map<string, string>();
  for (const p of EVERYBODY) keys.set(p, value(await makeKey(await person(p), p, "leaks")).key);
  let looked = 0;
  let hidden = 0;
  for (let round = 0; round < 8; round++) {
    const key = `lk${round}`;
    const table: Table = {};
    for (const s of STEPS) {
      table[s] = {};
      for (const id of ids)
        if (random.chance(0.3)) table[s][id] = random.pick(["hide", "hide", "see"] as const);
    }
    value(await createProcess(SYSTEM, definitionOf(key, table)));
    const released = await releaseDraft(SYSTEM, key, "1.0.0", "");
    if (!released.ok) throw new Error(JSON.stringify(released.failure));
    const requester = await person(REQUESTER);
    const number = value(await startRequest(requester, key, {})).number;
    // Whoever might have filled it in: it is there.
    const file = value(await addFile(requester, `${wordOf(key, "doc")}.txt`, Buffer.from("x")));
    const data = {
      top: wordOf(key, "top"),
      insec: wordOf(key, "insec"),
      onpage: wordOf(key, "onpage"),
      deep: wordOf(key, "deep"),
      deeprows: rowsOf(key, "dcol", "dother"),
      rows: rowsOf(key, "col", "other"),
      doc: file.id,
    };
    await sql("update file set request_id = (select id from request where number = $1) where id = $2", [
      number,
      file.id,
    ]);
    await sql("update request set state = jsonb_set(state::jsonb, '{data}', $2)::json where number = $1", [
      number,
      JSON.stringify(data),
    ]);
    await sql(
      "update request_event e set body = jsonb_set(body, '{data}', $2) from request r where r.id = e.request_id and r.number = $1 and e.type = 'request started'",
      [number, JSON.stringify(data)],
    );
    const first = await person(FIRST);
    const { myTask } = value(await services.requestView(first, number));
    for (const to of [null, ADVISOR])
      value(await act(first, number, { type: "ask", task: myTask!, to, note: "What is it?" }));
    const took = { first: true, second: false };
    const look = async () => {
      for (const id of EVERYBODY) {
        const at = [
          ...(id === REQUESTER ? ["start"] : []),
          ...((id === FIRST && took.first) || id === ADVISOR ? ["first"] : []),
          ...(id === SECOND && took.second ? ["second"] : []),
          ...(id === OWNER ? ["watch"] : []),
        ];
        const may = (leaf: string) => at.some((s) => shownAt(table, s, leaf));
        const actor = await person(id);
        const words = LEAVES.map((leaf) => wordOf(key, leaf));
        const seen = await surfaces(actor, keys.get(id)!, number, words);
        if (round < ROUNDS_PRINTED) seen["pdf"] = await printed(actor, number);
        for (const [name, what] of Object.entries(seen)) {
          // What somebody searches for stands in their question, not in what is found.
          const said = JSON.stringify(what);
          for (const leaf of LEAVES) {
            looked++;
            if (may(leaf)) continue;
            hidden++;
            if (said.includes(wordOf(key, leaf)))
              throw new Error(
                `${name} tells ${id} ${leaf} of ${key}: ${JSON.stringify(table)}\n${said.slice(0, 2000)}`,
              );
          }
        }
        // And what they may see they are shown: a test that hides all would pass.
        const shown = JSON.stringify(seen["request"]);
        for (const leaf of LEAVES.filter(may)) {
          expect(shown).toContain(wordOf(key, leaf));
          if (seen["pdf"]) expect(seen["pdf"]).toContain(wordOf(key, leaf));
        }
        expect((await services.openFile(actor, file.id)).ok).toBe(may("doc"));
      }
    };
    await look();
    // Somebody outside sees of it what the step shows, and what is hidden there by nothing they can ask for.
    const guest = guestOf(number);
    const { tasks } = (await requests.requestForCommand(getPool(), { number }, false))!.state;
    const theirs = Object.values(tasks).find((t) => t.holder === guest.id)!.id;
    const page = value(await services.taskView(guest, number, theirs));
    const asks = { ask: "records", fields: [] } as never;
    const told = JSON.stringify([
      page,
      await services.requestView(guest, number),
      await services.lateTask(guest, number, myTask!),
      await services.taskView(guest, number, myTask!),
      await services.askAtTask(guest, number, theirs, {}, asks),
    ]);
    for (const leaf of LEAVES)
      expect([leaf, told.includes(wordOf(key, leaf))]).toEqual([leaf, shownAt(table, "first", leaf)]);
    expect((await services.openFile(guest, file.id)).ok).toBe(shownAt(table, "first", "doc"));
    expect(JSON.stringify(page.form)).not.toContain(REQUESTER);
    const view = value(await services.requestView(await person(FIRST), number));
    const answer = decide.blank("first").answers[0]!.id;
    value(
      await act(await person(FIRST), number, {
        type: "answer",
        task: view.myTask!,
        answer,
        note: "",
        data: {},
        seen: 999,
      } as never),
    );
    took.second = true;
    // The trail does tell why, to whoever may see it.
    const [why] = await sql<{ n: number }>(
      "select count(*)::int n from request_event e join request r on r.id = e.request_id where r.number = $1 and e.type = 'step did' and e.body::text like '%canary%'",
      [number],
    );
    expect(why!.n).toBeGreaterThanOrEqual(3);
    await look();
  }
  expect(hidden).toBeGreaterThan(5000);
  expect(looked).toBeGreaterThan(hidden);
}, 240_000);

it("a page carries the people it shows, and no address nobody reads", async () => {
  const lucia = await person(REQUESTER);
  const [n] = await sql<{ number: string }>("select number from request where process_key = 'lk0'");
  const view = value(await services.requestView(lucia, n!.number));
  const carried = view.form.facts.people;
  expect(Object.keys(carried)).toEqual([REQUESTER]);
  expect(JSON.stringify(view)).not.toContain("@quillhaven.example");
  // Where somebody is to be picked, everybody is there, without addresses.
  const page = value(await services.askPage(lucia, "store-key", "11111111-1111-4111-8111-111111111111"));
  expect(JSON.stringify(page)).not.toContain("@quillhaven.example");
});
