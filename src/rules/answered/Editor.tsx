"use client";
import { stepKind } from "@/core/kinds";
import { placesOf } from "@/core/route";
import { KINDS } from "@/kinds";
import { useDraft } from "@/workshop/parts";
import { Button, Select } from "@/ui";
import type { RuleEditorProps } from "../editor";
import { MOST_RULES } from "../shapes";

export function Editor({ rule, onChange }: RuleEditorProps<"answered">) {
  const { definition } = useDraft();
  const asking = [...placesOf(definition, KINDS).values()].filter((p) => stepKind(KINDS, p.step).asks);
  const steps = [rule.step, ...(rule.others ?? [])];
  const put = ([step = "", ...others]: readonly string[]) =>
    onChange({ by: "answered", step, ...(others.length > 0 ? { others } : {}) });
  return (
    <div className="grid gap-1">
      {steps.map((step, i) => (
        <div key={i} className="grid grid-cols-[1fr_auto] items-center gap-1">
          <Select
            aria-label={i === 0 ? "Which step" : `Or which step ${i + 1}`}
            value={step}
            onPick={(to) => put(steps.map((x, k) => (k === i ? to : x)))}
            empty="Choose…"
            options={asking.map((p) => ({ value: p.step.id, label: `${p.number} ${p.step.name}` }))}
          />
          {i > 0 && (
            <Button
              small
              look="quiet"
              aria-label={`Take away step ${i + 1}`}
              onClick={() => put(steps.filter((_, k) => k !== i))}
            >
              Remove
            </Button>
          )}
        </div>
      ))}
      {steps.length < MOST_RULES && rule.step !== "" && (
        <div>
          <Button small onClick={() => put([...steps, ""])}>
            Or another step
          </Button>
        </div>
      )}
    </div>
  );
}
