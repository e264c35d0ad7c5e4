const NAME = /^[\p{L}_][\p{L}\p{N}_]*( [\p{L}\p{N}_]+)*$/u;
const KEYWORDS = new Set(
  "if then else for in return some every satisfies between and or not null true false instance of function".split(
    " ",
  ),
);
export const MAX_NAME_LENGTH = 60;

/**
 * Whether a field or column may have this name, so that formulas can read it as written.
 * Letters, digits, single spaces and `_`, not starting with a digit: operator characters inside a
 * name would be read as arithmetic (`net-price`). Gives null, or a sentence saying what is wrong.
 */
export function nameMistake(name: string): string | null {
  if (name.trim() === "") return "A name is needed, for example: Return date.";
  if (name.length > MAX_NAME_LENGTH)
    return `A name may have ${MAX_NAME_LENGTH} characters; this one has ${name.length}.`;
  if (KEYWORDS.has(name))
    return `"${name}" is a word of the formula language. Add a word, for example: ${name} date.`;
  if (NAME.test(name)) return null;
  const odd = [...name].find((c) => !/[\p{L}\p{N}_ ]/u.test(c));
  if (odd) return `A name may hold letters, digits and spaces; "${odd}" would be read as part of a formula.`;
  if (/^\p{N}/u.test(name)) return `A name starts with a letter: "${name}" starts with a digit.`;
  return "A name has single spaces between its words, and none at its ends.";
}
