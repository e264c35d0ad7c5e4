"use client";
import { ArrowDown, ArrowUp, Copy, Plus, X, type LucideIcon } from "lucide-react";
import { useEffect, useRef, useState, type ClipboardEvent } from "react";
import { Num, toNum } from "@/core/expression";
import { labelOf, type Field, type FormProblem, type FormResult, type StoredRow } from "@/core/form";
import { formProblemSentence } from "@/core/words";
import { FIELD_INPUTS } from "@/fields/inputs";
import { FIELDS } from "@/fields/kinds";
import { Button, classes } from "@/ui";
import { FieldInput } from "./FieldInput";
import { WorkedValue } from "./WorkedValue";
import type { InputContext } from "./inputContext";
import { AddSeveral } from "./AddSeveral";
import { LinesStack, THIS_ONE } from "./LinesStack";
import { cellsPasted, mostRows, nextRowId, rowCopied, rowMoved } from "./linesDeeds";
import { pasteLines } from "./pasteLines";
import { useRowsShown } from "./useRowsShown";
import { problemsAt } from "./problemsAt";

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

const NOUGHT = Num.of(0);

/** The cell something stands in, by the path that is its id. */
function placeOf(el: HTMLElement, table: string): { row: string; column: string } | null {
  const [of, row, column] = (el.id || el.closest("[id]")?.id || "").split("/");
  return of === table && row !== undefined && column !== undefined ? { row, column } : null;
}

