"use client";
import { TEXT } from "@/core/expression";
import { FormulaCell, useDraft, without } from "@/workshop/parts";
import { Select } from "@/ui";
import type { RuleEditorProps } from "../editor";

export function Editor({ rule, onChange, scope, names, id }: RuleEditorProps<"duty">) {
  const { office } = useDraft();
  const duties = [...new Set(office.data.duties.map((x) => x.duty))].sort();
  return (
    <div className="grid grid-cols-[4.5rem_1fr] items-center gap-1 text-sm">
      <label htmlFor={`${id}-duty`} className="text-soft">
        duty
      </label>
      <Select
        id={`${id}-duty`}
        value={rule.duty}
        onPick={(value) => onChange({ ...rule, duty: value })}
        empty="Choose…"
        options={duties}
      />
      <span className="text-soft">for</span>
      <FormulaCell
        label="For which site or department"
        placeholder="any; or Requester.department"
        value={rule.place ?? ""}
        scope={scope}
        wanted={TEXT}
        names={names}
        onCommit={(t) => onChange({ ...without(rule, "place"), ...(t ? { place: t } : {}) })}
      />
    </div>
  );
}
