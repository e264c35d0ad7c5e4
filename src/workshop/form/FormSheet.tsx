"use client";
import { KINDS } from "@/kinds";
import { Plus } from "lucide-react";
import { useEffect, useMemo, useRef, useState, type CSSProperties, type ReactNode } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
import type { Scope } from "@/core/expression";
import {
  columnScope,
  fieldsFromRows,
  findField,
  formScope,
  holdsFields,
  REQUEST_SCOPE,
  walkFields,
  type Field,
  type FieldKind,
  type PastedFields,
  type Registers,
} from "@/core/form";
import type { Edit } from "@/core/route";
import { Button, classes, Kbd } from "@/ui";
import { newId, SheetDrag, useDraft, useDragRow } from "../parts";
import { accessSteps } from "./AccessCells";
import {
  addedAt,
  droppedOn,
  movedTo,
  nested,
  placeBelow,
  TOP,
  unnested,
  upOrDown,
  type FieldPlace,
} from "./fieldMoves";
import type { FieldDeeds } from "./fieldDeeds";
import { FieldRow } from "./FieldRow";
import { LiveForm } from "./LiveForm";
import { rowGroups } from "./rowGroups";

interface Row {
  field: Field;
  depth: number;
  /** Id of the line items it is a column of; "" for none. */
  lines: string;
}

/** Widths of the columns: name, kind, needed, shown, worked out, more. */
const COLUMNS = "minmax(0, 1fr) 9.2rem 4.8rem minmax(0, 1fr) minmax(0, 1.25fr) 2.3rem";
/** The height of a row, as far as a group of rows out of sight is reckoned. */
const ROW_PX = 34;
const STEMS: Partial<Record<FieldKind, string>> = {
  section: "Section",
  page: "Page",
  lines: "Lines",
  "text block": "Text",
};

