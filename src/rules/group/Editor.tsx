"use client";
import { useDraft } from "@/workshop/parts";
import { Select } from "@/ui";
import type { RuleEditorProps } from "../editor";

export function Editor({ rule, onChange }: RuleEditorProps<"group">) {
  const { office } = useDraft();
  return (
    <Select
      aria-label="Group"
      value={rule.group}
      onPick={(value) => onChange({ by: "group", group: value })}
      empty="Choose…"
      options={office.data.groups.map((g) => ({ value: g.key, label: g.key }))}
    />
  );
}
