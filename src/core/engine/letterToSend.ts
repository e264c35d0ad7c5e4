import type { Receiver } from "../kinds";
import { writtenText } from "../letter";
import { composeLetter } from "./composeLetter";
import type { At, Turn } from "./turn";

/** A letter to people, as a step would send it. */
export function letterToSend(turn: Turn, at: At, id: string, to: readonly Receiver[]) {
  const { subject, hidden, letter } = composeLetter(turn, at, id);
  const mail = {
    to: [...to],
    copy: [],
    blind: [],
    files: [],
    letter,
    ...(hidden ? { hidden: true as const } : {}),
  };
  return { people: [], subject, text: writtenText(letter.parts), mail };
}
