"use client";
import { useEffect, useRef } from "react";
import type { Step } from "@/core/route";
import { TextCell, useDraft } from "../parts";

interface Props {
  step: Step;
  /** Somebody is about to write it. */
  writing: boolean;
  onLeave(): void;
}

/** A line below a step for whoever reads the sheet: why it is there, what to mind. */
export function StepNote({ step, writing, onLeave }: Props) {
  const edit = useDraft((d) => d.edit);
  const line = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (writing) line.current?.querySelector("input")?.focus();
  }, [writing]);
  return (
    <span ref={line} className="block" onBlur={onLeave}>
      <TextCell
        className="cell !min-h-6 !px-0.5 !py-0 text-sm text-soft [field-sizing:content] max-w-full"
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
