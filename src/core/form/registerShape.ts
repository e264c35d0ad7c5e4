import type { ColumnKind } from "@/fields/shapes";

export type { ColumnKind } from "@/fields/shapes";

/** One typed column of a register. `id` is its name in the database, `name` is how formulas read it. */
export interface Column {
  id: string;
  name: string;
  kind: ColumnKind;
  options?: string[];
  /** For a link: the register it points at. */
  register?: string;
  /** For a link to any of several registers: their keys. */
  registers?: string[];
  needed?: boolean;
  help?: string;
  /** No two records have the same here; empty may be as many as will. */
  unique?: boolean;
  /** Formula for what a new record begins with where nothing is said. */
  starting?: string;
  /** Formula over the record's own columns: kept with the record, and never filled in. */
  worked?: string;
  /** Shown in lists only where somebody chooses it. */
  unlisted?: boolean;
  /** Taken out: nobody sees it any more, and it stays for what was released while it was there, until none of that reads it. */
  leaving?: true;
}

/** What a rule of a register looks at. */
export type RuleOccasion = "added" | "changed" | "added or changed" | "removed";

/** Something that holds for every record before it is kept, whoever writes it: by hand, by a step, by a program. */
export interface RegisterRule {
  id: string;
  on: RuleOccasion;
  /** Condition over the record as it would be; `Before` is the record as it was, empty for a new one. */
  when: string;
  then: { do: "set"; column: string; value: string } | { do: "refuse"; say: string };
}

/** What a register looks like: format tag `cobble-step/register@1`. */
export interface RegisterShape {
  format: "cobble-step/register@1";
  key: string;
  name: string;
  /** One record in words: "object" of Objects. */
  one: string;
  purpose: string;
  columns: Column[];
  /** Columns whose values together name a record; the first is shown as its title. */
  title: string[];
  /** A column no two records share, used to find a record again. */
  key_column?: string;
  rules?: RegisterRule[];
}

const stayingOf = new WeakMap<RegisterShape, RegisterShape>();
/** A register without the columns that are leaving: the same one where there are none. */
export function staying(shape: RegisterShape): RegisterShape {
  if (!shape.columns.some((c) => c.leaving)) return shape;
  let known = stayingOf.get(shape);
  if (!known) {
    known = { ...shape, columns: shape.columns.filter((c) => !c.leaving) };
    stayingOf.set(shape, known);
  }
  return known;
}

/** A record as stored: values by column id, as in FormData, with its id. */
export type StoredRecord = Readonly<Record<string, string | boolean | null>> & { readonly id: string };

export function recordTitle(shape: RegisterShape, record: Readonly<Record<string, unknown>>): string {
  const parts = shape.title.map((c) => record[c]).filter((v) => v !== null && v !== undefined && v !== "");
  return parts.length > 0 ? parts.join(" · ") : `${shape.one} ${String(record["id"] ?? "")}`;
}

export type Registers = Readonly<Record<string, RegisterShape>>;

/** What columns are called, by their register's key and their id. */
export type ColumnNames = Readonly<Record<string, Readonly<Record<string, string>>>>;
