"use client";
import { Plus, X } from "lucide-react";
import { MAX_LINES, type Field, type FormProblem, type FormResult, type StoredRow } from "@/core/form";
import { formProblemSentence } from "@/core/words";
import { FIELD_INPUTS } from "@/fields/inputs";
import { Button, classes } from "@/ui";
import { FieldInput } from "./FieldInput";
import { WorkedValue } from "./WorkedValue";
import type { InputContext } from "./inputContext";
import { useRowsShown } from "./useRowsShown";

interface Props {
  field: Field;
  rows: readonly StoredRow[];
  result: FormResult;
  access(id: string): string;
  context: InputContext;
  problems: readonly FormProblem[];
  onChange(rows: StoredRow[]): void;
  narrow: boolean;
  /** Rows the task at hand is about. */
  about: ReadonlySet<string>;
}

const numeric = (f: Field) => FIELD_INPUTS[f.kind].figures;

const THIS_ONE = "this one is asked about";

/** Line items: a table at a desk, a stack of small forms on a phone. Enter in the last line adds one. */
export function LinesTable({
  field,
  rows,
  result,
  access,
  context,
  problems,
  onChange,
  narrow,
  about,
}: Props) {
  const columns = (field.fields ?? []).filter((c) => access(c.id) !== "hide");
  const editable = access(field.id) === "edit";
  const worked = result.data[field.id];
  const values = Array.isArray(worked) ? worked : [];
  const drawn = rows.slice(0, useRowsShown(rows.length));
  const change = (i: number, column: string, v: string | boolean | null) =>
    onChange(rows.map((r, k) => (k === i ? { ...r, [column]: v } : r)));
  const add = () => {
    if (rows.length >= MAX_LINES) return;
    const next = 1 + rows.reduce((n, r) => Math.max(n, Number(r["#"]) || 0), 0);
    onChange([...rows, { "#": String(next) }]);
  };
  const remove = (i: number) => onChange(rows.filter((_, k) => k !== i));
  const cell = (c: Field, row: StoredRow, i: number, labelled: boolean) => {
    const path = `${field.id}/${row["#"]}/${c.id}`;
    if (!result.shown.has(path)) return null;
    const found = problems.filter((p) => p.path === path);
    const said = found.length > 0 && (
      <span id={`${path}-said`} className="block px-1.5 pb-1 text-sm text-brick">
        {found
          .map(formProblemSentence)
          .join(" ")
          .replace(`Line ${i + 1}: `, "")}
      </span>
    );
    if (!editable || c.worked || access(c.id) !== "edit")
      return (
        <span
          className={classes(
            "block",
            !labelled && editable && "px-[7px]",
            numeric(c) && !labelled && "text-right",
          )}
        >
          <WorkedValue
            field={c}
            value={values[i]?.[c.id] ?? null}
            facts={context.facts}
            failed={found.length > 0 ? undefined : result.failed.get(path)}
            short
          />
          {said}
        </span>
      );
    return (
      <>
        <FieldInput
          field={c}
          id={path}
          label={`${c.name}, line ${i + 1}`}
          value={row[c.id]}
          onChange={(v) => change(i, c.id, v)}
          context={context}
          invalid={found.length > 0}
          {...(found.length > 0 ? { describedBy: `${path}-said` } : {})}
          {...(labelled ? {} : { compact: true })}
        />
        {said}
      </>
    );
  };
  const adding = editable && (
    <Button small className="mt-2" onClick={add} data-add-line={field.id}>
      <Plus size={14} aria-hidden /> Add a line
    </Button>
  );
  const none = rows.length === 0 && (
    <p className="py-2 text-soft">{editable ? "No lines yet." : "No lines."}</p>
  );
  if (narrow)
    return (
      <div className="@container">
        {drawn.map((row, i) => (
          <fieldset key={row["#"]} className="mb-3 border-l-2 border-line-strong pl-3">
            <legend className="flex items-center gap-2 text-sm text-soft">
              Line {i + 1}
              {about.has(row["#"]) && <span className="font-medium text-ink">{THIS_ONE}</span>}
              {editable && (
                <button type="button" className="underline" onClick={() => remove(i)}>
                  remove
                </button>
              )}
            </legend>
            {columns.map((c) => (
              <div
                key={c.id}
                className="mb-1.5 grid items-center gap-x-2 @min-[17rem]:grid-cols-[minmax(5rem,8rem)_minmax(0,1fr)]"
              >
                <label className="text-sm text-soft" htmlFor={`${field.id}/${row["#"]}/${c.id}`}>
                  {c.name}
                </label>
                <div className="min-w-0">{cell(c, row, i, true)}</div>
              </div>
            ))}
          </fieldset>
        ))}
        {none}
        {adding}
      </div>
    );
  return (
    <div
      className="overflow-x-auto"
      onKeyDown={(e) => {
        const target = e.target as HTMLElement;
        if (e.key === "Enter" && target.tagName === "INPUT" && editable) {
          e.preventDefault();
          const last = target.id.startsWith(`${field.id}/${rows.at(-1)?.["#"]}/`);
          if (last) add();
        }
      }}
    >
      <table className="sheet-table">
        <thead>
          <tr>
            <th className="w-8">No.</th>
            {columns.map((c) => (
              <th key={c.id} className={classes(numeric(c) && "!text-right", editable && "!px-[15px]")}>
                {c.name}
              </th>
            ))}
            {editable && (
              <th className="w-8">
                <span className="sr-only">Remove</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {drawn.map((row, i) => (
            <tr key={row["#"]} className={about.has(row["#"]) ? "bg-slate-wash" : undefined}>
              <td className="text-sm text-soft">
                {i + 1}
                {about.has(row["#"]) && (
                  <>
                    <span aria-hidden> ◂</span>
                    <span className="sr-only">, {THIS_ONE}</span>
                  </>
                )}
              </td>
              {columns.map((c) => (
                <td key={c.id} className={classes(!numeric(c) && editable && "min-w-32")}>
                  {cell(c, row, i, false)}
                </td>
              ))}
              {editable && (
                <td>
                  <button
                    type="button"
                    className="rounded p-1 text-faint hover:text-brick"
                    aria-label={`Remove line ${i + 1}`}
                    onClick={() => remove(i)}
                  >
                    <X size={14} aria-hidden />
                  </button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {none}
      {adding}
    </div>
  );
}
