"use client";
import { ClipboardCheck } from "lucide-react";
import { flatFields } from "@/core/form";
import { stepKind } from "@/core/kinds";
import { placesOf, type ProcessDefinition, type Signing } from "@/core/route";
import { KINDS } from "@/kinds";
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

interface Paper {
  value: string;
  label: string;
  name: string;
}
const known = new WeakMap<ProcessDefinition, Paper[]>();
/** The steps that come to a PDF; found once for all rows of a sheet. */
function papersOf(d: ProcessDefinition): Paper[] {
  const found = known.get(d);
  if (found) return found;
  const papers = [...placesOf(d, KINDS).values()].flatMap(({ step: s, number }) =>
    stepKind(KINDS, s).pages?.(s) ? [{ value: s.id, label: `${number} ${s.name}`, name: s.name }] : [],
  );
  known.set(d, papers);
  return papers;
}

/** Which document is signed there, by which field; nothing is said of it where the process draws up none. */
function SignsChip({ step }: SentenceProps<"complete">) {
  const d = useDraft();
  const { fields } = d.definition;
  // Line items hold no signature of a step.
  const top = flatFields(fields).filter((f) => f.kind !== "lines");
  const papers = papersOf(d.definition).filter((p) => p.value !== step.id);
  const { signs } = step;
  if (papers.length === 0 && !signs) return null;
  const signatures = top.filter((f) => KINDS.fields[f.kind].signs);
  const files = top.filter((f) => f.kind === "file" || f.kind === "files");
  const paper = papers.find((p) => p.value === signs?.document);
  const set = (next: Signing | null) => d.edit({ op: "step.set", id: step.id, patch: { signs: next } });
  const change = (patch: Partial<Signing>) =>
    set({ document: signs?.document ?? "", field: signs?.field ?? signatures[0]?.id ?? "", ...patch });
  const said = signs ? `signing ${paper?.name ?? "a document that is gone"}` : "signing nothing";
  return (
    <>
      {", "}
      <Chip text={said} label="What is signed" empty={signs !== undefined && !paper} width={480}>
        {() => (
          <div className="grid gap-2 text-sm">
            <label className="grid gap-1">
              <span className="text-soft">The document whose pages they see and sign</span>
              <Select
                value={paper?.value ?? ""}
                empty="none"
                onPick={(document) => (document ? change({ document }) : set(null))}
                options={papers}
              />
            </label>
            {signs && (
              <>
                <label className="grid gap-1">
                  <span className="text-soft">The field they sign in</span>
                  <Select
                    value={signatures.some((f) => f.id === signs.field) ? signs.field : ""}
                    {...(signatures.some((f) => f.id === signs.field) ? {} : { empty: "choose one" })}
                    onPick={(field) => change({ field })}
                    options={signatures.map((f) => ({ value: f.id, label: f.name }))}
                  />
                </label>
                <label className="grid gap-1">
                  <span className="text-soft">The field that keeps what was signed</span>
                  <Select
                    value={files.some((f) => f.id === signs.into) ? signs.into! : ""}
                    empty="none"
                    onPick={(into) => {
                      const { into: _, ...rest } = signs;
                      set(into ? { ...rest, into } : rest);
                    }}
                    options={files.map((f) => ({ value: f.id, label: f.name }))}
                  />
                </label>
              </>
            )}
            <p className="text-soft">
              {signatures.length === 0
                ? "There is no field of the kind signature yet; add one on the form sheet. "
                : "Its place in the template is a tag like {picture Signature, 50 mm}. "}
              Where a ladder answers in their place, or an owner lets it go on, nothing is signed. Formulas
              read what was signed as <code>{`${step.name}.document`}</code>.
            </p>
          </div>
        )}
      </Chip>
    </>
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
      <SignsChip {...p} />
      <OffersChip step={step} scope={scope} />
      <AskMailChip step={step} scope={scope} />
    </>
  );
}

export const view: StepView<"complete"> = { icon: ClipboardCheck, Sentence };
