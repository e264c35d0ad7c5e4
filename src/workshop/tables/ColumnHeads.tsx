"use client";
import { ANY, type Scope } from "@/core/expression";
import type { OutputKind, TableInput, TableOutput } from "@/core/decision";
import type { StepOf } from "@/core/route";
import { withoutColumn } from "@/steps/apply/tableEdits";
import { Button, Popover, Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { FormulaCell } from "../parts/FormulaCell";
import { useNamesHere } from "../parts/StepHere";
import { TextCell } from "../parts/TextCell";

type Apply = StepOf<"apply">;

const moved = <T,>(list: readonly T[], at: number, by: 1 | -1): T[] =>
  list.with(at, list[at + by]!).with(at + by, list[at]!);

/** What is looked at: its formula, and what else is said of it. */
export function InputHead(p: { step: Apply; input: TableInput; number: number; scope: Scope }) {
  const { step, input, number } = p;
  const d = useDraft();
  const names = useNamesHere();
  const set = (patch: Partial<Apply>) => d.edit({ op: "step.set", id: step.id, patch });
  const at = step.inputs.indexOf(input);
  const { needed: _, ...rest } = input;
  return (
    <div className="flex items-center">
      <span className="min-w-0 flex-1">
        <FormulaCell
          label={`Input ${number}`}
          placeholder="a field, Total"
          value={input.formula}
          scope={p.scope}
          wanted={ANY}
          names={names}
          onCommit={(formula) => void set({ inputs: step.inputs.with(at, { ...input, formula }) })}
        />
      </span>
      <Popover
        width={300}
        trigger={
          <button
            type="button"
            className="chip min-h-8 min-w-8 shrink-0 justify-center"
            aria-label={`About input ${number}${input.needed ? ": needed" : ""}`}
          >
            {input.needed ? "needed" : "…"}
          </button>
        }
      >
        <div className="grid gap-2 text-sm">
          <label className="flex min-h-8 items-center gap-2">
            <input
              type="checkbox"
              checked={input.needed === true}
              onChange={(e) =>
                void set({
                  inputs: step.inputs.with(at, e.target.checked ? { ...rest, needed: true } : rest),
                })
              }
            />
            It is never empty; where it is, the request stops
          </label>
          <Moves
            at={at}
            of={step.inputs.length}
            onMove={(by) => void set({ inputs: moved(step.inputs, at, by) })}
          />
          <Button small look="quiet" onClick={() => void set(withoutColumn(step, { input }))}>
            Remove this column
          </Button>
        </div>
      </Popover>
    </div>
  );
}

const KINDS: Readonly<Record<OutputKind, string>> = {
  text: "text",
  number: "number",
  "yes or no": "yes or no",
  date: "date",
  anything: "people, records or anything else",
};

/** What it comes to: its name, of which kind it is, and the texts there are. */
export function OutputHead({ step, output }: { step: Apply; output: TableOutput }) {
  const d = useDraft();
  const set = (patch: Partial<Apply>) => d.edit({ op: "step.set", id: step.id, patch });
  const at = step.outputs.indexOf(output);
  const put = (o: TableOutput) => set({ outputs: step.outputs.with(at, o) });
  const { values: _, ...rest } = output;
  return (
    <div>
      <div className="flex items-center">
        <TextCell
          className="cell min-w-0 flex-1 font-medium"
          aria-label={`Output ${at + 1}: name`}
          value={output.name}
          onCommit={(name) => (name.trim() ? void put({ ...output, name: name.trim() }) : false)}
        />
        <Popover
          width={320}
          trigger={
            <button
              type="button"
              className="chip min-h-8 min-w-8 shrink-0 justify-center"
              aria-label={`About output ${output.name}`}
            >
              …
            </button>
          }
        >
          <div className="grid gap-2 text-sm">
            <Select
              aria-label={`Kind of ${output.name}`}
              value={output.kind}
              onPick={(k) => void put({ ...(k === "text" ? output : rest), kind: k as OutputKind })}
              options={Object.entries(KINDS).map(([value, label]) => ({ value, label }))}
            />
            {output.kind === "text" && (
              <label className="grid gap-1">
                <span className="text-soft">The texts there are, one a line, the highest first</span>
                <textarea
                  className="input"
                  rows={4}
                  defaultValue={(output.values ?? []).join("\n")}
                  onBlur={(e) => {
                    const values = [
                      ...new Set(
                        e.target.value
                          .split("\n")
                          .map((v) => v.trim())
                          .filter(Boolean),
                      ),
                    ];
                    if (values.join("\n") !== (output.values ?? []).join("\n"))
                      put(values.length > 0 ? { ...output, values } : rest);
                  }}
                />
              </label>
            )}
            <p className="text-soft">
              Read as <code className="font-mono">{`${step.name}.${output.name}`}</code> by the steps behind.
            </p>
            <Moves
              at={at}
              of={step.outputs.length}
              onMove={(by) => void set({ outputs: moved(step.outputs, at, by) })}
            />
            <Button small look="quiet" onClick={() => void set(withoutColumn(step, { output }))}>
              Remove this column
            </Button>
          </div>
        </Popover>
      </div>
      <p className="px-2 pb-1 text-sm text-soft">{KINDS[output.kind]}</p>
    </div>
  );
}

function Moves({ at, of, onMove }: { at: number; of: number; onMove(by: 1 | -1): void }) {
  return (
    <span className="flex gap-2">
      <Button small look="quiet" disabled={at === 0} onClick={() => onMove(-1)}>
        To the left
      </Button>
      <Button small look="quiet" disabled={at === of - 1} onClick={() => onMove(1)}>
        To the right
      </Button>
    </span>
  );
}
