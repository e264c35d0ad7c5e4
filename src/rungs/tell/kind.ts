import type { RungBehaviour } from "@/core/kinds";

const SUBJECT = "subject";
const TEXT = "text";

/** Tells somebody that it is waiting. */
export const tell: RungBehaviour<"tell"> = {
  says: "tell somebody",
  firedWords: null,
  blank: () => ({ do: "tell", who: { by: "requester" }, text: "{Request.number} is still waiting." }),
  fits: () => true,
  ofMany: true,
  formulas: (a, place, walk) => ({
    ...a,
    who: walk.rule(place, "who the ladder tells", a.who, a.letter === undefined ? undefined : "addresses"),
    ...(a.subject === undefined
      ? {}
      : {
          subject: walk.template(
            { place: `${place} ${SUBJECT}`, says: "the subject of what the ladder tells" },
            a.subject,
          ),
        }),
    text: walk.template({ place: `${place} ${TEXT}`, says: "what the ladder tells" }, a.text),
  }),
  problems: () => undefined,
  fire: (a, turn) => ({
    do: "tell",
    to: turn.receivers(a.who),
    subject:
      (a.subject === undefined ? "" : turn.text(SUBJECT, a.subject).trim()) ||
      `${turn.step} for ${turn.number} is waiting`,
    text: turn.text(TEXT, a.text),
    ...(a.letter === undefined ? {} : { letter: a.letter }),
  }),
  letter: (a) => a.letter,
  words: () => "tell somebody",
};
