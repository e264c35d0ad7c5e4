/** A few words of one look, or a formula whose value stands there. */
export type Run = Look & ({ text: string } | { value: string });
export interface Look {
  bold?: true;
  italic?: true;
  /** An address on the web or of a mailbox, with {formulas}. */
  link?: string;
}

/** What can stand in a block that is repeated: its formulas read the thing it is for, and no list of another. */
export type PlainPart =
  | { part: "paragraph" | "heading"; runs: Run[] }
  | { part: "list"; numbered?: true; items: Run[][] }
  /** The first row is its heading. */
  | { part: "table"; rows: Run[][][] };

/** One part of a letter, as it is written; formulas are worked out when it is sent. */
export type LetterPart =
  | PlainPart
  /** A row of a table for each thing of a list, which formulas of its columns read by a name. */
  | { part: "lines"; of: string; as: string; columns: { title: string; value: string }[] }
  /** Stands there only where a condition holds. */
  | { part: "when"; when: string; parts: LetterPart[] }
  /** Stands there once for each thing of a list. */
  | { part: "each"; of: string; as: string; parts: (PlainPart | WhenInEach)[] };
export interface WhenInEach {
  part: "when";
  when: string;
  parts: PlainPart[];
}

/** A letter in one language. */
export interface LetterText {
  /** By its tag (BCP 47): "en", "pt-BR". */
  language: string;
  /** A text with {formulas}. */
  subject: string;
  parts: LetterPart[];
}

/** A text that is kept to be sent, with values. */
export interface Letter {
  id: string;
  name: string;
  /** Closes other letters, and is not sent by itself. */
  closes?: true;
  /** The letter that closes it. */
  closing?: string;
  /** Formula for the language to write in; where it comes to none of them the first is written. */
  language?: string;
  /** Whoever works on a request may send it; it reads only what the whole request knows then. */
  byHand?: true;
  /** At least one; one for each language. */
  texts: LetterText[];
  /** The organisation's letter it was taken from, as that was then. */
  from?: { letter: string; version: number };
}

/** What formulas read a thing of a list by, unless the letter calls it otherwise. */
export const EACH_NAME = "Item";
