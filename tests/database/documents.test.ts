import { createHash } from "node:crypto";
import type { DocumentTemplate } from "@/core/document";
import type { Field } from "@/core/form";
import { portsOf } from "@/core/kinds";
import type { ProcessDefinition, Start, Step } from "@/core/route";
import { closeOffice } from "@/outside/office";
import {
  addFile,
  blankDue,
  bringTemplate,
  createProcess,
  deliver,
  editDraft,
  makeFirstTemplate,
  previewDocument,
  releaseDraft,
  replayRequests,
  requestView,
  startRequest,
  SYSTEM,
  templateAsNow,
  templateVersions,
  type Actor,
} from "@/services";
import type { Effect } from "@/core/engine";
import { docxText, madeDocx, p, table } from "../../src/outside/docx/testDocx";
import { pdfTexts } from "../pdfPages";
import { workOff } from "./workOff";
import { openWorld, person, sql, value } from "./world";
import { readFile } from "./readFile";

jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
let piet: Actor;
let owner: Actor;
let other: Actor;
beforeAll(async () => {
  world = await openWorld();
  await sql("delete from graphile_worker._private_jobs");
  [piet, owner, other] = (await Promise.all(
    ["piet.hanlon", "tobias.marrin", "bridie.okafor"].map(person),
  )) as [Actor, Actor, Actor];
});
afterAll(async () => {
  await closeOffice();
  await world.close();
});

const FIELDS: Field[] = [
  { id: "borrower", name: "Borrower", kind: "text" },
  { id: "secret", name: "Secret", kind: "text" },
  { id: "scan", name: "Scan", kind: "file" },
  {
    id: "objects",
    name: "Objects",
    kind: "lines",
    fields: [
      { id: "what", name: "What", kind: "text" },
      { id: "worth", name: "Worth", kind: "money" },
    ],
  } as Field,
  { id: "total", name: "Total", kind: "money", worked: "sum(Objects.Worth)" } as Field,
  { id: "papers", name: "Papers", kind: "files" },
];
const everybody: Start = { id: "form", kind: "form", who: { by: "everybody" } };
const TEMPLATE = madeDocx(
  p("Lent to {Borrower}, {Total} EUR") + table(["{for each Objects}{number}. {What}", "{Worth}{end}"]),
  { footer: p("{Request.number}") },
);

let made = 0;
interface Making {
  bytes?: Buffer;
  draw?: object;
  more?: Partial<ProcessDefinition>;
}
/** A process that draws up a document from a template that was brought in. */
async function process({ bytes, draw, more }: Making = {}): Promise<ProcessDefinition> {
  const n = ++made;
  const key = `paper-${n}`;
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: `Paper ${n}`,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: `DU${n}X`, digits: 4 },
    title: "",
    starts: [everybody],
    fields: FIELDS,
    access: { start: { papers: "see" } },
    route: [
      {
        id: "draw",
        name: "Agreement",
        kind: "draw up",
        document: "t",
        called: "Agreement {Request.number}",
        as: "both",
        into: "papers",
        ...draw,
      } as Step,
      { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step,
    ],
    samples: [{ id: "s", name: "Sample", requester: "piet.hanlon", data: DATA }],
    ...more,
  };
  value(await createProcess(SYSTEM, d));
  const { file, tags } = value(
    await bringTemplate(owner, key, "t", "Agreement.docx", bytes ?? (await TEMPLATE)),
  );
  const document: DocumentTemplate = { id: "t", name: "Agreement", file, tags };
  value(await editDraft(owner, key, 0, [{ op: "document.put", after: null, document }]));
  return { ...d, documents: [document] };
}
const DATA = {
  borrower: "Una Quirke",
  secret: "a",
  objects: [
    { "#": "1", what: "Rope makers", worth: "200" },
    { "#": "2", what: "Harbour bell", worth: "1040" },
  ],
};
const started = async (d: ProcessDefinition, data: object = DATA): Promise<string> => {
  value(await releaseDraft(owner, d.key, "1.0.0", ""));
  return value(await startRequest(piet, d.key, data as never)).number;
};
const filesOf = (number: string) =>
  sql<{ id: string; name: string; media_type: string; sha: string }>(
    `select f.id, f.name, f.media_type, encode(f.sha256, 'hex') as sha
     from file f join request r on r.id = f.request_id where r.number = $1 order by f.name`,
    [number],
  );
