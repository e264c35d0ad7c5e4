"use client";
import { useDraft } from "@/workshop/parts";
import type { RuleEditorProps } from "../editor";

export function Editor({ rule, onChange }: RuleEditorProps<"group">) {
  const { office } = useDraft();
  return (
    <select
      aria-label="Group"
      className="input"
      value={rule.group}
      onChange={(e) => onChange({ by: "group", group: e.target.value })}
    >
      <option value="">Choose…</option>
      {office.data.groups.map((g) => (
        <option key={g.key} value={g.key}>
          {g.key}
        </option>
      ))}
    </select>
  );
}
