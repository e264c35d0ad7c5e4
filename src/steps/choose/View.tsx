"use client";
import { Split } from "lucide-react";
import { ConditionHead, StepName, WayOnChip } from "@/workshop/parts";
import type { ListHeadProps, SentenceProps, StepView } from "../view";

function Sentence({ step }: SentenceProps<"choose">) {
  return (
    <>
      <StepName step={step} />
      the first way whose condition holds
    </>
  );
}

function ListHead({ step, list: way, scope, last }: ListHeadProps<"choose">) {
  return (
    <ConditionHead
      step={step.id}
      list={way}
      scope={scope}
      what="way"
      forOthers={last}
      placeholder="a condition"
      tail={<WayOnChip step={step.id} list={way.id} steps={way.steps} />}
    />
  );
}

export const view: StepView<"choose"> = { icon: Split, Sentence, ListHead };