const stateOf = async (number: string) =>
  (
    await sql<{ state: { status: string; data: Record<string, unknown> } }>(
      "select state from request where number = $1",
      [number],
    )
  )[0]!.state;
const words = async (pdf: Buffer) =>
  (await pdfTexts(pdf))
    .flat()
    .map((t) => t.text)
    .join(" ");

it("draws up a document as PDF and DOCX, once, kept where whoever sees the field finds it", async () => {
  const number = await started(await process());
  expect((await stateOf(number)).status).toBe("under way");
  await workOff();
  const files = await filesOf(number);
  expect(files.map((f) => f.name)).toEqual([`Agreement ${number}.docx`, `Agreement ${number}.pdf`]);
  expect((await stateOf(number)).data["papers"]).toBe([files[1]!.id, files[0]!.id].join("\n"));
  const docx = value(await readFile(piet, files[0]!.id));
  expect(await docxText(docx.bytes)).toEqual([
    "Lent to Una Quirke, 1\u202f240.00 EUR",
    "1. Rope makers",
    "200.00",
    "2. Harbour bell",
    "1\u202f040.00",
  ]);
  const pdf = value(await readFile(piet, files[1]!.id));
  expect(await words(pdf.bytes)).toContain("Rope makers");
  expect(await words(pdf.bytes)).toContain(number);
  expect(createHash("sha256").update(pdf.bytes).digest("hex")).toBe(files[1]!.sha);
  const trail = value(await requestView(owner, number)).trail.map((l) => l.text);
  expect(
    trail.some((t) => t.includes("Agreement: drawn up, 1 page") && t.includes(files[1]!.sha.slice(0, 12))),
  ).toBe(true);
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
});

it("is done once, whoever tries again and however many at once", async () => {
  const number = await started(await process({ draw: { as: "docx" } }));
  const [{ payload }] = (await sql<{ payload: { request: string; effect: Effect } }>(
    `select j.payload from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id where t.identifier = 'effect'`,
  )) as [{ payload: { request: string; effect: Effect } }];
  const again = () => deliver(SYSTEM, payload.request, payload.effect);
  await Promise.all([again(), again(), again()]);
  await again();
  await workOff();
  expect(await filesOf(number)).toHaveLength(1);
  const trail = value(await requestView(owner, number)).trail.filter((l) => l.text.includes("drawn up"));
  expect(trail).toHaveLength(1);
});

it("keeps the template it was released with, whatever is brought in afterwards", async () => {
  const d = await process({ draw: { as: "docx" } });
  value(await releaseDraft(owner, d.key, "1.0.0", ""));
  const next = value(await bringTemplate(owner, d.key, "t", "New.docx", await madeDocx(p("Another"))));
  const document = { ...d.documents![0]!, ...next };
  const { notes: _, ...kept } = document as typeof document & { notes?: unknown };
  value(await editDraft(owner, d.key, 1, [{ op: "document.put", after: null, document: kept }]));
  const { number } = value(await startRequest(piet, d.key, DATA as never));
  await workOff();
  const [file] = await filesOf(number);
  expect((await docxText(value(await readFile(piet, file!.id)).bytes))[0]).toContain("Lent to");
  const versions = value(await templateVersions(owner, d.key, "t"));
  expect(versions.map((v) => v.file.name)).toEqual(["New.docx", "Agreement.docx"]);
});

