"use client";
import Link from "next/link";
import { useMemo, useRef, useState } from "react";
import type { Column, FactsData, RecordRef, RecordRights, RegisterShape } from "@/core/form";
import { KINDS } from "@/kinds";
import { fieldOfColumn } from "@/core/records";
import { FIELD_INPUTS } from "@/fields/inputs";
import { classes, Table, type Head } from "@/ui";
import { saveRecordAction } from "../../../actions/records";
import { say } from "../../../shell/say";
import type { ColumnWidths } from "./columnWidths";
import { FilterRow } from "./FilterRow";
import { ManyBar } from "./ManyBar";
import { useCellContext } from "./useCellContext";

export interface ListRow {
  id: string;
  /** The version it is of: what somebody else changed meanwhile is not written over. */
  version: string;
  values: Readonly<Record<string, string | boolean | null>>;
  /** As the cells say them, by column. */
  texts: Readonly<Record<string, string>>;
  /** What its links point at, by column. */
  links: Readonly<Record<string, RecordRef>>;
  /** Where a link may lead to several registers, what such a record is called, by column. */
  ones: Readonly<Record<string, string>>;
}
interface Props {
  register: string;
  shape: RegisterShape;
  columns: Column[];
  head: Head[];
  rows: ListRow[];
  may: RecordRights;
  facts: FactsData;
  /** By column, what the list is filtered by. */
  filters: Readonly<Record<string, string>>;
  widths: ColumnWidths;
  /** The parameters of the list's address, without the page. */
  view: string;
}
interface At {
  row: number;
  column: number;
}

const figures = (c: Column) => FIELD_INPUTS[c.kind].figures;

/**
 * The records of a page as a table: arrow keys go from cell to cell, Enter opens a cell to be filled in, Space chooses
 * its record for what is done to several.
 */
