"use client";
import { Command } from "cmdk";
import { ChevronsUpDown, X } from "lucide-react";
import { useEffect, useEffectEvent, useRef, useState } from "react";
import { classes, Popover } from "@/ui";

export interface Option {
  id: string;
  title: string;
  hint?: string;
}

/** Nothing can be picked, and why. */
export interface NoneToPick {
  none: string;
}

interface Props<O extends Option> {
  id: string;
  label: string;
  value: string | null;
  shown: string;
  /** Asked when it is opened and as somebody types, not at each drawing. */
  options(search: string): Promise<O[] | NoneToPick> | O[];
  /** Given the very option that was listed: whoever draws this may have been drawn anew since. */
  onPick(option: O | null): void;
  invalid?: boolean;
  describedBy?: string;
  placeholder?: string;
  compact?: boolean;
  /** Said where there is nothing to pick, whatever is typed. */
  none?: string;
}

/** Picks one of many by typing a part of its name; options may come from the server. */
export function Picker<O extends Option>({
  id,
  label,
  value,
  shown,
  options,
  onPick,
  invalid,
  describedBy,
  placeholder = "Choose…",
  compact,
  none,
}: Props<O>) {
  const [open, setOpen] = useState(false);
  const [search, setSearch] = useState("");
  const [listed, setListed] = useState<O[] | NoneToPick | null>(null);
  // The one that Enter picks: the first of what is listed by now, which comes later than what is typed.
  const [at, setAt] = useState("");
  const latest = useRef(0);
  const offer = useEffectEvent(options);
  useEffect(() => {
    if (!open) return;
    const turn = ++latest.current;
    // A short wait while somebody types; answers of earlier letters that come late are dropped.
    const timer = setTimeout(
      () =>
        void Promise.resolve(offer(search)).then((o) => {
          if (turn !== latest.current) return;
          setListed(o);
          setAt(Array.isArray(o) ? (o[0]?.id ?? "") : "");
        }),
      search ? 120 : 0,
    );
    return () => clearTimeout(timer);
  }, [open, search]);
  const found = Array.isArray(listed) ? listed : listed && [];
  const why = listed && !Array.isArray(listed) ? listed.none : none;
  return (
    <div className="flex min-w-0 gap-1">
      <Popover
        open={open}
        onOpenChange={(o) => {
          setOpen(o);
          if (!o) setSearch("");
        }}
        width={380}
        trigger={
          <button
            type="button"
            id={id}
            role="combobox"
            aria-label={label}
            aria-expanded={open}
            aria-invalid={invalid || undefined}
            aria-describedby={describedBy}
            aria-controls={`${id}-list`}
            className={classes(
              compact ? "cell" : "input",
              "flex min-w-0 flex-1 items-center justify-between gap-2 text-left",
            )}
            onKeyDown={(e) => {
              if (e.key.length === 1 && !e.ctrlKey && !e.metaKey && e.key !== " ") {
                setSearch(e.key);
                setOpen(true);
                e.preventDefault();
              }
              if (e.key === "ArrowDown") {
                setOpen(true);
                e.preventDefault();
              }
            }}
          >
            <span className={classes("min-w-0 truncate", !value && "text-faint")}>
              {value ? shown : placeholder}
            </span>
            <ChevronsUpDown size={14} className="shrink-0 text-faint" aria-hidden />
          </button>
        }
      >
        <Command shouldFilter={false} label={`Search: ${label}`} value={at} onValueChange={setAt}>
          <Command.Input
            autoFocus
            value={search}
            onValueChange={setSearch}
            placeholder="Type a part of the name"
            className="input mb-2"
          />
          <Command.List id={`${id}-list`} aria-label={label}>
            {found === null && <p className="px-2 py-1 text-soft">Looking…</p>}
            {found?.length === 0 && (
              <p className="px-2 py-1 text-soft">
                {why ?? (search ? `Nothing matches “${search}”.` : "There is nothing to choose from here.")}
              </p>
            )}
            {found?.map((o) => (
              <Command.Item
                key={o.id}
                value={o.id}
                onSelect={() => {
                  onPick(o);
                  setOpen(false);
                  setSearch("");
                }}
                className="flex cursor-pointer items-baseline justify-between gap-3 rounded px-2 py-1.5 max-sm:py-2.5 data-[selected=true]:bg-slate-wash"
              >
                <span>{o.title}</span>
                {o.hint && <span className="shrink-0 text-sm text-soft">{o.hint}</span>}
              </Command.Item>
            ))}
          </Command.List>
        </Command>
      </Popover>
      {value && !compact && (
        <button
          type="button"
          className="rounded px-1.5 text-faint hover:text-ink"
          aria-label={`Clear ${label}`}
          onClick={() => onPick(null)}
        >
          <X size={15} aria-hidden />
        </button>
      )}
    </div>
  );
}
