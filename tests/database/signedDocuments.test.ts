import sharp from "sharp";
import type { Effect, RequestState } from "@/core/engine";
import type { Field } from "@/core/form";
import type { DocumentTemplate } from "@/core/document";
import type { ProcessDefinition, Step } from "@/core/route";
import { closeOffice } from "@/outside/office";
import {
  act,
  addFile,
  blankDue,
  bringTemplate,
  createProcess,
  deliver,
  editDraft,
  releaseDraft,
  replayRequests,
  requestView,
  startRequest,
  SYSTEM,
  taskView,
  type Actor,
} from "@/services";
import { madeDocx, p } from "../../src/outside/docx/testDocx";
import { pdfTexts } from "../pdfPages";
import { workOff } from "./workOff";
import { openWorld, person, sql, value } from "./world";
import { readFile } from "./readFile";

jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
let piet: Actor;
let owner: Actor;
let signer: Actor;
let other: Actor;
beforeAll(async () => {
  world = await openWorld();
  await sql("delete from graphile_worker._private_jobs");
  [piet, owner, signer, other] = (await Promise.all(
    ["piet.hanlon", "tobias.marrin", "bridie.okafor", "anselm.kerr"].map(person),
  )) as [Actor, Actor, Actor, Actor];
});
afterAll(async () => {
  await closeOffice();
  await world.close();
});

const FIELDS: Field[] = [
  { id: "borrower", name: "Borrower", kind: "text", personal: true },
  { id: "sign", name: "Sign here", kind: "signature" },
  { id: "papers", name: "Papers", kind: "files" },
];
const DRAW = {
  id: "draw",
  name: "Agreement",
  kind: "draw up",
  document: "t",
  called: "Agreement {Request.number}",
  as: "both",
} as Step;
const SIGN = {
  id: "signing",
  name: "Signing",
  kind: "complete",
  who: { rule: { by: "person", person: "bridie.okafor" }, how: "one" },
  button: "Signed",
  signs: { document: "draw", field: "sign", into: "papers" },
} as Step;
const CHECK = {
  id: "check",
  name: "Check",
  kind: "decide",
  who: { rule: { by: "person", person: "anselm.kerr" }, how: "one" },
  answers: [
    { id: "yes", label: "Yes", tone: "agree", steps: [] },
    {
      id: "again",
      label: "Again",
      tone: "plain",
      steps: [{ id: "j", name: "Back", kind: "jump", to: "draw" }],
    },
  ],
} as Step;
const FINISH = { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step;

let made = 0;
async function started(
  route: Step[] = [DRAW, SIGN, CHECK, FINISH],
  says = "Lent to {Borrower}.",
): Promise<string> {
  const n = ++made;
  const key = `signed-${n}`;
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: `Signed ${n}`,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: `SD${n}X`, digits: 4 },
    title: "",
    keepPersonalDays: 1,
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: FIELDS,
    access: {
      start: { papers: "hide", sign: "hide" },
      signing: { papers: "hide", sign: "edit", borrower: "edit" },
      signing2: { papers: "hide", sign: "edit" },
      check: { sign: "see", papers: "see" },
    },
    route,
    samples: [{ id: "s", name: "Sample", requester: "piet.hanlon", data: { borrower: "Una Quirke" } }],
  };
  value(await createProcess(SYSTEM, d));
  const bytes = await madeDocx(p(says) + p("{picture Sign here, 50 mm}"));
  const { file, tags } = value(await bringTemplate(owner, key, "t", "Agreement.docx", bytes));
  const document: DocumentTemplate = { id: "t", name: "Agreement", file, tags };
  value(await editDraft(owner, key, 0, [{ op: "document.put", after: null, document }]));
  value(await releaseDraft(owner, key, "1.0.0", ""));
  const { number } = value(await startRequest(piet, key, { borrower: "Una Quirke" }));
  await workOff();
  return number;
}
const filesOf = (number: string) =>
  sql<{ id: string; name: string; sha: string }>(
    `select f.id, f.name, encode(f.sha256, 'hex') as sha
     from file f join request r on r.id = f.request_id where r.number = $1 and f.name not like '%.png' order by f.name`,
    [number],
  );
const stateOf = async (number: string) =>
  (await sql<{ state: RequestState }>("select state from request where number = $1", [number]))[0]!.state;
/** The one that is open, whoever's. */
const taskOf = async (number: string): Promise<string> =>
  Object.values((await stateOf(number)).tasks).find((t) => t.status === "open")!.id;
const inked = async (name = "Signature.png") =>
  value(
    await addFile(
      signer,
      name,
      await sharp({ create: { width: 60, height: 20, channels: 3, background: "#123" } })
        .png()
        .toBuffer(),
    ),
  ).id;
