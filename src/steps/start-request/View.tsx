"use client";
import { FilePlus2 } from "lucide-react";
import type { StepOf } from "@/core/route";
import { Select } from "@/ui";
import { Chip, PortsChip, StepName, useDraft } from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";

type StartRequest = StepOf<"start request">;
type Set = (patch: Partial<{ [K in keyof StartRequest]: StartRequest[K] | null }>) => void;

/** Which process, of those that let this one start their requests. */
function ProcessChip({ step, set }: { step: StartRequest; set: Set }) {
  const office = useDraft((d) => d.office);
  const key = useDraft((d) => d.definition.key);
  const may = office.procedures.filter((p) => p.from === "any" || p.from?.includes(key));
  const live = may.find((p) => p.key === step.process);
  const take = (to: string) => {
    const p = may.find((x) => x.key === to);
    if (!p) return;
    const { takes, gives } = p;
    // What is handed over stays where the process takes it, too.
    const values = step.values.filter((v) => takes.some((t) => t.id === v.port));
    set({ process: to, takes: [...takes], gives: [...gives], values });
  };
  return (
    <Chip
      text={live?.name ?? (step.process || "no process yet")}
      label="Process"
      empty={!step.process}
      width={420}
    >
      {() =>
        may.length === 0 ? (
          <p className="text-sm text-soft">
            No process that is live lets this one start a request. Its owners say so on its page About, under
            who may ask, and on its form sheet what is handed in.
          </p>
        ) : (
          <Select
            aria-label="Which process"
            value={live ? step.process : ""}
            onPick={take}
            {...(live ? {} : { empty: "choose one" })}
            options={may.map((p) => ({ value: p.key, label: p.name }))}
          />
        )
      }
    </Chip>
  );
}

/** Whether the route waits, and what becomes of the other request when it is needed no more. */
function GoesOnChip({ step, set }: { step: StartRequest; set: Set }) {
  return (
    <Chip text={step.waits ? "when it has ended" : "at once"} label="When the route goes on" width={420}>
      {() => (
        <div className="grid gap-2 text-sm">
          <Select
            aria-label="When the route goes on"
            value={step.waits ? "end" : "once"}
            onPick={(v) => set({ waits: v === "end" })}
            options={[
              { value: "end", label: "when the other request has ended" },
              { value: "once", label: "at once" },
            ]}
          />
          <label className="flex items-start gap-2">
            <input
              type="checkbox"
              className="mt-0.5 size-4"
              checked={step.endsWith}
              onChange={(e) => set({ endsWith: e.target.checked })}
            />
            {step.waits
              ? "cancel it when this one goes another way, is withdrawn or cancelled"
              : "cancel it when this one is withdrawn or cancelled"}
          </label>
        </div>
      )}
    </Chip>
  );
}

/** Who asks for the other request. */
function AskerChip({ step, set }: { step: StartRequest; set: Set }) {
  return (
    <Chip text={step.asProcess ? "by this process itself" : "by whoever asked"} label="Who asks" width={420}>
      {() => (
        <div className="grid gap-2 text-sm">
          <Select
            aria-label="Who asks for the other request"
            value={step.asProcess ? "process" : "asker"}
            onPick={(v) => set({ asProcess: v === "process" ? true : null })}
            options={[
              { value: "asker", label: "whoever asked for this one" },
              { value: "process", label: "this process itself" },
            ]}
          />
          <p className="text-soft">
            {step.asProcess
              ? "Nobody has it in their list or can withdraw it, and there is no manager or department of who asked. Whoever asked for this one decides nothing of it."
              : "It stands in their list, they may withdraw it, and are told how it ends."}
          </p>
        </div>
      )}
    </Chip>
  );
}

/** What can be read afterwards, as formulas write it. */
function readable({ name, gives, waits }: StartRequest): string {
  const all = ["number", ...(waits ? ["result", ...gives.map((p) => p.name)] : [])].map(
    (n) => `${name}.${n}`,
  );
  return all.length > 3 ? `${all.slice(0, 3).join(", ")} and ${all.length - 3} more` : all.join(", ");
}

function Sentence({ step, scope }: SentenceProps<"start request">) {
  const edit = useDraft((d) => d.edit);
  const set: Set = (patch) => edit({ op: "step.set", id: step.id, patch });
  return (
    <>
      <StepName step={step} />
      of <ProcessChip step={step} set={set} />
      asked for <AskerChip step={step} set={set} />
      <PortsChip of={step} scope={scope} put={(values) => set({ values })} />
      {" and go on "}
      <GoesOnChip step={step} set={set} />
      {step.process && <span className="block text-sm text-soft">afterwards there is {readable(step)}</span>}
    </>
  );
}

export const view: StepView<"start request"> = { icon: FilePlus2, Sentence };
