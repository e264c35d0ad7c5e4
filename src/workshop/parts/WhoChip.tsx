"use client";
import type { Scope } from "@/core/expression";
import { whyAsked } from "@/core/engine";
import type { Asks, Assignment, Step } from "@/core/route";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "./Chip";
import { RuleEditor } from "./RuleEditor";
import { NeverAsked } from "./NeverAsked";
import { assignmentText, isEmptyRule, useRuleText } from "./ruleText";
import { WhoIsFound } from "./WhoIsFound";
import { useSettled } from "./settled";
import { useSampleAt } from "./StepHere";
import { Select } from "@/ui";
import { without } from "./without";

type Asking = Step & Asks;

/** Those who are asked chosen another way: of several one is, or there is one task for any of them, or each has one. */
function withHow(who: Assignment, value: string): Assignment {
  const all = without(who, "turns");
  if (value === "in turn" || value === "fewest open") return { ...all, how: "one", turns: value };
  return { ...all, how: value as Assignment["how"] };
}

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
          <label className="grid grid-cols-[7rem_1fr] items-center gap-1 text-sm">
            <span className="text-soft">When several</span>
            <Select
              value={who.turns ?? who.how}
              onPick={(value) => set(withHow(who, value))}
              options={[
                { value: "one", label: "any one of them takes it" },
                { value: "in turn", label: "one of them is asked, whose turn it is" },
                { value: "fewest open", label: "one of them is asked, who has the fewest open tasks" },
                { value: "first", label: "all are asked, the first answer counts" },
                { value: "all", label: "all are asked, all must agree" },
                { value: "share", label: "all are asked, a share must agree" },
              ]}
            />
          </label>
          {who.how === "share" && (
            <label className="grid grid-cols-[7rem_1fr] items-center gap-1 text-sm">
              <span className="text-soft">Percent</span>
              <input
                type="number"
                min={1}
                max={100}
                className="input !w-24"
                value={who.share ?? 50}
                onChange={(e) =>
                  set({ ...who, share: Math.max(1, Math.min(100, Number(e.target.value) || 50)) })
                }
              />
            </label>
          )}
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
          <WhoIsFound tried={tried} />
        </div>
      )}
    </Chip>
  );
}