const answer = async (number: string, data: object, by = signer, say = "done") =>
  act(by, number, {
    type: "answer",
    task: await taskOf(number),
    answer: say,
    note: "",
    data: data as never,
  });
const words = async (actor: Actor, id: string) =>
  (await pdfTexts(value(await readFile(actor, id)).bytes)).map((page) => page.map((t) => t.text).join(" "));

it("shows the pages to whoever is to sign them, and to them no longer than that", async () => {
  const number = await started();
  const task = await taskOf(number);
  const view = value(await taskView(signer, number, task));
  const [docx, pdf] = await filesOf(number);
  expect(view.paper).toMatchObject({ id: pdf!.id, name: `Agreement ${number}.pdf` });
  expect((await words(signer, pdf!.id)).join(" ")).toContain("Lent to Una Quirke.");
  // Of what is drawn up besides nothing is theirs, and nothing of it is anybody's who is not asked.
  expect((await readFile(signer, docx!.id)).ok).toBe(false);
  expect((await readFile(other, pdf!.id)).ok).toBe(false);
  expect((await readFile(piet, pdf!.id)).ok).toBe(false);
  const refused = await answer(number, {});
  expect(!refused.ok && JSON.stringify(refused.failure)).toContain("not-signed");
  value(await answer(number, { sign: await inked() }));
  expect((await readFile(signer, pdf!.id)).ok).toBe(false);
  await workOff();
});

it("makes the signed one of what was seen, with who, when, how and which pages, and keeps both", async () => {
  const number = await started();
  const [, shown] = await filesOf(number);
  // What is changed while it is signed does not come into what was shown before.
  value(await answer(number, { sign: await inked("B. Okafor.png"), borrower: "Somebody else" }));
  expect((await stateOf(number)).data["borrower"]).toBe("Somebody else");
  await workOff();
  const files = await filesOf(number);
  expect(files.map((f) => f.name)).toEqual([
    `Agreement ${number} signed.pdf`,
    `Agreement ${number}.docx`,
    `Agreement ${number}.pdf`,
  ]);
  const signed = files[0]!;
  expect((await stateOf(number)).data["papers"]).toBe(signed.id);
  const pages = await words(other, signed.id);
  expect(pages).toHaveLength(2);
  expect(pages[0]).toContain("Lent to Una Quirke.");
  const closing = pages[1]!;
  for (const said of [
    "Bridie Okafor",
    "bridie.okafor@quillhaven.example",
    "Typed as “B. Okafor”",
    "2026",
    `Agreement ${number}.pdf, 1 page`,
  ])
    expect(closing).toContain(said);
  expect(closing.replaceAll(" ", "")).toContain(shown!.sha);
  const { trail } = value(await requestView(owner, number));
  expect(trail.some((l) => l.text.includes(`2 pages, fingerprint ${signed.sha}`))).toBe(true);
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
});

it("is made once, whoever tries again and however many at once", async () => {
  const number = await started();
  value(await answer(number, { sign: await inked() }));
  const [{ payload }] = (await sql<{ payload: { request: string; effect: Effect } }>(
    `select j.payload from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id where t.identifier = 'effect'`,
  )) as [{ payload: { request: string; effect: Effect } }];
  const again = () => deliver(SYSTEM, payload.request, payload.effect);
  await Promise.all([again(), again(), again()]);
  await again();
  await workOff();
  expect(await filesOf(number)).toHaveLength(3);
  const { trail } = value(await requestView(owner, number));
  expect(trail.filter((l) => l.text.includes("signed document is made"))).toHaveLength(1);
});

it("a retry makes it of the signature that was given, and asks nobody again", async () => {
  const number = await started();
  const [{ file }] = (await sql<{ file: string }>(
    "select s.file_id as file from document_source s join request r on r.id = s.request_id where r.number = $1",
    [number],
  )) as [{ file: string }];
  const [kept] = await sql<{ row: string }>(
    "select row_to_json(s)::text as row from document_source s where file_id = $1",
    [file],
  );
  await sql("delete from document_source where file_id = $1", [file]);
  value(await answer(number, { sign: await inked() }));
  await workOff();
  const view = value(await requestView(owner, number));
  expect(JSON.stringify(view)).toContain("the signed document could not be made");
  await sql(
    "insert into document_source select * from json_populate_record(null::document_source, $1::json)",
    [kept!.row],
  );
  const { stuck } = view as unknown as { stuck: { token: string }[] };
  value(await act(owner, number, { type: "retry", token: stuck[0]!.token }));
  await workOff();
  expect((await filesOf(number)).map((f) => f.name)).toContain(`Agreement ${number} signed.pdf`);
  expect((await stateOf(number)).status).toBe("under way");
});

