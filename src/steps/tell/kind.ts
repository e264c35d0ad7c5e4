import type { StepBehaviour } from "@/core/kinds";

/** A notice to somebody; the route goes on without waiting for it. */
export const tell: StepBehaviour<"tell"> = {
  verb: "Tell",
  says: "a notice to somebody",
  blank: (id) => ({
    id,
    name: "Tell the requester",
    kind: "tell",
    who: { by: "requester" },
    subject: "{Request.number}",
    text: "",
  }),
  lists: null,
  asks: null,
  formulas: (s, walk) => ({
    ...s,
    who: walk.rule("who", "who is told", s.who),
    subject: walk.template({ place: "subject", says: "the subject" }, s.subject),
    text: walk.template({ place: "text", says: "the text" }, s.text),
  }),
  steps: (s) => s,
  sets: () => [],
  problems: () => undefined,
  exit: () => null,
  goesOn: () => true,
  passes: true,
  enter(turn, s) {
    const people = turn.people("who", s.who);
    if (people.length > 0)
      turn.send({
        kind: "tell",
        people,
        subject: turn.text("subject", s.subject),
        text: turn.text("text", s.text),
      });
    return { go: "on" };
  },
  forget: { work: (w) => ({ ...w, subject: "", text: "" }), result: (r) => r },
  tells: (w) => w.people,
  kept: ({ people }) => ({ people }),
  doneWords: ({ people }, _, names) => ({
    text: `${people.map(names.person).join(", ")} ${people.length > 1 ? "were" : "was"} told`,
    quiet: true,
  }),
};
