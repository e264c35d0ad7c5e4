import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import type { IncomingMessage, ServerResponse } from "node:http";
import { join } from "node:path";
import DOCUMENT from "../../docs/print-room.json";
import { listening, type Running } from "../listening";
import { bodyOf } from "../bodyOf";
import { KeptFaults } from "../keptFaults";
import { FAULTS, type Faults } from "../takingFaults";
import { answerPage } from "./page";

/** Something that was printed. */
export interface Job {
  id: string;
  key: string;
  name: string;
  copies: number;
  bytes: number;
  /** Epoch milliseconds. */
  at: number;
  /** How often it came out of the printer: more than once where it was told to do that wrong. */
  times: number;
}
export interface PrintRoom {
  jobs: Job[];
  faults: KeptFaults<Faults>;
  /** What was printed. */
  paper(job: Job): Buffer;
}

const MOST_BYTES = 50_000_000;
const MOST_COPIES = 100;

/** Starts the print room of the made-up world, on loopback: an HTTP service, and a page that shows what it printed. */
export async function startPrintRoom(o: {
  folder: string;
  port: number;
  token: string;
}): Promise<PrintRoom & Running> {
  mkdirSync(o.folder, { recursive: true });
  const kept = join(o.folder, "jobs.json");
  const jobs: Job[] = existsSync(kept) ? (JSON.parse(readFileSync(kept, "utf8")) as Job[]) : [];
  const fileOf = (id: string) => join(o.folder, `${id}.pdf`);
  const room: PrintRoom = {
    jobs,
    faults: new KeptFaults(join(o.folder, "faults.json"), FAULTS),
    paper: (job) => readFileSync(fileOf(job.id)),
  };
  const take = (job: Omit<Job, "id" | "times" | "at">, paper: Buffer): Job => {
    const made: Job = { ...job, id: `P-${jobs.length + 1}`, at: Date.now(), times: 1 };
    writeFileSync(fileOf(made.id), paper);
    jobs.push(made);
    writeFileSync(kept, JSON.stringify(jobs));
    return made;
  };

  async function answerCall(req: IncomingMessage, res: ServerResponse, url: URL): Promise<void> {
    const say = (status: number, words: string, headers: Record<string, string> = {}) => {
      res.writeHead(status, { "content-type": "text/plain; charset=utf-8", ...headers });
      res.end(words);
    };
    if (req.headers.authorization !== `Bearer ${o.token}`) return say(401, "This token is not known here.");
    const t = room.faults.get();
    if (t.slow > 0) await new Promise((r) => setTimeout(r, t.slow));
    if (req.method === "GET") {
      res.writeHead(200, { "content-type": "application/json" });
      res.end(JSON.stringify(jobs.map(({ id, name, copies, at }) => ({ id, name, copies, at }))));
      return;
    }
    if (req.method !== "POST") return say(405, "That cannot be done here.");
    const paper = await bodyOf(req, MOST_BYTES);
    if (Math.random() < t.refuse) return say(503, "The printer is jammed.");
    if (!paper) return say(413, "It is too large to be printed.");
    if (paper.subarray(0, 5).toString() !== "%PDF-") return say(415, "Only PDFs are printed here.");
    const copies = Number(url.searchParams.get("copies") ?? 1);
    if (!Number.isInteger(copies) || copies < 1 || copies > MOST_COPIES)
      return say(422, `Copies are a whole number from 1 to ${MOST_COPIES}.`);
    const key = String(req.headers["idempotency-key"] ?? "");
    if (key === "") return say(422, "Each job needs a key of its own (Idempotency-Key).");
    const known = jobs.find((j) => j.key === key);
    const name = nameIn(String(req.headers["content-disposition"] ?? ""));
    const job = known ?? take({ key, name, copies, bytes: paper.length }, paper);
    if (Math.random() < t.twice) {
      job.times++;
      writeFileSync(kept, JSON.stringify(jobs));
    }
    // What was printed stays printed; nobody hears of it.
    if (Math.random() < t.loseAfter) return void req.socket.destroy();
    say(known ? 200 : 201, known ? "It is printed already." : "It is printed.", {
      location: `/jobs/${job.id}`,
    });
  }

  const running = await listening(o.port, async (req, res, url) => {
    if (url.pathname === "/openapi.json") {
      res.writeHead(200, { "content-type": "application/json" });
      return void res.end(JSON.stringify(DOCUMENT));
    }
    return url.pathname === "/jobs" ? answerCall(req, res, url) : answerPage(room, req, res, url);
  });
  return { ...room, ...running };
}

/** By RFC 8187. */
const nameIn = (disposition: string): string => {
  const [, said = ""] = /filename\*=UTF-8''([^;]+)/.exec(disposition) ?? [];
  return said === "" ? "a paper without a name" : decodeURIComponent(said);
};
