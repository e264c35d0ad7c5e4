"use client";
import type { Scope } from "@/core/expression";
import { stepKind } from "@/core/kinds";
import type { Asks, Edit, Limit, Rung, RungKind, Step } from "@/core/route";
import { KINDS } from "@/kinds";
import { Button, Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { useKindViews } from "./kindViews";
import { LengthInput } from "./LengthInput";

/** A step that asks people and has a limit. */
export type Limited = Step & Asks & { limit: Limit };

interface Props {
  step: Limited;
  rung: Rung;
  /** Its place on the ladder, from 1. */
  number: number;
  scope: Scope;
  /** The days it falls on for the sample. */
  falls: string;
}

/** One rung: when, what happens, and how often again. */
export function RungEditor({ step, rung, number, scope, falls }: Props) {
  const d = useDraft();
  const answers = stepKind(KINDS, step).asks?.answers(step) ?? [];
  const Own = useKindViews().rungs[rung.action.do];
  const set = (patch: Extract<Edit, { op: "rung.set" }>["patch"]) =>
    d.edit({ op: "rung.set", step: step.id, rung: rung.id, patch });
  const label = `Rung ${number}`;
  return (
    <li className="mb-2 grid gap-1 border-t border-line pt-1.5 text-sm">
      <div className="flex flex-wrap items-center gap-1.5">
        <span className="w-4 font-medium text-moss">{number}</span>
        <Select
          aria-label={`${label}: before or after`}
          className="!w-24"
          value={rung.when}
          onPick={(value) =>
            set({
              when: value as Rung["when"],
              ...(value === "at" ? {} : { length: rung.length ?? { amount: 1, unit: "working days" } }),
            })
          }
          options={[
            { value: "before", label: "before" },
            { value: "at", label: "at" },
            { value: "after", label: "after" },
          ]}
        />
        {rung.when !== "at" && rung.length && (
          <LengthInput label={label} value={rung.length} onChange={(length) => set({ length })} />
        )}
        <Select
          aria-label={`${label}: what happens`}
          className="!w-44"
          value={rung.action.do}
          onPick={(value) => set({ action: KINDS.rungs[value as RungKind].blank(answers) })}
          options={Object.entries(KINDS.rungs)
            .filter(([kind, k]) => kind === rung.action.do || k.fits(answers))
            .map(([kind, k]) => ({ value: kind, label: k.says }))}
        />
        <Button
          small
          look="quiet"
          onClick={() => d.edit({ op: "rung.remove", step: step.id, rung: rung.id })}
        >
          Remove
        </Button>
      </div>
      <div className="ml-5 grid gap-1">
        {Own && (
          <Own
            action={rung.action}
            onChange={(action) => void set({ action })}
            scope={scope}
            answers={answers}
            id={`rung-${step.id}-${rung.id}`}
            label={label}
          />
        )}
        <span className="flex flex-wrap items-center gap-1.5 text-soft">
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="size-4 accent-[var(--moss)]"
              checked={rung.every !== undefined}
              onChange={(e) =>
                set(
                  e.target.checked
                    ? { every: { amount: 1, unit: "working days" }, times: 3 }
                    : { every: null, times: null },
                )
              }
            />
            again every
          </label>
          {rung.every && (
            <>
              <LengthInput
                label={`${label}: again every`}
                value={rung.every}
                onChange={(every) => set({ every })}
              />
              <input
                type="number"
                min={1}
                max={50}
                aria-label={`${label}: how many times`}
                className="input !w-16"
                value={rung.times ?? 1}
                onChange={(e) => set({ times: Math.max(1, Math.min(50, Number(e.target.value) || 1)) })}
              />{" "}
              times
            </>
          )}
          <span>· {falls || "before it is even asked: left out"}</span>
        </span>
      </div>
    </li>
  );
}