/** The form as a sheet, one row a field, with the live form beside it. */
export function FormSheet() {
  const definition = useDraft((d) => d.definition);
  const registers = useDraft((d) => d.office.registers);
  const edit = useDraft((d) => d.edit);
  const tell = useDraft((d) => d.tell);
  const [chosen, setChosen] = useState<string | null>(null);
  const [showAccess, setShowAccess] = useState(false);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [open, setOpen] = useState<string | null>(null);
  const focusName = useRef<string | null>(null);
  const { fields } = definition;

  const rows = useMemo(() => {
    const out: Row[] = [];
    const visit = (list: readonly Field[], depth: number, lines: string) => {
      for (const field of list) {
        out.push({ field, depth, lines });
        if (field.fields && !folded.has(field.id))
          visit(field.fields, depth + 1, field.kind === "lines" ? field.id : lines);
      }
    };
    visit(fields, 0, "");
    return out;
  }, [fields, folded]);
  const scopes = useScopes(fields, registers);
  const allSteps = useMemo(() => accessSteps(definition), [definition]);
  const steps = showAccess ? allSteps : null;

  useEffect(() => {
    // A new row may come a moment later than what else changed.
    const id = focusName.current;
    const input = id === null ? null : (document.getElementById(`name-${id}`) as HTMLInputElement | null);
    if (!input) return;
    focusName.current = null;
    input.focus();
    input.select();
  });
  useEffect(() => {
    const id = /^#field-(.+)$/.exec(location.hash)?.[1];
    if (id) {
      setChosen(id);
      document.getElementById(`field-${id}`)?.scrollIntoView({ block: "center" });
    }
  }, []);

  // What rows are handed stays the same object; it looks up the sheet as it is when something is done.
  const sheet = useRef({ rows, fields, folded });
  useEffect(() => {
    sheet.current = { rows, fields, folded };
  });
  const { add, paste, deeds } = useMemo(() => {
    const taken = (id: string) => findField(sheet.current.fields, id) !== null;
    const move = (id: string, e: Edit | null) => {
      if (!e) return;
      // A row that comes into another group is made anew: what stands in its cells is kept before, the caret after.
      const within = document.activeElement?.closest("[data-row]")?.id === `field-${id}`;
      if (within) (document.activeElement as HTMLElement).blur();
      if (edit(e) && within) focusName.current = id;
    };
    const addField = (place: FieldPlace, kind: FieldKind = "text") => {
      const names = new Set<string>();
      walkFields(sheet.current.fields, (f) => void names.add(f.name.toLowerCase()));
      const stem = STEMS[kind] ?? "Field";
      let n = 1;
      while (names.has(`${stem.toLowerCase()} ${n}`)) n++;
      const name = `${stem} ${n}`;
      const id = newId(name, taken);
      const field: Field = { id, name, kind, ...(holdsFields(kind) ? { fields: [] } : {}) };
      if (!edit({ op: "field.add", ...place, field })) return;
      setChosen(id);
      focusName.current = id;
    };
    const pasteAt = (place: FieldPlace, text: string) => {
      const fresh = new Set<string>();
      const names = new Set<string>();
      walkFields(sheet.current.fields, (f) => void names.add(f.name.toLowerCase()));
      const pasted = fieldsFromRows(
        text,
        KINDS.fields,
        (name) => {
          const id = newId(name, (x) => taken(x) || fresh.has(x));
          fresh.add(id);
          return id;
        },
        (name) => names.has(name) || Object.hasOwn(SMALL_NAMES, name),
      );
      if (pasted.fields.length > 0 && edit(addedAt(place, pasted.fields))) tell(pasteWords(pasted));
      else if (pasted.fields.length === 0) tell("Nothing was pasted: no row begins with a name.");
    };
    const at = (id: string) => sheet.current.rows.findIndex((r) => r.field.id === id);
    const made: FieldDeeds = {
      choose: setChosen,
      open: (id) => setOpen((now) => (now === id ? null : id)),
      fold: (id) =>
        setFolded((f) => {
          const next = new Set(f);
          if (!next.delete(id)) next.add(id);
          return next;
        }),
      addBelow: (id) => addField(placeBelow(sheet.current.fields, id, sheet.current.folded.has(id))),
      up: (id) => move(id, upOrDown(sheet.current.fields, id, -1)),
      down: (id) => move(id, upOrDown(sheet.current.fields, id, 1)),
      nest: (id) => move(id, nested(sheet.current.fields, id)),
      unnest: (id) => move(id, unnested(sheet.current.fields, id)),
      remove: (id) => {
        const next = sheet.current.rows[at(id) + 1] ?? sheet.current.rows[at(id) - 1];
        if (edit({ op: "field.remove", id }) && next) focusName.current = next.field.id;
      },
      paste: (id, text) => {
        const parent = findField(sheet.current.fields, id)?.parents.at(-1)?.id ?? null;
        pasteAt({ parent, after: id }, text);
      },
      focus: (id, by) => {
        const next = sheet.current.rows[at(id) + by];
        if (next) document.getElementById(`name-${next.field.id}`)?.focus();
      },
    };
    return { add: addField, paste: pasteAt, deeds: made };
  }, [edit, tell]);
  const atEnd: FieldPlace = { parent: null, after: fields.at(-1)?.id ?? null };
  const below =
    chosen !== null && findField(fields, chosen) ? placeBelow(fields, chosen, folded.has(chosen)) : atEnd;
  // A page holds others and stands in nothing.
  const place = (kind?: FieldKind) => (kind === "page" ? atEnd : below);

  return (
    <Group orientation="horizontal" className="min-h-[60vh]">
      <Panel defaultSize="75%" minSize="40%">
        <div className="mb-1.5 flex flex-wrap items-center gap-2 pr-3">
          <Button small onClick={() => add(place())}>
            <Plus size={14} aria-hidden /> Field
          </Button>
          <Button small look="quiet" onClick={() => add(place(), "section")}>
            Section
          </Button>
          <Button small look="quiet" onClick={() => add(place("page"), "page")}>
            Page
          </Button>
          <Button small look="quiet" onClick={() => add(place(), "lines")}>
            Line items
          </Button>
          <Button
            small
            look="quiet"
            aria-pressed={showAccess}
            onClick={() => setShowAccess(!showAccess)}
            className={showAccess ? "!bg-slate-wash" : ""}
          >
            Who sees what
          </Button>
        </div>
        <SheetDrag
          id="form"
          nameOf={(id) => findField(fields, id)?.field.name ?? id}
          place={(id, on) => droppedOn(fields, id, on, folded.has(on))?.words ?? null}
          onDrop={(id, on) => {
            const to = droppedOn(fields, id, on, folded.has(on));
            if (to && edit(movedTo(id, to.place))) focusName.current = id;
          }}
        >
          <div className="max-h-[calc(100vh-15.5rem)] overflow-auto pr-3">
            <table
              className={classes("sheet-table", !showAccess && "sheet-grid")}
              style={{ "--columns": COLUMNS } as CSSProperties}
            >
              <thead>
                <HeadRow>
                  <th className={classes("!pl-[47px]", showAccess && "min-w-44")}>Name</th>
                  {steps ? (
                    steps.map((s) => (
                      <th key={s.id} className="min-w-20 !whitespace-normal align-bottom">
                        {s.number} {s.name}
                      </th>
                    ))
                  ) : (
                    <>
                      <th>Kind</th>
                      <th>Needed</th>
                      <th>Shown when</th>
                      <th>Worked out as</th>
                    </>
                  )}
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
                      chosen={chosen === r.field.id}
                      open={open === r.field.id}
                      folded={folded.has(r.field.id)}
                      steps={steps}
                      deeds={deeds}
                    />
                  ))}
                </tbody>
              ))}
            </table>
            {rows.length === 0 && (
              <div className="py-6">
                <p className="font-serif text-lg">The form is empty</p>
                <p className="mb-3 text-soft">
                  Each row becomes a field. Or copy a column of names from a spreadsheet and paste it here.
                </p>
                <textarea
                  aria-label="Paste rows"
                  rows={3}
                  className="input max-w-md"
                  placeholder="Paste names here, one a line"
                  onPaste={(e) => {
                    e.preventDefault();
                    paste({ parent: null, after: null }, e.clipboardData.getData("text"));
                  }}
                />
              </div>
            )}
          </div>
        </SheetDrag>
        <p className="pt-1.5 text-sm text-soft">
          <Kbd>Enter</Kbd> new row · <Kbd>Alt ↑↓</Kbd> move · <Kbd>Alt ←→</Kbd> in and out · <Kbd>Ctrl ⌫</Kbd>{" "}
          remove · paste rows from a spreadsheet
        </p>
      </Panel>
      <Separator
        className="w-1.5 border-l border-line hover:bg-pebble focus-visible:bg-slate-wash"
        aria-label="Width of the live form"
      />
      <Panel minSize="22%">
        <LiveForm
          chosen={chosen}
          onChoose={(id) => {
            setChosen(id);
            document.getElementById(`field-${id}`)?.scrollIntoView({ block: "nearest" });
          }}
        />
      </Panel>
    </Group>
  );
}