const Tool = ({ says, at: Icon, on }: { says: string; at: LucideIcon; on(): void }) => (
  <button
    type="button"
    className="inline-flex size-6 items-center justify-center rounded align-middle text-faint hover:text-ink"
    aria-label={says}
    title={says}
    onClick={on}
  >
    <Icon size={14} aria-hidden />
  </button>
);

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
  const [active, setActive] = useState<string | null>(null);
  const [said, setSaid] = useState("");
  // Names are looked for while a paste is under way; what comes of it goes to the form as it is drawn then.
  const latest = useRef({ rows, onChange });
  useEffect(() => {
    latest.current = { rows, onChange };
  });
  const drawn = rows.slice(0, useRowsShown(rows.length));
  const change = (i: number, column: string, v: string | boolean | null) =>
    onChange(rows.map((r, k) => (k === i ? { ...r, [column]: v } : r)));
  const most = mostRows(field);
  const full = rows.length >= most;
  const add = () => {
    if (!full) onChange([...rows, { "#": String(nextRowId(rows)) }]);
  };
  const mayFill = (c: Field) => !c.worked && access(c.id) === "edit";
  // Where its first look-up has not just a few offered, a line can be added for each of many.
  const several = columns.find(
    (c) =>
      FIELDS[c.kind].idOf === "record" &&
      FIELDS[c.kind].many === null &&
      c.register !== undefined &&
      mayFill(c) &&
      !context.offers[c.id],
  );
  const addAll = (ids: readonly string[]) => {
    const next = nextRowId(rows);
    onChange([...rows, ...ids.map((id, k) => ({ "#": String(next + k), [several!.id]: id }))]);
  };
  const copy = (i: number) => {
    if (!full)
      onChange(
        rowCopied(
          rows,
          i,
          (field.fields ?? []).filter(mayFill).map((c) => c.id),
        ),
      );
  };
  const move = (i: number, by: -1 | 1) => {
    const next = rowMoved(rows, i, by);
    if (next !== rows) onChange([...next]);
  };
  const paste = (e: ClipboardEvent) => {
    const cells = cellsPasted(e.clipboardData.getData("text"));
    const place = placeOf(e.target as HTMLElement, field.id);
    const column = columns.findIndex((c) => c.id === place?.column);
    if (!editable || !cells || !place || column < 0) return;
    const at = { row: place.row, column };
    e.preventDefault();
    setSaid(cells.length > 20 ? "Pasting…" : "");
    void pasteLines(field, () => latest.current.rows, cells, at, columns, mayFill, context).then((r) => {
      setSaid(r.said.join(" "));
      latest.current.onChange(r.rows);
    });
  };
  const remove = (i: number) => onChange(rows.filter((_, k) => k !== i));
  const cell = (c: Field, row: StoredRow, i: number, labelled: boolean) => {
    const path = `${field.id}/${row["#"]}/${c.id}`;
    if (!result.shown.has(path)) return null;
    const found = problemsAt(problems, path);
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
          label={`${labelOf(c)}, line ${i + 1}`}
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
    <div className="mt-2 flex flex-wrap items-center gap-3">
      <Button small onClick={add} disabled={full} data-add-line={field.id}>
        <Plus size={14} aria-hidden /> Add a line
      </Button>
      {several && (
        <AddSeveral
          saysThere="in a line already"
          thing={["line", "lines"]}
          column={several}
          there={new Set(rows.map((r) => String(r[several.id] ?? "")))}
          room={Math.max(most - rows.length, 0)}
          context={context}
          onAdd={addAll}
        />
      )}
      {full && (
        <span className="text-sm text-soft">
          At most {most} {most === 1 ? "line" : "lines"}.
        </span>
      )}
      <span role="status" className="text-sm text-brick">
        {said}
      </span>
    </div>
  );
  const summed = columns.filter((c) => c.total && FIELDS[c.kind].has.range === "number");
  const sumOf = (c: Field): string => {
    const sum = values.reduce((n, r) => n.plus(toNum(String(r[c.id] ?? "")) ?? NOUGHT), NOUGHT);
    return FIELD_INPUTS[c.kind].shown(sum.toFixed(), c, context.facts);
  };
  const none = rows.length === 0 && (
    <p className="py-2 text-soft">{editable ? "No lines yet." : "No lines."}</p>
  );
  if (narrow)
    return (
      <LinesStack
        of={field.id}
        rows={drawn}
        columns={columns}
        about={about}
        onRemove={editable ? remove : null}
        onCopy={editable && !full ? copy : null}
        cell={cell}
        sums={rows.length > 0 ? summed.map((c) => [labelOf(c), sumOf(c)]) : []}
      >
        {none}
        {adding}
      </LinesStack>
    );
  return (
    <div
      className="overflow-x-auto"
      onPaste={paste}
      onKeyDown={(e) => {
        const target = e.target as HTMLElement;
        const row = rows.findIndex((r) => r["#"] === target.closest("tr")?.dataset["row"]);
        if (editable && e.altKey && row >= 0 && (e.key === "ArrowUp" || e.key === "ArrowDown")) {
          e.preventDefault();
          move(row, e.key === "ArrowUp" ? -1 : 1);
        }
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
                {labelOf(c)}
              </th>
            ))}
            {editable && (
              <th className="w-28">
                <span className="sr-only">Copy, move, remove</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {drawn.map((row, i) => (
            <tr
              key={row["#"]}
              data-row={row["#"]}
              className={about.has(row["#"]) ? "bg-slate-wash" : undefined}
              onFocus={() => setActive(row["#"])}
              onPointerEnter={() => setActive(row["#"])}
            >
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
                <td className="whitespace-nowrap text-right">
                  {active === row["#"] && (
                    <>
                      <Tool says={`Line ${i + 1} up (Alt ↑)`} at={ArrowUp} on={() => move(i, -1)} />
                      <Tool says={`Line ${i + 1} down (Alt ↓)`} at={ArrowDown} on={() => move(i, 1)} />
                      {!full && <Tool says={`Copy line ${i + 1}`} at={Copy} on={() => copy(i)} />}
                    </>
                  )}
                  <Tool says={`Remove line ${i + 1}`} at={X} on={() => remove(i)} />
                </td>
              )}
            </tr>
          ))}
        </tbody>
        {rows.length > 0 && summed.length > 0 && (
          <tfoot>
            <tr className="border-t-2 border-line-strong font-medium">
              <td className="whitespace-nowrap text-sm font-normal text-soft">In all</td>
              {columns.map((c) => (
                <td
                  key={c.id}
                  className={classes(numeric(c) && "text-right", mayFill(c) && editable && "!px-[15px]")}
                >
                  {summed.includes(c) ? sumOf(c) : ""}
                </td>
              ))}
              {editable && <td />}
            </tr>
          </tfoot>
        )}
      </table>
      {none}
      {adding}
    </div>
  );
}
