import { crc32, deflateSync } from "node:zlib";
import sharp from "sharp";
import type { RequestState } from "@/core/engine";
import type { Field } from "@/core/form";
import { portsOf } from "@/core/kinds";
import type { ProcessDefinition, Step } from "@/core/route";
import { getPool, requests } from "@/db";
import {
  act,
  addFile,
  blankDue,
  createProcess,
  moveClock,
  readSmall,
  releaseDraft,
  replayRequests,
  requestView,
  startRequest,
  SYSTEM,
  taskView,
  type Actor,
} from "@/services";
import { workOff } from "./workOff";
import { openWorld, person, sql, value } from "./world";
import { readFile } from "./readFile";

jest.setTimeout(60_000);

let world: Awaited<ReturnType<typeof openWorld>>;
let lucia: Actor;
let piet: Actor;
let ruben: Actor;
let tobias: Actor;
beforeAll(async () => {
  world = await openWorld();
  await sql("delete from graphile_worker._private_jobs");
  [lucia, piet, ruben, tobias] = (await Promise.all(
    ["lucia.penrose", "piet.hanlon", "ruben.aske", "tobias.marrin"].map(person),
  )) as [Actor, Actor, Actor, Actor];
});
afterEach(() => workOff());
afterAll(() => world.close());

let made = 0;
async function released(more: Partial<ProcessDefinition>): Promise<ProcessDefinition> {
  const key = `several-files-${++made}`;
  const d: ProcessDefinition = {
    format: "cobble-step/process@2",
    key,
    name: key,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix: `SF${made}X`, digits: 4 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    fields: FIELDS,
    access: {},
    route: [],
    samples: [],
    ...more,
  };
  value(await createProcess(SYSTEM, d));
  value(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  return d;
}
const FIELDS: Field[] = [
  { id: "papers", name: "Papers", kind: "files", options: ["pdf", "txt"] },
  { id: "secret", name: "Secret", kind: "files" },
  {
    id: "rows",
    name: "Rows",
    kind: "lines",
    fields: [{ id: "shots", name: "Shots", kind: "files" }],
  },
  { id: "many", name: "Many", kind: "number", worked: "count(Papers)" },
];
const fill = (who: string, id = "fill"): Step =>
  ({
    id,
    name: id,
    kind: "complete",
    who: { rule: { by: "person", person: who }, how: "one" },
    button: "Done",
  }) as Step;
const fin: Step = { id: "z", name: "Finish", kind: "finish", result: "done", tone: "agree" } as Step;
const add = async (who: Actor, name: string, bytes: Buffer | string = name) =>
  value(await addFile(who, name, Buffer.from(bytes))).id;
const opens = async (who: Actor, ids: readonly string[]): Promise<boolean[]> =>
  Promise.all(ids.map(async (id) => (await readFile(who, id)).ok));
const stateOf = async (number: string): Promise<RequestState> =>
  (await requests.requestForCommand(getPool(), { number }, false))!.state;
const taskOf = async (number: string) =>
  Object.values((await stateOf(number)).tasks).find((t) => t.status === "open")!.id;
const answer = async (who: Actor, number: string, data: Record<string, unknown>) =>
  act(who, number, {
    type: "answer",
    task: await taskOf(number),
    answer: "done",
    note: "",
    data: data as never,
  });

it("each goes with the request, in fields and lines, and is opened by who may see where it stands", async () => {
  const d = await released({
    access: { fill: { papers: "edit", secret: "hide" } },
    route: [fill("piet.hanlon"), fin],
  });
  const [a, b, hidden, shot] = [
    await add(lucia, "a.pdf"),
    await add(lucia, "b.txt"),
    await add(lucia, "hidden.txt"),
    await add(lucia, "shot.png"),
  ];
  const number = value(
    await startRequest(lucia, d.key, {
      papers: `${a}\n${b}`,
      secret: hidden,
      rows: [{ "#": "1", shots: `${shot}\n${shot}` }],
    }),
  ).number;
  expect(await sql("select id from file where request_id is null")).toEqual([]);
  const view = value(await taskView(piet, number, await taskOf(number)));
  expect(view.form.data).toMatchObject({ papers: `${a}\n${b}`, many: "2" });
  expect(Object.keys(view.form.facts.files ?? {}).sort()).toEqual([a, b, shot].sort());
  expect(JSON.stringify(view)).not.toContain(hidden);
  expect(await opens(lucia, [a, b, hidden, shot])).toEqual([true, true, true, true]);
  expect(await opens(piet, [a, b, hidden, shot])).toEqual([true, true, false, true]);
  expect(await opens(ruben, [a, b, hidden, shot])).toEqual([false, false, false, false]);
  // One more beside those of somebody else, by whoever fills it in now; it goes with the request just as well.
  const [c, left] = [await add(piet, "c.pdf"), await add(piet, "left.pdf")];
  expect(await opens(lucia, [c])).toEqual([false]);
  value(await answer(piet, number, { papers: `${a}\n${c}`, secret: left }));
  expect(await stateOf(number)).toMatchObject({ data: { papers: `${a}\n${c}`, secret: hidden, many: "2" } });
  expect(await opens(lucia, [a, b, c, left])).toEqual([true, false, true, false]);
  // What was not kept stays theirs.
  expect(await sql("select id from file where request_id is null")).toEqual([{ id: left }]);
  const changed = value(await requestView(lucia, number)).trail.flatMap((l) => l.changes ?? []);
  expect(changed).toContainEqual({ name: "Papers", from: "a.pdf, b.txt", to: "a.pdf, c.pdf", row: null });
});

it("one that is somebody else's, or gone, among others keeps the form from being sent", async () => {
  const d = await released({ route: [fin] });
  const [mine, theirs] = [await add(lucia, "mine.pdf"), await add(piet, "theirs.pdf")];
  for (const papers of [`${mine}\n${theirs}`, `${mine}\nnothing`, `${theirs}\n${mine}`])
    expect(await startRequest(lucia, d.key, { papers })).toMatchObject({
      failure: { data: { data: { problems: [{ path: "papers", code: "no-file" }] } } },
    });
  expect(await opens(lucia, [mine, theirs])).toEqual([true, false]);
  expect(await startRequest(lucia, d.key, { papers: 7 as never })).toMatchObject({ ok: false });
  value(await startRequest(lucia, d.key, { papers: mine }));
});

it("two requests at once with one file among theirs: one has it", async () => {
  const d = await released({ route: [fin] });
  const [a, b, both] = [await add(lucia, "a.pdf"), await add(lucia, "b.pdf"), await add(lucia, "both.pdf")];
  const sent = await Promise.all([a, b].map((x) => startRequest(lucia, d.key, { papers: `${x}\n${both}` })));
  expect(sent.filter((r) => r.ok)).toHaveLength(1);
});

it("go as copies to a request another one starts, and with the values they stand in when those are blanked", async () => {
  const child = await released({
    starts: [{ id: "handed", kind: "handed", from: { by: "any" } }],
    fields: FIELDS.map((f) => (f.id === "papers" ? { ...f, hand: "in" as const } : f)),
    route: [fin],
  });
  const go = {
    id: "go",
    name: "Go",
    kind: "start request",
    process: child.key,
    ...portsOf(child.fields),
    values: [{ port: "papers", value: 'Papers[ends with(name, ".pdf")]' }],
    waits: true,
    endsWith: true,
  } as Step;
  const parent = await released({
    keepPersonalDays: 30,
    fields: FIELDS.map((f) => (f.id === "papers" ? { ...f, personal: true as const } : f)),
    route: [go, fin],
  });
  const [a, b, c, open] = [
    await add(lucia, "a.pdf"),
    await add(lucia, "b.txt"),
    await add(lucia, "c.pdf"),
    await add(lucia, "open.txt"),
  ];
  const { number } = value(
    await startRequest(lucia, parent.key, { papers: [a, b, c].join("\n"), secret: open }),
  );
  await workOff();
  expect((await stateOf(number)).status).toBe("finished");
  const [kid] = await sql<{ number: string; papers: string }>(
    "select number, state #>> '{data,papers}' as papers from request where process_key = $1",
    [child.key],
  );
  const copies = kid!.papers.split("\n");
  expect(copies).toHaveLength(2);
  expect(copies.some((x) => [a, b, c].includes(x))).toBe(false);
  const names = await Promise.all(copies.map(async (x) => value(await readFile(lucia, x)).file.name));
  expect(names).toEqual(["a.pdf", "c.pdf"]);
  value(await moveClock(tobias, 31 * 86_400_000, true));
  await blankDue(SYSTEM);
  const left = await sql<{ id: string }>("select id from file where id = any($1) order by id", [
    [a, b, c, open, ...copies],
  ]);
  expect(left.map((f) => f.id)).toEqual([open, ...copies].sort());
  expect((await replayRequests(SYSTEM)).differ).toEqual([]);
});

/** A white picture in one bit a point, which packs to next to nothing (PNG, RFC 2083). */
function blank(side: number): Buffer {
  const part = (name: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(name), data]);
    const ends = Buffer.alloc(8);
    ends.writeUInt32BE(data.length, 0);
    ends.writeUInt32BE(crc32(body), 4);
    return Buffer.concat([ends.subarray(0, 4), body, ends.subarray(4)]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(side, 0);
  head.writeUInt32BE(side, 4);
  head[8] = 1;
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    part("IHDR", head),
    part("IDAT", deflateSync(Buffer.alloc(side * (1 + side / 8)))),
    part("IEND", Buffer.alloc(0)),
  ]);
}

