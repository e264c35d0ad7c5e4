"use client";
import { ClipboardCheck } from "lucide-react";
import { Chip, LimitChip, StepName, TextCell, useDraft, WhoChip } from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";

function Sentence({ step, scope }: SentenceProps<"complete">) {
  const d = useDraft();
  return (
    <>
      <StepName step={step} />
      <WhoChip step={step} scope={scope} /> confirms within <LimitChip step={step} scope={scope} />, button{" "}
      <Chip text={`“${step.button}”`} label="Button">
        {(close) => (
          <TextCell
            className="input"
            autoFocus
            aria-label="Words on the button"
            value={step.button}
            onCommit={(t) =>
              void d.edit({ op: "step.set", id: step.id, patch: { button: t.trim() || "Done" } })
            }
            onKeyDown={(e) => e.key === "Enter" && close()}
          />
        )}
      </Chip>
    </>
  );
}

export const view: StepView<"complete"> = { icon: ClipboardCheck, Sentence };
