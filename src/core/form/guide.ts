import { labelOf, walkFields, type Field } from "./field";

/** One page of a guided form. */
export interface GuidePart {
  /** Of the page, or of the first field that stands on none. */
  id: string;
  title: string;
  fields: readonly Field[];
}

/**
 * The pages of a guided form, in order: a page each, and what stands on none between two pages together, called as the
 * first section in it.
 * @param beginning what to call that where there is no section
 */
export function guideParts(fields: readonly Field[], beginning: string): GuidePart[] {
  const out: GuidePart[] = [];
  let loose: Field[] = [];
  const gather = () => {
    const named = loose.find((f) => f.kind === "section");
    if (loose.length > 0)
      out.push({ id: loose[0]!.id, title: named ? labelOf(named) : beginning, fields: loose });
    loose = [];
  };
  for (const f of fields) {
    if (f.kind !== "page") {
      loose.push(f);
      continue;
    }
    gather();
    out.push({ id: f.id, title: labelOf(f), fields: [f] });
  }
  gather();
  return out;
}

/** Ids of all that stands on a page, itself and its sections among them. */
export function fieldsOfPart(part: GuidePart): ReadonlySet<string> {
  const ids = new Set<string>();
  walkFields(part.fields, (f) => ids.add(f.id));
  return ids;
}

/**
 * Where somebody is who was on a page: there, while it is shown, else on the next one that is, else at the end, where
 * all is looked over (null). Pages come and go as the form is filled in.
 */
export function placeInGuide(
  all: readonly GuidePart[],
  shown: readonly GuidePart[],
  at: string | null,
): string | null {
  if (at === null || shown.some((p) => p.id === at)) return at;
  const from = all.findIndex((p) => p.id === at);
  const isShown = new Set(shown.map((p) => p.id));
  return all.slice(from + 1).find((p) => isShown.has(p.id))?.id ?? null;
}