describe("a small picture", () => {
  const png = (side: number) =>
    sharp({ create: { width: side, height: side / 2, channels: 3, background: "#7a8b5c" } })
      .png()
      .toBuffer();

  it("is made of a picture for whoever may read it, once", async () => {
    const d = await released({ route: [fin] });
    const id = await add(lucia, "photo.png", await png(1000));
    expect(await readSmall(piet, id)).toMatchObject({ ok: false, failure: { code: "not-found" } });
    value(await startRequest(lucia, d.key, { secret: id }));
    const small = value(await readSmall(lucia, id));
    expect(small.file).toMatchObject({ id, name: "photo.png.webp", type: "image/webp" });
    expect(await sharp(small.bytes).metadata()).toMatchObject({ format: "webp", width: 160, height: 80 });
    await sql("update file_small set bytes = $2 where file_id = $1", [id, Buffer.from("kept")]);
    expect(value(await readSmall(lucia, id)).bytes.toString()).toBe("kept");
    expect(await readSmall(ruben, id)).toMatchObject({ ok: false, failure: { code: "not-found" } });
  });

  it("is tried again where its contents could not be fetched, or there was no time", async () => {
    const id = await add(lucia, "later.png", await png(300));
    await sql("alter table content_part rename to content_part_away");
    await expect(readSmall(lucia, id)).rejects.toThrow();
    await sql("alter table content_part_away rename to content_part");
    expect(await sql("select 1 from file_small where file_id = $1", [id])).toEqual([]);
    expect(value(await readSmall(lucia, id)).file.type).toBe("image/webp");
  });

  it("is turned as the camera was held, and tells nothing of what the camera wrote", async () => {
    const shot = await sharp({ create: { width: 400, height: 200, channels: 3, background: "#000" } })
      .withExif({ IFD0: { Copyright: "where it was taken" } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    const is = await sharp(value(await readSmall(lucia, await add(lucia, "s.jpg", shot))).bytes).metadata();
    expect([is.width, is.height, is.exif, is.orientation]).toEqual([80, 160, undefined, undefined]);
  });

  it("is none of what only says so, of what is too large to be drawn, and of other files", async () => {
    // Some kilobytes that are a picture of 12,000 by 12,000.
    const huge = blank(12_000);
    expect(huge.length).toBeLessThan(100_000);
    // A smaller one of the same kind is drawn.
    expect(await readSmall(lucia, await add(lucia, "blank.png", blank(800)))).toMatchObject({ ok: true });
    const drawing = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>1</script></svg>';
    for (const [name, bytes] of [
      ["broken.png", "not one at all"],
      ["huge.png", huge],
      ["drawing.svg", drawing],
      ["words.txt", "words"],
    ] as const) {
      const id = await add(lucia, name, bytes);
      for (const again of [false, true])
        expect([name, again, await readSmall(lucia, id)]).toMatchObject([
          name,
          again,
          { ok: false, failure: { code: "invalid", data: { message: expect.stringContaining(name) } } },
        ]);
      // It can be saved as ever.
      expect(await opens(lucia, [id])).toEqual([true]);
    }
  });
});
