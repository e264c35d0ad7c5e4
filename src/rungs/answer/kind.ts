import type { RungBehaviour } from "@/core/kinds";

/** Answers on behalf of everybody who was asked. */
export const answer: RungBehaviour<"answer"> = {
  says: "answer on their behalf",
  firedWords: null,
  blank: (answers) => ({ do: "answer", answer: answers[0]?.id ?? "", note: "No answer in time." }),
  fits: (answers) => answers.length > 1,
  formulas: (a) => a,
  problems(a, answers, say) {
    if (!answers.some((x) => x.id === a.answer))
      say("error", "rung-answer", "The ladder answers with an answer this step does not have.", "limit");
  },
  answers: (a) => a.answer,
  fire: (a) => ({ do: "answer", answer: a.answer, note: a.note }),
  words: () => "answer on their behalf",
};
