import { dictionary } from "@zxcvbn-ts/language-common";

export const LEAST_PASSWORD = 12;
const MOST_PASSWORD = 200;

let known: ReadonlySet<string> | null = null;
const knownPasswords = (): ReadonlySet<string> =>
  (known ??= new Set(dictionary["passwords-common"].map((p) => String(p).toLowerCase())));

/** "summer summer summer", "123412341234": a short thing said over and over is no longer than the short thing. */
const repeats = (text: string): boolean => /^(.{1,6}?)\1+.{0,5}$/s.test(text);
/** "abcdefghijkl", "9876543210": each character the next one of the last. */
function runsOn(text: string): boolean {
  const codes = [...text].map((c) => c.codePointAt(0)!);
  const steps = codes.slice(1).map((c, i) => c - codes[i]!);
  return steps.length > 0 && [1, -1].some((by) => steps.filter((s) => s === by).length >= steps.length - 1);
}

/**
 * What is wrong with a password somebody wants, as a sentence; null when it is good. As NIST SP 800-63B, 3.1.1.2 has
 * it: long enough, not among those known to be used, not made of what everybody knows of its person; no rules on
 * which characters.
 * @param about names, addresses and the like of whose it is
 */
export function passwordMistake(password: string, about: readonly string[]): string | null {
  const length = [...password].length;
  if (length < LEAST_PASSWORD)
    return `A password has at least ${LEAST_PASSWORD} characters; this one has ${length}. Four words that have nothing to do with each other make a good one.`;
  if (length > MOST_PASSWORD)
    return `A password has at most ${MOST_PASSWORD} characters; this one has ${length}.`;
  const bare = password
    .normalize("NFKC")
    .toLowerCase()
    .replace(/[\s._-]+/g, "");
  // "password2026!" is "password" to whoever guesses.
  const core = bare.replace(/^[^\p{L}]+|[^\p{L}]+$/gu, "");
  if (knownPasswords().has(bare) || knownPasswords().has(core) || repeats(bare) || runsOn(bare))
    return "This password is among the first that are tried by those who guess. Four words that have nothing to do with each other make a good one.";
  const parts = about
    .flatMap((a) =>
      a
        .normalize("NFKC")
        .toLowerCase()
        .split(/[^\p{L}\p{N}]+/u),
    )
    .filter((p) => p.length >= 3);
  const rest = parts.reduce((left, part) => left.replaceAll(part, ""), bare);
  if ([...rest.replace(/[^\p{L}]/gu, "")].length < 4 && rest !== bare)
    return "This password is made of names and addresses anybody here knows. Take something that has nothing to do with you.";
  return null;
}
