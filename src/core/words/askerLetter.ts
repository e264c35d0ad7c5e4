import type { News } from "../engine";

/** The letter by which somebody outside learns that what they sent has come. */
export const sentLetter = (a: { number: string; process: string; letterhead: string }) => ({
  subject: `${a.number}: ${a.process}`,
  text: `Thank you. What you sent has come to ${a.letterhead}. Its number is ${a.number}.`,
});

/** What of the news of a request is written to somebody outside who follows it; null for what is none of theirs. */
export function askerLetter(
  n: News,
  {
    number,
    note,
    question,
  }: {
    number: string;
    /** What was said as it was sent back. */
    note: string;
    /** What they are asked, where the news is about a question. */
    question: string | null;
  },
): { subject: string; text: string } | null {
  switch (n.kind) {
    case "sent back":
      return {
        subject: `${number}: something is to be changed`,
        text: `Please look at what you sent once more, change it, and send it again.${note ? `\n\n${note}` : ""}`,
      };
    case "reminded":
      return {
        subject: `${number}: it waits for you`,
        text: "What you were asked to change has not come back yet. It goes on once you send it again.",
      };
    case "ended":
      return n.facts.status === "finished"
        ? {
            subject: `${number}: it has ended`,
            text: `What you asked for has come to its end: ${n.facts.result}.`,
          }
        : { subject: `${number}: it was cancelled`, text: "What you asked for was cancelled." };
    case "asked something":
      return {
        subject: `${number}: a question to you`,
        text: `Before your request goes on, we would like to know:\n\n${question ?? ""}`,
      };
    case "called off":
      if (question !== null)
        return {
          subject: `${number}: no answer is needed any more`,
          text: "You were asked a question. Nobody waits for the answer any more.",
        };
      return {
        subject: `${number}: nothing is to be changed any more`,
        text: "You were asked to change what you sent. That is not needed any more.",
      };
    // That it is held up is for those who can mend it.
    case "held up":
    case "task came":
    case "covering":
    case "handed over":
    case "handed away":
    case "came back":
    case "stuck":
    case "not delivered":
    case "mentioned":
    // They have no task that somebody could be asked beside.
    case "answer came":
      return null;
  }
}