it("gives the file to what follows in the same breath", async () => {
  const d = await process({
    draw: { as: "docx", into: undefined },
    more: {
      route: [
        {
          id: "draw",
          name: "Agreement",
          kind: "draw up",
          document: "t",
          called: "Paper",
          as: "docx",
        } as Step,
        {
          id: "w",
          name: "Work out",
          kind: "work out",
          set: [{ field: "secret", value: 'Agreement.name + " of " + string(Agreement.size > 100)' }],
        } as unknown as Step,
        { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step,
      ],
    },
  });
  const number = await started(d);
  await workOff();
  expect((await stateOf(number)).data["secret"]).toBe("Paper.docx of true");
  // Nobody sees a field that has it: the owner may open what the step made, and no one else.
  const [file] = await filesOf(number);
  expect((await readFile(other, file!.id)).ok).toBe(false);
});

it("stops with the reason where anything cannot be worked out, and goes on once it can be", async () => {
  const bytes = await madeDocx(p("{1 / (Total - Total)}"));
  const d = await process({ bytes, draw: { as: "docx" } });
  const number = await started(d);
  await workOff();
  expect(await filesOf(number)).toEqual([]);
  expect(JSON.stringify(value(await requestView(owner, number)))).toContain("cannot be worked out");
});

it("says what is wrong with a file, and takes none that would do harm", async () => {
  const d = await process();
  const refused = async (bytes: Buffer) => {
    const r = await bringTemplate(owner, d.key, "t", "x.docx", bytes);
    return r.ok ? "taken" : JSON.stringify(r.failure);
  };
  expect(await refused(Buffer.from("no zip"))).toContain("no DOCX");
  expect(await refused(Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 1, 2]))).toContain("DOC");
  expect(await refused(await madeDocx(p("x"), { parts: { "word/vbaProject.bin": "x" } }))).toContain(
    "macros",
  );
  expect(await refused(await madeDocx(p("x"), { parts: { "word/embeddings/a.xlsx": "x" } }))).toContain(
    "embedded",
  );
  const relations =
    '<Relationship Id="x" Type="http://x/image" Target="http://elsewhere/x.png" TargetMode="External"/>';
  expect(await refused(await madeDocx(p("x"), { relations }))).toContain("http://elsewhere/x.png");
  const bomb = await madeDocx(p("x"), { parts: { "word/media/a.png": Buffer.alloc(30_000_000) } });
  expect(await refused(bomb)).toContain("unpacks to too much");
  const entities = await madeDocx(p("x"), {
    parts: { "word/styles.xml": '<!DOCTYPE x [<!ENTITY a "aaaa">]><x>&a;</x>' },
  });
  expect(await refused(entities)).toContain("no word processor writes");
  // Nothing of these was kept.
  expect(value(await templateVersions(owner, d.key, "t"))).toHaveLength(1);
});

it("shows a sample's document to whoever designs the process, and to nobody else", async () => {
  const d = await process();
  const pdf = value(await previewDocument(owner, d.key, "t", "s", "pdf"));
  expect(await words(pdf.bytes)).toContain("Una Quirke");
  expect((await previewDocument(other, d.key, "t", "s", "pdf")).ok).toBe(false);
  expect((await bringTemplate(other, d.key, "t", "x.docx", await TEMPLATE)).ok).toBe(false);
  expect((await templateAsNow(other, d.key, "t")).ok).toBe(false);
  expect((await templateVersions(other, d.key, "t")).ok).toBe(false);
  // A file that was brought into another process is not to be had by naming it.
  const own = await process({ bytes: await madeDocx(p("Elsewhere")) });
  const { file } = own.documents![0]!;
  value(
    await editDraft(owner, d.key, 1, [
      { op: "document.put", after: null, document: { ...d.documents![0]!, file } },
    ]),
  );
  expect((await previewDocument(owner, d.key, "t", "s", "docx")).ok).toBe(false);
});

it("writes the tags of a template as fields are called by now", async () => {
  const d = await process();
  value(
    await editDraft(owner, d.key, 1, [
      { op: "field.rename", id: "borrower", name: "Lent to" },
      { op: "field.rename", id: "what", name: "Thing" },
      { op: "field.rename", id: "objects", name: "Things" },
    ]),
  );
  const now = value(await templateAsNow(owner, d.key, "t"));
  expect((await docxText(now.bytes)).slice(0, 2)).toEqual([
    "Lent to {Lent to}, {Total} EUR",
    "{for each Things}{number}. {Thing}",
  ]);
  const pdf = value(await previewDocument(owner, d.key, "t", "s", "docx"));
  expect((await docxText(pdf.bytes)).slice(0, 2)).toEqual([
    "Lent to Una Quirke, 1\u202f240.00 EUR",
    "1. Rope makers",
  ]);
});

