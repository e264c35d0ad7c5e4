import { createHash } from "node:crypto";
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  utimesSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { files, inTransaction } from "@/db";
import { keepContent } from "@/services/files/contents/keepContent";
import { Random } from "../../demo/random";
import {
  addFile,
  checkContents,
  clearFolder,
  moveContents,
  openFile,
  spooled,
  startRequest,
  sweepContents,
  SYSTEM,
  type Actor,
} from "@/services";
import { readFile } from "./readFile";
import { openWorld, orderOf, person, sql, value } from "./world";

jest.setTimeout(120_000);

// Before anything asks for the settings: all that is added here goes into a folder.
const folder = mkdtempSync(join(tmpdir(), "cobble-contents-"));
process.env["FILES_FOLDER"] = folder;

let world: Awaited<ReturnType<typeof openWorld>>;
let piet: Actor;
let lucia: Actor;
beforeAll(async () => {
  world = await openWorld();
  [piet, lucia] = [await person("piet.hanlon"), await person("lucia.penrose")];
});
afterAll(async () => {
  await world.close();
  delete process.env["FILES_FOLDER"];
  rmSync(folder, { recursive: true });
});
afterEach(async () => {
  await sql("delete from file where added_by in ('piet.hanlon', 'lucia.penrose') and request_id is null");
  await sweepContents(SYSTEM);
});

const print = (bytes: Buffer) => createHash("sha256").update(bytes).digest("hex");
const pathOf = (bytes: Buffer) => join(folder, print(bytes).slice(0, 2), print(bytes));
const lying = () =>
  (readdirSync(folder, { recursive: true }) as string[]).filter((x) => /[0-9a-f]{64}$/.test(x));
const known = async (bytes: Buffer) =>
  (
    await sql<{ place: string; parts: number }>(
      `select place, (select count(*)::int from content_part p where p.sha256 = c.sha256) as parts
       from content c where sha256 = decode($1, 'hex')`,
      [print(bytes)],
    )
  )[0] ?? null;
const add = async (who: Actor, bytes: Buffer, name = "a.bin") => value(await addFile(who, name, bytes)).id;
const bytesOf = async (who: Actor, id: string) => value(await readFile(who, id)).bytes;
/** Large enough for several parts, the last one short. */
const large = (seed: number) => Buffer.alloc(2_300_000, `part ${seed} `);

it("keeps what is alike once, in the folder, and opens it for each who has it", async () => {
  const [a, b] = [await add(piet, large(1)), await add(lucia, large(1), "b.bin")];
  expect(lying()).toHaveLength(1);
  expect(readFileSync(pathOf(large(1))).equals(large(1))).toBe(true);
  expect((await bytesOf(piet, a)).equals(large(1))).toBe(true);
  expect((await bytesOf(lucia, b)).equals(large(1))).toBe(true);
  expect(await readFile(lucia, a)).toMatchObject({ ok: false });
  await sql("delete from file where id = $1", [a]);
  expect(await sweepContents(SYSTEM)).toBe(0);
  expect((await bytesOf(lucia, b)).equals(large(1))).toBe(true);
  await sql("delete from file where id = $1", [b]);
  expect(await sweepContents(SYSTEM)).toBe(1);
  expect([lying(), await known(large(1))]).toEqual([[], null]);
});

it("moves all of it into the database and back, and reads on where it was begun before", async () => {
  const ids = await Promise.all([1, 2].map((n) => add(piet, large(n))));
  const opened = value(await openFile(piet, ids[0]!)).parts[Symbol.asyncIterator]();
  const begun = (await opened.next()).value as Buffer;
  expect(await moveContents(SYSTEM, "database")).toEqual({ moved: 2, bytes: 4_600_000, damaged: [] });
  expect([lying(), await known(large(1))]).toEqual([[], { place: "database", parts: 3 }]);
  const rest: Buffer[] = [begun];
  for (let n = await opened.next(); !n.done; n = await opened.next()) rest.push(n.value);
  expect(Buffer.concat(rest).equals(large(1))).toBe(true);
  expect(await moveContents(SYSTEM, "database")).toEqual({ moved: 0, bytes: 0, damaged: [] });

  const again = value(await openFile(piet, ids[1]!)).parts[Symbol.asyncIterator]();
  const first = (await again.next()).value as Buffer;
  expect(await moveContents(SYSTEM, "folder")).toMatchObject({ moved: 2 });
  expect(lying()).toHaveLength(2);
  expect(await known(large(2))).toEqual({ place: "folder", parts: 0 });
  const left: Buffer[] = [first];
  for (let n = await again.next(); !n.done; n = await again.next()) left.push(n.value);
  expect(Buffer.concat(left).equals(large(2))).toBe(true);
});

