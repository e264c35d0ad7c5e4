import { join } from "node:path";
import { Piscina } from "piscina";
import type { CompiledRelease, ProceduresRead } from "@/core/engine";
import type { FormData } from "@/core/form";
import type { Directory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { thinkThrough, type Question, type Thought } from "./thought";
import type { Message } from "./thread";

/** Lines of a request from which on it is thought about on another thread, so that pages go on being answered. */
const MANY_LINES = 200;

/** Milliseconds after which a thread is given up, whatever it does. */
const MOST_MS = 10_000;

const linesOf = (data: FormData): number =>
  Object.values(data).reduce<number>((n, v) => n + (Array.isArray(v) ? v.length : 0), 0);

export const isLarge = (q: Question): boolean =>
  linesOf(q.state.data) + linesOf(q.command && "data" in q.command ? q.command.data : {}) > MANY_LINES;

let pool: Piscina<Message, Thought | "send all"> | null = null;
const threads = () =>
  (pool ??= new Piscina({
    filename: join(process.cwd(), "dist/src/services/thinking/thread.cjs"),
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 60_000,
  }));

// Told by number and not by contents: a thread must not answer out of an office of a moment ago.
const keys = new WeakMap<object, number>();
let lastKey = 0;
function keyOf(thing: object): number {
  let key = keys.get(thing);
  if (key === undefined) keys.set(thing, (key = ++lastKey));
  return key;
}

/** Thinks a question through: small ones here, large ones on a thread of their own. */
export async function think(
  release: CompiledRelease,
  d: Directory,
  q: Question,
  procedures: ProceduresRead,
): Promise<Thought> {
  return isLarge(q)
    ? thinkElsewhere(release, d, q, procedures)
    : thinkThrough(release, d.office, q, procedures);
}

/**
 * Always on another thread; comes to the same as here.
 * @throws Failed where no thread came to an end with it in time: nothing is known of it then
 */
export async function thinkElsewhere(
  release: CompiledRelease,
  d: Directory,
  { facts, ...q }: Question,
  { found, releases }: ProceduresRead,
  most = MOST_MS,
): Promise<Thought> {
  const calendar = facts.office?.calendar ?? null;
  const message: Message = {
    officeKey: keyOf(d),
    releaseKey: keyOf(release),
    procedures: {
      found: [...found],
      releases: [...releases].map(([id, r]) => ({ id, key: keyOf(r) })),
    },
    question: {
      ...q,
      facts: {
        records: facts.records,
        ...(facts.files ? { files: facts.files } : {}),
        ...(facts.asked ? { asked: facts.asked } : {}),
        ...(facts.loads ? { loads: facts.loads } : {}),
        ...(facts.hiddenFromActor ? { hiddenFromActor: facts.hiddenFromActor } : {}),
        calendar,
      },
    },
  };
  const ask = (m: Message) =>
    threads()
      .run(m, { signal: AbortSignal.timeout(most) })
      .catch((e: unknown) => {
        if ((e as Partial<Error> | null)?.name !== "AbortError") throw e;
        throw new Failed({ code: "unavailable", data: { why: "busy" } });
      });
  const answer = await ask(message);
  if (answer !== "send all") return answer;
  const { office, facts: people, registers, hiddenReads, managers, duties } = d;
  const all = await ask({
    ...message,
    office: { office, people, registers, hiddenReads, managers, duties },
    releases: [release, ...releases.values()].map((r) => ({
      key: keyOf(r),
      definition: r.definition,
      registers: r.registers,
    })),
  });
  if (all === "send all") throw new Error("a thread forgot what it was just told");
  return all;
}
