"use client";
import { Megaphone } from "lucide-react";
import { peopleFound } from "@/core/engine";
import { ANY } from "@/core/expression";
import {
  Chip,
  FormulaCell,
  isEmptyRule,
  RuleEditor,
  ruleText,
  SampleFinds,
  StepName,
  TemplateCell,
  useDraft,
  useSampleAt,
  useSettled,
} from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";
import type { Tell } from "./shape";

const messageText = ({ subject, on }: Tell): string => `“${subject}”${on ? `, and a note on ${on}` : ""}`;

function Sentence({ step, scope }: SentenceProps<"tell">) {
  const d = useDraft();
  const settled = useSettled(step);
  const at = useSampleAt();
  const set = (patch: Partial<typeof step>) => void d.edit({ op: "step.set", id: step.id, patch });
  const people = d.turn && at && settled ? peopleFound(d.turn, at, "who", settled.who) : null;
  const found = people && !("go" in people) ? people.map((p) => d.factsData.people[p]?.name ?? p) : people;
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
            <SampleFinds found={found} />
          </div>
        )}
      </Chip>{" "}
      <Chip text={messageText(step)} label="Message" width={460}>
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
            <span className="text-sm text-soft" aria-hidden>
              Left as a note, too, on the record (a list: on each)
            </span>
            <FormulaCell
              label="The record a note is left on"
              placeholder="no record; or a field or step, e.g. Object"
              value={step.on ?? ""}
              scope={scope}
              wanted={ANY}
              onCommit={(on) =>
                void d.edit({ op: "step.set", id: step.id, patch: on ? { on } : { on: null } })
              }
            />
          </div>
        )}
      </Chip>
    </>
  );
}

export const view: StepView<"tell"> = { icon: Megaphone, Sentence };
