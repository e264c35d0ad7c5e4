"use client";
import { useState } from "react";
import type { Field } from "@/core/form";
import { Button } from "@/ui";
import { Detail } from "./Detail";
import { distinct } from "./distinct";
import { TextCell } from "./TextCell";

interface Patch {
  options?: string[];
  optionLabels?: Record<string, string> | null;
}

/** What can be chosen in a field, one a line, and how each of them reads to people where that is something else. */
export function OptionsDetail(p: {
  field: Pick<Field, "name" | "options" | "optionLabels">;
  onSet(patch: Patch): void;
}) {
  const options = p.field.options ?? [];
  const labels = p.field.optionLabels ?? {};
  const [open, setOpen] = useState(false);
  const text = options.join("\n");
  const shown = open || Object.keys(labels).length > 0;
  const put = (option: string, label: string) => {
    const next = { ...labels, [option]: label };
    if (label === "" || label === option) delete next[option];
    p.onSet({ optionLabels: Object.keys(next).length > 0 ? next : null });
  };
  return (
    <>
      <Detail says="Choices, one a line">
        <div>
          <textarea
            className="input"
            rows={Math.min(8, Math.max(3, options.length + 1))}
            aria-label={`Choices of ${p.field.name}`}
            defaultValue={text}
            key={text}
            onBlur={(e) => {
              const typed = distinct(e.target.value.split("\n"));
              if (typed.join("\n") === text) return;
              // Words for a choice that is gone go with it.
              const kept = Object.entries(labels).filter(([o]) => typed.includes(o));
              const all = Object.keys(labels).length;
              const rest = kept.length > 0 ? Object.fromEntries(kept) : null;
              p.onSet({ options: typed, ...(kept.length < all ? { optionLabels: rest } : {}) });
            }}
          />
          {!shown && options.length > 0 && (
            <Button small look="quiet" onClick={() => setOpen(true)}>
              Let people read something else…
            </Button>
          )}
        </div>
      </Detail>
      {shown && (
        <Detail says="People read">
          <div className="grid grid-cols-[minmax(5rem,12rem)_minmax(0,1fr)] items-center gap-x-3 gap-y-1">
            {options.map((o) => (
              <div key={o} className="contents">
                <span className="truncate text-sm text-soft" title={o}>
                  {o}
                </span>
                <TextCell
                  className="input"
                  aria-label={`What people read for ${o}`}
                  placeholder={o}
                  maxLength={200}
                  value={labels[o] ?? ""}
                  onCommit={(t) => put(o, t.trim())}
                />
              </div>
            ))}
          </div>
        </Detail>
      )}
    </>
  );
}
