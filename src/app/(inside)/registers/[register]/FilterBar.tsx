"use client";
import { X } from "lucide-react";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import type { RegisterShape } from "@/core/form";
import { Button, Popover } from "@/ui";

interface Filter {
  column: string;
  value: string;
}

/** Search and filters, kept in the address, so that a view can be sent to somebody. */
export function FilterBar({ register, shape, search, filters }: { register: string; shape: RegisterShape; search: string; filters: Filter[] }) {
  const router = useRouter();
  const [text, setText] = useState(search);
  const [column, setColumn] = useState("");
  const [value, setValue] = useState("");
  const [open, setOpen] = useState(false);
  const go = (q: string, list: Filter[]) => {
    const p = new URLSearchParams();
    if (q) p.set("q", q);
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
  const options = chosen?.kind === "choice" ? (chosen.options ?? []) : chosen?.kind === "yes or no" ? ["true", "false"] : null;
  return (
    <div className="mb-3 flex flex-wrap items-center gap-2">
      <input type="search" aria-label={`Search ${shape.name}`} placeholder={`Search ${shape.name.toLowerCase()}`} className="input max-w-xs" value={text} onChange={(e) => setText(e.target.value)} />
      <Popover open={open} onOpenChange={setOpen} trigger={<Button>Filter…</Button>}>
        <form onSubmit={(e) => { e.preventDefault(); if (column) { setOpen(false); go(text, [...filters.filter((f) => f.column !== column), { column, value }]); setColumn(""); setValue(""); } }}>
          <label htmlFor="filter-column" className="mb-1 block text-sm">Column</label>
          <select id="filter-column" className="input mb-2" value={column} onChange={(e) => { setColumn(e.target.value); setValue(""); }}>
            <option value="">Choose…</option>
            {shape.columns.filter((c) => c.kind !== "look-up").map((c) => <option key={c.id} value={c.id}>{c.name}</option>)}
          </select>
          <label htmlFor="filter-value" className="mb-1 block text-sm">is (empty finds what is not filled in)</label>
          {options ? (
            <select id="filter-value" className="input mb-3" value={value} onChange={(e) => setValue(e.target.value)}>
              <option value="">empty</option>
              {options.map((o) => <option key={o} value={o}>{o === "true" ? "Yes" : o === "false" ? "No" : o}</option>)}
            </select>
          ) : <input id="filter-value" className="input mb-3" type={chosen?.kind === "date" ? "date" : "text"} value={value} onChange={(e) => setValue(e.target.value)} />}
          <Button look="main" small type="submit" disabled={!column}>Show these</Button>
        </form>
      </Popover>
      {filters.map((f) => (
        <button key={f.column} type="button" className="flex min-h-7 items-center gap-1.5 rounded border border-slate px-2 text-sm text-slate hover:bg-slate-wash" onClick={() => go(text, filters.filter((x) => x !== f))} aria-label={`Remove filter ${shape.columns.find((c) => c.id === f.column)?.name}`}>
          {shape.columns.find((c) => c.id === f.column)?.name}: {f.value === "" ? "empty" : f.value === "true" ? "Yes" : f.value === "false" ? "No" : f.value} <X size={13} aria-hidden />
        </button>
      ))}
    </div>
  );
}
