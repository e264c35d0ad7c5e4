"use client";
import { KINDS } from "@/kinds";
import { X } from "lucide-react";
import { useRouter } from "next/navigation";
import { useEffect, useMemo, useRef, useState } from "react";
import { Temporal } from "temporal-polyfill";
import { YESNO } from "@/core/expression";
import { recordScope, type RegisterShape } from "@/core/form";
import { FormulaField } from "@/formula";
import { Button, Popover, Select } from "@/ui";
import { columnFilter } from "./columnFilter";

interface Filter {
  column: string;
  value: string;
}

function example(shape: RegisterShape): string {
  const c =
    shape.columns.find((x) => x.kind === "money" || x.kind === "number") ??
    shape.columns.find((x) => x.kind === "date");
  if (c) return c.kind === "date" ? `${c.name} < today()` : `${c.name} > 1000`;
  return `contains(${shape.columns[0]?.name ?? "Name"}, "a")`;
}

/** How stored values are said where that differs. */
const SAID: Partial<Record<string, string>> = { true: "Yes", false: "No" };

/** Search and filters, kept in the address beside what else stands there, so that a view can be sent to somebody. */
export function FilterBar({
  register,
  shape,
  registers,
  search,
  filters,
  said,
  where,
  view,
  now,
  zone,
}: {
  register: string;
  shape: RegisterShape;
  registers: Record<string, RegisterShape>;
  search: string;
  filters: Filter[];
  /** By column, what its filter asks for in words. */
  said: Readonly<Record<string, string>>;
  where: string;
  /** The parameters of the list's address, without the page. */
  view: string;
  now: number;
  zone: string;
}) {
  const router = useRouter();
  const [text, setText] = useState(search);
  const [column, setColumn] = useState("");
  const [value, setValue] = useState("");
  const [open, setOpen] = useState(false);
  const scope = useMemo(() => recordScope(shape, { registers, kinds: KINDS }), [shape, registers]);
  const around = useMemo(
    () => ({ now: Temporal.Instant.fromEpochMilliseconds(now).toZonedDateTimeISO(zone) }),
    [now, zone],
  );
  const go = (q: string, list: Filter[], condition = where) => {
    // Order, columns and groups stay; the page does not.
    const p = new URLSearchParams(view);
    for (const k of [...p.keys()]) if (k === "q" || k === "where" || k.startsWith("is.")) p.delete(k);
    if (q) p.set("q", q);
    if (condition) p.set("where", condition);
    for (const f of list) p.set(`is.${f.column}`, f.value);
    router.replace(`/registers/${register}?${p}`, { scroll: false });
  };
  const typed = useRef(search);
  useEffect(() => {
    if (text === typed.current) return;
    const timer = setTimeout(() => {
      typed.current = text;
      go(text, filters);
    }, 250);
    return () => clearTimeout(timer);
  });
  const chosen = shape.columns.find((c) => c.id === column);
  const by = chosen ? columnFilter(chosen) : null;
  return (
    <div className="mb-3 flex flex-wrap items-center gap-2">
      <input
        type="search"
        aria-label={`Search ${shape.name}`}
        placeholder={`Search ${shape.name.toLowerCase()}`}
        className="input max-w-xs"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <Popover open={open} onOpenChange={setOpen} trigger={<Button>Filter…</Button>}>
        <form
          onSubmit={(e) => {
            e.preventDefault();
            if (column) {
              setOpen(false);
              go(text, [...filters.filter((f) => f.column !== column), { column, value }]);
              setColumn("");
              setValue("");
            }
          }}
        >
          <label htmlFor="filter-column" className="mb-1 block text-sm">
            Column
          </label>
          <Select
            id="filter-column"
            className="mb-2"
            value={column}
            onPick={(value) => {
              setColumn(value);
              setValue("");
            }}
            empty="Choose…"
            options={shape.columns
              .filter((c) => KINDS.fields[c.kind].links === null)
              .map((c) => ({ value: c.id, label: c.name }))}
          />
          <label htmlFor="filter-value" className="mb-1 block text-sm">
            is (empty finds what is not filled in)
          </label>
          {by?.by === "pick" ? (
            <Select
              id="filter-value"
              className="mb-3"
              value={value}
              onPick={(value) => setValue(value)}
              empty="empty"
              options={by.options}
            />
          ) : (
            <input
              id="filter-value"
              className="input mb-3"
              type={by?.type ?? "text"}
              value={value}
              onChange={(e) => setValue(e.target.value)}
            />
          )}
          <Button look="main" small type="submit" disabled={!column}>
            Show these
          </Button>
        </form>
      </Popover>
      <div className="flex min-w-64 flex-1 items-center gap-2">
        <span className="text-sm whitespace-nowrap text-soft">and where</span>
        <FormulaField
          label="Condition"
          placeholder={`a condition, e.g. ${example(shape)}`}
          value={where}
          scope={scope}
          wanted={YESNO}
          around={around}
          framed
          onCommit={(t) => go(text, filters, t)}
        />
        {where && (
          <Button small onClick={() => go(text, filters, "")}>
            Clear
          </Button>
        )}
      </div>
      {filters.map((f) => (
        <button
          key={f.column}
          type="button"
          className="flex min-h-7 items-center gap-1.5 rounded border border-slate px-2 text-sm text-slate hover:bg-slate-wash"
          onClick={() =>
            go(
              text,
              filters.filter((x) => x !== f),
            )
          }
        >
          <span className="sr-only">Remove filter</span>
          {shape.columns.find((c) => c.id === f.column)?.name}:{" "}
          {f.value === "" ? "empty" : (SAID[f.value] ?? said[f.column] ?? f.value)}{" "}
          <X size={13} aria-hidden />
        </button>
      ))}
    </div>
  );
}
