import {
  levelOf,
  proceduresFrom,
  releaseAt,
  sampleWalk,
  Turn,
  type Effect,
  type EngineFacts,
  type RequestEvent,
  type RequestState,
  type SampleAnswer,
} from "@/core/engine";
import { TooHeavy } from "@/core/expression";
import { factsSeen, type RecordRef } from "@/core/form";
import { stuckSentence } from "@/core/words";
import type { Db } from "@/db";
import { KINDS } from "@/kinds";
import { executorOf } from "@/steps/effects";
import type { Call } from "../kernel/defineUseCase";
import { isWithdrawn } from "../kernel/registersSeen";
import { engineFacts, factsReader } from "../requests/facts";
import { proceduresAtHand } from "../requests/proceduresAtHand";
import { withSampleMail, type DraftSample } from "./draftSample";

/** Milliseconds all formulas of the walk may take together: it holds the thread that answers pages. */
const MOST_MS = 240;

interface Watching {
  /** Told of every event, with the state after it. */
  each?(e: RequestEvent, state: RequestState, facts: EngineFacts): void;
  /** Whether the walk has come to where it was to come. */
  enough?(effect: Effect): boolean;
}
/** How far a sample came. */
export interface Walked {
  /** Where it could not go on: why. */
  whys: string[];
  /** What was enough; null where it was not come to. */
  effect: Effect | null;
  /** What was read last. */
  facts: EngineFacts;
}

/**
 * Has a sample of a draft go through it: what is searched for is looked for in the real registers, everybody agrees, and
 * nothing is done.
 * @param on a connection for searches
 */
export async function walkSample(
  c: Call,
  on: Db,
  { row, sample, d, seen, release, now }: DraftSample,
  { each, enough }: Watching,
): Promise<Walked> {
  const { key, owners } = row.definition;
  const procedures = proceduresFrom(await proceduresAtHand(on, d, release, { calls: {} }));
  const reader = factsReader(on, d, row.definition, { request: null, by: owners });
  const found: RecordRef[] = [];
  const readFacts = async (also: readonly RecordRef[]) =>
    factsSeen(withSampleMail(sample, await reader.load(also, sample.data)), d.registers, seen);
  /** Of the time formulas may take, what is left; the database is not waited for on its account. */
  let left = MOST_MS;
  let until = Infinity;
  const outOfTime = () => performance.now() > until;
  let known: EngineFacts;
  const facts = async (also: readonly RecordRef[] = []): Promise<EngineFacts> =>
    (known = {
      ...engineFacts(d, await readFacts([...found, ...also]), now, c.actor.zone),
      procedures,
      outOfTime,
    });
  const onTime = <T>(work: () => T): T => {
    const began = performance.now();
    until = began + left;
    try {
      return work();
    } finally {
      left -= performance.now() - began;
      until = Infinity;
    }
  };
  const withdrawn = isWithdrawn(d, key);
  const whys: string[] = [];
  const walk = sampleWalk(release, sample.requester, sample.data, await facts(), (e, state, by) => {
    // Thousands of rounds take their time without any formula.
    if (outOfTime()) throw new TooHeavy();
    each?.(e, state, by);
  });
  const goOn = (answer?: SampleAnswer) => {
    try {
      return onTime(() => (answer ? walk.next(answer) : walk.next()));
    } catch (e) {
      if (!(e instanceof TooHeavy)) throw e;
      whys.push("What comes then takes too long to be worked out here.");
      return null;
    }
  };
  let step = goOn();
  while (step && !step.done) {
    const { effect, state, rehearsed } = step.value;
    if (enough?.(effect)) return { whys, effect, facts: known! };
    const executor = executorOf(effect);
    const at = levelOf(state, effect.id);
    if (executor.where !== "inside" || !executor.look || !at) {
      step = goOn({ result: rehearsed });
      continue;
    }
    const inside = releaseAt(at, release, procedures);
    const turn = async () => new Turn(inside, at.state, await facts(), null);
    const stepName = inside.places.get(effect.step)?.step.name ?? effect.step;
    const looked = await executor.look(effect, { db: on, registers: seen, withdrawn, facts, turn, stepName });
    if (!looked.ok) {
      // Nothing found is something else: what would follow from that is not what would follow.
      whys.push(stuckSentence(looked.reason, KINDS), "What comes after it is not told.");
      break;
    }
    found.push(...(looked.records ?? []));
    step = goOn({ result: looked.result, facts: await facts() });
  }
  if (step?.done && step.value.stuck) whys.push(stuckSentence(step.value.stuck, KINDS));
  return { whys, effect: null, facts: known! };
}
