"use client";
import { ClipboardCheck } from "lucide-react";
import { Select } from "@/ui";
import {
  AnewChip,
  AskMailChip,
  Chip,
  LimitChip,
  OffersChip,
  StepName,
  TextCell,
  useDraft,
  WhoChip,
} from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";

/** Whether the route waits for it, as it reads at rest. */
const BESIDE = {
  waits: "the route waits for it",
  "called off": "the route goes on meanwhile",
  stays: "the route goes on meanwhile, and it stays after the end",
} as const;

function BesideChip({ step }: SentenceProps<"complete">) {
  const d = useDraft();
  return (
    <Chip text={BESIDE[step.beside ?? "waits"]} label="Whether it is waited for" width={460}>
      {(close) => (
        <label className="grid gap-1 text-sm">
          <span className="text-soft">While this is done</span>
          <Select
            value={step.beside ?? "waits"}
            onPick={(v) => {
              d.edit({ op: "step.set", id: step.id, patch: { beside: v === "waits" ? null : v } });
              close();
            }}
            options={[
              { value: "waits", label: "the route waits for it" },
              { value: "called off", label: "the route goes on; called off when the request ends first" },
              { value: "stays", label: "the route goes on; it stays to be done after the end" },
            ]}
          />
          <span className="text-soft">
            What is filled in after the end changes no data; it is told on the trail.
          </span>
        </label>
      )}
    </Chip>
  );
}

function Sentence(p: SentenceProps<"complete">) {
  const { step, scope } = p;
  const d = useDraft();
  return (
    <>
      <StepName step={step} />
      <WhoChip step={step} scope={scope} /> confirms within <LimitChip step={step} scope={scope} />, button{" "}
      <span className="whitespace-nowrap">
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
        ,
      </span>{" "}
      <AnewChip
        anew={step.anew}
        onPick={(anew) => d.edit({ op: "step.set", id: step.id, patch: { anew } })}
      />{" "}
      <BesideChip {...p} />
      <OffersChip step={step} scope={scope} />
      <AskMailChip step={step} scope={scope} />
    </>
  );
}

export const view: StepView<"complete"> = { icon: ClipboardCheck, Sentence };
