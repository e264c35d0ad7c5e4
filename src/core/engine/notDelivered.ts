import { stepKind } from "../kinds";
import { listsOf } from "../route";
import type { Command } from "./commands";
import { isEnded } from "./state";
import type { Turn } from "./turn";
import { enter } from "./walk";

/**
 * What a step had sent came back. The route has gone on, so what the step says for that is done by a token of its own,
 * in the round that sent it while there is one. A request that has ended is told of it, and goes on no more.
 */
export function notDelivered(turn: Turn, c: Extract<Command, { type: "not delivered" }>): void {
  const { id, step: stepId, scope } = c.effect;
  const round = scope !== null && turn.state.scopes[scope] ? scope : null;
  turn.raise({ type: "not delivered", effect: id, step: stepId, to: c.to, why: c.why }, null, round);
  const step = turn.release.places.get(stepId)?.step;
  const kind = step && stepKind(turn.release.kinds, step);
  if (!step || !kind?.late || isEnded(turn.state)) return;
  const list = listsOf(step, turn.release.kinds).find((l) => l.id === kind.late!(step));
  const first = list?.steps[0];
  if (!list || !first) return;
  const token = turn.newId("k");
  turn.raise(
    { type: "list sent out", token, step: first.id, of: step.id, list: list.id, round },
    null,
    round,
  );
  enter(turn, token, first);
}
