"use client";
import { stepKind } from "@/core/kinds";
import { placesOf } from "@/core/route";
import { KINDS } from "@/kinds";
import { useDraft } from "@/workshop/parts";
import { Select } from "@/ui";
import type { RuleEditorProps } from "../editor";

export function Editor({ rule, onChange }: RuleEditorProps<"answered">) {
  const { definition } = useDraft();
  const asking = [...placesOf(definition, KINDS).values()].filter((p) => stepKind(KINDS, p.step).asks);
  return (
    <Select
      aria-label="Which step"
      value={rule.step}
      onPick={(step) => onChange({ by: "answered", step })}
      empty="Choose…"
      options={asking.map((p) => ({ value: p.step.id, label: `${p.number} ${p.step.name}` }))}
    />
  );
}
