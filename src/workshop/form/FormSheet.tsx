"use client";
import { useCallback, useEffect, useMemo, useRef, useState, type CSSProperties, type ReactNode } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
import { findField, walkFields, type Field, type FieldKind } from "@/core/form";
import { classes } from "@/ui";
import { SheetDrag, useDraft, useDragRow } from "../parts";
import { accessSteps } from "./AccessCells";
import { ColumnEdge } from "./ColumnEdge";
import type { FieldDeeds } from "./fieldDeeds";
import { filteredFields } from "./fieldFilter";
import { droppedOn, movedTo, placeBelow, TOP, type FieldPlace } from "./fieldMoves";
import { FieldRow } from "./FieldRow";
import { FormTools, type Looked } from "./FormTools";
import { KindDialog } from "./KindDialog";
import { LiveForm } from "./LiveForm";
import { rowGroups } from "./rowGroups";
import { SheetKeys } from "./SheetKeys";
import { SHEET_COLUMNS, sheetTracks } from "./sheetColumns";
import { markedSteps, useAccessMarks, type AccessSheet } from "./useAccessMarks";
import { useColumnWidths, type KeptWidths } from "./useColumnWidths";
import { useScopes } from "./useScopes";
import { useKindChange } from "./useKindChange";
import { useFieldDeeds, type SheetNow } from "./useFieldDeeds";

interface Row {
  field: Field;
  depth: number;
  /** Id of the line items it is a column of; "" for none. */
  lines: string;
}

/** The height of a row, as far as a group of rows out of sight is reckoned. */
const ROW_PX = 34;
const ALL: Looked = { text: "", filter: null };
const NO_FOLDS: ReadonlySet<string> = new Set();

/** The rows in sight. @param shown ids of those that are looked at, whatever is folded; null for all */
function rowsInSight(
  fields: readonly Field[],
  folded: ReadonlySet<string>,
  shown: ReadonlySet<string> | null,
): Row[] {
  const out: Row[] = [];
  const visit = (list: readonly Field[], depth: number, lines: string) => {
    for (const field of list) {
      if (shown && !shown.has(field.id)) continue;
      out.push({ field, depth, lines });
      if (field.fields && (shown || !folded.has(field.id)))
        visit(field.fields, depth + 1, field.kind === "lines" ? field.id : lines);
    }
  };
  visit(fields, 0, "");
  return out;
}

