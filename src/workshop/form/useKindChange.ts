"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import { findField, type FieldKind } from "@/core/form";
import { applyEdit } from "@/core/route";
import { KINDS } from "@/kinds";
import type { Draft } from "../draft/draft";
import { kindChange } from "./kindChange";
import type { KindChanging } from "./KindDialog";
import { samplesConverted } from "./sampleValues";

/**
 * Makes a field another kind. Where that changes how values in samples read, it is asked first; all of it is one edit, to
 * be taken back as one.
 */
export function useKindChange({
  definition,
  edit,
  facts,
  factsData,
  office,
}: Pick<Draft, "definition" | "edit" | "facts" | "factsData" | "office">) {
  const [changing, setChanging] = useState<KindChanging | null>(null);
  const now = useRef({ definition, facts, factsData, registers: office.registers });
  useEffect(() => {
    now.current = { definition, facts, factsData, registers: office.registers };
  });
  const change = useCallback(
    (id: string, kind: FieldKind) => {
      const { definition: d, registers, ...around } = now.current;
      const field = findField(d.fields, id)?.field;
      if (!field) return;
      const changed = kindChange(d.fields, field, kind);
      const r = applyEdit(d, changed, { kinds: KINDS, registers });
      const next = r.ok ? findField(r.definition.fields, id)?.field : undefined;
      const { changes, edits } = next
        ? samplesConverted(d, field, next, { facts: around.facts, data: around.factsData })
        : { changes: [], edits: [] };
      const whole = { op: "batch" as const, edits: [changed, ...edits] };
      if (changes.length === 0) edit(edits.length === 0 ? changed : whole);
      else setChanging({ name: field.name, kind, changes, edit: whole });
    },
    [edit],
  );
  const done = (agreed: boolean) => {
    if (changing && agreed) edit(changing.edit);
    setChanging(null);
  };
  return { change, changing, done };
}
