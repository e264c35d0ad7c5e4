import type { Kinds } from "../kinds";
import type { ProcessDefinition } from "./definition";
import { placesOf, type StepPlace } from "./tree";

/** The stages of a route, as whoever asked reads them. */
export interface Stages {
  /**
   * In the order in which the sheet names each last: "Decided", which a refusal early on leads to as well, stands where all
   * ways have come to it.
   */
  names: readonly string[];
  /** By step which of them it stands in, from 0; absent where it comes before the first. */
  of: ReadonlyMap<string, number>;
}

/**
 * Steps grouped under the names their owner gave some of them: a name holds from its step on, for what stands inside that
 * and for what follows in its list; what follows a step goes on from where that stands, whatever begins inside it.
 */
export function stagesOf(definition: Pick<ProcessDefinition, "route">, kinds: Kinds): Stages {
  const places = placesOf(definition, kinds);
  const called = [...places.values()].flatMap(({ step }) => step.stage?.trim() || []);
  const names = called.filter((n, i) => called.lastIndexOf(n) === i);
  const of = new Map<string, number>();
  const before = ({ list, index, owners }: StepPlace): number | undefined => {
    const near = index > 0 ? list[index - 1]!.id : owners.at(-1)?.step.id;
    return near === undefined ? undefined : of.get(near);
  };
  // In reading order: what a step takes its stage from has been gone through.
  for (const [id, place] of places) {
    const own = place.step.stage?.trim();
    const at = own ? names.indexOf(own) : before(place);
    if (at !== undefined) of.set(id, at);
  }
  return { names, of };
}
