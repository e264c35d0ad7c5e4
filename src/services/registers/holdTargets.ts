import type { RegisterShape } from "@/core/form";
import type { Wrote } from "@/core/records";
import { registers } from "@/db";
import { KINDS } from "@/kinds";
import type { Planned, Writing } from "./writing";

/**
 * Holds what new links to any of several registers point at until the transaction ends: no foreign key can. Whoever
 * removes one of them waits, and finds the link then; what was removed meanwhile is refused here.
 * @returns what can be written, with what cannot noted in `out`
 */
export async function holdTargets(
  w: Writing,
  shape: RegisterShape,
  planned: readonly Planned[],
  out: Map<number, Wrote>,
): Promise<Planned[]> {
  const columns = registers.unkeyedLinks(shape);
  if (columns.length === 0) return [...planned];
  const pointers = planned.flatMap(({ nth, before, values }) =>
    columns.flatMap((c) => {
      const raw = values?.[c.id];
      const to = typeof raw === "string" ? KINDS.fields[c.kind].links?.target(c, raw) : null;
      return to && before?.[c.id] !== raw ? [{ nth, column: c, raw: String(raw), to }] : [];
    }),
  );
  const there = new Set<string>();
  // Always in the same order, so that two who hold several do not wait for each other.
  for (const key of [...new Set(pointers.map((p) => p.to.register))].sort()) {
    const ids = pointers.flatMap((p) => (p.to.register === key ? [p.to.id] : []));
    for (const id of await registers.holdRecords(w.db, key, ids)) there.add(`${key}/${id}`);
  }
  const gone = pointers.filter(({ to }) => !there.has(`${to.register}/${to.id}`));
  for (const { nth, column, raw } of gone) {
    const problem = { path: column.id, code: "no-record" as const, data: { field: column.name, value: raw } };
    out.set(nth, { ok: false, why: { code: "form", problems: [problem] } });
  }
  return planned.filter((p) => !gone.some((g) => g.nth === p.nth));
}
