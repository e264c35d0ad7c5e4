"use client";
import type { ReactNode } from "react";
import { labelOf, type Field, type StoredRow } from "@/core/form";

/** Beside a line that the task at hand is about. */
export const THIS_ONE = "this one is asked about";

interface Props {
  /** The id of the line items. */
  of: string;
  rows: readonly StoredRow[];
  columns: readonly Field[];
  about: ReadonlySet<string>;
  /** Null where lines cannot be changed, or none can be added. */
  onRemove: ((i: number) => void) | null;
  onCopy: ((i: number) => void) | null;
  cell(c: Field, row: StoredRow, i: number, labelled: boolean): ReactNode;
  /** Names and sums of columns that have one. */
  sums: readonly (readonly [string, string])[];
  children: ReactNode;
}

/** Line items on a phone: a stack of small forms. */
export function LinesStack({ of, rows, columns, about, onRemove, onCopy, cell, sums, children }: Props) {
  return (
    <div className="@container">
      {rows.map((row, i) => (
        <fieldset key={row["#"]} className="mb-3 border-l-2 border-line-strong pl-3">
          <legend className="flex items-center gap-3 text-sm text-soft">
            Line {i + 1}
            {about.has(row["#"]) && <span className="font-medium text-ink">{THIS_ONE}</span>}
            {onRemove && (
              <button type="button" className="min-h-6 underline" onClick={() => onRemove(i)}>
                remove
              </button>
            )}
            {onCopy && (
              <button type="button" className="min-h-6 underline" onClick={() => onCopy(i)}>
                copy
              </button>
            )}
          </legend>
          {columns.map((c) => (
            <div
              key={c.id}
              className="mb-1.5 grid items-center gap-x-2 @min-[17rem]:grid-cols-[minmax(5rem,8rem)_minmax(0,1fr)]"
            >
              <label className="text-sm text-soft" htmlFor={`${of}/${row["#"]}/${c.id}`}>
                {labelOf(c)}
              </label>
              <div className="min-w-0">{cell(c, row, i, true)}</div>
            </div>
          ))}
        </fieldset>
      ))}
      {sums.map(([name, sum]) => (
        <p key={name} className="border-t border-line-strong py-1">
          <span className="text-soft">{name}, in all: </span>
          <span className="font-medium">{sum}</span>
        </p>
      ))}
      {children}
    </div>
  );
}
