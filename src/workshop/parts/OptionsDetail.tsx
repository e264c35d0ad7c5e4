"use client";
import { useState } from "react";
import { mayBeAmong, type Field, type Registers } from "@/core/form";
import { KINDS } from "@/kinds";
import { Button, Select } from "@/ui";
import { Detail } from "./Detail";
import { distinct } from "./distinct";
import { TextCell } from "./TextCell";

interface Patch {
  options?: string[] | null;
  optionLabels?: Record<string, string> | null;
  among?: Field["among"] | null;
}

interface Props {
  field: Pick<Field, "name" | "options" | "optionLabels" | "among">;
  registers: Registers;
  onSet(patch: Patch): void;
}

/** What can be chosen in a field: what is written here, or what stands in a column of a register. */
export function OptionsDetail(p: Props) {
  const { name, among } = p.field;
  const open = Object.values(p.registers).flatMap((r) => {
    const columns = r.columns.filter((c) => mayBeAmong(c, KINDS.fields));
    return columns.length > 0 || r.key === among?.register ? [{ ...r, columns }] : [];
  });
  const register = open.find((r) => r.key === among?.register);
  const pick = (key: string) => {
    const first = open.find((r) => r.key === key)?.columns[0];
    if (first) p.onSet({ among: { register: key, column: first.id }, options: null, optionLabels: null });
    else p.onSet({ among: null, options: ["first choice", "second choice"] });
  };
  return (
    <>
      <Detail says="Choices are">
        <span className="grid grid-cols-2 gap-2">
          <Select
            aria-label={`What ${name} is chosen from`}
            value={among?.register ?? ""}
            empty="written here"
            onPick={pick}
            options={open.map((r) => ({ value: r.key, label: `what stands in ${r.name}` }))}
          />
          {among && (
            <Select
              aria-label={`The column ${name} is chosen from`}
              value={among.column}
              onPick={(column) => p.onSet({ among: { ...among, column } })}
              options={(register?.columns ?? []).map((c) => ({ value: c.id, label: `as ${c.name}` }))}
            />
          )}
        </span>
      </Detail>
      {!among && <WrittenChoices {...p} />}
    </>
  );
}

/** One a line, and how each of them reads to people where that is something else. */
function WrittenChoices(p: Omit<Props, "registers">) {
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
