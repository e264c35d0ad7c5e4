import type { StepBehaviour } from "@/core/kinds";

/** People choose an answer; each answer has its own way on. */
export const decide: StepBehaviour<"decide"> = {
  verb: "Decide",
  says: "people choose an answer",
  blank: (id) => ({
    id,
    name: "Decision",
    kind: "decide",
    who: { rule: { by: "manager" }, how: "one" },
    limit: { otherwise: { amount: 2, unit: "working days" }, rungs: [] },
    answers: [
      { id: `${id}-yes`, label: "Approve", tone: "agree", steps: [] },
      {
        id: `${id}-no`,
        label: "Decline",
        tone: "refuse",
        note: "must",
        steps: [{ id: `${id}-end`, name: "Finish", kind: "finish", result: "declined", tone: "refuse" }],
      },
    ],
  }),
  lists: {
    in: "answers",
    one: "answer",
    name: (a) => a.label,
    back: (a) => a.returns === true,
    blank: (id, count) => ({ id, label: `Answer ${count + 1}`, tone: "plain", steps: [] }),
    at: (s) => s.answers.length,
    sideBySide: false,
    passedBy: false,
  },
  asks: {
    purpose: "decide",
    verb: "answers",
    who: (s) => s.who,
    limit: (s) => s.limit,
    offers: (s) => s.offers,
    byMail: (s) => s.byMail,
    answers: (s) => s.answers,
    answered: (_, answer) => ({ go: "into", list: answer }),
  },
  formulas: (s, walk) => walk.asks(s),
  steps: (s) => s,
  sets: () => [],
  problems(s, { say }) {
    if (s.answers.length === 0)
      say(
        "error",
        "no-answers",
        `"${s.name}" has no answers: whoever is asked could say nothing.`,
        "answers",
      );
    else if (s.answers.every((a) => a.returns))
      say(
        "error",
        "only-returns",
        `Every answer of "${s.name}" sends the request back; it could never go on.`,
        "answers",
      );
    const words = s.answers.map((a) => a.label.trim().toLowerCase());
    s.answers.forEach((a, i) => {
      if (words.indexOf(words[i]!) < i)
        say("error", "answer-twice", `Two answers of "${s.name}" are called "${a.label}".`, "answers");
    });
    if (s.who.rule.by === "requester" && !s.who.requesterToo)
      say("error", "own-request", "The requester would decide their own request.", "who");
  },
  exit: () => null,
  goesOn: (s, list) => s.answers.length === 0 || s.answers.some((a) => !a.returns && list(a.steps)),
  passes: false,
  enter: () => ({ go: "asks" }),
};
