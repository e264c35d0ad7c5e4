"use client";
import { KINDS } from "@/kinds";
import { ChevronDown, ChevronRight, MoreHorizontal, Pin } from "lucide-react";
import { memo, type ClipboardEvent, type KeyboardEvent } from "react";
import { YESNO, type Scope } from "@/core/expression";
import {
  fieldType,
  holdsFields,
  isGroup,
  isKeptValue,
  type Field,
  type FieldKind,
  type Hand,
} from "@/core/form";
import { classes, Select } from "@/ui";
import { FormulaCell, TextCell, useDraft, useDragRow } from "../parts";
import { AccessCells, type AccessStep } from "./AccessCells";
import { COPIED_FIELDS } from "./copyFields";
import type { FieldDeeds } from "./fieldDeeds";
import { FieldDetails } from "./FieldDetails";

interface Props {
  field: Field;
  depth: number;
  inLines: boolean;
  scope: Scope;
  chosen: boolean;
  open: boolean;
  folded: boolean;
  /** The steps whose access is shown instead of the formulas; null for none. */
  steps: readonly AccessStep[] | null;
  /** Of those steps the ids of which cells are marked, and the one Tab comes to; see `AccessCells`. */
  markedCells: string;
  stop: string | null;
  deeds: FieldDeeds;
}

/** How a field of a procedure is handed over, beside its name. */
const HANDED: Record<Hand, string> = { in: "in", out: "back", "in and out": "both" };
const KEPT_AS = {
  copied: "A copy: stays as it was when the form was filled in",
  fixed: "Fixed: stays as it was when the request was sent",
};
const ALWAYS = { true: "always" };

/** What opens at the lower edge of the sheet would else open out of sight. */
const intoView = (row: HTMLElement | null) => row?.scrollIntoView({ block: "nearest" });

