"use client";
import { useMemo, useRef } from "react";
import type { Scope } from "@/core/expression";
import { columnScope, formScope, REQUEST_SCOPE, walkFields, type Field, type Registers } from "@/core/form";
import { KINDS } from "@/kinds";

/** The names each table's formulas may read, by the id of the line items; the same objects while they stay the same. */
export function useScopes(fields: readonly Field[], registers: Registers): ReadonlyMap<string, Scope> {
  const kept = useRef(new Map<string, { text: string; scope: Scope }>());
  return useMemo(() => {
    const outer: Scope = { ...REQUEST_SCOPE, ...formScope(fields, { registers, kinds: KINDS }) };
    const made = new Map<string, Scope>();
    const keep = (id: string, scope: Scope) => {
      const text = JSON.stringify(scope);
      const old = kept.current.get(id);
      const entry = old?.text === text ? old : { text, scope };
      kept.current.set(id, entry);
      made.set(id, entry.scope);
    };
    keep("", outer);
    walkFields(fields, (f) => {
      if (f.kind === "lines") keep(f.id, { ...outer, ...columnScope(f, { registers, kinds: KINDS }) });
    });
    return made;
  }, [fields, registers]);
}
