import type { RegisterRights, RegisterShape } from "@/core/form";
import type { ProcessDefinition, Step } from "@/core/route";
import { inTransaction, registers } from "@/db";
import {
  act,
  addFile,
  changeRecords,
  changeRegister,
  columnSheet,
  createProcess,
  exportRecords,
  putBack,
  recordForm,
  recordPage,
  registerPage,
  releaseDraft,
  removeRecord,
  saveRecord,
  startRequest,
  sweepFiles,
  SYSTEM,
  type Actor,
} from "@/services";
import { openWorld, person, sql, value } from "./world";
import { readFile } from "./readFile";

jest.setTimeout(60_000);

const SHAPE: RegisterShape = {
  format: "cobble-step/register@1",
  key: "t_plates",
  name: "Plates",
  one: "plate",
  purpose: "",
  title: ["code"],
  columns: [
    { id: "code", name: "Code", kind: "text", needed: true },
    { id: "photo", name: "Photo", kind: "file", options: ["jpg", "png"] },
    { id: "paper", name: "Paper", kind: "file" },
    { id: "scans", name: "Scans", kind: "files", options: ["jpg", "pdf"] },
  ],
};
let world: Awaited<ReturnType<typeof openWorld>>;
let keeper: Actor;
let reader: Actor;
let stranger: Actor;
beforeAll(async () => {
  world = await openWorld();
  [keeper, reader, stranger] = (await Promise.all(
    ["maeve.dunlea", "sorcha.lind", "piet.hanlon"].map(person),
  )) as [Actor, Actor, Actor];
  const only = (id: string) => [{ by: "person" as const, person: id }];
  const rights: RegisterRights = {
    keepers: [keeper.id],
    see: only(reader.id),
    columns: { paper: only(keeper.id) },
    withdrawn: [],
    add: [],
    change: [],
    remove: [],
    fill: {},
  };
  await inTransaction((db) => registers.createRegister(db, SHAPE, rights));
});
afterAll(() => world.close());

const file = async (name: string, by = keeper, text = name) =>
  value(await addFile(by, name, Buffer.from(text))).id;
const save = (values: Record<string, string | null>, id: string | null = null) =>
  saveRecord(keeper, "t_plates", id, null, values);
const add = async (values: Record<string, string | null>) => value(await save(values)).id;
const opens = async (who: Actor, id: string) => (await readFile(who, id)).ok;
const kept = async (id: string) => value(await recordPage(keeper, "t_plates", id)).record;
const codes = (r: Awaited<ReturnType<typeof save>>) =>
  r.ok ? [] : [r.failure.code, JSON.stringify(r.failure.data)];

it("whoever sees the column of a record opens the file in it, and nobody else", async () => {
  const [photo, paper] = [await file("front.jpg"), await file("deed.pdf")];
  expect([await opens(reader, photo), await opens(keeper, photo)]).toEqual([false, true]);
  const id = await add({ code: "P1", photo, paper });
  for (const [who, sees] of [
    [keeper, [true, true]],
    [reader, [true, false]],
    [stranger, [false, false]],
  ] as const)
    expect([who.id, [await opens(who, photo), await opens(who, paper)]]).toEqual([who.id, sees]);
  const page = value(await recordPage(reader, "t_plates", id));
  expect(page.linked["photo"]).toEqual({ [photo]: "front.jpg" });
  expect(JSON.stringify(page)).not.toContain(paper);
  const form = value(await recordForm(keeper, "t_plates", id));
  expect(form.source.facts.files?.[photo]?.name).toBe("front.jpg");
  // What is taken out of the record is opened by nobody, until it is put back.
  value(await save({ photo: null }, id));
  expect(await opens(keeper, photo)).toBe(false);
  const [change] = value(await recordPage(keeper, "t_plates", id)).history;
  value(await putBack(keeper, "t_plates", change!.id));
  expect(await opens(reader, photo)).toBe(true);
});

