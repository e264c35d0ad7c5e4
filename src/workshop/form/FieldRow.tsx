"use client";
import { MoreHorizontal } from "lucide-react";
import { memo, type ReactNode } from "react";
import { FIELD_KINDS, fieldType, type Field, type FieldKind } from "@/core/form";
import { YESNO, type Scope } from "@/core/expression";
import { classes } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { FormulaCell } from "../draft/FormulaCell";
import { TextCell } from "../draft/TextCell";
import { FieldDetails } from "./FieldDetails";
import { kindChange } from "./kindChange";

export interface RowHandlers {
  addBelow(): void;
  up(): void;
  down(): void;
  nest(): void;
  unnest(): void;
  remove(): void;
  paste(text: string): void;
  focus(by: number): void;
}
interface Props extends RowHandlers {
  field: Field;
  depth: number;
  inLines: boolean;
  scope: Scope;
  chosen: boolean;
  onChoose(): void;
  open: boolean;
  onOpen(): void;
  fold: ReactNode;
  access: ReactNode;
  columns: number;
}

const ALWAYS = { true: "always" };

/** What opens at the lower edge of the sheet would else open out of sight. */
const intoView = (row: HTMLElement | null) => row?.scrollIntoView({ block: "nearest" });

/** One row of the form sheet. */
export const FieldRow = memo(function FieldRow(p: Props) {
  const d = useDraft();
  const { field } = p;
  const group = field.kind === "page" || field.kind === "section";
  const names = d.turn?.names() ?? null;
  const problems = d.problems.filter((x) => x.where.kind === "field" && x.where.id === field.id);
  const set = (place: "needed" | "shown" | "worked", text: string) =>
    d.edit({ op: "field.set", id: field.id, patch: { [place]: text || null } });
  const kinds = FIELD_KINDS.filter((k) => !p.inLines || !["lines", "section", "page"].includes(k));
  return (
    <>
      <tr
        id={`field-${field.id}`}
        data-row
        data-chosen={p.chosen}
        onFocus={p.onChoose}
        onPointerDown={p.onChoose}
      >
        <td style={{ paddingLeft: 2 + p.depth * 15 }}>
          <div className="flex items-center gap-0.5">
            {p.fold ?? <span className="w-6 shrink-0" />}
            <TextCell
              id={`name-${field.id}`}
              data-sheet="name"
              value={field.name}
              aria-label={`Name of ${field.name}`}
              title={field.name.length > 18 ? field.name : undefined}
              className={classes(
                "cell text-ellipsis",
                (group || field.kind === "lines") && "font-serif font-semibold",
              )}
              onCommit={(name) =>
                d.edit({ op: "field.rename", id: field.id, name: name.replace(/\s+/g, " ").trim() })
              }
              onPaste={(e) => {
                const text = e.clipboardData.getData("text");
                if (/[\n\t]/.test(text.trim())) {
                  e.preventDefault();
                  p.paste(text);
                }
              }}
              onKeyDown={(e) => {
                const keys: Record<string, () => void> = e.altKey
                  ? { ArrowUp: p.up, ArrowDown: p.down, ArrowRight: p.nest, ArrowLeft: p.unnest }
                  : e.ctrlKey || e.metaKey
                    ? { Backspace: p.remove, Delete: p.remove }
                    : { Enter: p.addBelow, ArrowUp: () => p.focus(-1), ArrowDown: () => p.focus(1) };
                const act = keys[e.key];
                if (act) {
                  e.preventDefault();
                  act();
                }
              }}
            />
          </div>
        </td>
        {p.access ?? (
          <>
            <td>
              <select
                className="cell"
                data-sheet="kind"
                aria-label={`Kind of ${field.name}`}
                value={field.kind}
                onChange={(e) => d.edit(kindChange(d.definition, field, e.target.value as FieldKind))}
              >
                {kinds.map((k) => (
                  <option key={k}>{k}</option>
                ))}
              </select>
            </td>
            <td>
              {!group && !field.worked && (
                <FormulaCell
                  label={`${field.name}: needed when`}
                  value={field.needed ?? ""}
                  scope={p.scope}
                  wanted={YESNO}
                  names={names}
                  words={ALWAYS}
                  onCommit={(t) => set("needed", t === "always" ? "true" : t)}
                />
              )}
            </td>
            <td>
              <FormulaCell
                label={`${field.name}: shown when`}
                value={field.shown ?? ""}
                scope={p.scope}
                wanted={YESNO}
                names={names}
                onCommit={(t) => set("shown", t)}
                placeholder=""
              />
            </td>
            <td>
              {!group && field.kind !== "lines" && (
                <FormulaCell
                  label={`${field.name}: worked out as`}
                  value={field.worked ?? ""}
                  scope={p.scope}
                  wanted={fieldType(field, d.office.registers)}
                  names={p.inLines ? null : names}
                  onCommit={(t) => set("worked", t)}
                />
              )}
            </td>
          </>
        )}
        <td>
          <button
            type="button"
            className="rounded p-1 text-soft hover:bg-pebble"
            aria-label={`More about ${field.name}`}
            aria-expanded={p.open}
            onClick={p.onOpen}
          >
            <MoreHorizontal size={16} aria-hidden />
          </button>
        </td>
      </tr>
      {problems.length > 0 && (
        <tr>
          <td colSpan={p.columns} className="!h-auto !border-b-0" style={{ paddingLeft: 32 + p.depth * 18 }}>
            {problems.map((x, i) => (
              <p
                key={i}
                className={classes("text-sm", x.severity === "error" ? "text-brick" : "text-lichen")}
              >
                {x.message}
                {x.mend && (
                  <button type="button" className="ml-2 underline" onClick={() => d.edit(x.mend!.edit)}>
                    Mend: {x.mend.label}
                  </button>
                )}
              </p>
            ))}
          </td>
        </tr>
      )}
      {p.open && (
        <tr ref={intoView}>
          <td colSpan={p.columns} className="!h-auto bg-sheet" style={{ paddingLeft: 32 + p.depth * 18 }}>
            <FieldDetails field={field} scope={p.scope} handlers={p} />
          </td>
        </tr>
      )}
    </>
  );
});
