import type { AnswerChoice } from "../route";

/** A text as words are compared: small, without accents' forms, apostrophes alike, one space between words. */
export const plainWords = (text: string): string =>
  text
    .normalize("NFKC")
    .toLowerCase()
    .replace(/[\u2018\u2019\u02bc`´]/g, "'")
    .replace(/[\u00a0\s]+/g, " ")
    .trim();

/** The words that stand for an answer in a reply: its label, and what its step names beside it. */
export const wordsOf = (a: Pick<AnswerChoice, "label" | "words">): string[] => [
  ...new Set([a.label, ...(a.words ?? "").split(/[,;\n]/)].map(plainWords).filter((w) => w !== "")),
];
