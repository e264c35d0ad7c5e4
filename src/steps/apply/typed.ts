import { checkFormula, type Scope, type Type } from "@/core/expression";
import type { OutputKind } from "@/core/decision";

/** A day as it is typed, which stands in no text and in no call already. */
const DAY = /(?<![\w"'-])(\d{4}-\d{2}-\d{2})(?![\w"'-])/g;
const SIGNS: Readonly<Record<string, string>> = { "≤": "<=", "≥": ">=", "≠": "!=" };
/** Words, apart by commas, and nothing that would be a formula. */
const WORDS = /^[^"()[\]<>=?{}]+$/;

const quoted = (word: string): string => `"${word.replace(/[\\"]/g, (c) => `\\${c}`)}"`;

/** Words that mean none of the names there are, as texts; in the writing of the choice they are, where there are choices. */
function asTexts(text: string, scope: Scope, options: readonly string[] | undefined, apart: boolean): string {
  // What can be read as it stands is meant so.
  if (!WORDS.test(text) || checkFormula(text, scope).problems.length === 0) return text;
  const words = (apart ? text.split(/[,;]/) : [text]).map((w) => w.trim()).filter(Boolean);
  const choice = (w: string) => options?.find((o) => o.toLowerCase() === w.toLowerCase()) ?? w;
  return words.map((w) => quoted(choice(w))).join(", ");
}

const plain = (text: string): string =>
  text
    .trim()
    .replace(/[≤≥≠]/g, (c) => SIGNS[c]!)
    .replace(DAY, 'date("$1")');

const YES_NO: Readonly<Record<string, string>> = { yes: "true", no: "false" };

/**
 * A test as people type it, as the tests of the standard: words as texts, days as dates, `yes`, `≤`; `-` tests nothing.
 * @param type of what is tested
 * @param scope with what is tested
 */
export function typedTest(text: string, type: Type, scope: Scope): string {
  const t = plain(text);
  if (t === "-" || t === "–") return "";
  if (type.t === "yesno") return YES_NO[t.toLowerCase()] ?? t;
  if (type.t === "text") {
    const not = /^not\s*\(([^"()]*)\)$/.exec(t)?.[1];
    if (not !== undefined) return `not(${asTexts(not.trim(), scope, type.options, true)})`;
    return asTexts(t, scope, type.options, true);
  }
  // From 5 to 10, both with it.
  if (type.t === "number" || type.t === "date")
    return t.replace(/^(?![([\]])([^[\],<>=]+)\.\.([^[\],<>=]+)$/, "[$1..$2]");
  return t;
}

/** What an output comes to as people type it, as a formula. */
export function typedValue(
  text: string,
  kind: OutputKind,
  scope: Scope,
  options?: readonly string[],
): string {
  const t = plain(text);
  switch (kind) {
    case "text":
      return asTexts(t, scope, options, false);
    case "yes or no":
      return YES_NO[t.toLowerCase()] ?? t;
    case "number":
    case "date":
    case "anything":
      return t;
  }
}