it("hands out nothing whole that is not what was kept, and says which it is", async () => {
  const [good, bad, gone] = [await add(piet, large(3)), await add(piet, large(4)), await add(piet, large(5))];
  const spoilt = readFileSync(pathOf(large(4)));
  spoilt[1_500_000]! ^= 1;
  writeFileSync(pathOf(large(4)), spoilt);
  rmSync(pathOf(large(5)));
  expect((await bytesOf(piet, good)).equals(large(3))).toBe(true);
  const taken: Buffer[] = [];
  await expect(
    (async () => {
      for await (const part of value(await openFile(piet, bad)).parts) taken.push(part);
    })(),
  ).rejects.toThrow(print(large(4)));
  expect(Buffer.concat(taken).length).toBeLessThan(2_300_000);
  await expect(readFile(piet, gone)).rejects.toThrow(print(large(5)));
  const damaged = [print(large(4)), print(large(5))].sort();
  expect(await checkContents(SYSTEM)).toMatchObject({ damaged });
  expect(await moveContents(SYSTEM, "database")).toEqual({ moved: 1, bytes: 2_300_000, damaged });
  expect(await known(large(4))).toEqual({ place: "folder", parts: 0 });
  // What is spoilt in the database is found, too, and is not moved.
  await sql(
    "update content_part set bytes = set_byte(bytes, 0, 7) where nth = 2 and sha256 = decode($1, 'hex')",
    [print(large(3))],
  );
  await expect(readFile(piet, good)).rejects.toThrow(print(large(3)));
  expect(await moveContents(SYSTEM, "folder")).toEqual({ moved: 0, bytes: 0, damaged: [print(large(3))] });
  expect((await known(large(3)))!.parts).toBe(3);
  expect(existsSync(pathOf(large(3)))).toBe(false);
});

it("takes from the folder what belongs to nothing, once nobody can be writing it any more", async () => {
  const kept = Buffer.from("kept");
  const stray = Buffer.from("stray");
  const id = await add(piet, kept);
  mkdirSync(join(folder, print(stray).slice(0, 2)), { recursive: true });
  writeFileSync(pathOf(stray), stray);
  mkdirSync(join(folder, "coming"), { recursive: true });
  const half = join(folder, "coming", "half");
  writeFileSync(half, "ha");
  expect(await checkContents(SYSTEM)).toEqual({ contents: 1, bytes: 4, damaged: [] });
  expect(await clearFolder(SYSTEM)).toBe(0);
  const old = new Date(Date.now() - 2 * 3_600_000);
  for (const path of [pathOf(kept), pathOf(stray), half]) utimesSync(path, old, old);
  expect(await clearFolder(SYSTEM)).toBe(2);
  expect(await checkContents(SYSTEM)).toMatchObject({ damaged: [] });
  expect([existsSync(pathOf(stray)), existsSync(half), await known(stray)]).toEqual([false, false, null]);
  expect((await bytesOf(piet, id)).toString()).toBe("kept");
});

it("loses nothing where the same comes, goes and is moved at once", async () => {
  const r = new Random(7);
  for (let round = 0; round < 12; round++) {
    const bytes = Buffer.from(`same ${round % 3}`);
    const held = await Promise.all([
      add(piet, bytes),
      sweepContents(SYSTEM),
      r.next() < 0.5 ? moveContents(SYSTEM, round % 2 === 0 ? "database" : "folder") : null,
      add(lucia, bytes),
      sweepContents(SYSTEM),
      checkContents(SYSTEM),
    ]);
    expect((await bytesOf(piet, held[0])).equals(bytes)).toBe(true);
    expect((await bytesOf(lucia, held[3])).equals(bytes)).toBe(true);
    await Promise.all([
      sql("delete from file where id = any($1)", [[held[0], held[3]]]),
      sweepContents(SYSTEM),
    ]);
  }
});

