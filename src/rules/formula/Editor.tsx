"use client";
import { ANY } from "@/core/expression";
import { FormulaCell } from "@/workshop/parts";
import type { RuleEditorProps } from "../editor";

export function Editor({ rule, onChange, scope, names }: RuleEditorProps<"formula">) {
  return (
    <FormulaCell
      label="Person"
      placeholder="Store.Keeper"
      value={rule.formula}
      scope={scope}
      wanted={ANY}
      names={names}
      onCommit={(t) => onChange({ by: "formula", formula: t })}
    />
  );
}
