import type { Column } from "@/core/form";
import { dateText, moneyText, numberText } from "@/ui";

/** A stored value of a register column as text. */
export function cellText(c: Column, v: unknown, people: Readonly<Record<string, string>>): string {
  if (v === null || v === undefined || v === "") return "";
  if (typeof v === "boolean") return v ? "Yes" : "No";
  const s = String(v);
  switch (c.kind) {
    case "money":
      return moneyText(s);
    case "number":
      return numberText(s);
    case "date":
      return dateText(s);
    case "person":
      return people[s] ?? s;
    default:
      return s;
  }
}