export function RecordList({
  register,
  shape,
  columns,
  head,
  rows,
  may,
  facts,
  filters,
  widths,
  view,
}: Props) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [at, setAt] = useState<At>({ row: 0, column: 0 });
  const [editing, setEditing] = useState<At | null>(null);
  const table = useRef<HTMLDivElement>(null);
  const chooses = may.change || may.remove;
  const here = rows.filter((r) => chosen.has(r.id));
  // A file is added in the form of its record.
  const fills = (c: Column) =>
    may.change && may.fill.includes(c.id) && !c.worked && KINDS.fields[c.kind].idOf !== "file";
  const choose = (id: string) =>
    setChosen((s) => {
      const next = new Set(s);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const focus = (to: At) => {
    const next = {
      row: Math.min(Math.max(to.row, 0), rows.length - 1),
      column: Math.min(Math.max(to.column, 0), columns.length - 1),
    };
    setAt(next);
    table.current?.querySelector<HTMLElement>(`[data-at="${next.row} ${next.column}"]`)?.focus();
  };
  const keys = (e: React.KeyboardEvent, cell: At) => {
    if (editing || e.altKey || e.ctrlKey || e.metaKey) return;
    const moves: Record<string, At> = {
      ArrowUp: { ...cell, row: cell.row - 1 },
      ArrowDown: { ...cell, row: cell.row + 1 },
      ArrowLeft: { ...cell, column: cell.column - 1 },
      ArrowRight: { ...cell, column: cell.column + 1 },
      Home: { ...cell, column: 0 },
      End: { ...cell, column: columns.length - 1 },
    };
    const to = moves[e.key];
    if (to) focus(to);
    else if (e.key === " " && chooses) choose(rows[cell.row]!.id);
    else if (
      (e.key === "Enter" || e.key === "F2") &&
      e.target === e.currentTarget &&
      fills(columns[cell.column]!)
    )
      setEditing(cell);
    else return;
    e.preventDefault();
  };
  const close = (cell: At) => {
    setEditing(null);
    requestAnimationFrame(() => focus(cell));
  };
  const all = rows.length > 0 && here.length === rows.length;
  const chooser: Head = {
    id: "choose",
    name: (
      <input
        type="checkbox"
        aria-label={all ? "Choose none of this page" : "Choose all of this page"}
        checked={all}
        onChange={() => setChosen(all ? new Set() : new Set(rows.map((r) => r.id)))}
      />
    ),
  };
  return (
    <div ref={table}>
      {here.length > 0 && (
        <ManyBar
          register={register}
          shape={shape}
          ids={here.map((r) => r.id)}
          titles={Object.fromEntries(here.map((r) => [r.id, r.texts[columns[0]?.id ?? ""] || r.id]))}
          may={may}
          facts={facts}
          onDone={() => setChosen(new Set())}
        />
      )}
      <Table
        within="max-h-[calc(100vh-17rem)] overflow-auto"
        aria-label={shape.name}
        head={[...(chooses ? [chooser] : []), ...head]}
        filters={
          <>
            {chooses && (
              <th>
                <span className="sr-only">Narrowed by</span>
              </th>
            )}
            <FilterRow register={register} columns={columns} values={filters} view={view} />
          </>
        }
      >
        {rows.map((r, row) => (
          <tr key={r.id} data-row className={classes(chosen.has(r.id) && "bg-slate-wash")}>
            {chooses && (
              <td>
                <input
                  type="checkbox"
                  aria-label={`Choose ${r.texts[columns[0]?.id ?? ""] || r.id}`}
                  checked={chosen.has(r.id)}
                  onChange={() => choose(r.id)}
                />
              </td>
            )}
            {columns.map((c, column) => {
              const cell = { row, column };
              const open = editing?.row === row && editing.column === column;
              const text = r.texts[c.id] ?? "";
              return (
                <td
                  key={c.id}
                  data-at={`${row} ${column}`}
                  tabIndex={at.row === row && at.column === column ? 0 : -1}
                  onFocus={(e) => e.target === e.currentTarget && setAt(cell)}
                  onKeyDown={(e) => keys(e, cell)}
                  onDoubleClick={() => fills(c) && setEditing(cell)}
                  className={classes(
                    figures(c) ? "text-right whitespace-nowrap" : "truncate whitespace-nowrap",
                    widths[c.id] === undefined && !figures(c) && "max-w-72",
                    open && "!overflow-visible",
                  )}
                  // A width that was given holds for all cells, and is what a longer text is cut at.
                  {...(widths[c.id] === undefined || open ? {} : { style: { maxWidth: widths[c.id] } })}
                  title={!open && text.length > (widths[c.id] ?? 290) / 8.5 ? text : undefined}
                >
                  {open ? (
                    <Cell
                      register={register}
                      row={r}
                      column={c}
                      facts={facts}
                      title={r.texts[columns[0]?.id ?? ""] || r.id}
                      onClose={() => close(cell)}
                    />
                  ) : (
                    <Shown register={register} row={r} column={c} first={column === 0} one={shape.one} />
                  )}
                </td>
              );
            })}
          </tr>
        ))}
      </Table>
    </div>
  );
}

function Shown(p: { register: string; row: ListRow; column: Column; first: boolean; one: string }) {
  const { row, column: c } = p;
  const text = row.texts[c.id] ?? "";
  if (p.first)
    return (
      <Link className="link whitespace-nowrap" href={`/registers/${p.register}/${row.id}`} prefetch={false}>
        {text || `${p.one} ${row.id}`}
      </Link>
    );
  const to = row.links[c.id];
  if (!to) return text;
  return (
    <>
      <Link className="link" href={`/registers/${to.register}/${to.id}`} prefetch={false}>
        {text}
      </Link>
      {row.ones[c.id] && <span className="ml-2 text-sm text-soft">{row.ones[c.id]}</span>}
    </>
  );
}

/** A cell being filled in: Enter keeps it, Escape leaves it as it was; what is wrong stands below it. */
function Cell(p: {
  register: string;
  row: ListRow;
  column: Column;
  facts: FactsData;
  title: string;
  onClose(): void;
}) {
  const { row, column } = p;
  const [value, setValue] = useState<string | boolean | null>(row.values[column.id] ?? null);
  const [wrong, setWrong] = useState("");
  const [working, setWorking] = useState(false);
  const field = useMemo(() => fieldOfColumn(column), [column]);
  const { Input } = FIELD_INPUTS[column.kind];
  const context = useCellContext(p.facts);
  const keep = async () => {
    if (value === (row.values[column.id] ?? null)) return p.onClose();
    setWorking(true);
    const r = await saveRecordAction(p.register, row.id, row.version, { [column.id]: value }).catch(
      () => null,
    );
    setWorking(false);
    if (!r?.ok)
      return setWrong(
        r?.sentence ?? "The server could not be reached. What you typed is still here; try again.",
      );
    say(`${p.title}: ${column.name} is kept.`);
    p.onClose();
  };
  return (
    <div
      className="relative min-w-48"
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Escape") p.onClose();
        else if (e.key === "Enter" && !e.shiftKey) {
          e.preventDefault();
          // What a control does as it is left, it does first: numbers are read then.
          (e.target as HTMLElement).blur();
          setTimeout(() => void keep(), 0);
        }
      }}
      ref={(el) => {
        if (el && !el.contains(document.activeElement))
          el.querySelector<HTMLElement>("input, select, textarea, button")?.focus();
      }}
    >
      <Input
        field={field}
        id={`cell-${row.id}-${column.id}`}
        label={`${column.name} of ${p.title}`}
        value={value}
        onChange={setValue}
        context={context}
        invalid={wrong !== ""}
        compact
      />
      <span className="flex gap-3 pt-1 text-sm">
        <button type="button" className="underline" disabled={working} onClick={() => void keep()}>
          {working ? "Keeping…" : "Keep"}
        </button>
        <button type="button" className="underline" onClick={p.onClose}>
          Leave
        </button>
      </span>
      {wrong && (
        <p role="alert" className="max-w-80 pt-1 text-sm whitespace-normal text-brick">
          {wrong}
        </p>
      )}
    </div>
  );
}
