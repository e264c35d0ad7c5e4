import type { Column, FactsData } from "@/core/form";
import { FIELD_INPUTS } from "@/fields/inputs";

/**
 * A stored value of a register column as text.
 * @param linked what links of the column point at, by what stands in them
 */
export function cellText(
  c: Column,
  v: unknown,
  people: Readonly<Record<string, string>>,
  linked: Readonly<Record<string, string>> = {},
): string {
  if (v === null || v === undefined || v === "") return "";
  if (Object.hasOwn(linked, String(v))) return linked[String(v)]!;
  if (typeof v === "boolean") return v ? "Yes" : "No";
  const names = Object.fromEntries(
    Object.entries(people).map(([id, name]) => [
      id,
      { id, name, email: "", jobTitle: "", department: "", site: "" },
    ]),
  );
  const facts: FactsData = { people: names, registers: {}, records: {} };
  return FIELD_INPUTS[c.kind].shown(String(v), { id: c.id, name: c.name, kind: c.kind }, facts);
}
