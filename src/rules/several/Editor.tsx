"use client";
import type { Rule } from "@/core/route";
import { RuleEditor } from "@/workshop/parts";
import { Button, Select } from "@/ui";
import type { RuleEditorProps } from "../editor";
import { MOST_RULES, type PlainRule } from "../shapes";

const TAKE = { first: "the first of these that finds somebody", all: "all whom these find" } as const;

/** One that is not put together itself: the picker offers no other within it. */
const isPlain = (r: Rule): r is PlainRule => r.by !== "several";

export function Editor({ rule, onChange, scope, id, inRung }: RuleEditorProps<"several">) {
  const { of } = rule;
  const put = (next: PlainRule[]) => onChange({ ...rule, of: next });
  return (
    <div className="grid gap-2">
      <Select
        aria-label="Which of them"
        value={rule.take}
        onPick={(v) => onChange({ ...rule, take: v as keyof typeof TAKE })}
        options={Object.entries(TAKE).map(([value, label]) => ({ value, label }))}
      />
      <ol className="grid gap-2">
        {of.map((r, i) => (
          <li key={i} className="grid grid-cols-[1.2rem_1fr_auto] items-start gap-1">
            <span className="pt-1.5 text-sm text-soft tabular-nums">{i + 1}</span>
            <RuleEditor
              id={`${id}-${i}`}
              rule={r}
              scope={scope}
              inRung={inRung}
              within
              onChange={(next) => isPlain(next) && put(of.map((x, k) => (k === i ? next : x)))}
            />
            <Button
              small
              look="quiet"
              aria-label={`Remove rule ${i + 1}`}
              onClick={() => put(of.filter((_, k) => k !== i))}
            >
              Remove
            </Button>
          </li>
        ))}
      </ol>
      {of.length < MOST_RULES && (
        <div>
          <Button small onClick={() => put([...of, { by: "duty", duty: "" }])}>
            Another rule
          </Button>
        </div>
      )}
    </div>
  );
}
