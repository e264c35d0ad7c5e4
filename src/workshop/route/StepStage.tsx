"use client";
import { stagesOf, type Step } from "@/core/route";
import { KINDS } from "@/kinds";
import { useDraft } from "../parts";
import { StepLine } from "./StepLine";

const SAYS = "From here on, whoever asked reads:";

interface Props {
  step: Step;
  /** It is being written. */
  writing: boolean;
  onWriting(yes: boolean): void;
}

/** A line below a step: what whoever asked reads of a request from here on. Emptied, no stage begins here. */
export const StepStage = ({ step, writing, onWriting }: Props) =>
  writing ? (
    <Writing step={step} onDone={() => onWriting(false)} />
  ) : (
    <button
      type="button"
      tabIndex={-1}
      className="block max-w-full text-left text-sm leading-snug break-words text-soft"
      onClick={() => onWriting(true)}
    >
      {SAYS} <span className="font-medium text-ink">{step.stage}</span>
    </button>
  );

/** Offers the stages that are there: several steps may lead to the same one. */
function Writing({ step, onDone }: { step: Step; onDone(): void }) {
  const edit = useDraft((d) => d.edit);
  const route = useDraft((d) => d.definition.route);
  return (
    <StepLine
      label="Stage from here on"
      placeholder="for example Being checked"
      most={60}
      value={step.stage ?? ""}
      before={SAYS}
      offered={stagesOf({ route }, KINDS).names}
      className="w-56"
      onCommit={(t) => edit({ op: "step.set", id: step.id, patch: { stage: t.trim() || null } })}
      onDone={onDone}
    />
  );
}
