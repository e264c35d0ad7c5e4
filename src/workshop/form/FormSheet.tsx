"use client";
import { ChevronDown, ChevronRight, Plus } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
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
} from "@/core/form";
import type { Scope } from "@/core/expression";
import { Button, classes, Kbd } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { newId } from "../draft/newId";
import { AccessCells, accessSteps } from "./AccessCells";
import { FieldRow, type RowHandlers } from "./FieldRow";
import { LiveForm } from "./LiveForm";

interface Row {
  field: Field;
  parents: readonly Field[];
  index: number;
  siblings: number;
}

/** The form as a sheet, one row a field, with the live form beside it. */
export function FormSheet() {
  const d = useDraft();
  const [chosen, setChosen] = useState<string | null>(null);
  const [showAccess, setShowAccess] = useState(false);
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [open, setOpen] = useState<string | null>(null);
  const focusName = useRef<string | null>(null);
  const { definition } = d;

  const rows = useMemo(() => {
    const out: Row[] = [];
    const visit = (fields: readonly Field[], parents: readonly Field[]) =>
      fields.forEach((field, index) => {
        out.push({ field, parents, index, siblings: fields.length });
        if (field.fields && !folded.has(field.id)) visit(field.fields, [...parents, field]);
      });
    visit(definition.fields, []);
    return out;
  }, [definition.fields, folded]);

  const scopes = useMemo(() => {
    const outer: Scope = { ...REQUEST_SCOPE, ...formScope(definition.fields, d.office.registers) };
    const made = new Map<string, Scope>([["", outer]]);
    walkFields(definition.fields, (f) => {
      if (f.kind === "lines") made.set(f.id, { ...outer, ...columnScope(f, d.office.registers) });
    });
    return made;
  }, [definition.fields, d.office.registers]);
  const steps = useMemo(() => accessSteps(definition), [definition]);

  useEffect(() => {
    const id = focusName.current;
    if (!id) return;
    focusName.current = null;
    const input = document.getElementById(`name-${id}`) as HTMLInputElement | null;
    input?.focus();
    input?.select();
  });
  useEffect(() => {
    const id = /^#field-(.+)$/.exec(location.hash)?.[1];
    if (id) {
      setChosen(id);
      document.getElementById(`field-${id}`)?.scrollIntoView({ block: "center" });
    }
  }, []);

  const taken = (id: string) => findField(definition.fields, id) !== null;
  const add = (parent: string | null, index: number, kind: FieldKind = "text") => {
    const names = new Set<string>();
    walkFields(definition.fields, (f) => void names.add(f.name.toLowerCase()));
    const stem =
      kind === "section" ? "Section" : kind === "page" ? "Page" : kind === "lines" ? "Lines" : "Field";
    let n = 1;
    while (names.has(`${stem.toLowerCase()} ${n}`)) n++;
    const name = `${stem} ${n}`;
    const id = newId(name, taken);
    const field: Field = { id, name, kind, ...(holdsFields(kind) ? { fields: [] } : {}) };
    if (d.edit({ op: "field.add", parent, index, field })) {
      setChosen(id);
      focusName.current = id;
    }
  };
  const handlers = (r: Row): RowHandlers => {
    const parent = r.parents.at(-1) ?? null;
    const move = (to: string | null, index: number) =>
      d.edit({ op: "field.move", id: r.field.id, parent: to, index });
    return {
      addBelow: () =>
        r.field.fields && !folded.has(r.field.id) && r.field.fields.length === 0
          ? add(r.field.id, 0)
          : add(parent?.id ?? null, r.index + 1),
      up: () => void (r.index > 0 && move(parent?.id ?? null, r.index - 1)),
      down: () => void (r.index < r.siblings - 1 && move(parent?.id ?? null, r.index + 1)),
      nest: () => {
        const before = (parent?.fields ?? definition.fields)[r.index - 1];
        if (before?.fields && r.field.kind !== "page") move(before.id, before.fields.length);
      },
      unnest: () => {
        if (!parent) return;
        const grand = r.parents.at(-2) ?? null;
        move(
          grand?.id ?? null,
          (grand?.fields ?? definition.fields).findIndex((f) => f.id === parent.id) + 1,
        );
      },
      remove: () => {
        const at = rows.findIndex((x) => x.field.id === r.field.id);
        const next = rows[at + 1] ?? rows[at - 1];
        if (d.edit({ op: "field.remove", id: r.field.id }) && next) focusName.current = next.field.id;
      },
      paste: (text) => {
        const fresh = new Set<string>();
        const fields = fieldsFromRows(text, (name) => {
          const id = newId(name, (x) => taken(x) || fresh.has(x));
          fresh.add(id);
          return id;
        });
        if (fields.length > 0)
          d.edit({
            op: "batch",
            edits: fields.map((field, i) => ({
              op: "field.add" as const,
              parent: parent?.id ?? null,
              index: r.index + 1 + i,
              field,
            })),
          });
      },
      focus: (by) => {
        const at = rows.findIndex((x) => x.field.id === r.field.id);
        const next = rows[at + by];
        if (next) document.getElementById(`name-${next.field.id}`)?.focus();
      },
    };
  };

  return (
    <Group orientation="horizontal" className="min-h-[60vh]">
      <Panel defaultSize="71%" minSize="40%">
        <div className="mb-1.5 flex flex-wrap items-center gap-2 pr-3">
          <Button small onClick={() => add(null, definition.fields.length)}>
            <Plus size={14} aria-hidden /> Field
          </Button>
          <Button small look="quiet" onClick={() => add(null, definition.fields.length, "section")}>
            Section
          </Button>
          <Button small look="quiet" onClick={() => add(null, definition.fields.length, "page")}>
            Page
          </Button>
          <Button small look="quiet" onClick={() => add(null, definition.fields.length, "lines")}>
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
        <div className="max-h-[calc(100vh-15.5rem)] overflow-auto pr-3">
          <table className={classes("sheet-table", !showAccess && "table-fixed")}>
            <thead>
              <tr>
                <th className={showAccess ? "min-w-44" : "w-[27%]"}>Name</th>
                {showAccess ? (
                  steps.map((s) => (
                    <th key={s.id} title={s.name} className="max-w-28 truncate">
                      {s.number} {s.name}
                    </th>
                  ))
                ) : (
                  <>
                    <th className="w-[7.4rem]">Kind</th>
                    <th className="w-[6.4rem]">Needed when</th>
                    <th>Shown when</th>
                    <th>Worked out as</th>
                  </>
                )}
                <th className="w-11">
                  <span className="sr-only">More</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => (
                <FieldRow
                  key={r.field.id}
                  field={r.field}
                  depth={r.parents.length}
                  inLines={r.parents.some((p) => p.kind === "lines")}
                  scope={scopes.get(r.parents.find((p) => p.kind === "lines")?.id ?? "")!}
                  chosen={chosen === r.field.id}
                  onChoose={() => setChosen(r.field.id)}
                  open={open === r.field.id}
                  onOpen={() => setOpen(open === r.field.id ? null : r.field.id)}
                  {...handlers(r)}
                  fold={
                    r.field.fields ? (
                      <button
                        type="button"
                        className="flex size-6 shrink-0 items-center justify-center text-soft"
                        aria-label={`${folded.has(r.field.id) ? "Unfold" : "Fold"} ${r.field.name}`}
                        aria-expanded={!folded.has(r.field.id)}
                        onClick={() =>
                          setFolded((f) => {
                            const n = new Set(f);
                            if (!n.delete(r.field.id)) n.add(r.field.id);
                            return n;
                          })
                        }
                      >
                        {folded.has(r.field.id) ? (
                          <ChevronRight size={14} aria-hidden />
                        ) : (
                          <ChevronDown size={14} aria-hidden />
                        )}
                      </button>
                    ) : null
                  }
                  access={showAccess ? <AccessCells field={r.field} steps={steps} /> : null}
                  columns={showAccess ? steps.length + 2 : 6}
                />
              ))}
            </tbody>
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
                  const fields = fieldsFromRows(e.clipboardData.getData("text"), (n) => newId(n, taken));
                  if (fields.length > 0)
                    d.edit({
                      op: "batch",
                      edits: fields.map((field, i) => ({
                        op: "field.add" as const,
                        parent: null,
                        index: i,
                        field,
                      })),
                    });
                }}
              />
            </div>
          )}
        </div>
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
