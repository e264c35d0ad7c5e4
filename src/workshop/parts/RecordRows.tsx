"use client";
import { YESNO, type Scope } from "@/core/expression";
import { Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { FormulaCell } from "./FormulaCell";

/** How rows of a start's popover are set: what is said at the left, what is chosen beside it. */
export const startRow = "grid grid-cols-[8.5rem_minmax(0,1fr)] items-center gap-x-2";

/** Of which register a record starts it. */
export function RegisterRow(p: { says: string; register: string; onPick(register: string): void }) {
  const registers = useDraft((d) => d.office.registers);
  return (
    <label className={startRow}>
      <span className="text-soft">{p.says}</span>
      <Select
        value={p.register}
        empty="Choose…"
        onPick={p.onPick}
        options={Object.values(registers).map((r) => ({ value: r.key, label: r.name }))}
      />
    </label>
  );
}

/** What must hold of the record. */
export function HoldsRow(p: {
  says: string;
  placeholder: string;
  when: string | undefined;
  scope: Scope;
  onCommit(when: string): void;
}) {
  return (
    <div className={startRow}>
      <span className="text-soft">{p.says}</span>
      <FormulaCell
        label="What must hold of the record"
        placeholder={p.placeholder}
        value={p.when ?? ""}
        scope={p.scope}
        wanted={YESNO}
        onCommit={p.onCommit}
      />
    </div>
  );
}
