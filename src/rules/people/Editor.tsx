"use client";
import { YESNO } from "@/core/expression";
import { PEOPLE_COLUMNS, peopleScope } from "@/core/form";
import { FormulaCell } from "@/workshop/parts";
import type { RuleEditorProps } from "../editor";

const KNOWN = PEOPLE_COLUMNS.map((c) => c.name).join(", ");

export function Editor({ rule, onChange, scope }: RuleEditorProps<"people">) {
  return (
    <div className="grid gap-1 text-sm">
      <FormulaCell
        label="For whom it holds"
        placeholder={'Department = "Finance"'}
        value={rule.where}
        scope={{ ...scope, ...peopleScope() }}
        wanted={YESNO}
        names={null}
        onCommit={(where) => onChange({ by: "people", where })}
      />
      <p className="text-soft">Known of everybody: {KNOWN}; and the names of the form.</p>
    </div>
  );
}
