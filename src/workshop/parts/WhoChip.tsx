"use client";
import type { Scope } from "@/core/expression";
import { whyAsked } from "@/core/engine";
import type { Asks, Assignment, Step } from "@/core/route";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "./Chip";
import { RuleEditor } from "./RuleEditor";
import { HowMany } from "./HowMany";
import { NeverAsked } from "./NeverAsked";
import { assignmentText, isEmptyRule, useRuleText } from "./ruleText";
import { OtherSamples } from "./OtherSamples";
import { WhoIsFound } from "./WhoIsFound";
import { useSettled } from "./settled";
import { useSampleAt } from "./StepHere";
import { without } from "./without";

type Asking = Step & Asks;

/** Who is asked, how many, and who else when nobody is found; with who that is for the sample. */
export function WhoChip({ step, scope }: { step: Asking; scope: Scope }) {
  const d = useDraft();
  const { who } = step;
  const set = (next: Assignment) => d.edit({ op: "step.set", id: step.id, patch: { who: next } });
  const settled = useSettled(step);
  const at = useSampleAt();
  const text = useRuleText();
  const tried = d.turn && at && settled ? whyAsked(d.turn, at, settled.who) : null;
  return (
    <Chip text={assignmentText(who, text)} label="Who" empty={isEmptyRule(who.rule)} width={440}>
      {() => (
        <div className="grid gap-3">
          <RuleEditor
            id={`who-${step.id}`}
            rule={who.rule}
            scope={scope}
            onChange={(rule) => set({ ...who, rule })}
          />
          <HowMany step={step} onChange={set} />
          <label className="flex items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="size-4 accent-[var(--moss)]"
              checked={who.requesterToo ?? false}
              onChange={(e) =>
                set(e.target.checked ? { ...who, requesterToo: true } : without(who, "requesterToo"))
              }
            />
            The requester may answer too
          </label>
          <label className="flex items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="size-4 accent-[var(--moss)]"
              checked={who.atOnce ?? false}
              onChange={(e) => set(e.target.checked ? { ...who, atOnce: true } : without(who, "atOnce"))}
            />
            Several may be answered at once, from the desk
          </label>
          <NeverAsked who={who} onChange={set} scope={scope} id={`never-${step.id}`} />
          <div>
            <label className="mb-1 flex items-center gap-2 text-sm">
              <input
                type="checkbox"
                className="size-4 accent-[var(--moss)]"
                checked={who.fallback !== undefined}
                onChange={(e) =>
                  set(e.target.checked ? { ...who, fallback: { by: "manager" } } : without(who, "fallback"))
                }
              />
              When nobody is found, ask instead
            </label>
            {who.fallback && (
              <RuleEditor
                id={`fallback-${step.id}`}
                rule={who.fallback}
                scope={scope}
                onChange={(fallback) => set({ ...who, fallback })}
              />
            )}
          </div>
          <WhoIsFound tried={tried}>
            {settled && <OtherSamples step={settled.id} who={settled.who} />}
          </WhoIsFound>
        </div>
      )}
    </Chip>
  );
}
