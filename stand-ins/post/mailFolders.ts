import {
  chownSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { join } from "node:path";

/** What a mail is called in its folder, and whether somebody has read it. */
export interface Kept {
  name: string;
  read: boolean;
}

/** Addresses as folders: nothing but what an address is made of, so that none leads out of the folder. */
const SAFE = /^[a-z0-9._+'-]{1,64}@[a-z0-9.-]{1,180}$/;

/** Mailboxes as Maildir folders, which the IMAP server serves and the page reads. */
export class MailFolders {
  private made = 0;

  /** @param owner who the files are to belong to, where that is not whoever runs this */
  constructor(
    readonly root: string,
    private readonly owner: { uid: number; gid: number } | null,
  ) {
    this.makeFolder(root);
  }

  private makeFolder(path: string) {
    if (existsSync(path)) return;
    mkdirSync(path, { recursive: true, mode: 0o755 });
    if (this.owner) chownSync(path, this.owner.uid, this.owner.gid);
  }

  private folder(address: string): string {
    const key = address.trim().toLowerCase();
    if (!SAFE.test(key) || key.includes("..")) throw new Error(`"${address}" is no address`);
    return join(this.root, key);
  }

  /** Makes a mailbox where there is none. */
  open(address: string) {
    const folder = this.folder(address);
    this.makeFolder(folder);
    for (const part of ["tmp", "new", "cur"]) this.makeFolder(join(folder, part));
  }

  addresses(): string[] {
    return readdirSync(this.root)
      .filter((a) => a.includes("@"))
      .sort();
  }

  /** Puts a mail into a mailbox; whoever watches it sees it whole or not at all. */
  deliver(address: string, raw: Buffer): string {
    this.open(address);
    const folder = this.folder(address);
    const name = `${Math.floor(Date.now() / 1000)}.M${String(Date.now() % 1000).padStart(3, "0")}P${process.pid}Q${String(++this.made).padStart(6, "0")}.post`;
    const written = join(folder, "tmp", name);
    writeFileSync(written, raw, { mode: 0o644 });
    if (this.owner) chownSync(written, this.owner.uid, this.owner.gid);
    renameSync(written, join(folder, "new", name));
    return name;
  }

  /** Newest first. */
  list(address: string): Kept[] {
    const folder = this.folder(address);
    const found = (part: string) => {
      const path = join(folder, part);
      return existsSync(path) ? readdirSync(path).filter((f) => !f.startsWith(".")) : [];
    };
    const all = [
      ...found("new").map((name) => ({ name, read: false })),
      ...found("cur").map((name) => ({ name, read: /:2,.*S/.test(name) })),
    ];
    const key = (n: string) => n.split(":")[0]!;
    return all.sort((a, b) => (key(a.name) < key(b.name) ? 1 : -1));
  }

  /** Null where there is no such mail (any more). @param name with or without what has become of it */
  read(address: string, name: string): Buffer | null {
    const at = this.place(address, name);
    return at ? readFileSync(at) : null;
  }

  private place(address: string, name: string): string | null {
    const [id] = name.split(":");
    const kept = this.list(address).find((k) => k.name.split(":")[0] === id);
    if (!kept) return null;
    const folder = this.folder(address);
    const paths = [join(folder, "new", kept.name), join(folder, "cur", kept.name)];
    return paths.find((p) => existsSync(p)) ?? null;
  }

  markRead(address: string, name: string) {
    const at = this.place(address, name);
    if (!at || /:2,.*S/.test(at)) return;
    const [id] = name.split(":");
    const flags = /:2,(.*)$/.exec(at)?.[1] ?? "";
    renameSync(
      at,
      join(this.folder(address), "cur", `${id}:2,${[...new Set([...flags, "S"])].sort().join("")}`),
    );
  }

  /** Takes all mail away, and leaves the mailboxes. */
  empty() {
    for (const a of this.addresses())
      for (const part of ["new", "cur"]) {
        const folder = join(this.root, a, part);
        for (const f of existsSync(folder) ? readdirSync(folder) : []) rmSync(join(folder, f));
      }
  }
}
