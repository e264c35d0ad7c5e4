import { stepKind } from "../kinds";
import type { Step } from "../route";
import { sampleAt } from "./sampleAt";
import { stepTurn } from "./stepTurn";
import { Turn } from "./turn";
import { clearly } from "./unclear";

/**
 * Lets formulas of a turn that nothing has happened in read what some steps come to by their names, as things stand:
 * for samples and trials, where no request has gone through them. What they set in the form is left out, because it is
 * there only behind them; one that cannot be worked out comes to nothing.
 * @param steps in reading order, each of which works at once
 */
export function workAhead(turn: Turn, steps: readonly Step[]): void {
  for (const step of steps) {
    const at = sampleAt(turn, step.id);
    if (!at) continue;
    const aside = new Turn(turn.release, turn.state, turn.facts, turn.actor);
    const next = clearly(() => stepKind(turn.release.kinds, step).enter(stepTurn(aside, at), step));
    if (next.go !== "on") continue;
    const { kept, scopes } = aside.state;
    turn.state = { ...turn.state, kept, scopes };
  }
}
