import type { Column } from "@/core/form";

/** A text as FEEL writes it. */
const quoted = (text: string): string => `"${text.replace(/[\\"]/g, "\\$&")}"`;

/** The view of the records of one group: the same one, narrowed down to what they have in common. */
export function groupView(view: string, by: Column, value: string | boolean | null): string {
  const q = new URLSearchParams(view);
  q.delete("group");
  q.delete("page");
  const where = q.get("where") ?? "";
  // A filter of a text finds it anywhere; a group is what is exactly so.
  if (value !== null && (by.kind === "text" || by.kind === "long text"))
    q.set("where", `${where ? `(${where}) and ` : ""}${by.name} = ${quoted(String(value))}`);
  else q.set(`is.${by.id}`, value === null ? "" : String(value));
  return String(q);
}
