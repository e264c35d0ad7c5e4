import type { Column, Named, Registers, RegisterShape } from "@/core/form";
import { textInCell } from "@/core/form";
import type { SheetPlan, SheetRow } from "@/core/sheets";
import { registers, type Db } from "@/db";
import { KINDS } from "@/kinds";
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

/** What a link that may lead to several registers is called in a sheet: of which register it is stands before it. */
export function linkName(c: Column, raw: string, title: string, seen: Registers): string {
  const { links } = KINDS.fields[c.kind];
  const to = links?.target(c, raw);
  const of = to && links!.registers(c).length > 1 ? seen[to.register]?.name : undefined;
  return of === undefined ? title : `${of}: ${title}`;
}

/** What a text of a sheet may mean in one register: the name of a record, or that behind the register's own. */
function namesMeant(c: Column, text: string, of: RegisterShape): string[] {
  const before = `${of.name}:`;
  const several = KINDS.fields[c.kind].links!.registers(c).length > 1;
  const behind = several && text.toLowerCase().startsWith(before.toLowerCase());
  return behind ? [text, text.slice(before.length).trim()] : [text];
}

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
    const { links } = (c && KINDS.fields[c.kind]) ?? {};
    if (!c || !links) continue;
    const texts = new Set(rows.map((r) => textInCell(r.cells[i] ?? { text: "" })).filter(Boolean));
    const found = new Map<string, Set<string>>();
    for (const key of links.registers(c)) {
      const target = seen[key];
      if (!target) continue;
      const byName = new Map<string, string[]>();
      for (const text of texts)
        for (const name of namesMeant(c, text, target)) byName.set(name, [...(byName.get(name) ?? []), text]);
      for (const [name, ids] of await registers.recordsNamed(db, target, [...byName.keys()]))
        for (const text of byName.get(name)!)
          for (const id of ids)
            found.set(text, (found.get(text) ?? new Set()).add(links.pointer({ register: key, id })));
    }
    records.set(c.id, found);
  }
  const people = peopleByName(d);
  return (column, text) => {
    const c = shape.columns.find((x) => x.id === column);
    if (c?.kind === "person") return oneOf(people.get(text.toLowerCase()));
    return oneOf([...(records.get(column)?.get(text) ?? [])]);
  };
}