it("what is drawn up again is another version, marked, and signed anew; two sign one after the other", async () => {
  const second = {
    ...SIGN,
    id: "signing2",
    name: "Second",
    signs: { document: "signing", field: "sign", into: "papers" },
  } as Step;
  const number = await started([DRAW, SIGN, CHECK, second, FINISH]);
  value(await answer(number, { sign: await inked() }));
  await workOff();
  value(await answer(number, {}, other, "again"));
  await workOff();
  expect((await filesOf(number)).map((f) => f.name)).toContain(`Agreement ${number}, version 2.pdf`);
  const task = await taskOf(number);
  expect(value(await taskView(signer, number, task)).paper!.name).toBe(`Agreement ${number}, version 2.pdf`);
  value(await answer(number, { sign: await inked() }));
  await workOff();
  value(await answer(number, {}, other, "yes"));
  await workOff();
  // The next one is shown what was signed before them.
  expect((await stateOf(number)).data["sign"]).toBeNull();
  expect(value(await taskView(signer, number, await taskOf(number))).paper!.name).toBe(
    `Agreement ${number}, version 2 signed.pdf`,
  );
  value(await answer(number, { sign: await inked("Second.png") }));
  await workOff();
  const last = (await stateOf(number)).data["papers"] as string;
  const pages = await words(owner, last.split("\n").at(-1)!);
  expect(pages.at(-1)).toMatch(
    /Drawn on the screen.*version 2\.pdf.*Typed as “Second”.*version 2 signed\.pdf/,
  );
});

it("in rounds at once each has its own signed, by the signature given in it", async () => {
  const each = {
    id: "each",
    name: "Slips",
    kind: "for each",
    over: { list: '["bell", "rope", "sail"]' },
    item: "Thing",
    collect: "Signing.document.name",
    bodies: [
      {
        id: "body",
        steps: [
          { ...DRAW, called: "{Thing}", as: "pdf" },
          { ...SIGN, signs: { document: "draw", field: "sign", into: "papers" } },
        ],
      },
    ],
  } as unknown as Step;
  const number = await started([each, FINISH], "{Thing} is lent");
  const open = async () => Object.values((await stateOf(number)).tasks).filter((t) => t.status === "open");
  const tasks = await open();
  expect(tasks).toHaveLength(3);
  const thing = (text: string | undefined) => /(bell|rope|sail)/.exec(text ?? "")?.[1];
  const given = tasks.map((t, i) => [thing(t.about), `Round ${i}`]);
  // All are answered before any worker comes to one.
  for (const [i, t] of tasks.entries())
    value(
      await act(signer, number, {
        type: "answer",
        task: t.id,
        answer: "done",
        note: "",
        data: { sign: await inked(`Round ${i}.png`) } as never,
      }),
    );
  await workOff();
  const state = await stateOf(number);
  const ids = (state.data["papers"] as string).split("\n");
  const said = await Promise.all(ids.map((id) => words(owner, id)));
  const pairs = said.map(([first, closing]) => [thing(first), /“(Round \d)”/.exec(closing!)?.[1]]);
  expect(given.map(([of]) => of).sort()).toEqual(["bell", "rope", "sail"]);
  expect(pairs.sort()).toEqual(given.sort());
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
});

it("stops where what was given is no picture, and is signed anew by whoever an owner names", async () => {
  const number = await started();
  const none = value(await addFile(signer, "Signature.png", Buffer.from("no picture"))).id;
  value(await answer(number, { sign: none }));
  await workOff();
  const { stuck } = value(await requestView(owner, number));
  expect(stuck[0]!.sentence).toContain("signature is no picture");
  value(
    await act(owner, number, { type: "name", token: stuck[0]!.token, to: "bridie.okafor", note: "No ink" }),
  );
  expect((await stateOf(number)).data["sign"]).toBeNull();
  value(await answer(number, { sign: await inked() }));
  await workOff();
  expect((await filesOf(number)).map((f) => f.name)).toContain(`Agreement ${number} signed.pdf`);
});

it("goes with what is personal", async () => {
  const number = await started();
  value(await answer(number, { sign: await inked() }));
  await workOff();
  value(await answer(number, {}, other, "yes"));
  await workOff();
  expect((await stateOf(number)).status).toBe("finished");
  await sql("update request set ended_at = ended_at - interval '90 days' where number = $1", [number]);
  await blankDue(SYSTEM);
  expect(await filesOf(number)).toEqual([]);
  expect(
    await sql("select 1 from document_source s join request r on r.id = s.request_id where r.number = $1", [
      number,
    ]),
  ).toEqual([]);
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
});
