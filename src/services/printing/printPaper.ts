import { join } from "node:path";
import { Piscina } from "piscina";
import { lengthOf, MOST_LABELS, MOST_OF_A_PAPER, type LabelSheet, type Paper } from "@/core/paper";
import { Failed } from "../kernel/failure";
import type { Printed } from "./thread";

/** In which papers are, for whoever has them read aloud. */
export const LANGUAGE = "en-IE";

/** Milliseconds after which a paper is given up. */
const MOST_MS = 30_000;

/** Memory a thread has for one. */
const MOST_MB = 1024;

let pool: Piscina<Printed, Uint8Array> | null = null;
const threads = () =>
  (pool ??= new Piscina({
    filename: join(process.cwd(), "dist/src/services/printing/thread.cjs"),
    minThreads: 0,
    // Whoever prints must not keep others from working.
    maxThreads: 1,
    maxQueue: 20,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: MOST_MB },
  }));

/**
 * A paper as a PDF, laid out on another thread.
 * @throws Failed where it is too long, takes too long, or too many wait
 */
export async function printPaper(paper: Paper): Promise<Buffer> {
  const length = lengthOf(paper);
  if (length > MOST_OF_A_PAPER)
    throw tooMuch(
      `It has ${length.toLocaleString("en")} cells and paragraphs; a PDF is made of at most ${MOST_OF_A_PAPER.toLocaleString("en")}. Print the page instead.`,
    );
  return printed({ paper });
}

/** The same of labels. */
export async function printLabels(labels: LabelSheet): Promise<Buffer> {
  const { length } = labels.labels;
  if (length > MOST_LABELS)
    throw tooMuch(
      `These are ${length.toLocaleString("en")} labels; at most ${MOST_LABELS.toLocaleString("en")} are printed at once. Narrow the list down first.`,
    );
  return printed({ labels });
}

async function printed(what: Printed): Promise<Buffer> {
  try {
    return Buffer.from(await threads().run(what, { signal: AbortSignal.timeout(MOST_MS) }));
  } catch (e) {
    const { name, code, message = "" } = e as Partial<Error> & { code?: string };
    if (name === "AbortError" || code === "ERR_WORKER_OUT_OF_MEMORY")
      throw tooMuch(
        `The PDF was not made within ${MOST_MS / 1000} seconds. Try again in a moment, or print less at once.`,
      );
    if (/queue is at limit/i.test(message)) throw new Failed({ code: "unavailable", data: { why: "busy" } });
    throw e;
  }
}

const tooMuch = (message: string) => new Failed({ code: "invalid", data: { path: "", message } });
