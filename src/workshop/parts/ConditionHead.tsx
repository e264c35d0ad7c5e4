"use client";
import type { ReactNode } from "react";
import { YESNO, type Scope } from "@/core/expression";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "./Chip";
import { FormulaCell } from "./FormulaCell";
import { useNamesHere } from "./StepHere";
import { TextCell } from "./TextCell";

interface Props {
  step: string;
  list: { id: string; name: string; when?: string };
  scope: Scope;
  /** "way", "branch" */
  what: string;
  /** Taken when no other is, and then without a condition. */
  forOthers: boolean;
  placeholder: string;
  tail: ReactNode;
  /** Where the condition is shown otherwise: what stands in its place, and how it is changed. */
  instead?: { shown: string; editor: ReactNode };
}

/** The head of a list that is taken on a condition. */
export function ConditionHead({ step, list, scope, what, forOthers, placeholder, tail, instead }: Props) {
  const d = useDraft();
  const names = useNamesHere();
  const set = (patch: { name?: string; when?: string | null }) =>
    d.edit({ op: "list.set", step, list: list.id, patch });
  const open = forOthers && !list.when;
  const says = instead?.shown ?? (open ? "for all others" : "when");
  return (
    <span className="flex flex-wrap items-center gap-x-1.5 gap-y-1">
      <Chip text={list.name} label={what}>
        {() => (
          <div className="grid gap-2">
            <TextCell
              className="input"
              autoFocus
              aria-label={`Name of the ${what}`}
              value={list.name}
              onCommit={(t) => (t.trim() ? set({ name: t.trim() }) : false)}
            />
            {instead?.editor}
            <button
              type="button"
              className="justify-self-start text-sm text-brick underline"
              onClick={() => d.edit({ op: "list.remove", step, list: list.id })}
            >
              Remove this {what} and its steps
            </button>
          </div>
        )}
      </Chip>
      {says && <span className="text-sm text-soft">{says}</span>}
      {!open && !instead && (
        <span className="inline-block min-w-56 max-w-full flex-auto [&_input]:max-w-full [&_input]:[field-sizing:content]">
          <FormulaCell
            label={`${list.name}: when`}
            placeholder={placeholder}
            value={list.when ?? ""}
            scope={scope}
            wanted={YESNO}
            names={names}
            onCommit={(when) => set({ when: when || null })}
          />
        </span>
      )}
      {tail && (
        <>
          <span aria-hidden>→</span>
          {tail}
        </>
      )}
    </span>
  );
}
