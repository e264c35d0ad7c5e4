"use client";
import { Spline } from "lucide-react";
import type { StepOf } from "@/core/route";
import { Select } from "@/ui";
import { Chip, PortsChip, StepName, useDraft } from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";

type HandTo = StepOf<"hand to">;

/** Which procedure, and whether it stays on the version that is live now. */
function ProcedureChip({ step }: { step: HandTo }) {
  const d = useDraft();
  const procedures = d.office.procedures.filter((p) => !p.from);
  const set = (patch: Partial<{ [K in keyof HandTo]: HandTo[K] | null }>) =>
    d.edit({ op: "step.set", id: step.id, patch });
  const live = procedures.find((p) => p.key === step.procedure);
  const name = live?.name ?? step.procedure;
  const text = `${name || "no procedure yet"}${step.version ? ` ${step.version}` : ""}`;
  const take = (key: string) => {
    const p = procedures.find((x) => x.key === key);
    if (!p) return;
    const { takes, gives } = p;
    // What is handed over stays where the procedure takes it, too.
    const values = step.values.filter((v) => takes.some((t) => t.id === v.port));
    set({ procedure: key, takes: [...takes], gives: [...gives], values, version: null });
  };
  return (
    <Chip text={text} label="Procedure" empty={!step.procedure} width={420}>
      {() => (
        <div className="grid gap-2 text-sm">
          {procedures.length === 0 ? (
            <p className="text-soft">
              No procedure is live yet. Make one in the Workshop, say on its form sheet what is handed in and
              back, and release it.
            </p>
          ) : (
            <Select
              aria-label="Which procedure"
              value={live ? step.procedure : ""}
              onPick={take}
              {...(live ? {} : { empty: "choose one" })}
              options={procedures.map((p) => ({ value: p.key, label: `${p.name}, ${p.version}` }))}
            />
          )}
          {live && (
            <Select
              aria-label="Which version"
              value={step.version ?? ""}
              onPick={(version) => set({ version: version || null })}
              empty="what is live when the request comes here"
              options={[...new Set([step.version ?? live.version, live.version])].map((v) => ({
                value: v,
                label: `always ${v}`,
              }))}
            />
          )}
        </div>
      )}
    </Chip>
  );
}

/** What can be read afterwards, as formulas write it. */
function readable({ name, gives }: HandTo): string {
  const all = ["result", ...gives.map((p) => p.name)].map((n) => `${name}.${n}`);
  return all.length > 3 ? `${all.slice(0, 3).join(", ")} and ${all.length - 3} more` : all.join(", ");
}

function Sentence({ step, scope }: SentenceProps<"hand to">) {
  const edit = useDraft((d) => d.edit);
  const put = (values: HandTo["values"]) => edit({ op: "step.set", id: step.id, patch: { values } });
  return (
    <>
      <StepName step={step} />
      through <ProcedureChip step={step} />
      <PortsChip of={step} scope={scope} put={put} />
      {step.procedure && (
        <span className="block text-sm text-soft">afterwards there is {readable(step)}</span>
      )}
    </>
  );
}

export const view: StepView<"hand to"> = { icon: Spline, Sentence };
