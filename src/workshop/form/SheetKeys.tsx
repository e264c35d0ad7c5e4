"use client";
import { Kbd } from "@/ui";

/** What is marked and looked at, and which keys do what where the focus is likely to be. */
export function SheetKeys(p: {
  access: boolean;
  marked: number;
  /** How many rows are looked at, of how many; null where all are. */
  found: { count: number; of: number } | null;
  onAll(): void;
}) {
  return (
    <p className="pt-1.5 text-sm text-soft">
      <span role="status" className="font-medium text-ink">
        {p.found && `${p.found.count} of ${p.found.of} fields. `}
        {p.marked > 0 && `${p.marked} ${p.access ? "cells" : "rows"} marked. `}
      </span>
      {p.found && (
        <button type="button" className="link mr-2" onClick={p.onAll}>
          Show all fields
        </button>
      )}
      {p.access ? (
        <>
          <Kbd>E</Kbd> edit · <Kbd>S</Kbd> see · <Kbd>H</Kbd> hide · <Kbd>⌫</Kbd> as its group or the rule,
          which is pale · <Kbd>Shift</Kbd> and arrows or a click: several · a heading: all of its step
        </>
      ) : (
        <>
          <Kbd>Enter</Kbd> new row · <Kbd>Alt ↑↓</Kbd> move · <Kbd>Alt ←→</Kbd> in and out ·{" "}
          <Kbd>Shift ↑↓</Kbd> mark · <Kbd>Ctrl C</Kbd> copy · <Kbd>Ctrl ⌫</Kbd> remove · paste rows, also of a
          spreadsheet
        </>
      )}
    </p>
  );
}
