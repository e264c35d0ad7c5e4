import { createHash, randomBytes } from "node:crypto";
import { createReadStream } from "node:fs";
import { open, readdir, rm, stat, type FileHandle } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** Something to be kept in a file, as it came: what it comes to is known, and it can be read as often as is needed. */
export interface Spooled {
  /** In hexadecimal. */
  sha256: string;
  size: number;
  parts(): AsyncIterable<Buffer>;
}

export const spooled = (bytes: Buffer): Spooled => ({
  sha256: createHash("sha256").update(bytes).digest("hex"),
  size: bytes.length,
  parts: async function* () {
    yield bytes;
  },
});

/** What nobody has written to for so long was left by a process that was killed. */
const LEFT_MS = 3_600_000;
let cleared: Promise<void> | null = null;

/** Takes away what earlier processes left; once in the life of this one. */
async function clearLeft(): Promise<void> {
  for (const name of await readdir(tmpdir())) {
    if (!/^cobble-[0-9a-f]{24}$/.test(name)) continue;
    const path = join(tmpdir(), name);
    const written = await stat(path).catch(() => null);
    if (written?.isFile() && written.mtimeMs < Date.now() - LEFT_MS) await rm(path, { force: true });
  }
}

/** Takes something in as it comes, on the disk and not in memory; whoever began it drops it in the end. */
export class Spool {
  private readonly hash = createHash("sha256");
  private size = 0;
  private constructor(
    private readonly path: string,
    private readonly file: FileHandle,
  ) {}

  static async begin(): Promise<Spool> {
    await (cleared ??= clearLeft());
    const path = join(tmpdir(), `cobble-${randomBytes(12).toString("hex")}`);
    return new Spool(path, await open(path, "wx", 0o600));
  }

  async take(part: Uint8Array): Promise<void> {
    this.hash.update(part);
    this.size += part.length;
    // A write may take only a part of what it is given.
    for (let at = 0; at < part.length;) at += (await this.file.write(part, at)).bytesWritten;
  }

  /** What came, once all of it has. */
  whole(): Spooled {
    const { path, size } = this;
    return {
      sha256: this.hash.digest("hex"),
      size,
      parts: () => createReadStream(path) as AsyncIterable<Buffer>,
    };
  }

  async drop(): Promise<void> {
    await this.file.close();
    await rm(this.path, { force: true });
  }
}
