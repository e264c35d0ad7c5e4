"use client";
import { useState, type ReactNode } from "react";
import { classes, Popover } from "@/ui";

/** A part of a step's sentence that can be changed: it reads as text, and opens its editor when pressed. */
export function Chip({
  text,
  label,
  empty = false,
  width,
  children,
}: {
  text: string;
  label: string;
  empty?: boolean;
  width?: number;
  children(close: () => void): ReactNode;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      {...(width ? { width } : {})}
      trigger={
        <button
          type="button"
          className={classes("chip", empty && "chip-empty")}
          aria-label={`${label}: ${text}`}
        >
          {text}
        </button>
      }
    >
      {children(() => setOpen(false))}
    </Popover>
  );
}
