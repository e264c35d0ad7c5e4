import { compile, parseFormula, type Program } from "../expression";
import {
  findField,
  keptAs,
  type Facts,
  type Field,
  type FormData,
  type FormSurrounding,
  type Stored,
} from "../form";
import type { FilledByRecord, OfRecords } from "./ofRecords";
import type { RecordChange } from "./recordWrite";
import { occasionsOf } from "./occasions";
import { ruleScope, type RecordProgram } from "./recordForm";
import { asked, evaluated, onlyColumns, recordValue, withBefore } from "./recordNames";

/** A start by records, ready to be asked; keep it as long as the release and the shapes of registers stay the same. */
export interface RecordStartProgram {
  of: OfRecords;
  when: Program | null;
  fills: FilledByRecord;
  /** By field; null for a formula with a mistake. */
  values: ReadonlyMap<string, Program | null>;
}

export function recordStartProgram(
  of: OfRecords,
  fills: FilledByRecord,
  shape: RecordProgram["shape"],
  around: FormSurrounding,
): RecordStartProgram {
  const scope = ruleScope(shape, around);
  const program = (text: string): Program | null => {
    const { ast } = parseFormula(text, scope);
    return ast ? compile(ast) : null;
  };
  return {
    of,
    when: of.when === null ? null : program(of.when),
    fills,
    values: new Map(fills.values.map((v) => [v.field, program(v.value)])),
  };
}

type Happened = Pick<RecordChange, "did" | "before" | "after">;

/**
 * Whether what became of a record starts a request. What cannot be told is said: it is no "no".
 * @param facts with the records that it points at, before and after
 */
export function startsBy(
  s: RecordStartProgram,
  p: RecordProgram,
  { did, before, after }: Happened,
  facts: Facts,
): boolean | { why: string } {
  const { of } = s;
  if (!occasionsOf(did).includes(of.on)) return false;
  const changed = (c: string) => (before?.[c] ?? null) !== (after?.[c] ?? null);
  if (of.columns && !of.columns.some(changed)) return false;
  if (of.when === null) return true;
  const holds = (record: typeof after) => {
    const { names } = evaluated(p, onlyColumns(p, record!), facts);
    return asked(s.when, withBefore(names, recordValue(p, before, facts)), facts);
  };
  const is = holds(after ?? before);
  if ("why" in is) return is;
  if (is.value !== true) return false;
  if (!of.newly || did !== "changed") return true;
  const was = holds(before);
  // Where it could not be told before, that it holds now is news.
  return "why" in was || was.value !== true;
}

/** What the form of a request begins with, of what became of a record; or why that cannot be told. */
export function filledBy(
  s: RecordStartProgram,
  p: RecordProgram,
  { before, after }: Pick<Happened, "before" | "after">,
  fields: readonly Field[],
  facts: Facts,
): { data: FormData } | { why: string } {
  const record = after ?? before!;
  const out: Record<string, Stored> = {};
  if (s.fills.into !== null) out[s.fills.into] = record.id;
  const { names } = evaluated(p, onlyColumns(p, record), facts);
  const here = withBefore(names, recordValue(p, before, facts));
  for (const [id, program] of s.values) {
    const field = findField(fields, id)?.field;
    if (!field) return { why: "A field it fills in is not in the form any more." };
    const v = asked(program, here, facts);
    if ("why" in v) return { why: `“${field.name}”: ${v.why}` };
    const kept = keptAs(field, v.value, p.form.kinds, facts);
    if ("why" in kept) return kept;
    out[id] = kept.kept;
  }
  return { data: out };
}
