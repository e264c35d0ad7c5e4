"use client";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import type { Column } from "@/core/form";
import { Select } from "@/ui";
import { columnFilter, filteredView } from "./columnFilter";

/** Between the last key and looking. */
const PAUSE_MS = 350;

interface Props {
  register: string;
  columns: readonly Column[];
  /** By column, what it is filtered by. */
  values: Readonly<Record<string, string>>;
  /** The parameters of the list's address, without the page. */
  view: string;
}

/** Below the heads, a place for each column to say what is looked for in it. */
export function FilterRow({ register, columns, values, view }: Props) {
  const router = useRouter();
  // What is typed while the last is still looked for goes on from where that leads.
  const latest = useRef(view);
  useEffect(() => {
    latest.current = view;
  }, [view]);
  const go = (column: string, value: string) => {
    latest.current = filteredView(latest.current, column, value);
    router.replace(`/registers/${register}?${latest.current}`, { scroll: false });
  };
  return columns.map((c) => (
    <th key={c.id} className="!px-1 !py-0.5 font-normal">
      <One column={c} value={values[c.id] ?? ""} onLook={(v) => go(c.id, v)} />
    </th>
  ));
}

function One({ column: c, value, onLook }: { column: Column; value: string; onLook(value: string): void }) {
  const filter = columnFilter(c);
  const [text, setText] = useState(value);
  const known = useRef(value);
  useEffect(() => {
    // Changed from elsewhere: a view was chosen, a filter taken away.
    if (value === known.current) return;
    known.current = value;
    setText(value);
  }, [value]);
  useEffect(() => {
    if (text === known.current) return;
    const timer = setTimeout(() => {
      known.current = text;
      onLook(text);
    }, PAUSE_MS);
    return () => clearTimeout(timer);
  });
  const label = `Only where ${c.name} is`;
  if (filter === null) return null;
  if (filter.by === "pick")
    return (
      <Select
        look="cell"
        className="!w-0 !min-w-full text-sm"
        aria-label={label}
        value={value}
        empty="any"
        onPick={onLook}
        options={filter.options}
      />
    );
  return (
    <input
      className="cell !w-0 !min-w-full text-sm"
      aria-label={label}
      type={filter.type}
      placeholder="any"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onKeyDown={(e) => {
        if (e.key === "Escape") setText("");
      }}
    />
  );
}
