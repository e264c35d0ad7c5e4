"use client";
import { Megaphone } from "lucide-react";
import { peopleOf } from "@/core/engine";
import {
  Chip,
  isEmptyRule,
  RuleEditor,
  ruleText,
  StepName,
  TemplateCell,
  useDraft,
  useSettled,
} from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";

function Sentence({ step, scope }: SentenceProps<"tell">) {
  const d = useDraft();
  const settled = useSettled(step);
  const set = (patch: Partial<typeof step>) => void d.edit({ op: "step.set", id: step.id, patch });
  const found =
    d.turn && settled
      ? peopleOf(d.turn, step.id, "who", settled.who).map((p) => d.factsData.people[p]?.name ?? p)
      : null;
  return (
    <>
      <StepName step={step} />
      <Chip
        text={ruleText(step.who, d.office.data)}
        label="Who is told"
        empty={isEmptyRule(step.who)}
        width={400}
      >
        {() => (
          <div className="grid gap-2">
            <RuleEditor
              id={`tell-${step.id}`}
              rule={step.who}
              scope={scope}
              onChange={(who) => set({ who })}
            />
            {found && (
              <p className="text-sm">
                For the sample: <span className="font-medium">{found.join(", ") || "nobody"}</span>
              </p>
            )}
          </div>
        )}
      </Chip>{" "}
      <Chip text={`“${step.subject}”`} label="Message" width={460}>
        {() => (
          <div className="grid gap-2">
            <span className="text-sm text-soft" aria-hidden>
              Subject
            </span>
            <TemplateCell
              label="Subject"
              value={step.subject}
              scope={scope}
              onCommit={(subject) => set({ subject })}
            />
            <span className="text-sm text-soft" aria-hidden>
              Text
            </span>
            <TemplateCell
              label="Text"
              lines={5}
              value={step.text}
              scope={scope}
              onCommit={(text) => set({ text })}
            />
          </div>
        )}
      </Chip>
    </>
  );
}

export const view: StepView<"tell"> = { icon: Megaphone, Sentence };
