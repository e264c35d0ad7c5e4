import type { Face } from "./faces";

/** A stretch of text in one face. */
export interface Run {
  text: string;
  font: string;
  /** Too long to stand on one line: it is broken wherever a line ends. */
  long?: true;
}

/** From so many letters on without a space a word is broken. */
const LONG_WORD = 24;

/** What is written otherwise where no face has it. */
const OTHERWISE: Readonly<Record<string, string>> = {
  "\u202f": "\u00a0",
  "\u00a0": " ",
  "→": "->",
  "−": "-",
  "≤": "<=",
  "≥": ">=",
  "\t": " ",
};
/** Marks that are not seen: of breaks, of direction, of how a letter is drawn. */
const UNSEEN = /[\r\u00ad\u200b-\u200f\ufe0f\ufeff]/g;
/** Stands for a letter that no face has. */
export const UNKNOWN = "?";

/**
 * A text as stretches of the first face that has each letter.
 * @param missing takes what no face has, which is printed as `UNKNOWN`
 */
export function runsOf(text: string, of: readonly Face[], missing: Set<string>): Run[] {
  const out: Run[] = [];
  const put = (letter: string, font: string, long: boolean) => {
    const last = out.at(-1);
    if (last?.font === font && (last.long ?? false) === long) last.text += letter;
    else out.push({ text: letter, font, ...(long ? { long: true as const } : {}) });
  };
  const faceOf = (letter: string) => of.find((f) => f.has(letter.codePointAt(0)!))?.name;
  const first = of[0]!.name;
  // A letter with its accents is one letter in a face.
  for (const word of text.normalize("NFC").replace(UNSEEN, "").split(/(\s+)/)) {
    const long = [...word].length > LONG_WORD;
    for (const letter of word) {
      const font = letter === "\n" ? (out.at(-1)?.font ?? first) : faceOf(letter);
      if (font !== undefined) put(letter, font, long);
      else if (Object.hasOwn(OTHERWISE, letter)) put(OTHERWISE[letter]!, first, long);
      else {
        missing.add(letter);
        put(UNKNOWN, first, long);
      }
    }
  }
  return out;
}