it("makes a first template of the form, which can be drawn up at once", async () => {
  const d = await process();
  const first = value(await makeFirstTemplate(owner, d.key, "first"));
  expect(first.tags.map((t) => ("of" in t ? `${t.tag} ${t.of}` : t.tag))).toEqual([
    "value Borrower",
    "value Secret",
    "value Scan",
    "each Objects",
    "value What",
    "value Worth",
    "end",
    "value Total",
    "value Papers",
  ]);
  const document = { id: "first", name: "First", file: first.file, tags: first.tags };
  value(await editDraft(owner, d.key, 1, [{ op: "document.put", after: "t", document }]));
  const docx = value(await previewDocument(owner, d.key, "first", "s", "docx"));
  expect((await docxText(docx.bytes)).join("|")).toContain("Rope makers|200.00|Harbour bell|1\u202f040.00");
});

it("puts a picture in its place, and leaves it empty where there is none", async () => {
  const png = Buffer.from(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
    "base64",
  );
  const bytes = await madeDocx(p("Here: {picture Scan, 40 mm}."));
  const d = await process({ bytes, draw: { as: "docx" } });
  value(await releaseDraft(owner, d.key, "1.0.0", ""));
  const scan = value(await addFile(piet, "scan.png", png));
  const size = async (data: object) => {
    const { number } = value(await startRequest(piet, d.key, data as never));
    await workOff();
    const [file] = (await filesOf(number)).filter((f) => f.name.endsWith(".docx"));
    const { bytes: made } = value(await readFile(piet, file!.id));
    return { text: await docxText(made), media: made.includes("word/media/") };
  };
  expect(await size({ ...DATA, scan: scan.id })).toEqual({ text: ["Here: ."], media: true });
  expect(await size(DATA)).toEqual({ text: ["Here: ."], media: false });
});

it("has a document that is too long stop with the limit, and one without its file say so", async () => {
  const long = await process({
    draw: { as: "docx" },
    bytes: await madeDocx(p("{for each for i in 1..5001 return i}{item}{end}")),
  });
  const number = await started(long);
  await workOff();
  expect(JSON.stringify(value(await requestView(owner, number)))).toContain("more than 5000 repeated parts");
  const lost = await process({ draw: { as: "docx" }, bytes: await madeDocx(p("Nobody else has this")) });
  value(await releaseDraft(owner, lost.key, "1.0.0", ""));
  const { number: second } = value(await startRequest(piet, lost.key, DATA as never));
  await sql("delete from template_upload where process_key = $1", [lost.key]);
  const { sha256 } = lost.documents![0]!.file;
  await sql("delete from template_file where sha256 = decode($1, 'hex')", [sha256]);
  await workOff();
  expect(JSON.stringify(value(await requestView(owner, second)))).toContain("is not here");
});

it("goes with what is personal, once that has been kept long enough", async () => {
  const personal = FIELDS.map((f) => (f.id === "borrower" ? { ...f, personal: true as const } : f));
  const kept = await process({ draw: { as: "docx" } });
  const told = await process({ draw: { as: "docx" }, more: { fields: personal, keepPersonalDays: 1 } });
  const aside = await process({
    draw: { as: "docx", into: undefined },
    more: { fields: personal, keepPersonalDays: 1 },
  });
  const numbers = [await started(kept), await started(told), await started(aside)];
  await workOff();
  await sql("update request set ended_at = ended_at - interval '90 days' where number = any($1)", [numbers]);
  await blankDue(SYSTEM);
  expect(await Promise.all(numbers.map(async (n) => (await filesOf(n)).length))).toEqual([1, 0, 0]);
  expect((await stateOf(numbers[1]!)).data["papers"]).toBeNull();
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
});

