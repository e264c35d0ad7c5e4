import { decideAndName, engineFacts, NeedsLoads, NeedsWhole, proceduresFrom, Turn } from "@/core/engine";
import type {
  Command,
  CompiledRelease,
  Decision,
  LoadsAsked,
  OfficeData,
  ProceduresRead,
  RequestState,
} from "@/core/engine";
import { TooHeavy } from "@/core/expression";
import type { FactsData } from "@/core/form";
import { KINDS } from "@/kinds";

/** Something to think through, as plain data, but for the release and the office. */
export interface Question {
  state: RequestState;
  /** Absent where only the title is asked for. */
  command?: Command;
  facts: FactsData;
  /** Epoch milliseconds. */
  at: number;
  /** Seconds all formulas of it may take together. */
  seconds: number;
  /** How far the same command went in what was decided of it before, in moves. */
  moved: number;
}

/** What the command comes to and what the request is called then (null where that must be asked anew), or only that; that it takes too long, cannot be told from what was read of it, or hangs on what people have to do. */
export type Thought =
  | { decision: Decision; title: string | null }
  | { title: string }
  | { needs: LoadsAsked }
  | "too heavy"
  | "needs whole";

/** Thinks one question through, on whatever thread this runs. */
export function thinkThrough(
  release: CompiledRelease,
  office: OfficeData,
  q: Question,
  procedures: ProceduresRead,
): Thought {
  const until = performance.now() + q.seconds * 1000;
  const facts = {
    ...engineFacts(office, q.facts, q.at, KINDS.fields, undefined, proceduresFrom(procedures)),
    outOfTime: () => performance.now() > until,
  };
  try {
    if (q.command) return decideAndName(release, q.state, q.command, facts, q.moved);
    return { title: new Turn(release, q.state, facts, null).title() };
  } catch (e) {
    if (e instanceof TooHeavy) return "too heavy";
    if (e instanceof NeedsWhole) return "needs whole";
    if (e instanceof NeedsLoads) return { needs: e.asked };
    throw e;
  }
}