it("a file stands with one record, and is its adder's to give", async () => {
  const photo = await file("one.jpg");
  const id = await add({ code: "P2", photo });
  const theirs = await file("two.jpg", reader);
  for (const bad of [photo, theirs, "nosuchfile"])
    expect(codes(await save({ code: "P3", photo: bad }))).toEqual([
      "record-refused",
      expect.stringContaining("no-file"),
    ]);
  // Of its kinds, and no larger than files may be.
  expect(codes(await save({ code: "P3", photo: await file("three.pdf") }))[1]).toContain("wrong-file");
  const loose = await file("four.jpg");
  const [a, b] = await Promise.all([save({ code: "P4", photo: loose }), save({ code: "P5", photo: loose })]);
  expect([a.ok, b.ok].sort()).toEqual([false, true]);
  const both = await Promise.all(["P6", "P7"].map((code) => add({ code })));
  const many = value(await changeRecords(keeper, "t_plates", both, "photo", await file("five.jpg")));
  expect([many.changed, many.refused.length]).toEqual([1, 1]);
  // A record that was removed comes back with its file.
  value(await removeRecord(keeper, "t_plates", id, null, false));
  expect(await opens(keeper, photo)).toBe(false);
  const [gone] = await sql<{ id: string }>(
    "select id::text from register_history where register_key = 't_plates' and record_id = $1 and did = 'removed'",
    [id],
  );
  const back = value(await putBack(keeper, "t_plates", gone!.id)).id;
  expect((await kept(back))["photo"]).toBe(photo);
  expect(await opens(reader, photo)).toBe(true);
});

it("lists and sheets say what files are called", async () => {
  await add({ code: "Q1", photo: await file("Garden gate.jpg") });
  const q = { search: "", filters: [{ column: "photo", value: "garden" }], sort: [] };
  const page = value(await registerPage(reader, "t_plates", { ...q, offset: 0, limit: 10 }));
  expect(page.rows.map((r) => [r["code"], r["photo#"]])).toEqual([["Q1", "Garden gate.jpg"]]);
  const { bytes } = value(await exportRecords(keeper, "t_plates", q, "", ["code", "photo"], "csv"));
  expect(bytes.toString()).toContain("Q1,Garden gate.jpg");
  expect(
    value(
      await registerPage(
        reader,
        "t_plates",
        { ...q, filters: [], offset: 0, limit: 50 },
        'Photo != null and Code = "Q1"',
      ),
    ).rows,
  ).toHaveLength(1);
});

const write: Step = {
  id: "w",
  name: "Keep it",
  kind: "write",
  op: "change",
  register: "t_plates",
  record: "Plate",
  values: [{ column: "photo", value: "Picture" }],
} as Step;
const process: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "t-photo",
  name: "Photograph",
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: "PHOTO", digits: 4 },
  title: "{Plate.Photo.name}",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  fields: [
    { id: "plate", name: "Plate", kind: "look-up", register: "t_plates" },
    { id: "picture", name: "Picture", kind: "file", needed: "true" },
    { id: "size", name: "Size", kind: "number", worked: "Plate.Photo.size" },
  ],
  access: {},
  route: [
    write,
    { ...write, id: "again", name: "Once more" } as Step,
    {
      id: "look",
      name: "Look",
      kind: "complete",
      button: "Done",
      who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
    },
    { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" },
  ],
  samples: [],
};

it("a record gets a copy of what was sent with a request, once, and keeps it when that is forgotten", async () => {
  value(await createProcess(SYSTEM, process));
  value(await releaseDraft(SYSTEM, process.key, "1.0.0", ""));
  const plate = await add({ code: "R1" });
  const picture = await file("back.jpg", stranger, "the back");
  const { number } = value(await startRequest(stranger, process.key, { plate, picture }));
  const copy = String((await kept(plate))["photo"]);
  expect([copy === picture, await opens(reader, copy), await opens(reader, picture)]).toEqual([
    false,
    true,
    // Whoever decides sees what was sent.
    true,
  ]);
  const history = value(await recordPage(keeper, "t_plates", plate)).history;
  expect(history.filter((h) => h.request_number === number)).toHaveLength(1);
  const [row] = await sql<{ title: string; size: string }>(
    "select title, state #>> '{data,size}' as size from request where number = $1",
    [number],
  );
  expect([row!.title, value(await readFile(reader, copy)).bytes.toString()]).toEqual([
    "back.jpg",
    "the back",
  ]);
  const [t] = await sql<{ id: string }>(
    "select t.id from task t join request r on r.id = t.request_id where r.number = $1",
    [number],
  );
  value(await act(reader, number, { type: "answer", task: t!.id, answer: "done", note: "", data: {} }));
  await sql("delete from file where request_id = (select id from request where number = $1)", [number]);
  expect(await opens(reader, copy)).toBe(true);
  // A file that stands with a record is nobody's to send with a request.
  const taken = await startRequest(stranger, process.key, { plate, picture: copy });
  expect(taken.ok).toBe(false);
});