/** The form as a sheet, one row a field, with the live form beside it. */
export function FormSheet({ widths: theirs }: { widths?: KeptWidths }) {
  const definition = useDraft((d) => d.definition);
  const office = useDraft((d) => d.office);
  const facts = useDraft((d) => d.facts);
  const factsData = useDraft((d) => d.factsData);
  const { registers } = office;
  const problems = useDraft((d) => d.problems);
  const edit = useDraft((d) => d.edit);
  const tell = useDraft((d) => d.tell);
  const [showAccess, setShowAccess] = useState(false);
  const [folded, setFolded] = useState(NO_FOLDS);
  const [looked, setLooked] = useState<Looked>(ALL);
  const { fields } = definition;

  const wrong = useMemo(
    () => new Set(problems.flatMap((p) => (p.where.kind === "field" ? [p.where.id] : []))),
    [problems],
  );
  const looksAtAll = looked.filter === null && looked.text.trim() === "";
  const found = useMemo(
    () => (looksAtAll ? null : filteredFields(definition, looked, wrong)),
    [definition, looked, looksAtAll, wrong],
  );
  const rows = useMemo(() => rowsInSight(fields, folded, found?.shown ?? null), [fields, folded, found]);
  const [widths, setWidth] = useColumnWidths(theirs);
  const tracks = useMemo(() => sheetTracks(widths), [widths]);
  const scopes = useScopes(fields, registers);
  const allSteps = useMemo(() => accessSteps(definition), [definition]);
  const steps = showAccess ? allSteps : null;
  const ids = useMemo(() => rows.map((r) => r.field.id), [rows]);

  const sheet = useRef<SheetNow & AccessSheet>({
    fields,
    rows: ids,
    folded,
    registers,
    steps: [],
    definition,
  });
  useEffect(() => {
    sheet.current = { fields, rows: ids, folded, registers, steps: allSteps.map((s) => s.id), definition };
  });
  // What is new is in sight, whatever was looked at.
  const showNew = useCallback((parent: string | null) => {
    setLooked(ALL);
    const above = parent === null ? null : findField(sheet.current.fields, parent);
    const open = new Set(above ? [...above.parents, above.field].map((f) => f.id) : []);
    setFolded((now) => new Set([...now].filter((id) => !open.has(id))));
  }, []);
  const {
    chosen,
    choose,
    open,
    marked,
    add,
    paste,
    focusSoon,
    deeds: rowDeeds,
  } = useFieldDeeds(sheet, { edit, tell }, setFolded, showNew);
  const look = (next: Looked) => {
    // Marks go from row to row: among others they would come to hold rows nobody marked.
    rowDeeds.unmark();
    setLooked(next);
  };
  const { marks, deeds: cellDeeds } = useAccessMarks(sheet, edit, tell);
  const { change: toKind, changing, done } = useKindChange({ definition, edit, facts, factsData, office });
  const deeds: FieldDeeds = useMemo(
    () => ({ ...rowDeeds, ...cellDeeds, toKind }),
    [rowDeeds, cellDeeds, toKind],
  );
  const markedCells = useMemo(
    () => markedSteps(marks, { rows: ids, steps: allSteps.map((s) => s.id) }),
    [marks, ids, allSteps],
  );
  // One cell of all is come to by Tab, from where arrow keys go on: the last one, or the first.
  const last = marks && ids.includes(marks.to.field) ? marks.to : null;
  const stop = last ?? (ids[0] && allSteps[0] ? { field: ids[0], step: allSteps[0].id } : null);

  useEffect(() => {
    const id = /^#field-(.+)$/.exec(location.hash)?.[1];
    if (id) {
      choose(id);
      document.getElementById(`field-${id}`)?.scrollIntoView({ block: "center" });
    }
  }, [choose]);

  const atEnd: FieldPlace = { parent: null, after: fields.at(-1)?.id ?? null };
  const below =
    chosen !== null && findField(fields, chosen) ? placeBelow(fields, chosen, folded.has(chosen)) : atEnd;
  // A page holds others and stands in nothing.
  const place = (kind?: FieldKind) => (kind === "page" ? atEnd : below);
  const groups = fields.filter((f) => f.fields && f.fields.length > 0).map((f) => f.id);
  const allFolded = groups.every((id) => folded.has(id));

  return (
    <Group orientation="horizontal" className="min-h-[60vh]">
      <Panel defaultSize="75%" minSize="40%">
        <FormTools
          add={(kind) => add(place(kind), kind)}
          looked={looked}
          onLook={look}
          steps={allSteps}
          showAccess={showAccess}
          onAccess={setShowAccess}
          folds={
            groups.length > 0 && !found
              ? { all: allFolded, toggle: () => setFolded(allFolded ? NO_FOLDS : new Set(groups)) }
              : null
          }
        />
        <SheetDrag
          id="form"
          nameOf={(id) => findField(fields, id)?.field.name ?? id}
          place={(id, on) => droppedOn(fields, id, on, folded.has(on))?.words ?? null}
          onDrop={(id, on) => {
            const to = droppedOn(fields, id, on, folded.has(on));
            if (to && edit(movedTo(id, to.place))) focusSoon(id);
          }}
        >
          <div className="@container max-h-[calc(100vh-15.5rem)] overflow-auto pr-3">
            <table
              className={classes("sheet-table", !showAccess && "sheet-grid")}
              style={
                { "--columns": tracks.columns, ...(steps ? {} : { minWidth: tracks.width }) } as CSSProperties
              }
            >
              <thead>
                <HeadRow>
                  <th className={classes("!pl-[47px]", showAccess && "left-0 !z-20 min-w-44")}>
                    Name
                    {!steps && <ColumnEdge says="Name" onWidth={(px) => setWidth("name", px)} />}
                  </th>
                  {steps
                    ? steps.map((s) => (
                        <th key={s.id} className="min-w-20 !whitespace-normal align-bottom">
                          <button
                            type="button"
                            className="rounded text-left hover:underline"
                            aria-label={`${s.number} ${s.name}: mark all of its cells`}
                            onClick={() => cellDeeds.column(s.id)}
                          >
                            {s.number} {s.name}
                          </button>
                        </th>
                      ))
                    : SHEET_COLUMNS.filter((c) => c.id !== "name").map((c) => (
                        <th key={c.id} className="relative">
                          {c.says}
                          <ColumnEdge says={c.says} onWidth={(px) => setWidth(c.id, px)} />
                        </th>
                      ))}
                  <th className="w-11">
                    <span className="sr-only">More</span>
                  </th>
                </HeadRow>
              </thead>
              {rowGroups(rows, (r) => r.field.id).map((g) => (
                <tbody key={g.key} style={{ containIntrinsicBlockSize: `auto ${g.rows.length * ROW_PX}px` }}>
                  {g.rows.map((r) => (
                    <FieldRow
                      key={r.field.id}
                      field={r.field}
                      depth={r.depth}
                      inLines={r.lines !== ""}
                      scope={scopes.get(r.lines)!}
                      chosen={chosen === r.field.id || marked.has(r.field.id)}
                      open={open === r.field.id}
                      folded={!found && folded.has(r.field.id)}
                      steps={steps}
                      markedCells={markedCells.get(r.field.id) ?? ""}
                      stop={stop?.field === r.field.id ? stop.step : null}
                      deeds={deeds}
                    />
                  ))}
                </tbody>
              ))}
            </table>
            {fields.length > 0 && rows.length === 0 && (
              <p className="py-6 text-soft">
                No field is so.{" "}
                <button type="button" className="link" onClick={() => look(ALL)}>
                  Show all fields
                </button>
              </p>
            )}
            {fields.length === 0 && (
              <div className="py-6">
                <p className="font-serif text-lg">The form is empty</p>
                <p className="mb-3 text-soft">
                  Each row becomes a field. Or copy a column of names from a spreadsheet, or rows of another
                  process, and paste them here.
                </p>
                <textarea
                  aria-label="Paste rows"
                  rows={3}
                  className="input max-w-md"
                  placeholder="Paste names here, one a line"
                  onPaste={(e) => {
                    e.preventDefault();
                    paste({ parent: null, after: null }, e.clipboardData);
                  }}
                />
              </div>
            )}
          </div>
        </SheetDrag>
        {changing && <KindDialog changing={changing} onDone={done} />}
        <SheetKeys
          access={showAccess}
          marked={showAccess ? sizeOf(markedCells) : marked.size}
          found={found && { count: found.count, of: countOf(fields) }}
          onAll={() => look(ALL)}
        />
      </Panel>
      <Separator
        className="w-1.5 border-l border-line hover:bg-pebble focus-visible:bg-slate-wash"
        aria-label="Width of the live form"
      />
      <Panel minSize="22%">
        <LiveForm
          chosen={chosen}
          onChoose={(id) => {
            choose(id);
            document.getElementById(`field-${id}`)?.scrollIntoView({ block: "nearest" });
          }}
        />
      </Panel>
    </Group>
  );
}

function countOf(fields: readonly Field[]): number {
  let n = 0;
  walkFields(fields, () => void n++);
  return n;
}

/** How many cells are marked. */
const sizeOf = (cells: ReadonlyMap<string, string>): number =>
  [...cells.values()].reduce((n, steps) => n + steps.split(" ").filter(Boolean).length, 0);

/** The heading: what is let go on it comes first. */
function HeadRow({ children }: { children: ReactNode }) {
  const { ref, isOver } = useDragRow(TOP, "heading", false);
  return (
    <tr ref={ref} className={isOver ? "shadow-[0_2px_0_var(--moss)]" : ""}>
      {children}
    </tr>
  );
}
