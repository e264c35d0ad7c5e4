import { createHash, randomBytes } from "node:crypto";
import { createReadStream } from "node:fs";
import { mkdir, open, readdir, rename, rm, stat } from "node:fs/promises";
import { join } from "node:path";

/** There is nothing of that fingerprint. */
export class NotThere extends Error {}
/** What was to be kept is not what its fingerprint says. */
export class Damaged extends Error {}

const PRINT = /^[0-9a-f]{64}$/;
/** What is being written; it counts only under its own name. */
const COMING = "coming";

/**
 * Contents in a folder, each in a file of its own named by its SHA-256, in folders by the first two digits. A file there is
 * whole: it is written under another name, held against its fingerprint, brought to the disk, and then given its name.
 */
export class ContentFolder {
  constructor(readonly root: string) {}

  /** Keeps contents; nothing where they are there already. @throws Damaged */
  async put(sha256: string, size: number, parts: AsyncIterable<Uint8Array>): Promise<void> {
    const to = this.pathOf(sha256);
    if ((await sizeOf(to)) === size) return;
    const coming = join(this.root, COMING, randomBytes(12).toString("hex"));
    await mkdir(join(this.root, COMING), { recursive: true, mode: 0o700 });
    const file = await open(coming, "wx", 0o600);
    try {
      const hash = createHash("sha256");
      for await (const part of parts) {
        hash.update(part);
        // A write may take only a part of what it is given.
        for (let at = 0; at < part.length;) at += (await file.write(part, at)).bytesWritten;
      }
      if (hash.digest("hex") !== sha256) throw new Damaged(sha256);
      await file.sync();
      await file.close();
      await mkdir(join(to, ".."), { recursive: true, mode: 0o700 });
      await rename(coming, to);
      await syncFolder(join(to, ".."));
    } catch (e) {
      await file.close().catch(() => undefined);
      await rm(coming, { force: true });
      throw e;
    }
  }

  /** Contents from a byte on. @throws NotThere */
  async *read(sha256: string, from = 0): AsyncGenerator<Buffer> {
    try {
      yield* createReadStream(this.pathOf(sha256), { start: from }) as AsyncIterable<Buffer>;
    } catch (e) {
      if ((e as { code?: string }).code === "ENOENT") throw new NotThere(sha256);
      throw e;
    }
  }

  remove(sha256: string): Promise<void> {
    return rm(this.pathOf(sha256), { force: true });
  }

  /** The fingerprints of all that lies there, some hundreds at a time. */
  async *prints(): AsyncGenerator<string[]> {
    for (const folder of await names(this.root)) {
      const all = await names(join(this.root, folder));
      const own = all.filter((x) => PRINT.test(x) && x.startsWith(folder));
      if (own.length > 0) yield own;
    }
  }

  /** Whether it was written longer ago than so many milliseconds. */
  isOlder(sha256: string, ms: number): Promise<boolean> {
    return isOlder(this.pathOf(sha256), ms);
  }

  /** Takes away what was begun so long ago and never came to be anything. @returns how many */
  async clearComing(ms: number): Promise<number> {
    let gone = 0;
    for (const name of await names(join(this.root, COMING))) {
      const path = join(this.root, COMING, name);
      if (!(await isOlder(path, ms))) continue;
      await rm(path, { force: true });
      gone++;
    }
    return gone;
  }

  /** Why nothing can be kept there, in a sentence; null where it can. */
  async trouble(): Promise<string | null> {
    const path = join(this.root, `.${randomBytes(6).toString("hex")}`);
    try {
      await (await open(path, "wx", 0o600)).close();
      await rm(path);
      return null;
    } catch (e) {
      return `Files cannot be kept in ${this.root}: ${(e as Error).message}.`;
    }
  }

  private pathOf(sha256: string): string {
    if (!PRINT.test(sha256)) throw new Error(`"${sha256}" is no fingerprint`);
    return join(this.root, sha256.slice(0, 2), sha256);
  }
}

const sizeOf = async (path: string): Promise<number | null> =>
  (await stat(path).catch(() => null))?.size ?? null;
const isOlder = async (path: string, ms: number): Promise<boolean> => {
  const written = await stat(path).catch(() => null);
  return written?.isFile() === true && written.mtimeMs < Date.now() - ms;
};
const names = (folder: string): Promise<string[]> => readdir(folder).catch(() => []);

/** The name of a file is kept only once its folder is. */
async function syncFolder(path: string): Promise<void> {
  const folder = await open(path, "r");
  try {
    await folder.sync();
  } finally {
    await folder.close();
  }
}
