import { Temporal } from "temporal-polyfill";
import { compile, environment, evaluate, parseFormula, type Program } from "../expression";
import { MAIL_SCOPE, mailNames, type MailFacts } from "../form";

/** Words of two conditions that are tried: each more is tried at several places. */
const MOST_WORDS = 6;
/** Conditions over a mail rarely ask the clock; where they do, any day is as good. */
const NOW = Temporal.ZonedDateTime.from("2026-01-15T10:00[UTC]");

/** The texts that stand in a formula. */
const wordsIn = (formula: string): string[] =>
  [...formula.matchAll(/"((?:[^"\\]|\\.)*)"/g)].map((m) => m[1]!.replace(/\\(.)/g, "$1")).filter(Boolean);

const programOf = (text: string): Program | null => {
  const { ast } = parseFormula(text, MAIL_SCOPE);
  return ast ? compile(ast) : null;
};
const takes = (p: Program, m: MailFacts): boolean =>
  evaluate(p, environment(mailNames(m, { file: () => null }), { now: NOW })) === true;

const addressOf = (word: string): string => (word.startsWith("@") ? `somebody${word}` : word);

/**
 * A mail that two conditions both take, put together of the words that stand in them, or one that a sample is of: a proof
 * that they overlap. Null where none of those tried is one, which proves nothing.
 */
export function takenByBoth(a: string, b: string, samples: readonly MailFacts[]): MailFacts | null {
  const [first, second] = [programOf(a), programOf(b)];
  if (!first || !second) return null;
  const both = (m: MailFacts) => takes(first, m) && takes(second, m);
  const kept = samples.find(both);
  if (kept) return kept;
  const words = [...new Set([...wordsIn(a), ...wordsIn(b)])].slice(0, MOST_WORDS);
  const all = words.join(" ");
  const senders = words.filter((w) => w.includes("@")).map(addressOf);
  for (const sender of senders.length > 0 ? senders : ["somebody@example.org"])
    for (const subject of [all, ...words])
      for (const text of [all, ""]) {
        const mail = { sender, senderName: all, to: [], subject, text, files: [] };
        if (both(mail)) return mail;
      }
  return null;
}