/** The heading: what is let go on it comes first. */
function HeadRow({ children }: { children: ReactNode }) {
  const { ref, isOver } = useDragRow(TOP, "heading", false);
  return (
    <tr ref={ref} className={isOver ? "shadow-[0_2px_0_var(--moss)]" : ""}>
      {children}
    </tr>
  );
}

/** Names of the route's own, in small letters: no field can have them. */
const SMALL_NAMES = Object.fromEntries(Object.keys(REQUEST_SCOPE).map((n) => [n.toLowerCase(), true]));

/** What pasting made of the names, so that nobody looks for one that is called otherwise now. */
function pasteWords({ fields, renamed, left, unknown }: PastedFields): string {
  const some = (list: readonly string[]) =>
    `${list.slice(0, 5).join(", ")}${list.length > 5 ? ` and ${list.length - 5} more` : ""}`;
  const parts = [
    `${fields.length} ${fields.length === 1 ? "field was" : "fields were"} added.`,
    ...(renamed.length > 0
      ? [`Called otherwise than pasted: ${some(renamed.map((r) => `“${r.from}” is “${r.to}”`))}.`]
      : []),
    ...(left.length > 0 ? [`Left out, for they are no names: ${some(left.map((l) => `“${l}”`))}.`] : []),
    ...(unknown.length > 0
      ? [`Texts, for there is no such kind: ${some(unknown.map((u) => `${u.name} (“${u.kind}”)`))}.`]
      : []),
  ];
  return parts.join(" ");
}

/** The names each table's formulas may read, by the id of the line items; the same objects while they stay the same. */
function useScopes(fields: readonly Field[], registers: Registers): ReadonlyMap<string, Scope> {
  const kept = useRef(new Map<string, { text: string; scope: Scope }>());
  return useMemo(() => {
    const outer: Scope = { ...REQUEST_SCOPE, ...formScope(fields, { registers, kinds: KINDS }) };
    const made = new Map<string, Scope>();
    const keep = (id: string, scope: Scope) => {
      const text = JSON.stringify(scope);
      const old = kept.current.get(id);
      const entry = old?.text === text ? old : { text, scope };
      kept.current.set(id, entry);
      made.set(id, entry.scope);
    };
    keep("", outer);
    walkFields(fields, (f) => {
      if (f.kind === "lines") keep(f.id, { ...outer, ...columnScope(f, { registers, kinds: KINDS }) });
    });
    return made;
  }, [fields, registers]);
}
