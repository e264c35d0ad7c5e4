import type { ListSearch } from "@/services";
import { readWidths, type ColumnWidths } from "./columnWidths";

/** Columns a list is put in order by, the first before the others. */
export const MOST_SORTS = 3;
const MOST_CONDITION = 4000;

/** What stands in the address of a list: a view is a link. */
export interface ListView {
  search: string;
  filters: ListSearch["filters"];
  sort: { column: string; descending: boolean }[];
  where: string;
  /** The columns that are shown, in their order; all that are listed where there are none. */
  columns: string[];
  widths: ColumnWidths;
  /** The column records are grouped by; null where they are listed one by one. */
  group: string | null;
}

/** Reads a view from the parameters of an address, whatever they are. */
export const listView = (q: URLSearchParams): ListView => ({
  search: q.get("q") ?? "",
  filters: [...q].flatMap(([k, value]) => (k.startsWith("is.") ? [{ column: k.slice(3), value }] : [])),
  sort: (q.get("sort") ?? "")
    .split(",")
    .filter(Boolean)
    .slice(0, MOST_SORTS)
    .map((x) => ({ column: x.replace(/^-/, ""), descending: x.startsWith("-") })),
  where: (q.get("where") ?? "").slice(0, MOST_CONDITION),
  columns: (q.get("cols") ?? "").split(",").filter(Boolean),
  widths: readWidths(q.get("wide") ?? ""),
  group: q.get("group") || null,
});