describe("whoever adds what is just being removed", () => {
  /** Adds a file, and waits a while between its contents and itself. */
  const slowly = (bytes: Buffer, meanwhile: () => Promise<unknown>) =>
    inTransaction(async (tx) => {
      const came = spooled(bytes);
      await keepContent(tx, came);
      const beside = meanwhile();
      await new Promise((done) => setTimeout(done, 300));
      await files.insertFile(tx, {
        id: "slow",
        name: "slow.bin",
        mediaType: "application/octet-stream",
        sha256: came.sha256,
        size: came.size,
        at: new Date().toISOString(),
        by: "piet.hanlon",
        request: null,
        message: null,
      });
      return { beside };
    });
  const bytes = Buffer.from("slow");

  it("has it, where nobody had it before", async () => {
    await sql("delete from file where id = $1", [await add(piet, bytes)]);
    const { beside } = await slowly(bytes, () => sweepContents(SYSTEM));
    expect(await beside).toBe(0);
    expect((await bytesOf(piet, "slow")).equals(bytes)).toBe(true);
  });

  it("has it, where it lay in the folder and belonged to nothing", async () => {
    mkdirSync(join(folder, print(bytes).slice(0, 2)), { recursive: true });
    writeFileSync(pathOf(bytes), bytes);
    const old = new Date(Date.now() - 2 * 3_600_000);
    utimesSync(pathOf(bytes), old, old);
    const { beside } = await slowly(bytes, () => clearFolder(SYSTEM));
    expect(await beside).toBe(0);
    expect((await bytesOf(piet, "slow")).equals(bytes)).toBe(true);
  });

  it("keeps it anew, where whoever removed it was stopped half-way", async () => {
    await sql("delete from file where id = $1", [await add(piet, bytes)]);
    rmSync(pathOf(bytes));
    const id = await add(piet, bytes);
    expect((await bytesOf(piet, id)).equals(bytes)).toBe(true);
  });
});

it("is as a plain list of files would be, whatever comes after what", async () => {
  const r = new Random(20261130);
  const model = new Map<string, Buffer>();
  const words = ["oar", "net", "rope", "rope ".repeat(300_000), "buoy"].map((x) => Buffer.from(x));
  for (let i = 0; i < 120; i++) {
    const what = r.int(0, 9);
    const ids = [...model.keys()];
    const some = ids[r.int(0, Math.max(0, ids.length - 1))];
    if (what < 4) model.set(await add(piet, words[r.int(0, words.length - 1)]!), Buffer.alloc(0));
    else if (what < 6 && some !== undefined) {
      await sql("delete from file where id = $1", [some]);
      model.delete(some);
    } else if (what === 6) await sweepContents(SYSTEM);
    else if (what === 7) expect((await moveContents(SYSTEM, "database")).damaged).toEqual([]);
    else if (what === 8) expect((await moveContents(SYSTEM, "folder")).damaged).toEqual([]);
    else {
      expect(await clearFolder(SYSTEM)).toBe(0);
      expect((await checkContents(SYSTEM)).damaged).toEqual([]);
    }
    for (const [id, bytes] of model) {
      const now = await bytesOf(piet, id);
      if (bytes.length === 0) model.set(id, now);
      else expect(now.equals(bytes)).toBe(true);
      expect(words.some((w) => w.equals(now))).toBe(true);
    }
  }
  await sweepContents(SYSTEM);
  const rows = await sql<{ n: number }>("select count(distinct sha256)::int as n from file");
  const all = await sql<{ n: number }>("select count(*)::int as n from content");
  expect(all).toEqual(rows);
});

it("takes a file of a hundred megabytes, and goes with its request", async () => {
  const bytes = Buffer.alloc(100_000_000, "a hundred megabytes ");
  const id = await add(piet, bytes, "all.bin");
  expect(await moveContents(SYSTEM, "database")).toMatchObject({ bytes: expect.any(Number) as number });
  let size = 0;
  let most = 0;
  for await (const part of value(await openFile(piet, id)).parts) {
    size += part.length;
    most = Math.max(most, part.length);
  }
  expect([size, most]).toEqual([100_000_000, 1_000_000]);
  // The field of this form says ten megabytes.
  expect(await startRequest(piet, "supplies", { ...orderOf(2), quote: id })).toMatchObject({ ok: false });
});
