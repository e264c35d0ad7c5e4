import { stepKind } from "../kinds";
import type { Step } from "../route";
import { peopleOf } from "./assign";
import type { At, Turn } from "./turn";
import { clearly } from "./unclear";

/** By which duty the rules of a step find people as things stand; whoever is asked for another reason is not in it. */
export function dutiesAt(turn: Turn, at: At, step: Step): ReadonlyMap<string, string> {
  const who = stepKind(turn.release.kinds, step).asks?.who(step);
  const duties = new Map<string, string>();
  // Where it cannot be told, whoever answers otherwise does.
  if (who)
    clearly(() => {
      for (const [place, rule] of [
        ["who", who.rule],
        ["fallback", who.fallback],
      ] as const)
        if (rule) peopleOf(turn, at, place, rule, { duties });
    });
  return duties;
}
