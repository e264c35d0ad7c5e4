import { existsSync, readFileSync, writeFileSync } from "node:fs";
import type { IncomingMessage } from "node:http";
import { z } from "zod";
import { escape } from "./look";

/** What a stand-in that takes documents can be told to do wrong. Shares are parts of all calls, from 0 to 1. */
export const TROUBLES = z.strictObject({
  /** Milliseconds before it answers. */
  slow: z.number().min(0).max(60_000).default(0),
  /** Not taken just now (503). */
  refuse: z.number().min(0).max(1).default(0),
  /** Taken, and the connection lost before that is said. */
  loseAfter: z.number().min(0).max(1).default(0),
  /** Done twice, whatever its key. */
  twice: z.number().min(0).max(1).default(0),
});
export type Troubles = z.infer<typeof TROUBLES>;

/** Troubles as they are kept in a file. */
export class KeptTroubles {
  private now: Troubles;
  constructor(private readonly file: string) {
    this.now = TROUBLES.parse(existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : {});
  }
  get(): Troubles {
    return this.now;
  }
  set(t: Partial<Troubles>): void {
    this.now = TROUBLES.parse({ ...this.now, ...t });
    writeFileSync(this.file, JSON.stringify(this.now));
  }
}

/** @param says what each is called here; what is left out cannot be set */
export function troublesForm(t: Troubles, says: Partial<Record<keyof Troubles, string>>): string {
  const inputs = (Object.entries(says) as [keyof Troubles, string][]).map(([name, words]) =>
    name === "slow"
      ? `<label>${escape(words)} <input type="number" min="0" max="60000" name="slow" value="${t.slow}"></label>`
      : `<label>${escape(words)} <span class="soft">(of 100)</span> <input type="number" min="0" max="100" name="${name}" value="${Math.round(t[name] * 100)}"></label>`,
  );
  return `<form method="post" action="/troubles"><p>It works well unless it is told otherwise.</p>${inputs.join("")}<button>Set</button></form>`;
}
export function troublesFrom(form: URLSearchParams): Partial<Troubles> {
  const share = (n: string) => Number(form.get(n) || 0) / 100;
  return {
    slow: Number(form.get("slow") || 0),
    refuse: share("refuse"),
    loseAfter: share("loseAfter"),
    twice: share("twice"),
  };
}

/** @returns null where it is more than so many bytes */
export async function bodyOf(req: IncomingMessage, most: number): Promise<Buffer | null> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const d of req as AsyncIterable<Buffer>) {
    size += d.length;
    if (size > most) return null;
    parts.push(d);
  }
  return Buffer.concat(parts);
}
