import { stepKind } from "../kinds";
import { stepTurn } from "./stepTurn";
import { Turn, type At } from "./turn";
import { clearly } from "./unclear";

const FIRST = { index: 0, of: 1, one: "", name: "", outcomes: {}, kept: {} };

/**
 * Where a step stands for a sample: in the first round of whatever rounds it is in. Null where the sample comes to no
 * round, or it cannot be told.
 * @param inside in a round of the step itself
 */
export function sampleAt(turn: Turn, step: string, inside = false): At | null {
  const place = turn.release.places.get(step);
  const owners = [...(place?.owners.map((o) => o.step) ?? []), ...(inside && place ? [place.step] : [])];
  let scope: string | null = null;
  for (const owner of owners) {
    const { rounds, enter } = stepKind(turn.release.kinds, owner);
    if (!rounds) continue;
    const id = `sample.${owner.id}`;
    if (!turn.state.scopes[id]) {
      // On a turn of its own: what a step does when it is entered is no part of the sample.
      const aside = new Turn(turn.release, turn.state, turn.facts, turn.actor);
      const at = { step: owner.id, scope };
      const next = clearly(() => enter(stepTurn(aside, at), owner));
      if (next.go !== "rounds" || next.items === 0 || (next.items as unknown[]).length === 0) return null;
      const run = { id, token: "", step: owner.id, scope, ...next, next: 1, open: 1, ended: 0, calledOff: 0 };
      turn.state = {
        ...turn.state,
        runs: { ...turn.state.runs, [id]: { ...run, collected: [] } },
        scopes: {
          ...turn.state.scopes,
          [id]: { ...FIRST, id, parent: scope, run: id },
        },
      };
    }
    scope = id;
  }
  return { step, scope };
}
