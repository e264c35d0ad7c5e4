"use client";
import { YESNO, type Scope } from "@/core/expression";
import type { AnswerChoice, Rung, RungKind } from "@/core/route";
import { KINDS } from "@/kinds";
import { Button, Select } from "@/ui";
import { FormulaCell } from "./FormulaCell";
import { useKindViews } from "./kindViews";
import type { RungDeeds } from "./ladderDeeds";
import { LengthInput } from "./LengthInput";
import { useNamesHere } from "./StepHere";

interface Props {
  /** Id of the step or ladder whose rung it is. */
  of: string;
  rung: Rung;
  /** Its place on the ladder, from 1. */
  number: number;
  answers: readonly AnswerChoice[];
  /** It is about several steps. */
  ofMany?: boolean;
  scope: Scope;
  /** The days it falls on for the sample; absent where it is of no one step. */
  falls?: string;
  deeds: RungDeeds;
}

/** One rung: when, what happens, and how often again. */
export function RungEditor({ of, rung, number, answers, ofMany = false, scope, falls, deeds }: Props) {
  const Own = useKindViews().rungs[rung.action.do];
  const names = useNamesHere();
  const set = (patch: Parameters<RungDeeds["set"]>[1]) => deeds.set(rung.id, patch);
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
            .filter(([kind, k]) => kind === rung.action.do || (k.fits(answers) && (!ofMany || k.ofMany)))
            .map(([kind, k]) => ({ value: kind, label: k.says }))}
        />
        <Button small look="quiet" aria-label={`Remove rung ${number}`} onClick={() => deeds.remove(rung.id)}>
          Remove
        </Button>
      </div>
      <div className="ml-5 grid gap-1">
        {Own && (
          <Own
            action={rung.action}
            onChange={(action) => set({ action })}
            scope={scope}
            answers={answers}
            id={`rung-${of}-${rung.id}`}
            label={label}
          />
        )}
        <span className="flex min-h-8 flex-wrap items-center gap-1.5 text-soft">
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
          {falls !== undefined && <span>· {falls || "before it is even asked: left out"}</span>}
        </span>
        <span className="flex min-h-8 flex-wrap items-center gap-1.5 text-soft">
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="size-4 accent-[var(--moss)]"
              checked={rung.if !== undefined}
              onChange={(e) => set({ if: e.target.checked ? "" : null })}
            />
            only where
          </label>
          {rung.if !== undefined && (
            <span className="min-w-52 flex-1 text-ink">
              <FormulaCell
                label={`${label}: only where`}
                value={rung.if}
                scope={scope}
                wanted={YESNO}
                names={names}
                onCommit={(condition) => set({ if: condition })}
              />
            </span>
          )}
        </span>
      </div>
    </li>
  );
}
