import type { RungBehaviour } from "@/core/kinds";

/** Asks somebody else too. */
export const add: RungBehaviour<"add"> = {
  says: "ask somebody else too",
  firedWords: null,
  blank: () => ({ do: "add", who: { by: "manager" } }),
  fits: () => true,
  formulas: (a, place, walk) => ({ ...a, who: walk.rule(place, "who the ladder asks too", a.who) }),
  problems: () => undefined,
  fire: (a, turn) => ({ do: "ask", people: turn.people(a.who, { asks: true }) }),
  words: () => "ask somebody else too",
};
