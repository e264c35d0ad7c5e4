import type { RungBehaviour } from "@/core/kinds";

/** Tells somebody that it is waiting. */
export const tell: RungBehaviour<"tell"> = {
  says: "tell somebody",
  firedWords: null,
  blank: () => ({ do: "tell", who: { by: "requester" }, text: "{Request.number} is still waiting." }),
  fits: () => true,
  formulas: (a, place, walk) => ({
    ...a,
    who: walk.rule(place, "who the ladder tells", a.who),
    text: walk.template({ place: `${place} text`, says: "what the ladder tells" }, a.text),
  }),
  problems: () => undefined,
  fire: (a, turn) => ({
    do: "tell",
    people: turn.people(a.who),
    subject: `${turn.step} for ${turn.number} is waiting`,
    text: turn.text(a.text),
    ...(a.letter === undefined ? {} : { letter: a.letter }),
  }),
  letter: (a) => a.letter,
  words: () => "tell somebody",
};
