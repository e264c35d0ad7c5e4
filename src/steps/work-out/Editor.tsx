"use client";
import { useMemo } from "react";
import { ANY, checkFormula, listOf, YESNO, type Scope, type Type } from "@/core/expression";
import { columnScope, fieldType, type Field } from "@/core/form";
import { KINDS } from "@/kinds";
import { Select } from "@/ui";
import { FormulaCell, TextCell, useDraft, useNamesHere } from "@/workshop/parts";
import { EACH } from "./kind";
import { DEEDS } from "./deedWords";
import type { RowsDeed } from "./shape";

interface Props {
  deed: RowsDeed;
  /** From 1. */
  number: number;
  scope: Scope;
  lines: readonly Field[];
  onChange(r: RowsDeed): void;
  onRemove(): void;
  onUp?(): void;
}
const ROW = "grid grid-cols-[6.5rem_minmax(0,1fr)] items-center gap-x-2";

/** One thing that is done to line items: which of them, what, in which rows. */
export function RowsDeedEditor({ deed: r, number, scope, lines, onChange, onRemove, onUp }: Props) {
  const { registers } = useDraft((d) => d.office);
  const here = useNamesHere();
  const of = lines.find((f) => f.id === r.lines);
  const columns = (of?.fields ?? []).filter((c) => !c.worked);
  const inRow = useMemo(
    () => (of ? { ...scope, ...columnScope(of, { registers, kinds: KINDS }) } : scope),
    [of, scope, registers],
  );
  const each = useMemo(() => {
    if (r.do !== "add" || r.from === undefined) return scope;
    const { type } = checkFormula(r.from, scope);
    return { ...scope, [r.as ?? EACH]: type.t === "list" ? type.of : type };
  }, [r, scope]);
  const typeOf = (id: string): Type => {
    const c = columns.find((x) => x.id === id);
    return c ? fieldType(c, { registers, kinds: KINDS }) : ANY;
  };
  const cell = (
    says: string,
    value: string,
    wanted: Type,
    names: Scope,
    onCommit: (t: string) => void,
    placeholder = "",
  ) => (
    <div className={ROW}>
      <span className="text-soft">{says}</span>
      <FormulaCell
        label={`Rows ${number}: ${says}`}
        placeholder={placeholder}
        value={value}
        scope={names}
        wanted={wanted}
        // Of a row of the sample nothing is known here.
        names={names === scope ? here : null}
        onCommit={onCommit}
      />
    </div>
  );
  return (
    <div className="grid gap-1 border-l-2 border-line pl-2">
      <div className="flex flex-wrap items-center gap-2">
        <span>{DEEDS[r.do]}</span>
        <span className="text-soft">of</span>
        <Select
          className="!w-44"
          aria-label={`Rows ${number}: line items`}
          value={r.lines}
          onPick={(id) => onChange({ ...r, lines: id } as RowsDeed)}
          options={lines.map((f) => ({ value: f.id, label: f.name }))}
        />
        <span className="ml-auto flex gap-2">
          {onUp && (
            <button type="button" className="underline" onClick={onUp} aria-label={`Rows ${number}: earlier`}>
              earlier
            </button>
          )}
          <button
            type="button"
            className="underline"
            onClick={onRemove}
            aria-label={`Rows ${number}: remove`}
          >
            remove
          </button>
        </span>
      </div>
      {r.do === "set" && (
        <>
          <label className={ROW}>
            <span className="text-soft">Column</span>
            <Select
              aria-label={`Rows ${number}: column`}
              value={r.column}
              onPick={(column) => onChange({ ...r, column })}
              options={columns.map((c) => ({ value: c.id, label: c.name }))}
            />
          </label>
          {cell("becomes", r.value, typeOf(r.column), inRow, (value) => onChange({ ...r, value }))}
          {cell(
            "where",
            r.where ?? "",
            YESNO,
            inRow,
            (t) => {
              const { where: _, ...rest } = r;
              onChange(t.trim() ? { ...rest, where: t } : rest);
            },
            "in every row",
          )}
        </>
      )}
      {r.do === "remove" && cell("where", r.where, YESNO, inRow, (where) => onChange({ ...r, where }))}
      {r.do === "sort" && (
        <>
          {cell("by", r.by, ANY, inRow, (by) => onChange({ ...r, by }))}
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="size-4"
              checked={r.descending === true}
              onChange={(e) => {
                const { descending: _, ...rest } = r;
                onChange(e.target.checked ? { ...rest, descending: true } : rest);
              }}
            />
            the largest or last first
          </label>
        </>
      )}
      {r.do === "add" && (
        <>
          {cell(
            "for each of",
            r.from ?? "",
            listOf(ANY),
            scope,
            (t) => {
              const { from: _, ...rest } = r;
              onChange(t.trim() ? { ...rest, from: t } : rest);
            },
            "one row",
          )}
          {r.from !== undefined && (
            <div className={ROW}>
              <span className="text-soft">each called</span>
              <TextCell
                className="input"
                aria-label={`Rows ${number}: what each is called`}
                value={r.as ?? EACH}
                onCommit={(t) => (t.trim() ? onChange({ ...r, as: t.trim() }) : false)}
              />
            </div>
          )}
          {columns.map((c) => {
            const v = r.values.find((x) => x.column === c.id);
            const others = r.values.filter((x) => x.column !== c.id);
            return (
              <div key={c.id}>
                {cell(
                  c.name,
                  v?.value ?? "",
                  typeOf(c.id),
                  each,
                  (t) =>
                    onChange({ ...r, values: t.trim() ? [...others, { column: c.id, value: t }] : others }),
                  "left empty",
                )}
              </div>
            );
          })}
        </>
      )}
    </div>
  );
}
