"use client";
import { X } from "lucide-react";
import type { ReactNode } from "react";
import { classes } from "@/ui";
import { Picker, type NoneToPick, type Option } from "./Picker";

interface Props<O extends Option> {
  id: string;
  label: string;
  /** Those that are there, in their order. */
  ids: readonly string[];
  title(id: string): string;
  /** How many there may be. */
  most: number;
  /** Why nothing can be picked, whatever is typed. */
  none: string | null;
  options(search: string): Promise<O[] | NoneToPick> | O[];
  invalid: boolean;
  compact: boolean | undefined;
  describedBy?: string | undefined;
  onPick(option: O): void;
  onChange(ids: readonly string[]): void;
  /** What else adds some, beside the picker. */
  children?: ReactNode;
}

/** Several things: a list of those that are there, and one more picked by name. */
export function SeveralPicked<O extends Option>(p: Props<O>) {
  const { id, label, ids, compact } = p;
  const room = p.most - ids.length;
  const none = p.none ?? (room <= 0 ? `There is room for ${p.most}; take one out first.` : null);
  return (
    <div className="min-w-0">
      {ids.length > 0 && (
        <ul aria-label={`Chosen: ${label}`} className={classes("grid", !compact && "mb-1")}>
          {ids.map((x) => (
            <li key={x} className="flex min-h-8 items-center gap-x-2">
              <span className="min-w-0 break-words">{p.title(x)}</span>
              <button
                type="button"
                className="grid min-h-6 min-w-6 shrink-0 place-items-center rounded text-faint hover:text-brick max-sm:size-11"
                aria-label={`Take out ${p.title(x)}`}
                onClick={() => {
                  p.onChange(ids.filter((y) => y !== x));
                  document.getElementById(id)?.focus();
                }}
              >
                <X size={14} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className={classes("flex items-center gap-x-2 gap-y-1", !compact && "max-w-140 flex-wrap")}>
        <div className="min-w-40 flex-1">
          <Picker
            id={id}
            label={label}
            value={null}
            shown=""
            placeholder={ids.length > 0 ? "Choose another…" : "Choose…"}
            invalid={p.invalid}
            {...(compact ? { compact } : {})}
            {...(p.describedBy ? { describedBy: p.describedBy } : {})}
            {...(none === null ? {} : { none })}
            options={async (s): Promise<O[] | NoneToPick> => {
              if (room <= 0) return [];
              const all = await p.options(s);
              return Array.isArray(all) ? all.filter((o) => !ids.includes(o.id)) : all;
            }}
            onPick={(o) => o && p.onPick(o)}
          />
        </div>
        {p.children}
      </div>
    </div>
  );
}
