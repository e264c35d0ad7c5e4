import { join } from "node:path";
import { Piscina } from "piscina";
import { Failed } from "../kernel/failure";
import type { DocxDone, DocxWork } from "./thread";

/** Milliseconds a file is worked on, and the memory a thread has for it. */
const MOST_MS = 60_000;
const MOST_MB = 1024;

let pool: Piscina<DocxWork, DocxDone> | null = null;
const threads = () =>
  (pool ??= new Piscina({
    filename: join(process.cwd(), "dist/src/services/documents/thread.cjs"),
    minThreads: 0,
    maxThreads: 1,
    maxQueue: 50,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: MOST_MB },
  }));

/**
 * Reads, fills or rewrites a file of the word processor on another thread.
 * @throws Failed where the file is no template, takes too long or too much, or too many wait
 */
export async function docxWork(work: DocxWork): Promise<Exclude<DocxDone, { wrong: string }>> {
  try {
    const done = await threads().run(work, { signal: AbortSignal.timeout(MOST_MS) });
    if ("wrong" in done) throw refused(done.wrong);
    return done;
  } catch (e) {
    const { name, code, message = "" } = e as Partial<Error> & { code?: string };
    if (name === "AbortError" || code === "ERR_WORKER_OUT_OF_MEMORY")
      throw refused(`It took more than ${MOST_MS / 1000} seconds, or too much memory. Make it shorter.`);
    if (/queue is at limit/i.test(message)) throw new Failed({ code: "unavailable", data: { why: "busy" } });
    throw e;
  }
}

export const refused = (message: string) => new Failed({ code: "invalid", data: { path: "", message } });
