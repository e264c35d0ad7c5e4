"use client";
import { stepKind } from "@/core/kinds";
import type { Step } from "@/core/route";
import { KINDS } from "@/kinds";
import { useDraft } from "../draft/DraftProvider";
import { TextCell } from "./TextCell";

/** The name of a step, to be written over where it stands. */
export function StepName({ step }: { step: Step }) {
  const d = useDraft();
  return (
    <>
      <TextCell
        className="cell inline-block !w-auto max-w-full [field-sizing:content] !min-h-7 !px-0.5 !py-0 font-serif text-[1.04rem] font-semibold"
        aria-label="Name of the step"
        value={step.name}
        onCommit={(t) =>
          d.edit({ op: "step.set", id: step.id, patch: { name: t.trim() || stepKind(KINDS, step).verb } })
        }
        onFocus={(e) => e.target.select()}
        onKeyDown={(e) => {
          e.stopPropagation();
          // Back to the row, whose keys go on from there.
          if (e.key === "Enter" || e.key === "Escape")
            e.currentTarget.closest<HTMLElement>("[id^=step-]")?.focus();
        }}
      />
      <span className="text-faint"> · </span>
    </>
  );
}
