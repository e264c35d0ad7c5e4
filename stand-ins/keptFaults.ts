import { existsSync, readFileSync, writeFileSync } from "node:fs";
import type { z } from "zod";

/** What a stand-in is told to do wrong, as it is kept in a file. */
export class KeptFaults<T extends object> {
  private now: T;
  constructor(
    private readonly file: string,
    private readonly schema: z.ZodType<T>,
  ) {
    this.now = schema.parse(existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : {});
  }
  get(): T {
    return this.now;
  }
  set(f: Partial<T>): void {
    this.now = this.schema.parse({ ...this.now, ...f });
    writeFileSync(this.file, JSON.stringify(this.now));
  }
}
