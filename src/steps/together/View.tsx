"use client";
import { GitFork } from "lucide-react";
import { ConditionHead, StepName } from "@/workshop/parts";
import type { ListHeadProps, SentenceProps, StepView } from "../view";

function Sentence({ step }: SentenceProps<"together">) {
  return (
    <>
      <StepName step={step} />
      {step.branches.length} branches at the same time, all are waited for
    </>
  );
}

function ListHead({ step, list: branch, scope }: ListHeadProps<"together">) {
  return (
    <ConditionHead
      step={step.id}
      list={branch}
      scope={scope}
      what="branch"
      forOthers={false}
      placeholder="always"
      tail={branch.steps.length === 0 ? <span className="text-faint">no steps yet</span> : null}
    />
  );
}

export const view: StepView<"together"> = { icon: GitFork, Sentence, ListHead };
