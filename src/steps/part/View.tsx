"use client";
import { Heading } from "lucide-react";
import { SpanLimit, StepName, useDraft } from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";

function Sentence({ step, scope }: SentenceProps<"part">) {
  const { edit } = useDraft();
  return (
    <>
      <StepName step={step} />
      <SpanLimit
        id={step.id}
        limit={step.limit}
        scope={scope}
        of="this part"
        onPut={(limit) => edit({ op: "step.set", id: step.id, patch: { limit } })}
      />
    </>
  );
}

/** Its rows stand right under the heading: its one list has no line of its own on the sheet. */
const ListHead = () => null;

export const view: StepView<"part"> = { icon: Heading, Sentence, ListHead };