/** One row of the form sheet. */
export const FieldRow = memo(function FieldRow(p: Props) {
  const edit = useDraft((d) => d.edit);
  const { field, deeds } = p;
  const { id } = field;
  // What stands below a row begins where its name does.
  const indent = 32 + p.depth * 18;
  const columns = p.steps ? p.steps.length + 2 : 6;
  const group = isGroup(field);
  const problems = useDraft((d) => d.problemsAt("field", id));
  const drag = useDragRow(id, field.name, true);
  return (
    <>
      <tr
        id={`field-${field.id}`}
        ref={drag.ref}
        data-row
        data-chosen={p.chosen}
        className={classes(
          "group",
          drag.isOver && "shadow-[0_2px_0_var(--moss)]",
          drag.isDragged && "outline-1 -outline-offset-1 outline-dashed outline-line-strong",
        )}
        onFocus={() => deeds.choose(id)}
        onPointerDown={(e) => {
          if (e.shiftKey && !p.steps) deeds.markTo(id);
          else {
            deeds.unmark();
            deeds.choose(id);
          }
        }}
        // Shift marks rows, and not the letters of names between two clicks.
        onMouseDown={(e) => e.shiftKey && !p.steps && e.preventDefault()}
      >
        <td className={p.steps ? "sheet-stuck" : ""} style={{ paddingLeft: p.depth * 15 }}>
          <div className="flex items-center gap-0.5">
            {drag.grip(
              classes(
                "flex h-6 w-3 shrink-0 items-center justify-center group-hover:opacity-100 focus-visible:opacity-100",
                p.chosen ? "opacity-100" : "opacity-0",
              ),
              p.chosen ? 0 : -1,
            )}
            {field.fields ? (
              <button
                type="button"
                className="flex size-6 shrink-0 items-center justify-center text-soft"
                aria-label={`${p.folded ? "Unfold" : "Fold"} ${field.name}`}
                aria-expanded={!p.folded}
                onClick={() => deeds.fold(id)}
              >
                {p.folded ? <ChevronRight size={14} aria-hidden /> : <ChevronDown size={14} aria-hidden />}
              </button>
            ) : (
              <span className="w-6 shrink-0" />
            )}
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
                edit({ op: "field.rename", id: field.id, name: name.replace(/\s+/g, " ").trim() })
              }
              onPaste={(e) => {
                const text = e.clipboardData.getData("text");
                if (e.clipboardData.types?.includes(COPIED_FIELDS) || /[\n\t]/.test(text.trim())) {
                  e.preventDefault();
                  deeds.paste(id, e.clipboardData);
                }
              }}
              onCopy={(e) => copyRow(e, id, deeds) && e.preventDefault()}
              onCut={(e) => {
                // One row goes by Ctrl ⌫: Ctrl X is pressed too easily in a name.
                if (!deeds.copy(id, e.clipboardData, true)) return;
                e.preventDefault();
                deeds.remove(id);
              }}
              onKeyDown={(e) => {
                const act = keyDeed(e, id, deeds);
                if (!act) return;
                e.preventDefault();
                act();
              }}
            />
            {field.hand && <span className="shrink-0 pr-1 text-sm text-slate">{HANDED[field.hand]}</span>}
          </div>
        </td>
        {p.steps ? (
          <AccessCells field={field} steps={p.steps} marked={p.markedCells} stop={p.stop} deeds={deeds} />
        ) : (
          <FormulaCells {...p} group={group} />
        )}
        <td>
          <button
            type="button"
            className="rounded p-1 text-soft hover:bg-pebble"
            aria-label={`More about ${field.name}`}
            aria-expanded={p.open}
            onClick={() => deeds.open(id)}
          >
            <MoreHorizontal size={16} aria-hidden />
          </button>
        </td>
      </tr>
      {problems.length > 0 && (
        <tr>
          <td colSpan={columns} className="!h-auto !border-b-0" style={{ paddingLeft: indent }}>
            {problems.map((x, i) => (
              <p
                key={i}
                className={classes("text-sm", x.severity === "error" ? "text-brick" : "text-lichen")}
              >
                {x.message}
                {x.mend && (
                  <button type="button" className="ml-2 underline" onClick={() => edit(x.mend!.edit)}>
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
          <td colSpan={columns} className="!h-auto bg-sheet" style={{ paddingLeft: indent }}>
            {/* In sight as a whole, however far the sheet is scrolled sideways. */}
            <div className="sticky" style={{ left: indent, width: `calc(100cqw - ${indent + 24}px)` }}>
              <FieldDetails field={field} scope={p.scope} deeds={deeds} />
            </div>
          </td>
        </tr>
      )}
    </>
  );
});

/** Whether rows were copied, and not what is marked of a name. */
function copyRow(e: ClipboardEvent<HTMLInputElement>, id: string, deeds: FieldDeeds): boolean {
  const { selectionStart, selectionEnd } = e.currentTarget;
  return deeds.copy(id, e.clipboardData, selectionStart !== selectionEnd);
}

function keyDeed(e: KeyboardEvent, id: string, deeds: FieldDeeds): (() => void) | undefined {
  const plain: Record<string, () => void> = {
    Enter: () => deeds.addBelow(id),
    ArrowUp: () => deeds.focus(id, -1),
    ArrowDown: () => deeds.focus(id, 1),
    Escape: () => deeds.unmark(),
  };
  const shift: Record<string, () => void> = {
    ArrowUp: () => deeds.mark(-1),
    ArrowDown: () => deeds.mark(1),
  };
  const alt: Record<string, () => void> = {
    ArrowUp: () => deeds.up(id),
    ArrowDown: () => deeds.down(id),
    ArrowRight: () => deeds.nest(id),
    ArrowLeft: () => deeds.unnest(id),
  };
  const ctrl: Record<string, () => void> = {
    Backspace: () => deeds.remove(id),
    Delete: () => deeds.remove(id),
  };
  if (e.altKey) return alt[e.key];
  if (e.shiftKey && !e.ctrlKey && !e.metaKey) return shift[e.key] ?? plain[e.key];
  return e.ctrlKey || e.metaKey ? ctrl[e.key] : plain[e.key];
}

/** Kind, when needed, when shown, how worked out. */
function FormulaCells({ field, inLines, scope, group, deeds }: Props & { group: boolean }) {
  const registers = useDraft((d) => d.office.registers);
  const edit = useDraft((d) => d.edit);
  const turn = useDraft((d) => d.turn);
  const names = turn?.names(null) ?? null;
  const set = (place: "needed" | "shown" | "worked", text: string) =>
    edit({
      op: "field.set",
      id: field.id,
      patch: {
        [place]: text || null,
        ...(place === "worked" && !text && isKeptValue(field) ? { copied: null, fixed: null } : {}),
      },
    });
  const kinds = (Object.keys(KINDS.fields) as FieldKind[]).filter(
    (k) => !inLines || !(holdsFields(k) || isGroup({ kind: k })),
  );
  return (
    <>
      <td>
        <Select
          look="cell"
          data-sheet="kind"
          aria-label={`Kind of ${field.name}`}
          value={field.kind}
          onPick={(value) => deeds.toKind(field.id, value as FieldKind)}
          options={kinds}
        />
      </td>
      <td>
        {!group && !field.worked && (
          <FormulaCell
            label={`${field.name}: needed when`}
            value={field.needed ?? ""}
            scope={scope}
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
          scope={scope}
          wanted={YESNO}
          names={names}
          onCommit={(t) => set("shown", t)}
          placeholder=""
        />
      </td>
      <td>
        {!group && field.kind !== "lines" && (
          <div className="flex items-center">
            {isKeptValue(field) && (
              <span className="shrink-0 pl-1 text-soft" title={KEPT_AS[field.fixed ? "fixed" : "copied"]}>
                <Pin size={14} aria-hidden />
                <span className="sr-only">{field.fixed ? "fixed:" : "a copy of"}</span>
              </span>
            )}
            <div className="min-w-0 flex-1">
              <FormulaCell
                label={`${field.name}: worked out as`}
                value={field.worked ?? ""}
                scope={scope}
                wanted={fieldType(field, { registers, kinds: KINDS })}
                names={inLines ? null : names}
                onCommit={(t) => set("worked", t)}
              />
            </div>
          </div>
        )}
      </td>
    </>
  );
}
