import { answersOf, type CompiledRelease } from "@/core/engine";
import type { Tone } from "@/core/route";
import { getPool, requests, type TaskListRow } from "@/db";
import { fail, Failed } from "../kernel/failure";
import { defineUseCase } from "../kernel/defineUseCase";
import type { Directory } from "../kernel/directory";
import { sentenceOf } from "../kernel/sentence";
import { releaseFor } from "../requests/releases";
import { act } from "../requests/requests";

/** How tasks may be answered together: those of one step, with these answers. */
export interface AnsweredTogether {
  /** The same for all that may be answered together. */
  key: string;
  answers: { id: string; label: string; tone: Tone; note: boolean }[];
}

/** Tasks that are answered at once. */
export const MOST_AT_ONCE = 100;

/**
 * Tells of rows of a desk how they may be answered together. An answer that reads values anew counts where they come to what
 * they were; where they do not, it is refused, and looked at on the task's own page.
 */
export async function answeredTogether(
  d: Directory,
  rows: readonly TaskListRow[],
): Promise<(row: TaskListRow) => AnsweredTogether | null> {
  const releases = new Map<string, CompiledRelease>();
  for (const r of rows)
    if (r.at_once && !releases.has(r.release_id))
      releases.set(r.release_id, await releaseFor(getPool(), d, r.release_id));
  return (row) => {
    const release = row.at_once ? releases.get(row.release_id) : undefined;
    if (!release) return null;
    const answers = answersOf(release, { purpose: row.purpose, step: row.step_id }).map((a) => ({
      id: a.id,
      label: a.label,
      tone: a.tone,
      note: a.note === "must",
    }));
    return { key: JSON.stringify([row.process_key, row.step_id, answers]), answers };
  };
}

export interface AnsweredSeveral {
  answered: number;
  /** Those that were not, and why, in a sentence. */
  refused: { number: string; task: string; sentence: string }[];
}

/**
 * Answers several tasks of one step in the same way, where its owner lets them be; each for itself, so that one that is
 * refused leaves the others.
 * @throws invalid where there are more than `MOST_AT_ONCE`
 */
export const answerSeveral = defineUseCase(
  ["use own"],
  async (
    c,
    tasks: readonly { number: string; task: string }[],
    answer: string,
    note: string,
  ): Promise<AnsweredSeveral> => {
    const notAllowed = { code: "not-allowed" as const, data: { action: "answer this together with others" } };
    c.must({ action: "use own", person: c.actor.id }, notAllowed);
    if (tasks.length > MOST_AT_ONCE)
      throw new Failed({
        code: "invalid",
        data: { path: "tasks", message: `are ${tasks.length}; ${MOST_AT_ONCE} can be answered at once` },
      });
    const may = await requests.answeredAtOnce(getPool(), c.actor.id, tasks);
    const out: AnsweredSeveral = { answered: 0, refused: [] };
    for (const { number, task } of tasks) {
      const done = may.has(`${number} ${task}`)
        ? await act(c.actor, number, { type: "answer", task, answer, note, data: {} })
        : fail(notAllowed);
      if (done.ok) out.answered++;
      else out.refused.push({ number, task, sentence: await sentenceOf(done.failure) });
    }
    return out;
  },
);
