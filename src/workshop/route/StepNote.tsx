"use client";
import { useEffect, useRef } from "react";
import type { Step } from "@/core/route";
import { TextCell, useDraft } from "../parts";

interface Props {
  step: Step;
  /** It is being written. */
  writing: boolean;
  onWriting(yes: boolean): void;
}

/** A line below a step for whoever reads the sheet: why it is there, what to mind. At rest it is read whole. */
export function StepNote({ step, writing, onWriting }: Props) {
  const edit = useDraft((d) => d.edit);
  const line = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (writing) line.current?.querySelector("input")?.focus();
  }, [writing]);
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
    <span ref={line} className="block" onBlur={() => onWriting(false)}>
      <TextCell
        className="cell !min-h-6 max-w-full !px-0.5 !py-0 text-sm"
        aria-label="Note of the step"
        placeholder="a note for whoever reads this sheet"
        maxLength={500}
        value={step.note ?? ""}
        onCommit={(t) => edit({ op: "step.set", id: step.id, patch: { note: t.trim() || null } })}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === "Enter" || e.key === "Escape")
            e.currentTarget.closest<HTMLElement>("[id^=step-]")?.focus();
        }}
      />
    </span>
  );
}
