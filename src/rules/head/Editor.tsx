"use client";
import { ANY } from "@/core/expression";
import { FormulaCell, without } from "@/workshop/parts";
import type { RuleEditorProps } from "../editor";
import { HEAD } from "../shapes";

export function Editor({ rule, onChange, scope, names, inRung }: RuleEditorProps<"head">) {
  return (
    <div className="grid gap-1 text-sm">
      <div className="grid grid-cols-[6.5rem_1fr] items-center gap-1">
        <span className="text-soft">department of</span>
        <FormulaCell
          label="Whose department, or which"
          placeholder={inRung ? "whoever has it" : "Requester"}
          value={rule.of ?? ""}
          scope={scope}
          wanted={ANY}
          names={names}
          onCommit={(t) => onChange({ ...without(rule, "of"), ...(t && t !== "Requester" ? { of: t } : {}) })}
        />
      </div>
      <p className="text-soft">A person, or a department by its name. Heads hold the duty “{HEAD}” for it.</p>
    </div>
  );
}
