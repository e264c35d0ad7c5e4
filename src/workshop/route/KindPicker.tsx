"use client";
import { useRef, useState, type ReactNode } from "react";
import type { StepKind } from "@/core/route";
import { KINDS } from "@/kinds";
import { Popover } from "@/ui";
import { useKindViews } from "../parts";

interface Props {
  open: boolean;
  onOpenChange(o: boolean): void;
  onPick(k: StepKind): void;
  trigger: ReactNode;
}

/** All kinds of step by their verbs, found by a word of what they do. */
export function KindPicker({ open, onOpenChange, onPick, trigger }: Props) {
  const { steps } = useKindViews();
  const [search, setSearch] = useState("");
  const picked = useRef(false);
  const words = search.trim().toLowerCase();
  const found = (Object.keys(KINDS.steps) as StepKind[]).filter((k) =>
    `${KINDS.steps[k].verb} ${KINDS.steps[k].says}`.toLowerCase().includes(words),
  );
  const pick = (k: StepKind) => {
    picked.current = true;
    onOpenChange(false);
    setSearch("");
    onPick(k);
  };
  return (
    <Popover
      open={open}
      onOpenChange={(o) => {
        picked.current = false;
        onOpenChange(o);
        setSearch("");
      }}
      trigger={trigger}
      // The new row has it.
      keepsFocus={() => picked.current}
      width={330}
    >
      <input
        autoFocus
        className="input mb-1.5"
        aria-label="Kind of step"
        placeholder="What should happen?"
        value={search}
        onChange={(e) => setSearch(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === "Enter" && found[0]) {
            e.preventDefault();
            pick(found[0]);
          }
        }}
      />
      <ul>
        {found.map((k) => {
          const Icon = steps[k].icon;
          return (
            <li key={k}>
              <button
                type="button"
                className="flex w-full items-center gap-2.5 rounded px-2 py-1 text-left hover:bg-slate-wash focus-visible:bg-slate-wash"
                onClick={() => pick(k)}
              >
                <Icon size={16} strokeWidth={1.6} aria-hidden />{" "}
                <span className="w-20 font-medium">{KINDS.steps[k].verb}</span>{" "}
                <span className="text-sm text-soft">{KINDS.steps[k].says}</span>
              </button>
            </li>
          );
        })}
      </ul>
      {found.length === 0 && <p className="px-2 text-soft">No kind of step matches.</p>}
    </Popover>
  );
}
