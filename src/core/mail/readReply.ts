import type { AnswerChoice } from "../route";
import { plainWords, wordsOf } from "./replyWords";

type Choice = Pick<AnswerChoice, "id" | "label" | "words">;

/** What a reply says, or why that cannot be told. */
export type ReplyRead =
  | { answer: string; note: string }
  /** `said` is what was read first; `two` where words of two answers stand in it. */
  | { unclear: "nothing" | "unknown" | "two"; said: string };

/** Lines that are looked at; an answer stands at the beginning. */
const MOST_LINES = 200;
const GREETING =
  /^(hi|hello|hey|dear|good (morning|afternoon|evening|day)|hallo|guten (morgen|tag|abend)|liebe[rs]?|sehr geehrte[rs]?|bonjour|bonsoir|salut|chère?|dzień dobry|cześć|hej|dia d(h)?uit|a chara)\b/;
/** What ends the words of an answer: a mark that parts a sentence, or the end of the line. */
const PARTED = /^(.*?)(?:\s*[.,;:!…]+(?:\s+|$)|\s+[-–—]+\s+|$)(.*)$/u;

/**
 * Reads an answer out of a reply from which what it repeats, and its signature, have been taken away. The first line that
 * is no greeting must begin with the words of one answer, alone on the line or parted from the rest by a mark; whatever
 * follows is the note. "No problem, approve" and "yes but only in May" answer nothing: what is not plainly said is asked
 * about, because a wrong decision is worse than a question.
 */
export function readReply(text: string, answers: readonly Choice[]): ReplyRead {
  const lines = text
    .split("\n")
    .slice(0, MOST_LINES)
    .map((l) => l.trim());
  let first = lines.findIndex((l) => l !== "");
  if (first < 0) return { unclear: "nothing", said: "" };
  if (isGreeting(lines[first]!, answers)) {
    const next = lines.findIndex((l, i) => i > first && l !== "");
    if (next < 0) return { unclear: "unknown", said: short(lines[first]!) };
    first = next;
  }
  const line = lines[first]!;
  const [, head = "", rest = ""] = PARTED.exec(line)!;
  const chosen = answers.filter((a) => wordsOf(a).includes(plainWords(bare(head))));
  if (chosen.length !== 1) {
    const named = answers.filter((a) => wordsOf(a).some((w) => holds(line, w)));
    return { unclear: chosen.length > 1 || named.length > 1 ? "two" : "unknown", said: short(line) };
  }
  const [answer] = chosen;
  const others = answers.filter((a) => a.id !== answer!.id);
  const below = lines.slice(first + 1);
  // "No, wait: yes", and another answer alone on a line below: what was meant is theirs to say.
  const two = others.some((a) =>
    wordsOf(a).some((w) => holds(rest, w) || below.some((l) => words(l) === words(w))),
  );
  if (two) return { unclear: "two", said: short(line) };
  return { answer: answer!.id, note: [rest, ...below].join("\n").trim() };
}

/** Without what people put around a word. */
const bare = (s: string): string => s.replace(/^[\s"'“”„«»*_>–—-]+|[\s"'“”„«»*_.,;:!…–—-]+$/gu, "");

function isGreeting(line: string, answers: readonly Choice[]): boolean {
  const plain = plainWords(line);
  if (plain.length > 60 || !GREETING.test(plain)) return false;
  return !answers.some((a) => wordsOf(a).some((w) => holds(line, w)));
}

/** A text as its words alone, whatever stands between them. */
const words = (text: string): string =>
  plainWords(text)
    .match(/[\p{L}\p{N}']+/gu)
    ?.join(" ") ?? "";

/** Whether words stand in a text one after the other, as words of their own. */
const holds = (text: string, of: string): boolean => {
  const sought = words(of);
  return sought !== "" && ` ${words(text)} `.includes(` ${sought} `);
};

const short = (s: string): string => (s.length > 120 ? `${s.slice(0, 119)}…` : s);
