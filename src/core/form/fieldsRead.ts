import type { Reads } from "../expression";
import type { AccessOf } from "./access";
import { flatFields, walkFields, type Field } from "./field";
import { FORM_ENTRY } from "./overRecords";

/**
 * The fields and columns a formula reads, by their ids. A column read by its name is read, and not its table; a table
 * used whole is read with all its columns; what is known only when the formula runs counts as read.
 * @param own the line items in whose row the formula stands
 */
export function fieldsRead(reads: Reads, fields: readonly Field[], own?: Field): string[] {
  const columns = (f: Field) => flatFields(f.fields ?? []);
  const top = flatFields(fields);
  const out = new Set<string>();
  const tables = new Set<Field>();
  const byColumn = new Set<Field>();
  const read = (f: Field, column?: Field) => {
    out.add(column ? column.id : f.id);
    if (column) byColumn.add(f);
  };
  const named = (name: string): void => {
    const column = own && columns(own).find((c) => c.name === name);
    if (column) out.add(column.id);
    const f = column ? undefined : top.find((t) => t.name === name);
    if (f?.kind === "lines") tables.add(f);
    else if (f) out.add(f.id);
  };
  for (const r of reads.references)
    if (r.target.t === "name" || (r.target.t === "unknown" && r.target.outside)) named(r.name);
  for (const { name, target } of reads.references)
    if (target.t === "entry" && target.of === FORM_ENTRY) named(name);
  if (reads.wholes.some((w) => w.of === FORM_ENTRY))
    for (const f of [...top, ...(own ? columns(own) : [])]) named(f.name);
  for (const r of reads.references) {
    const { target } = r;
    if (target.t !== "entry" && (target.t !== "unknown" || target.among)) continue;
    for (const f of top)
      if (f.kind === "lines" && (target.t === "entry" ? target.of === `rows ${f.id}` : tables.has(f))) {
        const column = columns(f).find((c) => c.name === r.name);
        if (column) read(f, column);
      }
  }
  for (const w of reads.wholes)
    for (const f of top)
      if (f.kind === "lines" && (w.of === `rows ${f.id}` || (w.of === "*" && tables.has(f))))
        for (const c of columns(f)) read(f, c);
  for (const f of tables) if (!byColumn.has(f)) read(f);
  return [...out];
}

/** Whether what a clause of a trail reads (see `Clause`) is hidden from somebody, at whatever depth. */
export function hiddenReads(fields: readonly Field[], access: AccessOf): (read: string) => boolean {
  const hidden = new Set<string>();
  walkFields(fields, (f, parents) => {
    if (![f, ...parents].some((x) => access(x.id) === "hide")) return;
    const table = parents.find((p) => p.kind === "lines");
    if (!table) hidden.add(f.name);
    else
      for (const read of [`rows ${table.id}.${f.name}`, `rows ${table.id}.*`, `*.${f.name}`])
        hidden.add(read);
    hidden.add("*.*");
  });
  return (read) => hidden.has(read);
}
