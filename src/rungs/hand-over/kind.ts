import type { RungBehaviour } from "@/core/kinds";

/** Hands every open task over to somebody else. */
export const handOver: RungBehaviour<"hand over"> = {
  says: "hand over",
  firedWords: null,
  blank: () => ({ do: "hand over", to: { by: "manager" } }),
  fits: () => true,
  ofMany: true,
  formulas: (a, place, walk) => ({ ...a, to: walk.rule(place, "to whom the ladder hands over", a.to) }),
  problems: () => undefined,
  fire: (a, turn) => ({
    do: "move",
    moves: turn.tasks.map((task) => ({ task, people: turn.people(a.to, { task, asks: true }) })),
  }),
  words: (a, rule) => `hand over to ${rule(a.to)}`,
};
