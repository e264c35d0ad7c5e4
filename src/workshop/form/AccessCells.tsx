"use client";
import type { Access, Field } from "@/core/form";
import { accessAt, placesOf, START, type ProcessDefinition } from "@/core/route";
import { stepKind } from "@/core/kinds";
import { KINDS } from "@/kinds";
import { classes } from "@/ui";
import { useDraft } from "../draft/DraftProvider";

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

const NEXT: Record<Access, Access> = { edit: "see", see: "hide", hide: "edit" };

/** One cell per step: edit, see or hide. Said outright it stands in ink; taken over from its group, pale. */
export function AccessCells({ field, steps }: { field: Field; steps: readonly AccessStep[] }) {
  const definition = useDraft((d) => d.definition);
  const edit = useDraft((d) => d.edit);
  return (
    <>
      {steps.map((s) => {
        const own = definition.access[s.id]?.[field.id];
        const now = accessAt(definition, s.id)(field.id);
        return (
          <td key={s.id}>
            <button
              type="button"
              className={classes(
                "w-full rounded px-1.5 py-1 text-left hover:bg-pebble",
                own ? "font-medium" : "text-faint",
              )}
              aria-label={`${field.name} at ${s.name}: ${now}${own ? "" : ", as its group or the rule"}. Change`}
              onClick={() => edit({ op: "access.set", step: s.id, field: field.id, access: NEXT[now] })}
              onKeyDown={(e) => {
                if (e.key === "Delete" || e.key === "Backspace")
                  edit({ op: "access.set", step: s.id, field: field.id, access: null });
              }}
            >
              {now}
            </button>
          </td>
        );
      })}
    </>
  );
}
