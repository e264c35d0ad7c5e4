"use client";
import { ANY } from "@/core/expression";
import { FormulaCell } from "@/workshop/parts";
import type { RuleEditorProps } from "../editor";

export function Editor({ rule, onChange, scope, names }: RuleEditorProps<"outside">) {
  return (
    <div className="grid grid-cols-[auto_minmax(0,1fr)] items-center gap-x-2 gap-y-1">
      <span className="text-sm text-soft">at</span>
      <FormulaCell
        label="Address"
        placeholder="Borrower email"
        value={rule.to}
        scope={scope}
        wanted={ANY}
        names={names}
        onCommit={(to) => onChange({ ...rule, to })}
      />
      <span className="text-sm text-soft">called</span>
      <FormulaCell
        label="How they are called"
        placeholder="Borrower name, or nothing"
        value={rule.name ?? ""}
        scope={scope}
        wanted={ANY}
        names={names}
        onCommit={(name) => onChange({ by: "outside", to: rule.to, ...(name.trim() ? { name } : {}) })}
      />
      <p className="col-span-2 text-sm text-soft">
        They get a letter with a link, see what the step shows people outside, and answer there. An address of
        somebody who works here is asked as they are.
      </p>
    </div>
  );
}
