import type { RegisterShape } from "@/core/form";

const MOST = 36;

/** A name for the table that no other column of it has, from what the column is called. */
export function idFrom(name: string, shape: Pick<RegisterShape, "columns">): string {
  const plain = name
    .normalize("NFD")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^[^a-z]+|_+$/g, "")
    .slice(0, MOST);
  const base = plain || "column";
  // What the table itself has.
  const taken = new Set(["id", ...shape.columns.map((c) => c.id)]);
  let id = base;
  for (let n = 2; taken.has(id); n++) id = `${base}_${n}`;
  return id;
}
