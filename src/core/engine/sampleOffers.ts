import { findField, type Field, type FieldKinds, type FormData, type Stored } from "../form";
import type { RequestState, Visit } from "./state";

/**
 * The first of what is offered where nothing, or something else, is filled in: what somebody would come to pick. Where
 * nothing is offered it stays; a sample that searches nothing finds nothing.
 */
export function withOffered(
  fields: readonly Field[],
  data: FormData,
  offers: Visit["offers"],
  kinds: FieldKinds,
): FormData {
  const out: Record<string, Stored> = { ...data };
  for (const [id, values] of Object.entries(offers ?? {})) {
    const [first] = values;
    const found = findField(fields, id);
    if (first === undefined || !found) continue;
    const table = found.parents.find((p) => p.kind === "lines");
    const { many } = kinds[found.field.kind];
    const all = (v: string) => (many?.texts(v) ?? [v]).every((x) => values.includes(x));
    const picked = (v: unknown) => (typeof v === "string" && v !== "" && all(v) ? v : first);
    if (!table) out[id] = picked(data[id]);
    else {
      const rows = data[table.id];
      if (Array.isArray(rows)) out[table.id] = rows.map((row) => ({ ...row, [id]: picked(row[id]) }));
    }
  }
  return out;
}

/** The same request with nothing offered that would have to be picked, in procedures too. */
export function withoutOffers(s: RequestState): RequestState {
  const offering = Object.values(s.visits).some((v) => v.offers);
  const calls = Object.entries(s.calls).map(
    ([id, c]) => [id, { ...c, state: withoutOffers(c.state) }] as const,
  );
  if (!offering && calls.every(([id, c]) => c.state === s.calls[id]!.state)) return s;
  const visits = Object.entries(s.visits).map(([id, { offers: _, ...v }]) => [id, v] as const);
  return { ...s, visits: Object.fromEntries(visits), calls: Object.fromEntries(calls) };
}
