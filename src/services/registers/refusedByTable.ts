import { recordTitle, type RegisterShape } from "@/core/form";
import { registers, type Db } from "@/db";

interface TableError {
  code?: string;
  detail?: string;
  column?: string;
}

/** Which record has the value already that no two may share; null where that is not what the table refused. */
export async function takenBy(db: Db, shape: RegisterShape, error: unknown) {
  const { code, detail } = error as TableError;
  const key = code === "23505" ? /^Key \("?(\w+)"?\)=\((.*)\) already exists/s.exec(detail ?? "") : null;
  const column = shape.columns.find((c) => c.id === key?.[1]);
  if (!key || !column) return null;
  const [other] = await registers.recordsWith(db, shape, column.id, key[2]!, 1);
  const by = other ? { id: other.id, title: recordTitle(shape, other) } : null;
  return { column: column.name, value: key[2]!, by };
}

/** What else a table will not have, in words. */
export function unfitWords(shape: RegisterShape, error: unknown): string {
  const { code, column } = error as TableError;
  const named = shape.columns.find((c) => c.id === column)?.name;
  if (code === "23502") return `${named ?? "A column that is needed"} would be empty.`;
  if (code === "23503") return "It points at something that is not there, or something still points at it.";
  return `A value does not fit its column in ${shape.name}.`;
}
