import { checkOfPass, passedBy, type FormProblem, type Passed } from "../form";
import type { Turn } from "./turn";

/** Tells of each check that somebody went on past, and why; comes after the events that tell of the values. */
export function raisePassed(
  turn: Turn,
  problems: readonly FormProblem[],
  passed: Passed | undefined,
  task?: string,
) {
  for (const { key, say, why } of passedBy(problems, passed ?? {})) {
    const at = checkOfPass(key);
    if (!at) throw new Error(`"${key}" tells no check apart`);
    const { all } = turn.release.form.reads.of(at.field, `check ${at.check}`);
    turn.raise({
      type: "check passed",
      key,
      say,
      note: why,
      fields: [...new Set([at.field, ...all])],
      ...(task === undefined ? {} : { task }),
    });
  }
}
