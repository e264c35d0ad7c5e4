import type { Facts, FormProblem } from "../form";
import type { RecordProgram } from "./recordForm";
import { evaluated } from "./recordNames";
import type { RecordValues } from "./recordWrite";

/**
 * What is worked out of a record, anew, where nothing else of it changes: no rule is asked, because nobody writes it.
 * @param data its columns, as they are to be
 * @returns the worked-out columns, or why one of them cannot be told: it is never kept as if it were empty
 */
export function reworked(
  p: RecordProgram,
  data: RecordValues,
  facts: Facts,
): { ok: true; values: RecordValues } | { ok: false; problems: FormProblem[] } {
  const now = evaluated(p, data, facts);
  const worked = p.form.fields.filter((f) => f.worked);
  const problems = worked.flatMap((f): FormProblem[] => {
    const why = now.failed.get(f.id);
    if (why !== undefined) return [{ code: "unclear", path: f.id, data: { field: f.name, why } }];
    return now.problems.filter((x) => x.path === f.id);
  });
  if (problems.length > 0) return { ok: false, problems };
  const valueOf = (id: string) => (now.data[id] ?? null) as string | boolean | null;
  return { ok: true, values: Object.fromEntries(worked.map((f) => [f.id, valueOf(f.id)])) };
}
