"use client";
import type { Step } from "@/core/route";
import { useDraft } from "../parts";
import { StepLine } from "./StepLine";

interface Props {
  step: Step;
  /** It is being written. */
  writing: boolean;
  onWriting(yes: boolean): void;
}

/** A line below a step for whoever reads the sheet: why it is there, what to mind. At rest it is read whole. */
export function StepNote({ step, writing, onWriting }: Props) {
  const edit = useDraft((d) => d.edit);
  if (!writing)
    return (
      <button
        type="button"
        tabIndex={-1}
        aria-label={`Note of the step: ${step.note}`}
        className="block max-w-full text-left text-sm leading-snug break-words text-soft"
        onClick={() => onWriting(true)}
      >
        {step.note}
      </button>
    );
  return (
    <StepLine
      label="Note of the step"
      placeholder="a note for whoever reads this sheet"
      most={500}
      value={step.note ?? ""}
      className="max-w-full"
      onCommit={(t) => edit({ op: "step.set", id: step.id, patch: { note: t.trim() || null } })}
      onDone={() => onWriting(false)}
    />
  );
}