describe("several files in one column", () => {
  const lines = (...ids: string[]) => ids.join("\n");
  const scans = async (id: string) => String((await kept(id))["scans"] ?? "").split("\n");
  it("stand with their record each; what is taken out is opened by nobody, and put back with the others", async () => {
    const [a, b, c] = [await file("a.jpg"), await file("b.pdf"), await file("c.jpg")];
    const id = await add({ code: "M1", scans: lines(a, b, c) });
    expect(await Promise.all([a, b, c].map((f) => opens(reader, f)))).toEqual([true, true, true]);
    expect(await opens(stranger, a)).toBe(false);
    value(await save({ scans: lines(c, a) }, id));
    expect(await scans(id)).toEqual([c, a]);
    expect(await Promise.all([a, b, c].map((f) => opens(reader, f)))).toEqual([true, false, true]);
    const page = value(await recordPage(reader, "t_plates", id));
    expect(page.linked["scans"]).toEqual({
      [lines(a, b, c)]: "a.jpg, b.pdf, c.jpg",
      [lines(c, a)]: "c.jpg, a.jpg",
    });
    expect(Object.keys(page.files).sort()).toEqual([a, c].sort());
    value(await putBack(keeper, "t_plates", page.history[0]!.id));
    expect(await scans(id)).toEqual([a, b, c]);
    expect(await opens(reader, b)).toBe(true);
  });
  it("one that is not theirs to give, or of no kind it takes, refuses all; none is taken meanwhile", async () => {
    const [mine, theirs] = [await file("mine.jpg"), await file("theirs.jpg", reader)];
    const held = await add({ code: "M2", scans: mine });
    const fresh = await file("fresh.jpg");
    for (const bad of [theirs, mine, "nosuchfile"])
      expect(codes(await save({ code: "M3", scans: lines(fresh, bad) }))[1]).toContain("no-file");
    expect(codes(await save({ code: "M3", scans: lines(fresh, await file("x.txt")) }))[1]).toContain(
      "wrong-file",
    );
    expect(await scans(await add({ code: "M3", scans: lines(fresh, fresh) }))).toEqual([fresh]);
    // In another column of its own record it stands already.
    expect((await save({ photo: mine }, held)).ok).toBe(true);
  });
  it("lists and sheets say what they are called, in their order; one of them is enough to be found by", async () => {
    await add({ code: "M4", scans: lines(await file("zebra.jpg"), await file("Attic.pdf")) });
    const q = { search: "", filters: [{ column: "scans", value: "attic" }], sort: [] };
    const page = value(await registerPage(reader, "t_plates", { ...q, offset: 0, limit: 10 }));
    expect(page.rows.map((r) => [r["code"], r["scans#"]])).toEqual([["M4", "zebra.jpg; Attic.pdf"]]);
    const { bytes } = value(await exportRecords(keeper, "t_plates", q, "", ["code", "scans"], "csv"));
    expect(bytes.toString()).toContain("M4,zebra.jpg; Attic.pdf");
    const where = 'count(Scans) = 2 and some s in Scans satisfies s.name = "Attic.pdf"';
    const found = await registerPage(reader, "t_plates", { ...q, filters: [], offset: 0, limit: 50 }, where);
    if (found.ok) expect(found.value.rows.map((r) => r["code"])).toEqual(["M4"]);
    else expect(JSON.stringify(found.failure)).toContain("Scans");
  });
  it("a request's files are copied into it once, beside those that are there, and count in formulas", async () => {
    const papers: ProcessDefinition = {
      ...process,
      key: "t-scans",
      name: "Scan",
      numbering: { prefix: "SCANS", digits: 4 },
      title: "{count(Plate.Scans)} scans",
      fields: [
        { id: "plate", name: "Plate", kind: "look-up", register: "t_plates" },
        { id: "papers", name: "Papers", kind: "files", needed: "true" },
      ],
      route: ["w", "again"]
        .map(
          (id) =>
            ({
              ...write,
              id,
              name: id,
              values: [
                {
                  column: "scans",
                  value: id === "w" ? "concatenate(Plate.Scans, Papers)" : "Plate.Scans",
                },
              ],
            }) as Step,
        )
        .concat(process.route.slice(3)),
    };
    value(await createProcess(SYSTEM, papers));
    value(await releaseDraft(SYSTEM, "t-scans", "1.0.0", ""));
    const first = await file("first.jpg");
    const plate = await add({ code: "M5", scans: first });
    const sent = [await file("s.jpg", stranger, "same"), await file("t.jpg", stranger, "other")];
    const { number } = value(await startRequest(stranger, "t-scans", { plate, papers: lines(...sent) }));
    const now = await scans(plate);
    expect([now.length, now[0], sent.some((f) => now.includes(f))]).toEqual([3, first, false]);
    expect(await Promise.all(now.map((f) => opens(reader, f)))).toEqual([true, true, true]);
    expect(value(await recordPage(keeper, "t_plates", plate)).history).toHaveLength(2);
    const [row] = await sql<{ title: string }>("select title from request where number = $1", [number]);
    expect(row!.title).toBe("3 scans");
  });
  it("the same contents sent once more are not copied again, and one that stands twice stands twice", async () => {
    const twice: ProcessDefinition = {
      ...process,
      key: "t-twice",
      name: "Twice",
      numbering: { prefix: "TWICE", digits: 4 },
      title: "",
      fields: [
        { id: "plate", name: "Plate", kind: "look-up", register: "t_plates" },
        { id: "papers", name: "Papers", kind: "files", needed: "true" },
      ],
      route: ["w", "again"]
        .map((id) => ({ ...write, id, name: id, values: [{ column: "scans", value: "Papers" }] }) as Step)
        .concat(process.route.slice(3)),
    };
    value(await createProcess(SYSTEM, twice));
    value(await releaseDraft(SYSTEM, "t-twice", "1.0.0", ""));
    const plate = await add({ code: "M6" });
    const sent = [await file("s.jpg", stranger, "same"), await file("s.jpg", stranger, "same")];
    value(await startRequest(stranger, "t-twice", { plate, papers: lines(...sent) }));
    const now = await scans(plate);
    expect(new Set(now).size).toBe(2);
    expect(value(await recordPage(keeper, "t_plates", plate)).history).toHaveLength(2);
    const more = await file("s.jpg", stranger, "same");
    value(await startRequest(stranger, "t-twice", { plate, papers: more }));
    expect(await scans(plate)).toEqual([now[0]]);
    // Nor is it added beside itself, in whatever order.
    for (const [n, all] of [
      "concatenate(Papers, Plate.Scans)",
      "concatenate(Plate.Scans, Papers)",
    ].entries()) {
      const beside = {
        ...twice,
        key: `t-beside-${n}`,
        name: `Beside ${n}`,
        numbering: { prefix: `BESIDE${n}`, digits: 4 },
        route: [{ ...write, values: [{ column: "scans", value: all }] } as Step, ...process.route.slice(3)],
      };
      value(await createProcess(SYSTEM, beside));
      value(await releaseDraft(SYSTEM, beside.key, "1.0.0", ""));
      const again = await file("s.jpg", stranger, "same");
      value(await startRequest(stranger, beside.key, { plate, papers: again }));
      expect(await scans(plate)).toEqual([now[0]]);
    }
  });
});

