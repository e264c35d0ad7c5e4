import type { DocumentTemplate } from "@/core/document";
import type { Field } from "@/core/form";
import type { ProcessDefinition, Step } from "@/core/route";
import {
  bringTemplate,
  createProcess,
  draftView,
  editDraft,
  keepTemplate,
  keptTemplateList,
  previewDocument,
  releaseDraft,
  removeKeptTemplate,
  startRequest,
  SYSTEM,
  takeTemplate,
  templateVersions,
  type Actor,
} from "@/services";
import { docxText, madeDocx, p } from "../../src/outside/docx/testDocx";
import { readFile } from "./readFile";
import { workOff } from "./workOff";
import { openWorld, person, sql, value } from "./world";

jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
let office: Actor;
let maeve: Actor;
let sorcha: Actor;
let piet: Actor;
beforeAll(async () => {
  world = await openWorld();
  await sql("delete from graphile_worker._private_jobs");
  [office, maeve, sorcha, piet] = (await Promise.all(
    ["tobias.marrin", "maeve.dunlea", "sorcha.lind", "piet.hanlon"].map(person),
  )) as [Actor, Actor, Actor, Actor];
});
afterAll(() => world.close());

async function processOf(key: string, owner: string): Promise<void> {
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: `Letterhead ${key}`,
    purpose: "",
    owners: [owner],
    numbering: { prefix: key.slice(0, 4).toUpperCase(), digits: 4 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: [
      { id: "borrower", name: "Borrower", kind: "text" },
      { id: "papers", name: "Papers", kind: "files" },
    ] as Field[],
    access: { start: { papers: "see" } },
    route: [
      {
        id: "draw",
        name: "Paper",
        kind: "draw up",
        document: "t",
        called: "Paper",
        as: "docx",
        into: "papers",
      } as Step,
      { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step,
    ],
    samples: [],
  };
  value(await createProcess(SYSTEM, d));
}
const putIn = async (who: Actor, key: string, document: DocumentTemplate) => {
  const { version } = value(await draftView(who, key));
  value(await editDraft(who, key, version, [{ op: "document.put", after: null, document }]));
};
const documentOf = async (who: Actor, key: string) =>
  value(await draftView(who, key)).definition.documents!.find((x) => x.id === "t")!;

it("is taken as it is then, and its next version is for whoever keeps it, and the office", async () => {
  await processOf("heads", "maeve.dunlea");
  await processOf("tails", "sorcha.lind");
  const bring = async (text: string) =>
    value(await bringTemplate(maeve, "heads", "t", "Head.docx", await madeDocx(p(text))));
  const { file, tags } = await bring("Quillhaven Museums to {Borrower}");
  await putIn(maeve, "heads", { id: "t", name: "Letterhead", file, tags });
  expect(await keepTemplate(sorcha, "heads", "t")).toMatchObject({ ok: false });
  expect(await keepTemplate(maeve, "heads", "gone")).toMatchObject({ failure: { code: "not-found" } });
  const kept = value(await keepTemplate(maeve, "heads", "t"));
  expect(kept.version).toBe(1);
  await putIn(maeve, "heads", { ...(await documentOf(maeve, "heads")), from: kept });

  const told = value(await draftView(sorcha, "tails")).office.templates;
  expect(told).toEqual([{ id: kept.template, name: "Letterhead", version: 1 }]);
  expect(await takeTemplate(piet, "tails", "t", kept.template)).toMatchObject({ ok: false });
  const taken = value(await takeTemplate(sorcha, "tails", "t", kept.template));
  expect(taken).toEqual({ name: "Letterhead", file, tags, from: kept });
  await putIn(sorcha, "tails", { id: "t", ...taken });
  // It is a version there like any other, is shown, released and drawn up.
  expect(value(await templateVersions(sorcha, "tails", "t"))).toMatchObject([{ file, by: "Sorcha Lind" }]);
  expect((await previewDocument(sorcha, "tails", "t", "", "docx")).ok).toBe(true);
  value(await releaseDraft(sorcha, "tails", "1.0.0", ""));
  const drawn = async () => {
    const { number } = value(await startRequest(piet, "tails", { borrower: "Una Quirke" }));
    await workOff();
    const [f] = await sql<{ id: string }>(
      "select f.id from file f join request r on r.id = f.request_id where r.number = $1",
      [number],
    );
    return (await docxText(value(await readFile(piet, f!.id)).bytes))[0];
  };
  expect(await drawn()).toContain("Quillhaven Museums to Una Quirke");

  // Whoever took it does not change it for all; whoever keeps it does, and nothing that is live changes by that.
  expect(await keepTemplate(sorcha, "tails", "t")).toMatchObject({ failure: { code: "not-allowed" } });
  const next = await bring("The Museums to {Borrower}");
  await putIn(maeve, "heads", {
    ...(await documentOf(maeve, "heads")),
    ...{ file: next.file, tags: next.tags },
  });
  expect(value(await keepTemplate(maeve, "heads", "t"))).toEqual({ ...kept, version: 2 });
  expect(await drawn()).toContain("Quillhaven Museums to Una Quirke");
  expect(value(await draftView(sorcha, "tails")).office.templates).toMatchObject([{ version: 2 }]);
  const [inOffice] = value(await keptTemplateList(office));
  expect(inOffice).toMatchObject({
    name: "Letterhead",
    version: 2,
    from: "Letterhead heads",
    by: "Maeve Dunlea",
  });
  expect(inOffice!.taken.map(({ key, version }) => `${key} ${version}`).sort()).toEqual([
    "heads 1",
    "tails 1",
  ]);
  expect(await keptTemplateList(sorcha)).toMatchObject({ failure: { code: "not-allowed" } });
  expect(value(await takeTemplate(sorcha, "tails", "t", kept.template)).file).toEqual(next.file);

  expect(await removeKeptTemplate(maeve, kept.template)).toMatchObject({ failure: { code: "not-allowed" } });
  value(await removeKeptTemplate(office, kept.template));
  expect(await takeTemplate(sorcha, "tails", "t", kept.template)).toMatchObject({
    failure: { code: "not-found" },
  });
  // What was taken stays whole.
  expect(await drawn()).toContain("Quillhaven Museums to Una Quirke");
  // Kept anew it is another one, of the process it is kept from now.
  const anew = value(await keepTemplate(sorcha, "tails", "t"));
  expect(anew).toMatchObject({ version: 1 });
  expect(anew.template).not.toBe(kept.template);
});

it("cannot be kept where its file is not there", async () => {
  await processOf("other", "maeve.dunlea");
  const file = { sha256: "0".repeat(64), name: "Gone.docx", size: 1 };
  await putIn(maeve, "other", { id: "t", name: "Gone", file, tags: [] });
  expect(await keepTemplate(maeve, "other", "t")).toMatchObject({
    failure: { data: { message: expect.stringContaining("is not here") as string } },
  });
});
