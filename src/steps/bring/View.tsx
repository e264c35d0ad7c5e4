"use client";
import { Forklift } from "lucide-react";
import { ANY, NUMBER, type Scope } from "@/core/expression";
import { OUTLET_SAYS, OUTLETS, type Outlet, type StepOf } from "@/core/route";
import { Select } from "@/ui";
import { Chip, FormulaCell, StepName, TemplateCell, useDraft } from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";
import type { BringTo } from "./shape";

type Set = (patch: Partial<Pick<StepOf<"bring">, "what" | "to">>) => void;

/** Another place begins with what is usual there. */
const blankTo = (outlet: Outlet): BringTo =>
  outlet === "shelf" ? { outlet, folder: "" } : { outlet, copies: "1" };

function ToChip({ step, set }: { step: StepOf<"bring">; set: Set }) {
  return (
    <Chip text={`the ${OUTLET_SAYS[step.to.outlet]}`} label="Where it is brought" width={340}>
      {() => (
        <div className="grid gap-2 text-sm">
          <Select
            aria-label="Where to"
            value={step.to.outlet}
            onPick={(v) => v !== step.to.outlet && set({ to: blankTo(v as Outlet) })}
            options={OUTLETS.map((o) => ({ value: o, label: `the ${OUTLET_SAYS[o]}` }))}
          />
          <p className="text-soft">
            Both are set up in Office. The route waits until it has been taken there; where it is not, the
            reason stands on Progress.
          </p>
        </div>
      )}
    </Chip>
  );
}

function HowChip({ to, scope, set }: { to: BringTo; scope: Scope; set: Set }) {
  if (to.outlet === "shelf")
    return (
      <Chip
        text={to.folder === "" ? "in no folder" : `in ${to.folder}`}
        label="Folder it is kept in"
        width={440}
      >
        {() => (
          <div className="grid gap-2 text-sm">
            <TemplateCell
              label="Folder it is kept in"
              value={to.folder}
              scope={scope}
              onCommit={(folder) => set({ to: { ...to, folder } })}
            />
            <p className="text-soft">Folders within one another, for example Loans/{"{Request.number}"}.</p>
          </div>
        )}
      </Chip>
    );
  return (
    <Chip text={to.copies === "1" ? "one copy" : `${to.copies} copies`} label="Copies" width={340}>
      {() => (
        <FormulaCell
          label="Copies"
          value={to.copies}
          scope={scope}
          wanted={NUMBER}
          onCommit={(copies) => set({ to: { ...to, copies } })}
        />
      )}
    </Chip>
  );
}

function Sentence({ step, scope }: SentenceProps<"bring">) {
  const edit = useDraft((d) => d.edit);
  const set: Set = (patch) => edit({ op: "step.set", id: step.id, patch });
  return (
    <>
      <StepName step={step} />
      <Chip text={step.what || "nothing yet"} label="What is brought" empty={!step.what} width={440}>
        {() => (
          <FormulaCell
            label="What is brought"
            value={step.what}
            scope={scope}
            wanted={ANY}
            onCommit={(what) => set({ what })}
          />
        )}
      </Chip>
      {" to "}
      <ToChip step={step} set={set} />
      {", "}
      <HowChip to={step.to} scope={scope} set={set} />
    </>
  );
}

export const view: StepView<"bring"> = { icon: Forklift, Sentence };