it("what a record keeps is not swept, and becomes of no other kind", async () => {
  const [loose, photo] = [await file("loose.jpg"), await file("held.jpg")];
  await add({ code: "S1", photo });
  await sql("update file set added_at = added_at - interval '40 days'");
  await sweepFiles(SYSTEM);
  const there = await sql<{ id: string }>("select id from file where id = any($1)", [[loose, photo]]);
  expect(there.map((r) => r.id)).toEqual([photo]);
  const { shape } = value(await columnSheet(keeper, "t_plates"));
  const columns = shape.columns.map((c) =>
    c.id === "photo" ? { ...c, kind: "text" as const, options: [] } : c,
  );
  const r = await changeRegister(keeper, "t_plates", shape, { ...shape, columns }, ["photo"]);
  expect(codes(r as never)[1]).toContain("made of nothing else");
});

it("a column of one file becomes one of several, each with its one; not the other way about", async () => {
  const photo = await file("alone.jpg");
  const id = await add({ code: "T1", paper: photo });
  const { shape } = value(await columnSheet(keeper, "t_plates"));
  const as = (s: RegisterShape, kind: "file" | "files") =>
    s.columns.map((c) => (c.id === "paper" ? { ...c, kind } : c));
  const severally = { ...shape, columns: as(shape, "files") };
  value(await changeRegister(keeper, "t_plates", shape, severally, ["paper"]));
  const page = value(await recordPage(keeper, "t_plates", id));
  expect(page.record["paper"]).toBe(photo);
  expect(page.files[photo]?.name).toBe("alone.jpg");
  expect(await opens(keeper, photo)).toBe(true);
  const more = await file("beside.jpg");
  value(await save({ paper: `${photo}\n${more}` }, id));
  expect(await opens(keeper, more)).toBe(true);
  const now = value(await columnSheet(keeper, "t_plates")).shape;
  const back = await changeRegister(keeper, "t_plates", now, { ...now, columns: as(now, "file") }, ["paper"]);
  expect(codes(back as never)[1]).toContain("made of nothing else");
});
