"use client";
import { Flag } from "lucide-react";
import { Chip, TextCell, ToneSelect, useDraft } from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";

function Sentence({ step }: SentenceProps<"finish">) {
  const d = useDraft();
  const what = d.definition.procedure ? "procedure" : "request";
  const set = (patch: Partial<typeof step>) => void d.edit({ op: "step.set", id: step.id, patch });
  return (
    <>
      the {what} ends as{" "}
      <Chip text={`“${step.result}”`} label="Result" empty={!step.result}>
        {(close) => (
          <div className="grid gap-2">
            <TextCell
              className="input"
              autoFocus
              aria-label="Result"
              value={step.result}
              onCommit={(t) => set({ result: t.trim() })}
              onKeyDown={(e) => e.key === "Enter" && close()}
            />
            <ToneSelect value={step.tone} onChange={(tone) => set({ tone })} />
          </div>
        )}
      </Chip>
    </>
  );
}

export const view: StepView<"finish"> = { icon: Flag, Sentence };
