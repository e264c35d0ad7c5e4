import { flatFields, labelOf, type FormData, type FormProblem } from "../form";
import type { CompiledRelease } from "./release";

/**
 * Signatures that are no new ones: a picture that stands in the form already, where somebody else may have signed with it,
 * or that is given twice at once. Whoever sees a signature could sign with it otherwise.
 * @param before what is kept
 * @param after with what was filled in
 */
export function signaturesReused(
  { definition, kinds }: Pick<CompiledRelease, "definition" | "kinds">,
  before: FormData,
  after: FormData,
): FormProblem[] {
  const all = flatFields(definition.fields);
  const taken = new Set(
    Object.values(before).flatMap((v) =>
      Array.isArray(v)
        ? v.flatMap((row) => Object.entries(row).flatMap(([c, x]) => (c === "#" ? [] : [x])))
        : [v],
    ),
  );
  const out: FormProblem[] = [];
  for (const f of all) {
    const value = after[f.id];
    if (!kinds.fields[f.kind].signs || typeof value !== "string" || value === "" || value === before[f.id])
      continue;
    if (taken.has(value)) out.push({ code: "signed-elsewhere", path: f.id, data: { field: labelOf(f) } });
    taken.add(value);
  }
  return out;
}