it("is handed on to another process as a copy", async () => {
  const taking: ProcessDefinition = {
    ...(await process()),
    key: "taking",
    name: "Taking",
    numbering: { prefix: "TAKE", digits: 4 },
    starts: [{ id: "handed", kind: "handed", from: { by: "any" } } as Start],
    fields: [{ id: "paper", name: "Paper", kind: "file", hand: "in" }],
    access: {},
    route: [{ id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step],
    samples: [],
  };
  delete taking.documents;
  value(await createProcess(SYSTEM, taking));
  value(await releaseDraft(SYSTEM, "taking", "1.0.0", ""));
  const d = await process({
    more: {
      route: [
        {
          id: "draw",
          name: "Agreement",
          kind: "draw up",
          document: "t",
          called: "Paper",
          as: "docx",
        } as Step,
        {
          id: "hand",
          name: "Taken",
          kind: "start request",
          process: "taking",
          ...portsOf(taking.fields),
          values: [{ port: "paper", value: "Agreement" }],
          waits: true,
          endsWith: true,
        } as Step,
        { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step,
      ],
    },
  });
  const number = await started(d);
  await workOff();
  expect((await stateOf(number)).status).toBe("finished");
  const [child] = await sql<{ number: string }>("select number from request where process_key = 'taking'");
  expect((await filesOf(child!.number)).map((f) => f.name)).toEqual(["Paper.docx"]);
  expect(await filesOf(number)).toHaveLength(1);
});

it("draws up one for each line, each with its own, and keeps all of them", async () => {
  const bytes = await madeDocx(p("{Lent.What} is worth {Lent.Worth}"));
  const d = await process({
    bytes,
    more: {
      route: [
        {
          id: "each",
          name: "Slips",
          kind: "for each",
          over: { lines: "objects" },
          item: "Lent",
          collect: "Slip.name",
          bodies: [
            {
              id: "each-body",
              steps: [
                {
                  id: "draw",
                  name: "Slip",
                  kind: "draw up",
                  document: "t",
                  called: "{Lent.What}",
                  as: "docx",
                  into: "papers",
                },
              ],
            },
          ],
        } as unknown as Step,
        {
          id: "w",
          name: "Work out",
          kind: "work out",
          set: [{ field: "secret", value: 'string join(Slips, ", ")' }],
        } as unknown as Step,
        { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step,
      ],
    },
  });
  const number = await started(d);
  // Whichever is done first, each stands in its own place of what is collected.
  await workOff((n) => n - 1);
  const files = await filesOf(number);
  expect(files.map((f) => f.name)).toEqual(["Harbour bell.docx", "Rope makers.docx"]);
  const texts = await Promise.all(files.map(async (f) => docxText(value(await readFile(piet, f.id)).bytes)));
  expect(texts).toEqual([["Harbour bell is worth 1\u202f040.00"], ["Rope makers is worth 200.00"]]);
  const { data } = await stateOf(number);
  expect(data["secret"]).toBe("Rope makers.docx, Harbour bell.docx");
  expect(String(data["papers"]).split("\n").sort()).toEqual(files.map((f) => f.id).sort());
});

it("shows a sample's document with what the steps before have come to", async () => {
  const d = await process({
    bytes: await madeDocx(p("Secret: {Secret}")),
    more: {
      route: [
        {
          id: "w",
          name: "Work out",
          kind: "work out",
          set: [{ field: "secret", value: 'Borrower + ", seen"' }],
        } as unknown as Step,
        {
          id: "draw",
          name: "Agreement",
          kind: "draw up",
          document: "t",
          called: "Paper",
          as: "docx",
        } as Step,
        { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step,
      ],
    },
  });
  const shown = value(await previewDocument(owner, d.key, "t", "s", "docx"));
  expect(await docxText(shown.bytes)).toEqual(["Secret: Una Quirke, seen"]);
  expect(shown.first).toEqual([{ said: "Una Quirke, seen", times: 1 }]);
});
