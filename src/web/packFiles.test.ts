import yauzl from "yauzl";
import type { PackedFile } from "@/services";
import { packFiles } from "./packFiles";

const AT = Date.UTC(2026, 2, 3, 10);
const file = (id: string, path: string): PackedFile => ({ id, path, size: 1, at: AT });
const partsOf = async function* (text: string) {
  yield Buffer.from(text);
};
const bytesOf = async (stream: ReadableStream<Uint8Array>) => {
  const parts: Uint8Array[] = [];
  for await (const part of stream as unknown as AsyncIterable<Uint8Array>) parts.push(part);
  return Buffer.concat(parts);
};
/** What is in a ZIP, by path. */
async function unpacked(zip: Buffer): Promise<Record<string, string>> {
  const open = await new Promise<yauzl.ZipFile>((done, failed) =>
    yauzl.fromBuffer(zip, { lazyEntries: false }, (e, z) => (e ? failed(e) : done(z))),
  );
  const out: Record<string, string> = {};
  const read: Promise<void>[] = [];
  open.on("entry", (entry: yauzl.Entry) =>
    read.push(
      new Promise((done, failed) =>
        open.openReadStream(entry, (e, stream) => {
          if (e) return failed(e);
          const parts: Buffer[] = [];
          stream.on("data", (b: Buffer) => parts.push(b));
          stream.on("end", () => {
            out[entry.fileName] = Buffer.concat(parts).toString();
            done();
          });
        }),
      ),
    ),
  );
  await new Promise((done) => open.on("end", done));
  await Promise.all(read);
  return out;
}

it("packs what is read, one after the other, with folders and names beyond ASCII", async () => {
  const order: string[] = [];
  const read = async (id: string) => {
    order.push(`${id} begun`);
    await new Promise((done) => setTimeout(done, 5));
    order.push(`${id} read`);
    return partsOf(`of ${id}`.repeat(id === "a" ? 20_000 : 1));
  };
  const zip = packFiles([file("a", "Año.txt"), file("b", "Letters/b.png")], read);
  const out = await unpacked(await bytesOf(zip));
  expect(Object.keys(out).sort()).toEqual(["Año.txt", "Letters/b.png"]);
  expect(out["Letters/b.png"]).toBe("of b");
  expect(out["Año.txt"]).toHaveLength(80_000);
  expect(order).toEqual(["a begun", "a read", "b begun", "b read"]);
});

it("breaks off where a file is not there any more, or cannot be read: a part is not taken for all", async () => {
  const gone = packFiles([file("a", "a"), file("b", "b")], async (id) => (id === "a" ? partsOf("a") : null));
  await expect(bytesOf(gone)).rejects.toThrow("b cannot be read any more");
  const failing = packFiles([file("a", "a")], () => Promise.reject(new Error("no database")));
  await expect(bytesOf(failing)).rejects.toThrow("no database");
});

it("reads no more for a caller who has left", async () => {
  const read: string[] = [];
  const all = Array.from({ length: 50 }, (_, i) => file(`f${i}`, `f${i}.png`));
  const stream = packFiles(all, async (id) => {
    read.push(id);
    return partsOf(id.repeat(150_000));
  });
  const reader = stream.getReader();
  await reader.read();
  await reader.cancel();
  await new Promise((done) => setTimeout(done, 50));
  expect(read.length).toBeLessThan(10);
});
