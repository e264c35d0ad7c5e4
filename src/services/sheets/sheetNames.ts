import type { Named, RegisterShape } from "@/core/form";
import { textInCell } from "@/core/form";
import type { SheetPlan, SheetRow } from "@/core/sheets";
import { registers, type Db } from "@/db";
import type { Directory } from "../kernel/directory";

/** The directory's people by name and e-mail address, in small letters; kept as long as it is the same. */
const kept = new WeakMap<Directory["people"], Map<string, string[]>>();
function peopleByName(d: Directory): Map<string, string[]> {
  const before = kept.get(d.people);
  if (before) return before;
  const by = new Map<string, string[]>();
  for (const p of d.people.values()) {
    if (!p.active) continue;
    for (const said of new Set([p.name.toLowerCase(), p.email.toLowerCase(), p.id]))
      if (said) by.set(said, [...(by.get(said) ?? []), p.id]);
  }
  kept.set(d.people, by);
  return by;
}

const oneOf = (ids: readonly string[] | undefined): Named => {
  if (!ids || ids.length === 0) return { why: "none" };
  return ids.length === 1 ? { id: ids[0]! } : { why: "several" };
};

/**
 * Whom and what the cells of some rows name: people of the office by name or address, records by what names them, of
 * registers whoever brings the sheet in may see.
 */
export async function namesIn(
  db: Db,
  d: Directory,
  seen: Readonly<Record<string, RegisterShape>>,
  shape: RegisterShape,
  plan: SheetPlan,
  rows: readonly SheetRow[],
): Promise<(column: string, text: string) => Named> {
  const records = new Map<string, Map<string, Set<string>>>();
  for (const [i, id] of plan.matches.entries()) {
    const c = shape.columns.find((x) => x.id === id);
    const target = c?.kind === "look-up" && c.register ? seen[c.register] : undefined;
    if (!c || !target) continue;
    const texts = new Set(rows.map((r) => textInCell(r.cells[i] ?? { text: "" })).filter(Boolean));
    records.set(c.id, await registers.recordsNamed(db, target, [...texts]));
  }
  const people = peopleByName(d);
  return (column, text) => {
    const c = shape.columns.find((x) => x.id === column);
    if (c?.kind === "person") return oneOf(people.get(text.toLowerCase()));
    return oneOf([...(records.get(column)?.get(text) ?? [])]);
  };
}
