import { stepKind } from "../kinds";
import type { Command } from "./commands";
import { isEnded } from "./state";
import { moment } from "./requestNames";
import { stepTurn } from "./stepTurn";
import { storedValue } from "./storedValue";
import type { Turn } from "./turn";

/**
 * What a step had sent was answered: it is kept by the step's name, where its mail went out from. A round that is over
 * hears of nothing any more, and neither does a request that has ended.
 */
export function replied(turn: Turn, { effect, reply }: Extract<Command, { type: "replied" }>): void {
  const { step: id, scope } = effect;
  const step = turn.release.places.get(id)?.step;
  if (!step || isEnded(turn.state) || (scope !== null && !turn.state.scopes[scope])) return;
  const at = storedValue(moment(turn.facts, turn.facts.at))?.kept ?? null;
  stepKind(turn.release.kinds, step).replied?.(stepTurn(turn, { step: id, scope }), step, reply, at);
}
