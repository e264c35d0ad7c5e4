import type { Field } from "@/core/form";
import type { RowsDeed } from "./shape";

/** What can be done to line items, as the picker offers it. */
export const DEEDS: Readonly<Record<RowsDeed["do"], string>> = {
  set: "set a column of its rows",
  add: "add rows",
  remove: "remove rows",
  sort: "sort the rows",
};

/** A new deed, ready to be written on. */
export function blankDeed(what: RowsDeed["do"], id: string, lines: Field): RowsDeed {
  const of = { id, lines: lines.id };
  const column = lines.fields?.find((c) => !c.worked)?.id ?? "";
  switch (what) {
    case "set":
      return { ...of, do: "set", column, value: "null" };
    case "add":
      return { ...of, do: "add", values: [] };
    case "remove":
      return { ...of, do: "remove", where: "" };
    case "sort":
      return { ...of, do: "sort", by: lines.fields?.[0]?.name ?? "" };
  }
}

/** A deed in words, for the sentence of its step. */
export function deedText(r: RowsDeed, lines: readonly Field[]): string {
  const of = lines.find((f) => f.id === r.lines);
  const name = of?.name ?? "lines that are gone";
  const column = (id: string) => of?.fields?.find((c) => c.id === id)?.name ?? "?";
  switch (r.do) {
    case "set":
      return `in ${name}${r.where === undefined ? "" : ` where ${r.where || "?"}`}: ${column(r.column)} = ${r.value || "?"}`;
    case "add": {
      const values = r.values.map((v) => `${column(v.column)} = ${v.value || "?"}`).join(", ");
      const each = r.from === undefined ? "a row" : `a row for each of ${r.from || "?"}`;
      return `add to ${name} ${each}: ${values || "?"}`;
    }
    case "remove":
      return `remove from ${name} where ${r.where || "?"}`;
    case "sort":
      return `sort ${name} by ${r.by || "?"}${r.descending ? ", the last first" : ""}`;
  }
}
