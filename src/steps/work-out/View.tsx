"use client";
import { KINDS } from "@/kinds";
import { Sigma } from "lucide-react";
import { ANY } from "@/core/expression";
import { fieldType, flatFields } from "@/core/form";
import { Chip, FormulaCell, StepName, useDraft, useNamesHere } from "@/workshop/parts";
import { Select } from "@/ui";
import type { SentenceProps, StepView } from "../view";

function Sentence({ step, scope }: SentenceProps<"work out">) {
  const d = useDraft();
  const fields = flatFields(d.definition.fields).filter((f) => f.kind !== "lines");
  const put = (set: typeof step.set) => d.edit({ op: "step.set", id: step.id, patch: { set } });
  const name = (id: string) => fields.find((f) => f.id === id)?.name ?? "?";
  const names = useNamesHere();
  const text = step.set.map((s) => `${name(s.field)} = ${s.value || "?"}`).join("; ") || "nothing yet";
  return (
    <>
      <StepName step={step} />
      <Chip text={text} label="Values" empty={step.set.length === 0} width={460}>
        {() => (
          <div className="grid gap-1.5">
            {step.set.map((s, i) => {
              const field = fields.find((f) => f.id === s.field);
              return (
                <div key={i} className="grid grid-cols-[10rem_1fr_auto] items-center gap-1.5">
                  <Select
                    aria-label={`Value ${i + 1}: field`}
                    value={s.field}
                    onPick={(value) => put(step.set.map((x, k) => (k === i ? { ...x, field: value } : x)))}
                    options={fields.map((f) => ({ value: f.id, label: f.name }))}
                  />
                  <FormulaCell
                    label={`Value ${i + 1}`}
                    value={s.value}
                    scope={scope}
                    wanted={field ? fieldType(field, { registers: d.office.registers, kinds: KINDS }) : ANY}
                    names={names}
                    onCommit={(value) => put(step.set.map((x, k) => (k === i ? { ...x, value } : x)))}
                  />
                  <button
                    type="button"
                    className="text-sm underline"
                    onClick={() => put(step.set.filter((_, k) => k !== i))}
                  >
                    remove
                  </button>
                </div>
              );
            })}
            <button
              type="button"
              className="justify-self-start text-sm underline"
              disabled={fields.length === 0}
              onClick={() => put([...step.set, { field: fields[0]!.id, value: "null" }])}
            >
              Set another value
            </button>
          </div>
        )}
      </Chip>
    </>
  );
}

export const view: StepView<"work out"> = { icon: Sigma, Sentence };
