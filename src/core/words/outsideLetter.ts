/** What is written to somebody outside who is asked at a step that has no words of its own for that. */
export const outsideLetter = (a: { number: string; process: string; step: string }) => ({
  subject: `${a.number}: ${a.step}`,
  text: `You are asked for your answer: ${a.step} (${a.process}, ${a.number}).`,
});

/** That they are not asked any more. */
export const overLetter = (a: { number: string; step: string }) => ({
  subject: `${a.number}: nothing is asked of you any more`,
  text: `You were asked for an answer: ${a.step}. That is not needed any more; the link you have had leads nowhere now.`,
});
