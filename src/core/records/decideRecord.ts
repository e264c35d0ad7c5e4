import {
  keptAs,
  startingValues,
  type Facts,
  type FormProblem,
  type FormResult,
  type StoredRecord,
} from "../form";
import { occasionsOf } from "./occasions";
import type { RecordProgram } from "./recordForm";
import { ALL, asked, evaluated, onlyColumns, recordValue, withBefore } from "./recordNames";
import type { RecordChange, RecordValues } from "./recordWrite";

/** What a record becomes, or why nothing is written. `path` of a problem is the column's id, or empty. */
export type RecordDecision = { ok: true; values: RecordValues } | { ok: false; problems: FormProblem[] };

const didOf = (before: StoredRecord | null, change: RecordValues | null): RecordChange["did"] => {
  if (change === null) return "removed";
  return before ? "changed" : "added";
};

/**
 * What becomes of a record that somebody or something writes, before it is kept: what it begins with, the rules of its
 * register in their order (each sees what those before it have set), what is worked out, and whether what changed fits
 * its columns. What was there before and is not touched is not judged.
 * @param before the record as it is; null for a new one
 * @param change what is written, by column; null where it is removed
 * @param facts with the records that `before` and `change` point at
 */
export function decideRecord(
  p: RecordProgram,
  before: StoredRecord | null,
  change: RecordValues | null,
  facts: Facts,
): RecordDecision {
  const was = recordValue(p, before, facts);
  let data: RecordValues = before ? { ...onlyColumns(p, before), ...change } : { ...change };
  if (!before) {
    const begun = startingValues(p.form, data, ALL, facts, new Map());
    if (begun.problems.length > 0) return { ok: false, problems: begun.problems };
    data = begun.data as RecordValues;
  }
  // What somebody typed wrong is no empty value: a rule must not be asked over it, nor write over it.
  const wrong = change === null ? [] : mistyped(p, before, data, facts);
  if (wrong.length > 0) return { ok: false, problems: wrong };
  let now = evaluated(p, data, facts);
  const at = occasionsOf(didOf(before, change));
  for (const { rule, when, value } of p.rules) {
    if (!at.includes(rule.on)) continue;
    const names = withBefore(now.names, was);
    const is = asked(when, names, facts);
    if ("why" in is) return refused("", "unclear", p.shape.name, is.why);
    // Only a plain yes: a condition over something empty is not met.
    if (is.value !== true) continue;
    if (rule.then.do === "refuse") return refused("", "check", p.shape.name, rule.then.say);
    const { column } = rule.then;
    const c = p.form.fields.find((f) => f.id === column);
    const v = asked(value, names, facts);
    if (!c) return refused("", "unclear", p.shape.name, `A rule sets a column that is not there.`);
    if ("why" in v) return refused(c.id, "unclear", c.name, v.why);
    const kept = keptAs(c, v.value, p.form.kinds, facts);
    if ("why" in kept) return refused(c.id, "unclear", c.name, kept.why);
    data = { ...data, [column]: kept.kept };
    now = evaluated(p, data, facts);
  }
  if (change === null) return { ok: true, values: {} };
  const problems = mistakes(p, before, now);
  return problems.length > 0 ? { ok: false, problems } : { ok: true, values: valuesOf(p, now) };
}

const valuesOf = (p: RecordProgram, r: FormResult): RecordValues =>
  Object.fromEntries(p.shape.columns.map((c) => [c.id, (r.data[c.id] ?? null) as string | boolean | null]));

/** Values that are there, are another than before, and are none their columns hold. */
function mistyped(
  p: RecordProgram,
  before: StoredRecord | null,
  data: RecordValues,
  facts: Facts,
): FormProblem[] {
  return p.form.fields.flatMap((f) => {
    const raw = data[f.id] ?? null;
    if (f.worked || raw === null || raw === "" || raw === (before?.[f.id] ?? null)) return [];
    const kind = p.form.kinds[f.kind];
    return kind
      .mistakes(f, raw, kind.value(f, raw, facts))
      .map((m) => ({ code: m.code, path: f.id, data: { field: f.name, ...m.data } }));
  });
}

/** What is wrong with what changed; what cannot be worked out is not kept as if it were empty. */
function mistakes(p: RecordProgram, before: StoredRecord | null, now: FormResult): FormProblem[] {
  const touched = (id: string) => before === null || (now.data[id] ?? null) !== (before[id] ?? null);
  const out = now.problems.filter((x) => touched(x.path));
  for (const [path, why] of now.failed) {
    if (out.some((x) => x.path === path)) continue;
    const field = p.form.fields.find((f) => f.id === path)!;
    out.push({ code: "unclear", path, data: { field: field.name, why } });
  }
  return out;
}

function refused(path: string, code: "unclear" | "check", field: string, said: string): RecordDecision {
  return {
    ok: false,
    problems: [{ code, path, data: { field, ...(code === "check" ? { say: said } : { why: said }) } }],
  };
}
