import type { Column } from "@/core/form";
import { KINDS } from "@/kinds";

/** A text as FEEL writes it. */
const quoted = (text: string): string => `"${text.replace(/[\\"]/g, "\\$&")}"`;

/** Kinds whose filters find a part. */
const FOUND_ANYWHERE: ReadonlySet<string> = new Set(["text", "long text", "e-mail", "web address"]);

/** The view of the records of one group: the same one, narrowed down to what they have in common. */
export function groupView(view: string, by: Column, value: string | boolean | null): string {
  const q = new URLSearchParams(view);
  q.delete("group");
  q.delete("page");
  const where = q.get("where") ?? "";
  // A filter of a text finds it anywhere; a group is what is exactly so.
  if (value !== null && FOUND_ANYWHERE.has(by.kind))
    q.set("where", `${where ? `(${where}) and ` : ""}${by.name} = ${quoted(String(value))}`);
  else if (value !== null && KINDS.fields[by.kind].many) q.set(`is.${by.id}`, `${value}\n`);
  else q.set(`is.${by.id}`, value === null ? "" : String(value));
  return String(q);
}
