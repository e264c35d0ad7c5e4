import type { Column, ColumnKind } from "@/core/form";
import { KINDS } from "@/kinds";

/** What the browser helps to fill in; a moment is looked for by its day. */
const TYPED: Partial<Record<ColumnKind, string>> = { date: "date", "date and time": "date", time: "time" };

/** How a column is filtered: by picking, or by what is typed. */
export type ColumnFilter =
  { by: "pick"; options: { value: string; label: string }[] } | { by: "type"; type: string };

/** Null for one that is filtered by no value anybody would type: a link, a person. A file goes by what it is called. */
export function columnFilter(c: Column): ColumnFilter | null {
  const { idOf } = KINDS.fields[c.kind];
  if (idOf === "person" || idOf === "record") return null;
  if (c.kind === "choice" || c.kind === "several choices")
    return { by: "pick", options: (c.options ?? []).map((o) => ({ value: o, label: o })) };
  if (c.kind === "yes or no")
    return {
      by: "pick",
      options: [
        { value: "true", label: "Yes" },
        { value: "false", label: "No" },
      ],
    };
  return { by: "type", type: TYPED[c.kind] ?? "text" };
}

/** The address of a list with one column filtered, or no more; the page does not stay. */
export function filteredView(view: string, column: string, value: string): string {
  const p = new URLSearchParams(view);
  p.delete("page");
  if (value === "") p.delete(`is.${column}`);
  else p.set(`is.${column}`, value);
  return p.toString();
}
