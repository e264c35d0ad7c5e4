import type { FieldKind } from "@/fields/shapes";

export type { FieldKind } from "@/fields/shapes";

export interface Check {
  /** A formula that must come to yes for the form to be sent; with `records`, the condition that those meet. */
  must: string;
  /** It is about the records of a register: none of them may meet the condition, or one must. */
  records?: { register: string; there: "none" | "some" };
  /** What the person is told when it does not. */
  say: string;
  /** They may go on all the same, saying why. */
  passable?: true;
  /** Ids of the fields, or columns of its row, that it is told at; absent for its own. */
  about?: string[];
}

/** Rows line items may have. */
export const MOST_ROWS = 5000;

/** One row of the form sheet. Formulas are FEEL over field names; an id never changes, a name may. */
export interface Field {
  id: string;
  name: string;
  kind: FieldKind;
  /** What people read in its place, in any wording; absent where that is its name. */
  label?: string;
  help?: string;
  /** Formula for when an answer is needed; "true" for always. */
  needed?: string;
  /** Formula for when it is shown; absent for always. */
  shown?: string;
  /** Formula that works the value out; such a field is never typed. */
  worked?: string;
  /**
   * With `worked`: a copy. The value is taken when what it is worked out from is filled in, and stays as it is then,
   * whatever becomes of the record it came from.
   */
  copied?: true;
  /** With `worked`: worked out until the request is sent, and as it was then afterwards. */
  fixed?: true;
  /** Of a procedure: whether its callers give the value, read it afterwards, or both. Absent for a value of its own. */
  hand?: Hand;
  /** Formula for what it begins with: as the form is opened, or where nothing is handed over. */
  starting?: string;
  /** It says something of a person: blanked some time after the request has ended. */
  personal?: true;
  checks?: Check[];
  /** Of a column: no two rows have the same in it. */
  unique?: true;
  /** Of a column of numbers: their sum stands below them. */
  total?: true;
  /**
   * Least and greatest: a number, or a date, as text. Of line items how many rows, where there are any. The greatest size
   * of a file in MB (a million bytes).
   */
  min?: string;
  max?: string;
  /**
   * Of one in which a record, a person or what stands in a column is picked: a condition over the columns of what is
   * picked, read before the names of the form; only what meets it is offered.
   */
  offered?: string;
  /** For a choice; for a file the endings its name may have, without the dot. */
  options?: string[];
  /** For a choice: what stands in a column of a register, by its id, is what can be chosen. Only the text is kept. */
  among?: { register: string; column: string };
  /** By choice what people read in its place, in any wording; formulas and stored data keep the choice. */
  optionLabels?: Readonly<Record<string, string>>;
  /** For a look-up: the key of the register. */
  register?: string;
  /** For a look-up in several registers: their keys. */
  registers?: string[];
  /** Of a page, a section or a text block: what is read below its heading, with {values}; marked up as `prose` says. */
  text?: string;
  /** Of a text block: a picture that stands below its words. */
  picture?: PictureOfText;
  /** For pages, sections and lines. */
  fields?: Field[];
}

/** A picture as a text names it. */
export interface PictureOfText {
  /** SHA-256 of what is kept, in hex. */
  hash: string;
  /** What it shows, for whoever does not see it. */
  says: string;
  /** In pixels. */
  width: number;
  height: number;
}

export type Hand = "in" | "out" | "in and out";
export const takesIn = (f: Pick<Field, "hand">): boolean => f.hand === "in" || f.hand === "in and out";
export const handsBack = (f: Pick<Field, "hand">): boolean => f.hand === "out" || f.hand === "in and out";

/** What whoever fills a form in, or reads it, sees a field called. Formulas and sheets know it by its name. */
export const labelOf = (f: Pick<Field, "name" | "label">): string => f.label ?? f.name;

/** What people read of a choice. */
export const optionText = (f: Pick<Field, "optionLabels">, option: string): string =>
  f.optionLabels && Object.hasOwn(f.optionLabels, option) ? f.optionLabels[option]! : option;

/** Kinds whose fields hold others. */
export const holdsFields = (kind: FieldKind): boolean =>
  kind === "page" || kind === "section" || kind === "lines";
/** Whether it only arranges or explains others and has no value. */
export const isGroup = (f: Pick<Field, "kind">): boolean =>
  f.kind === "page" || f.kind === "section" || f.kind === "text block";

/** Fields in reading order with pages and sections opened, lines kept whole. */
export function flatFields(fields: readonly Field[]): Field[] {
  return fields.flatMap((f) => (isGroup(f) ? flatFields(f.fields ?? []) : [f]));
}

/** Every field, groups and columns included, with what it stands in. */
export function walkFields(
  fields: readonly Field[],
  visit: (f: Field, parents: readonly Field[]) => void,
  parents: readonly Field[] = [],
): void {
  for (const f of fields) {
    visit(f, parents);
    if (f.fields) walkFields(f.fields, visit, [...parents, f]);
  }
}

export function findField(
  fields: readonly Field[],
  id: string,
): { field: Field; parents: readonly Field[] } | null {
  let found: { field: Field; parents: readonly Field[] } | null = null;
  walkFields(fields, (field, parents) => {
    if (field.id === id) found = { field, parents };
  });
  return found;
}

/** What is stored for a field. Numbers and money are decimal text, dates ISO text, people, records and files ids. */
export type Stored = string | boolean | null | StoredRow[];
/** One row of lines: `#` is the row's own id, the rest are by column id. */
export interface StoredRow {
  "#": string;
  [column: string]: string | boolean | null;
}
/** A form's values by field id. */
export type FormData = Readonly<Record<string, Stored>>;

export const MAX_LINES = 2000;
/** The greatest size of any file, in MB. */
export const MAX_FILE_MB = 100;
/** The same where nobody has said how large. */
export const USUAL_FILE_MB = 25;
/** How many files a field takes that takes several, and the greatest size of all of them, in MB. */
export const MOST_FILES = 50;
export const MOST_FILES_MB = 100;
export const MAX_TEXT = 500;
export const MAX_LONG_TEXT = 20_000;
/** The longest text of a page, a section or a text block. */
export const MAX_PROSE = 5000;
