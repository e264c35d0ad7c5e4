"use client";
import type { Field } from "@/core/form";
import { stepKind } from "@/core/kinds";
import { accessAt, placesOf, START, type ProcessDefinition } from "@/core/route";
import { KINDS } from "@/kinds";
import { classes } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { heldBack } from "./accessEdits";
import type { FieldDeeds } from "./fieldDeeds";
import { cellId } from "./useAccessMarks";

export interface AccessStep {
  id: string;
  name: string;
  number: string;
}

/**
 * The steps at which somebody looks at the form: the start, each step that asks people, and each that hands to a
 * procedure whose people see it beside theirs. What begins a procedure is what is handed in, and nobody's to say.
 */
export function accessSteps(definition: ProcessDefinition): AccessStep[] {
  const asked = [...placesOf(definition, KINDS).values()].filter(({ step }) => {
    const { asks, calls } = stepKind(KINDS, step);
    return asks || calls;
  });
  return [
    ...(definition.procedure ? [] : [{ id: START, name: "Start", number: "1" }]),
    ...asked.map((p) => ({ id: p.step.id, name: p.step.name, number: p.number })),
  ];
}

/**
 * One cell per step: edit, see or hide. Said outright it stands in ink; taken over from its group, pale.
 * @param marked ids of the steps whose cells are marked, each between blanks
 * @param stop the step whose cell the Tab key comes to; null for none in this row
 */
export function AccessCells({
  field,
  steps,
  marked,
  stop,
  deeds,
}: {
  field: Field;
  steps: readonly AccessStep[];
  marked: string;
  stop: string | null;
  deeds: FieldDeeds;
}) {
  const definition = useDraft((d) => d.definition);
  return (
    <>
      {steps.map((s) => {
        const cell = { field: field.id, step: s.id };
        const own = definition.access[s.id]?.[field.id];
        const now = accessAt(definition, s.id)(field.id);
        const held = heldBack(definition, cell);
        const isMarked = marked.includes(` ${s.id} `);
        return (
          <td key={s.id} className={isMarked ? "!bg-slate-wash" : ""}>
            <button
              type="button"
              id={cellId(field.id, s.id)}
              tabIndex={stop === s.id ? 0 : -1}
              className={classes(
                "w-full rounded px-1.5 py-1 text-left hover:bg-pebble",
                own ? "font-medium" : "text-faint",
                held && "line-through",
              )}
              title={held ? `said to be ${own}, and ${now} all the same` : undefined}
              aria-label={`${field.name} at ${s.name}: ${now}${own ? "" : ", as its group or the rule"}. Change`}
              onFocus={() => deeds.cellFocus(cell)}
              // The cell from which cells are marked keeps the focus.
              onMouseDown={(e) => e.shiftKey && e.preventDefault()}
              onClick={(e) => deeds.cellClick(cell, e.shiftKey)}
              onKeyDown={(e) => deeds.cellKey(e, cell)}
            >
              {now}
            </button>
          </td>
        );
      })}
    </>
  );
}
