"use client";
import type { Scope } from "@/core/expression";
import type { Rule, RuleKind } from "@/core/route";
import { KINDS } from "@/kinds";
import { Select } from "@/ui";
import { useKindViews } from "./kindViews";
import { useNamesHere } from "./StepHere";

interface Props {
  rule: Rule;
  onChange(r: Rule): void;
  scope: Scope;
  /** Keeps labels apart where several stand together. */
  id: string;
  inRung?: boolean;
  /** Whether it stands within another, which none can that is put together itself. */
  within?: boolean;
}

/** Edits a rule that finds people: which kind, and what that kind asks. */
export function RuleEditor({ rule, onChange, scope, id, inRung = false, within = false }: Props) {
  const names = useNamesHere();
  const Own = useKindViews().rules[rule.by];
  return (
    <div className="grid gap-2">
      <Select
        aria-label="How people are found"
        value={rule.by}
        onPick={(value) => onChange(KINDS.rules[value as RuleKind].blank())}
        options={Object.entries(KINDS.rules)
          .filter(([by]) => !within || by !== "several")
          .map(([by, kind]) => ({ value: by, label: kind.says }))}
      />
      {Own && <Own rule={rule} onChange={onChange} scope={scope} names={names} id={id} inRung={inRung} />}
    </div>
  );
}
