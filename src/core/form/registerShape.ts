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
  needed?: boolean;
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
}

/** A record as stored: values by column id, as in FormData, with its id. */
export type StoredRecord = Readonly<Record<string, string | boolean | null>> & { readonly id: string };

export function recordTitle(shape: RegisterShape, record: Readonly<Record<string, unknown>>): string {
  const parts = shape.title.map((c) => record[c]).filter((v) => v !== null && v !== undefined && v !== "");
  return parts.length > 0 ? parts.join(" · ") : `${shape.one} ${String(record["id"] ?? "")}`;
}

export type Registers = Readonly<Record<string, RegisterShape>>;
