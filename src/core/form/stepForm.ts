import { isGroup, walkFields, type Field } from "./field";

/** How a form is shown: everything below each other, page by page as somebody likes, or one page after the other. */
export type FormShows = "together" | "pages" | "guided";

/** Where the buttons stand by which a step is answered. */
export type AnswersAt = "top" | "end";

/** What somebody sees of the form where they fill it in: at a start, or at a step. */
export interface StepForm {
  /** Absent: by pages at a start, together at a step. */
  shows?: FormShows;
  /** What stands above it in the place of what the step is called. */
  heading?: string;
  help?: string;
  /**
   * Where the answers stand: above the form, or below all of it, so that whoever answers has gone through it; absent:
   * at the foot of what is in sight.
   */
  answers?: AnswersAt;
  /**
   * Ids of the pages, sections and fields shown, in this order; absent: the whole form. What is left out cannot be filled
   * in there, whatever access says.
   */
  parts?: string[];
  /** Ids of the columns shown of line items; those of which none is named show all they have. */
  columns?: string[];
}

/**
 * The fields shown, in their order. What stands in something shown is shown with it, and once only, where it comes first.
 * A part that is not there any more shows nothing.
 */
export function arrangedFields(fields: readonly Field[], form: StepForm | undefined): Field[] {
  const { parts, columns } = form ?? {};
  const withColumns = (f: Field): Field => {
    if (f.kind !== "lines" || !columns) return f.fields ? { ...f, fields: f.fields.map(withColumns) } : f;
    const named = columns.flatMap((id) => f.fields?.find((c) => c.id === id) ?? []);
    return named.length > 0 ? { ...f, fields: [...new Set(named)] } : f;
  };
  if (!parts) return columns ? fields.map(withColumns) : [...fields];
  const byId = new Map<string, Field>();
  walkFields(fields, (f, parents) => {
    if (!parents.some((p) => p.kind === "lines")) byId.set(f.id, f);
  });
  const taken = new Set<string>();
  const take = (f: Field): Field | null => {
    if (taken.has(f.id)) return null;
    taken.add(f.id);
    if (!isGroup(f) || !f.fields) return withColumns(f);
    const inner = f.fields.flatMap((x) => take(x) ?? []);
    return f.fields.length > 0 && inner.length === 0 ? null : { ...f, fields: inner };
  };
  return parts.flatMap((id) => {
    const f = byId.get(id);
    return f ? (take(f) ?? []) : [];
  });
}

/** Ids of all fields and columns that can be filled in there, as far as access lets one; null for all of them. */
export function fillableIn(fields: readonly Field[], form: StepForm | undefined): ReadonlySet<string> | null {
  if (!form?.parts && !form?.columns) return null;
  const out = new Set<string>();
  walkFields(arrangedFields(fields, form), (f) => void out.add(f.id));
  return out;
}
