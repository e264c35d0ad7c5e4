"use client";
import { FileOutput } from "lucide-react";
import Link from "next/link";
import type { Scope } from "@/core/expression";
import { flatFields } from "@/core/form";
import type { StepOf } from "@/core/route";
import { Select } from "@/ui";
import { Chip, StepName, TemplateCell, useDraft } from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";
import { GridChip, LabelsForChip, LabelTextChip } from "./LabelsChip";
import type { DrawnAs, LabelsOf } from "./shape";

type DrawUp = StepOf<"draw up">;
type Set = (patch: Partial<{ [K in keyof DrawUp]: DrawUp[K] | null }>) => void;

const AS: Readonly<Record<DrawnAs, string>> = {
  pdf: "PDF",
  docx: "DOCX",
  both: "PDF and DOCX",
};

/** Three by eight is what most sheets are cut to. */
const LABELS: LabelsOf = { of: "", heading: "", text: "", across: 3, down: 8, margin: 8 };
/** In the list of templates, whose ids have no spaces. */
const NO_TEMPLATE = "a sheet of labels";

/** From which template of the process, or without one. */
function DocumentChip({ step, set }: { step: DrawUp; set: Set }) {
  const key = useDraft((d) => d.definition.key);
  const documents = useDraft((d) => d.definition.documents) ?? [];
  const chosen = documents.find((x) => x.id === step.document);
  const sheet = `/workshop/${key}/templates`;
  const { labels } = step;
  const pick = (v: string) =>
    v === NO_TEMPLATE ? set({ labels: labels ?? LABELS }) : set({ document: v, labels: null });
  const says = labels ? NO_TEMPLATE : (chosen?.name ?? "no template yet");
  const value = labels ? NO_TEMPLATE : (chosen?.id ?? "");
  return (
    <Chip text={says} label="Template" empty={!labels && !chosen} width={420}>
      {() => (
        <div className="grid gap-2 text-sm">
          <Select
            aria-label="Which template"
            value={value}
            onPick={pick}
            {...(value ? {} : { empty: "choose one" })}
            options={[
              ...documents.map((x) => ({ value: x.id, label: x.name })),
              { value: NO_TEMPLATE, label: "none: a sheet of labels" },
            ]}
          />
          <p className="text-soft">
            {documents.length > 0
              ? "A template is a document of the word processor whose tags are formulas. "
              : "This process has no template yet. One is a document of the word processor whose tags are formulas. "}
            <Link className="link" href={chosen ? `${sheet}#${chosen.id}` : sheet}>
              {chosen ? "Look at it with the sample" : "Bring one in on Templates"}
            </Link>
          </p>
        </div>
      )}
    </Chip>
  );
}

/** Which field keeps what was drawn up. */
function IntoChip({ step, set }: { step: DrawUp; set: Set }) {
  const fields = useDraft((d) => d.definition.fields);
  const takes = flatFields(fields).filter((f) => f.kind === "file" || f.kind === "files");
  const chosen = takes.find((f) => f.id === step.into);
  return (
    <Chip
      text={
        step.into === undefined ? "no field keeps it" : `kept in ${chosen?.name ?? "a field that is gone"}`
      }
      label="Field that keeps it"
      width={420}
    >
      {() => (
        <div className="grid gap-2 text-sm">
          <Select
            aria-label="Which field keeps it"
            value={chosen?.id ?? ""}
            empty="none"
            onPick={(v) => set({ into: v || null })}
            options={takes.map((f) => ({ value: f.id, label: f.name }))}
          />
          <p className="text-soft">
            Whoever sees that field can open the document. Without one only the process&apos;s owners can, and
            whoever it is sent to. Fields for files stand on the form sheet.
          </p>
        </div>
      )}
    </Chip>
  );
}

function AsChip({ step, set }: { step: DrawUp; set: Set }) {
  return (
    <Chip text={AS[step.as]} label="As which files" width={300}>
      {() => (
        <Select
          aria-label="As which files"
          value={step.as}
          onPick={(as) => set({ as: as as DrawnAs })}
          options={Object.entries(AS).map(([value, label]) => ({ value, label }))}
        />
      )}
    </Chip>
  );
}

function LabelsSaid({ labels, scope, set }: { labels: LabelsOf; scope: Scope; set: Set }) {
  const put = (patch: Partial<LabelsOf>) => set({ labels: { ...labels, ...patch } });
  return (
    <>
      {", "}
      <LabelsForChip labels={labels} scope={scope} put={put} />
      {": "}
      <LabelTextChip labels={labels} scope={scope} put={put} />
      {", "}
      <GridChip labels={labels} put={put} />
    </>
  );
}

function Sentence({ step, scope }: SentenceProps<"draw up">) {
  const edit = useDraft((d) => d.edit);
  const set: Set = (patch) => edit({ op: "step.set", id: step.id, patch });
  return (
    <>
      <StepName step={step} />
      {step.labels ? "as " : "from "}
      <DocumentChip step={step} set={set} />
      {step.labels ? (
        <LabelsSaid labels={step.labels} scope={scope} set={set} />
      ) : (
        <>
          {" as "}
          <AsChip step={step} set={set} />
        </>
      )}
      {", called "}
      <Chip
        text={step.called || "nothing yet"}
        label="What the file is called"
        empty={!step.called}
        width={460}
      >
        {() => (
          <TemplateCell
            label="What the file is called"
            value={step.called}
            scope={scope}
            onCommit={(called) => set({ called })}
          />
        )}
      </Chip>
      {", "}
      <IntoChip step={step} set={set} />
    </>
  );
}

export const view: StepView<"draw up"> = { icon: FileOutput, Sentence };
