import type { RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";

/** Register tables live in a schema of their own. Names are checked before they come near SQL, and quoted. */
export const quoted = (name: string): string => {
  if (!/^[a-z][a-z0-9_]{0,39}$/.test(name)) throw new Error(`not a table or column name: ${name}`);
  return `"${name}"`;
};
export const tableOf = (key: string): string => `register.${quoted(key)}`;

export type RecordRow = Record<string, string | boolean | null> & { id: string };

/** Values as stored in forms: numbers as decimal text, dates ISO, links as id text. */
export function selectRecord(shape: RegisterShape, alias = "t"): string {
  const cols = shape.columns.map((c) => {
    const name = `${alias}.${quoted(c.id)}`;
    return `${COLUMNS[c.kind].read(name)} as ${quoted(c.id)}`;
  });
  return [`${alias}.id::text as id`, ...cols].join(", ");
}
