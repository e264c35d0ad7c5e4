import { spawn, type ChildProcessWithoutNullStreams } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { readFile, rm, writeFile } from "node:fs/promises";
import type { Socket } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { z } from "zod";

/** Pages of one document: more is none that anybody signs. */
export const MOST_PAGES = 500;
/** Milliseconds the program has for one document, and to start. */
const MOST_MS = 60_000;
/** Milliseconds after which a program nobody needs is ended. */
const IDLE_MS = 300_000;

/** Why no PDF was made. `missing`: the office program is not installed, or does not start here. */
export class NoPdf extends Error {
  constructor(
    readonly why: "missing" | "unreadable" | "long" | "late" | "failed",
    readonly pages = 0,
  ) {
    super(`no PDF: ${why}`);
  }
}

const READY = z.object({ ready: z.literal(true) });
const ANSWER = z.union([
  z.object({ ok: z.literal(true), pages: z.number() }),
  z.object({
    ok: z.literal(false),
    why: z.enum(["unreadable", "long", "failed"]),
    pages: z.number().optional(),
  }),
]);

/** The program of this process: with a profile of its own, and no network. */
interface Office {
  child: ChildProcessWithoutNullStreams;
  lines: AsyncIterator<string>;
  profile: string;
}
let office: Promise<Office> | null = null;
let idle: NodeJS.Timeout | undefined;
let last: Promise<unknown> = Promise.resolve();

/**
 * A DOCX as a PDF (tagged, so that it can be searched and read aloud), by the office program, which is kept running. One
 * after the other: it does one at a time.
 * @throws NoPdf
 */
export function pdfOf(docx: Buffer): Promise<{ pdf: Buffer; pages: number }> {
  const mine = last.then(() => converted(docx));
  last = mine.catch(() => {});
  return mine;
}

/** Ends the program, where one runs. */
export async function closeOffice(): Promise<void> {
  clearTimeout(idle);
  const running = office;
  office = null;
  if (running) await running.then(end, () => {});
}

async function converted(docx: Buffer): Promise<{ pdf: Buffer; pages: number }> {
  clearTimeout(idle);
  const { child, lines, profile } = await (office ??= begun());
  const [from, to] = [join(profile, "in.docx"), join(profile, "out.pdf")];
  try {
    await writeFile(from, docx);
    child.stdin.write(`${JSON.stringify({ in: from, out: to, most: MOST_PAGES })}\n`);
    const answer = ANSWER.parse(JSON.parse(await inTime(lines)));
    if (!answer.ok) throw new NoPdf(answer.why, answer.pages);
    const pdf = await readFile(to);
    return { pdf, pages: answer.pages };
  } catch (e) {
    // Whatever it does now, the next answer could be to this question.
    if (!(e instanceof NoPdf) || e.why === "late" || e.why === "failed") await closeOffice();
    throw e instanceof NoPdf ? e : new NoPdf("failed");
  } finally {
    await Promise.all([from, to].map((path) => rm(path, { force: true })));
    idle = setTimeout(() => void closeOffice(), IDLE_MS);
    idle.unref();
  }
}

async function begun(): Promise<Office> {
  const profile = mkdtempSync(join(tmpdir(), "cobble-office-"));
  const program = join(process.cwd(), "src/outside/office/convert.py");
  // In a network of its own, which has nothing in it: documents may name things to be fetched.
  const [command, ...args] = ["unshare", "--map-root-user", "--net", "/usr/bin/python3", program, profile];
  const child = spawn(command!, args, { detached: true, stdio: "pipe" });
  const gone = new Promise<never>((_, reject) => {
    child.once("error", () => reject(new NoPdf("missing")));
    child.once("exit", () => reject(new NoPdf("missing")));
  });
  gone.catch(() => {});
  child.stdin.on("error", () => {});
  child.stderr.resume();
  // It keeps nobody from ending: whoever waits for a document is kept by the time that has.
  child.unref();
  for (const stream of [child.stdin, child.stdout, child.stderr]) (stream as unknown as Socket).unref();
  const running = { child, lines: createInterface(child.stdout)[Symbol.asyncIterator](), profile };
  const stop = () => end(running);
  process.once("exit", stop);
  child.once("exit", () => {
    process.off("exit", stop);
    if (office === mine) office = null;
    rmSync(profile, { recursive: true, force: true });
  });
  const mine = Promise.race([
    inTime(running.lines).then((line) => {
      READY.parse(JSON.parse(line));
      return running;
    }),
    gone,
  ]).catch((e: unknown) => {
    office = null;
    end(running);
    throw e instanceof NoPdf && e.why === "late" ? e : new NoPdf("missing");
  });
  return mine;
}

/** The program and all it started. */
function end({ child }: Office): void {
  try {
    if (child.pid !== undefined) process.kill(-child.pid, "SIGKILL");
  } catch {
    // It is gone already.
  }
}

/** The next line. @throws NoPdf where none comes in time, or no more comes */
async function inTime(lines: AsyncIterator<string>): Promise<string> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new NoPdf("late")), MOST_MS);
  });
  try {
    const { value, done } = await Promise.race([lines.next(), late]);
    if (done) throw new NoPdf("failed");
    return value as string;
  } finally {
    clearTimeout(timer);
  }
}
