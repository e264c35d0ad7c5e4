import type { Turns } from "../route";
import { isOpen, type RequestState, type Task } from "./state";
import type { Turn } from "./turn";

/**
 * Whose turn it is: whoever was given the step least lately, whoever never was before all others; or who has the fewest
 * open tasks, and of those alike whose turn it is. The request's own tasks are counted as they are by now, those opened by
 * this very command among them, so that several rounds do not all go to the same person.
 * @param people as the rules found them, who decides between those alike in all of that
 * @returns null where nothing is known of other requests, as in a sample
 * @throws NeedsLoads
 */
export function whoseTurn(turn: Turn, step: string, by: Turns, people: readonly string[]): string | null {
  const process = turn.release.definition.key;
  const loads = turn.facts.loads({ by, process, step, people });
  if (loads === null) return null;
  const own = ownTasks(turn);
  const rank = (person: string): number[] => {
    const { open, last } = loads[person] ?? { open: 0, last: null };
    // What this command has given stands behind all that was given before it.
    const now = own.filter(
      ({ process: of, task: t }) =>
        of === process && t.step === step && t.turn === person && t.openedAt === turn.facts.at,
    ).length;
    const turns = [now, last ?? -Infinity];
    const has = own.filter(({ task: t }) => isOpen(t) && t.candidates.some((c) => c.person === person));
    return by === "fewest open" ? [open + has.length, ...turns] : turns;
  };
  const ranked = people.map((person, i) => ({ person, rank: [...rank(person), i] }));
  ranked.sort((a, b) => compare(a.rank, b.rank));
  return ranked[0]?.person ?? null;
}

function compare(a: readonly number[], b: readonly number[]): number {
  for (const [i, x] of a.entries()) if (x !== b[i]) return x < b[i]! ? -1 : 1;
  return 0;
}

interface OwnTask {
  task: Task;
  /** In which it is a step. */
  process: string;
}

/** All tasks of the request as it stands, those of procedures and of what is around this one too. */
function ownTasks(turn: Turn): OwnTask[] {
  const out: OwnTask[] = [];
  const add = (s: RequestState, process: string, besides?: string) => {
    for (const task of Object.values(s.tasks)) out.push({ task, process });
    for (const call of Object.values(s.calls)) if (call.id !== besides) add(call.state, call.procedure);
  };
  let inner: string | undefined;
  for (let t: Turn | null = turn; t; t = t.outer?.turn ?? null) {
    add(t.whole(), t.release.definition.key, inner);
    inner = t.outer?.call;
  }
  return out;
}
