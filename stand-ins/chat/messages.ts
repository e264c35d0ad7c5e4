import { randomUUID } from "node:crypto";
import { existsSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import type { Kept, Message } from "./message";

const MOST_KEPT = 5000;

/** All messages, in a file of its own. */
export class Messages {
  private readonly all: Map<string, Kept>;
  private readonly byKey: Map<string, string>;
  constructor(private readonly file: string) {
    const kept = existsSync(file) ? (JSON.parse(readFileSync(file, "utf8")) as Kept[]) : [];
    this.all = new Map(kept.map((m) => [m.id, m]));
    this.byKey = new Map(kept.map((m) => [m.key, m.id]));
  }

  /** The same key is the same message. */
  post(key: string, to: Kept["to"], message: Message, now: number): { id: string; fresh: boolean } {
    const known = this.byKey.get(key);
    if (known !== undefined) return { id: known, fresh: false };
    const id = randomUUID();
    this.all.set(id, { id, key, to, message, at: now, changes: 0 });
    this.byKey.set(key, id);
    for (const [old, m] of this.all) {
      if (this.all.size <= MOST_KEPT) break;
      this.all.delete(old);
      this.byKey.delete(m.key);
    }
    this.save();
    return { id, fresh: true };
  }
  replace(id: string, message: Message): boolean {
    const m = this.all.get(id);
    if (!m) return false;
    this.all.set(id, { ...m, message, changes: m.changes + 1 });
    this.save();
    return true;
  }
  get(id: string): Kept | null {
    return this.all.get(id) ?? null;
  }
  /** The newest first. */
  of(to: Kept["to"]): Kept[] {
    const same = (m: Kept) =>
      "room" in to
        ? "room" in m.to && m.to.room === to.room
        : "account" in m.to && m.to.account === to.account;
    return [...this.all.values()].filter(same).reverse();
  }
  private save(): void {
    writeFileSync(`${this.file}.new`, JSON.stringify([...this.all.values()]));
    renameSync(`${this.file}.new`, this.file);
  }
}
