"use client";
import { useEffect, useId, useRef, type ReactNode } from "react";
import { classes } from "@/ui";
import { TextCell } from "../parts";

interface Props {
  /** What the cell is called. */
  label: string;
  placeholder: string;
  /** Letters it may have. */
  most: number;
  value: string;
  /** What stands before it. */
  before?: ReactNode;
  /** Offered as one writes. */
  offered?: readonly string[];
  className: string;
  onCommit(text: string): void;
  onDone(): void;
}

/** A line below a step that is being written: Enter and Escape lead back to the step. */
export function StepLine(p: Props) {
  const line = useRef<HTMLSpanElement>(null);
  const list = useId();
  useEffect(() => line.current?.querySelector("input")?.focus(), []);
  return (
    <span
      ref={line}
      className={classes(p.before ? "flex flex-wrap items-baseline gap-x-1.5 text-sm text-soft" : "block")}
      onBlur={p.onDone}
    >
      {p.before}
      <TextCell
        className={`cell !min-h-6 !px-0.5 !py-0 text-sm ${p.className}`}
        aria-label={p.label}
        placeholder={p.placeholder}
        maxLength={p.most}
        {...(p.offered ? { list } : {})}
        value={p.value}
        onCommit={p.onCommit}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === "Enter" || e.key === "Escape")
            e.currentTarget.closest<HTMLElement>("[id^=step-]")?.focus();
        }}
      />
      {p.offered && (
        <datalist id={list}>
          {p.offered.map((o) => (
            <option key={o} value={o} />
          ))}
        </datalist>
      )}
    </span>
  );
}
