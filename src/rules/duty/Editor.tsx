"use client";
import { TEXT } from "@/core/expression";
import { FormulaCell, useDraft, without } from "@/workshop/parts";
import type { RuleEditorProps } from "../editor";

export function Editor({ rule, onChange, scope, names, id }: RuleEditorProps<"duty">) {
  const { office } = useDraft();
  const duties = [...new Set(office.data.duties.map((x) => x.duty))].sort();
  return (
    <div className="grid grid-cols-[4.5rem_1fr] items-center gap-1 text-sm">
      <label htmlFor={`${id}-duty`} className="text-soft">
        duty
      </label>
      <select
        id={`${id}-duty`}
        className="input"
        value={rule.duty}
        onChange={(e) => onChange({ ...rule, duty: e.target.value })}
      >
        <option value="">Choose…</option>
        {duties.map((x) => (
          <option key={x}>{x}</option>
        ))}
      </select>
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
