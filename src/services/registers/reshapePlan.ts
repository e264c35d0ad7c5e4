import { recordProgram, type RecordProgram, type ShapeChange } from "@/core/records";
import type { Column, RegisterShape, Registers } from "@/core/form";
import { KINDS } from "@/kinds";

/** Records read anew by one change of a register at once; more are gone through beside everybody's work. */
export const MOST_AT_ONCE = 20_000;

/** What has to be made anew of every record where a register changes. */
export interface Anew {
  /** Columns that come to be of another kind and hold something. */
  retyped: { column: Column; from: Column }[];
  /** Columns that are worked out. */
  worked: Column[];
}

/**
 * What of a change goes through all records.
 * @param filled ids of columns that come to be of another kind and hold something
 */
export function anewOf(change: ShapeChange, after: RegisterShape, filled: ReadonlySet<string>): Anew {
  const retyped = change.retyped.filter((x) => filled.has(x.from.id) && !x.column.worked);
  // What is worked out may read what is of another kind now, also where nothing could be made of it.
  const all = change.retyped.length > 0 ? after.columns : [...change.worked, ...change.added];
  const worked = after.columns.filter((c) => c.worked && all.some((x) => x.id === c.id));
  return { retyped, worked };
}

export const isAnything = (a: Anew): boolean => a.retyped.length + a.worked.length > 0;

/** The columns whose values are made beside. */
export const besideOf = (a: Anew): Column[] => [...a.retyped.map((x) => x.column), ...a.worked];

/** A register as it is to be, with its formulas ready. */
export const programAfter = (after: RegisterShape, registers: Registers): RecordProgram =>
  recordProgram(after, { registers: { ...registers, [after.key]: after }, kinds: KINDS });
