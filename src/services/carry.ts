import {
  decide,
  Turn,
  type Command,
  type CompiledRelease,
  type Effect,
  type RequestEvent,
  type RequestState,
} from "@/core/engine";
import type { Db } from "@/db";
import type { Directory } from "./directory";
import { engineFacts, factsReader } from "./facts";
import { Failed } from "./failure";
import { writeRecords } from "./writeRecords";

/** Inside effects one command may cause before it counts as running away. */
const MAX_EFFECTS = 300;

export interface Carried {
  state: RequestState;
  events: RequestEvent[];
  effects: Effect[];
  title: string;
}

/**
 * One command and everything it causes inside: writes are carried out in the caller's transaction and
 * their results fed back until none is left.
 * @param mayWrite false where there is no transaction; null then says that the command would write
 */
export function carry(
  db: Db,
  d: Directory,
  release: CompiledRelease,
  request: string | null,
  state: RequestState,
  first: Command,
  now: number,
  mayWrite: true,
): Promise<Carried>;
export function carry(
  db: Db,
  d: Directory,
  release: CompiledRelease,
  request: string | null,
  state: RequestState,
  first: Command,
  now: number,
  mayWrite: boolean,
): Promise<Carried | null>;
export async function carry(
  db: Db,
  d: Directory,
  release: CompiledRelease,
  request: string | null,
  state: RequestState,
  first: Command,
  now: number,
  mayWrite: boolean,
): Promise<Carried | null> {
  const events: RequestEvent[] = [];
  const effects: Effect[] = [];
  const queue: Command[] = [first];
  // Writes that follow from writes are still that person's doing.
  const onBehalfOf = "actor" in first ? first.actor : null;
  let current = state;
  const read = factsReader(db, d, release.definition, { request, by: onBehalfOf ? [onBehalfOf] : [] });
  let facts = engineFacts(d, { people: d.facts, registers: d.registers, records: {} }, now);
  for (let n = 0; queue.length > 0; n++) {
    const command = queue.shift()!;
    if (n > MAX_EFFECTS)
      throw new Error(`request ${state.number}: more than ${MAX_EFFECTS} writes from one command`);
    facts = engineFacts(d, await read.load(current.data, "data" in command ? command.data : {}), now);
    const decision = decide(release, current, command, facts);
    if (!decision.ok) throw new Failed({ code: "refused", data: decision.refusal });
    current = decision.state;
    events.push(...decision.events);
    effects.push(...decision.effects);
    for (const e of decision.effects) {
      // A branch that ended the request meanwhile takes its pending writes with it.
      if (e.kind !== "write" || !current.pending[e.id]) continue;
      if (!mayWrite) return null;
      const stepName = release.places.get(e.step)?.step.name ?? e.step;
      const written = await writeRecords(db, e, {
        at: now,
        by: onBehalfOf,
        request: current.number,
        facts,
        registers: d.registers,
        stepName,
      });
      // What was written may be what the next step reads.
      read.forget();
      queue.push(
        written.ok
          ? { type: "effect done", effect: e.id, records: written.records }
          : { type: "effect failed", effect: e.id, reason: written.reason },
      );
    }
  }
  facts = engineFacts(d, await read.load(current.data), now);
  const title = new Turn(release, current, facts, null).text("", "title", release.definition.title).trim();
  return { state: current, events, effects: latest(effects), title: title || release.definition.name };
}

/** The last word on each task and timer: earlier ones of the same command never saw the light. */
function latest(effects: readonly Effect[]): Effect[] {
  const tasks = new Map<string, Effect>();
  const set = new Map<string, Effect>();
  const rest: Effect[] = [];
  for (const e of effects) {
    if (e.kind === "task") tasks.set(e.task.id, e);
    else if (e.kind === "set timer") set.set(e.timer.id, e);
    else if (e.kind === "clear timer") {
      if (!set.delete(e.timer)) rest.push(e);
    } else rest.push(e);
  }
  return [...tasks.values(), ...set.values(), ...rest];
}
