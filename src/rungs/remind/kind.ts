import type { RungBehaviour } from "@/core/kinds";

/** Reminds whoever has it. */
export const remind: RungBehaviour<"remind"> = {
  says: "remind",
  firedWords: "A reminder was sent",
  blank: () => ({ do: "remind" }),
  fits: () => true,
  ofMany: true,
  formulas: (a) => a,
  problems: () => undefined,
  fire: (_, turn) => ({
    do: "tell",
    to: turn.waiting.map((person) => ({ person })),
    subject: `Reminder: ${turn.step} for ${turn.number}`,
    text: `${turn.number} is waiting for your answer.`,
    reminds: true,
  }),
  words: () => "remind",
};
