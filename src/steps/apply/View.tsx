"use client";
import { Table2 } from "lucide-react";
import Link from "next/link";
import { StepName, useDraft } from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";
import { hitsSaid } from "./hitsSaid";

function Sentence({ step }: SentenceProps<"apply">) {
  const key = useDraft((d) => d.definition.key);
  const inputs = step.inputs.map((i) => i.formula || "?").join(", ");
  const outputs = step.outputs.map((o) => o.name).join(", ");
  return (
    <>
      <StepName step={step} />
      <span>
        <Link className="link" href={`/workshop/${key}/tables#${step.id}`}>
          {step.rules.length} {step.rules.length === 1 ? "rule" : "rules"}
        </Link>{" "}
        <span className="text-soft">
          by {inputs || "nothing"}, {hitsSaid(step)}
        </span>{" "}
        → {outputs || "nothing"}
      </span>
    </>
  );
}

export const view: StepView<"apply"> = { icon: Table2, Sentence };
