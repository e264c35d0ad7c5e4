"use client";
import { useId, useRef, useState, type ReactNode } from "react";
import type { StepKind } from "@/core/route";
import { KINDS } from "@/kinds";
import { classes, Popover } from "@/ui";
import { useKindViews } from "../parts";

interface Props {
  open: boolean;
  onOpenChange(o: boolean): void;
  onPick(k: StepKind): void;
  trigger: ReactNode;
}

/** Kinds whose verb begins like it first, then those with it anywhere in what they do. */
function kindsLike(words: string): StepKind[] {
  const rank = (k: StepKind): number => {
    const { verb, says } = KINDS.steps[k];
    if (verb.toLowerCase().startsWith(words)) return 0;
    return `${verb} ${says}`.toLowerCase().includes(words) ? 1 : 2;
  };
  const all = (Object.keys(KINDS.steps) as StepKind[]).filter((k) => rank(k) < 2);
  return all.sort((a, b) => rank(a) - rank(b));
}

const intoView = (row: HTMLElement | null) => row?.scrollIntoView({ block: "nearest" });

/** All kinds of step by their verbs, found by a word of what they do; arrow keys go through them. */
export function KindPicker({ open, onOpenChange, onPick, trigger }: Props) {
  const { steps } = useKindViews();
  const [search, setSearch] = useState("");
  const picked = useRef(false);
  const [at, setAt] = useState(0);
  const id = useId();
  const found = kindsLike(search.trim().toLowerCase());
  const look = (text: string) => {
    setSearch(text);
    setAt(0);
  };
  const pick = (k: StepKind) => {
    picked.current = true;
    onOpenChange(false);
    look("");
    onPick(k);
  };
  return (
    <Popover
      open={open}
      onOpenChange={(o) => {
        picked.current = false;
        onOpenChange(o);
        look("");
      }}
      trigger={trigger}
      // The new row has it.
      keepsFocus={() => picked.current}
      width={460}
    >
      <input
        autoFocus
        className="input mb-1.5"
        role="combobox"
        aria-label="Kind of step"
        aria-expanded
        aria-controls={id}
        aria-activedescendant={found[at] && `${id}-${found[at]}`}
        placeholder="What should happen?"
        value={search}
        onChange={(e) => look(e.target.value)}
        onKeyDown={(e) => {
          const by = { ArrowDown: 1, ArrowUp: -1 }[e.key];
          if (by) setAt((at + by + found.length) % Math.max(1, found.length));
          else if (e.key !== "Enter") return;
          e.preventDefault();
          if (!by && found[at]) pick(found[at]);
        }}
      />
      <ul id={id} role="listbox" aria-label="Kinds of step" className="max-h-[60vh] overflow-auto">
        {found.map((k, i) => {
          const Icon = steps[k].icon;
          return (
            // Keys are the input's, as with every list of this sort.
            // eslint-disable-next-line jsx-a11y/click-events-have-key-events
            <li
              key={k}
              id={`${id}-${k}`}
              role="option"
              aria-selected={i === at}
              className={classes(
                "flex cursor-default items-center gap-2.5 rounded px-2 py-1",
                i === at && "bg-slate-wash",
              )}
              // What the arrow keys come to is brought into sight.
              ref={i === at ? intoView : undefined}
              onPointerMove={() => setAt(i)}
              onClick={() => pick(k)}
            >
              <Icon size={16} strokeWidth={1.6} aria-hidden className="shrink-0" />{" "}
              <span className="w-28 shrink-0 font-medium">{KINDS.steps[k].verb}</span>{" "}
              <span className="text-sm text-soft">{KINDS.steps[k].says}</span>
            </li>
          );
        })}
      </ul>
      {found.length === 0 && <p className="px-2 text-soft">No kind of step matches.</p>}
    </Popover>
  );
}
