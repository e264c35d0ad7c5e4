"use client";
import { PERSON } from "@/core/expression";
import { FormulaCell, without } from "@/workshop/parts";
import type { RuleEditorProps } from "../editor";

export function Editor({ rule, onChange, scope, names, id, inRung }: RuleEditorProps<"manager">) {
  return (
    <div className="grid grid-cols-[4.5rem_1fr] items-center gap-1 text-sm">
      <span className="text-soft">of</span>
      <FormulaCell
        label="Manager of"
        placeholder={inRung ? "whoever has it" : "Requester"}
        value={rule.of ?? ""}
        scope={scope}
        wanted={PERSON}
        names={names}
        onCommit={(t) => onChange({ ...without(rule, "of"), ...(t && t !== "Requester" ? { of: t } : {}) })}
      />
      <label htmlFor={`${id}-levels`} className="text-soft">
        levels up
      </label>
      <input
        id={`${id}-levels`}
        type="number"
        min={1}
        max={20}
        className="input !w-20"
        value={rule.levels ?? 1}
        onChange={(e) =>
          onChange({ ...rule, levels: Math.max(1, Math.min(20, Number(e.target.value) || 1)) })
        }
      />
    </div>
  );
}
