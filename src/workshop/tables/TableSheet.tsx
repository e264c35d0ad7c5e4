"use client";
import Link from "next/link";
import { useMemo } from "react";
import { type DecisionTable, type Gathered, type HitPolicy } from "@/core/decision";
import { isContext, isList, saidValue, type Scope, type Value } from "@/core/expression";
import type { StepOf } from "@/core/route";
import { GATHERED, HITS, hitsSaid } from "@/steps/apply/hitsSaid";
import { Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "../parts/Chip";
import { StepName } from "../parts/StepName";
import { ProblemLines } from "../route/ProblemLines";
import { TableGrid } from "./TableGrid";
import { useSampleRules, type SampleRules } from "./useSampleRules";

type Apply = StepOf<"apply">;

/** Problems that stand at a rule or a cell are told there. */
const atRule = (place: string | undefined) => /^(?:rule|test|value) /.test(place ?? "");

/** One decision table: what becomes of the rules that hold, the rules, and what the sample comes to. */
export function TableSheet({ step, number, scope }: { step: Apply; number: string; scope: Scope }) {
  const d = useDraft();
  const rules = useSampleRules(step);
  const problems = d.problemsAt("step", step.id);
  const above = useMemo(
    () => problems.filter((p) => !atRule(p.where.place) && p.code !== "falls-through"),
    [problems],
  );
  const gap = problems.find((p) => p.code === "falls-through") ?? null;
  return (
    <section aria-label={`Table “${step.name}”`}>
      <div className="mb-2 flex flex-wrap items-center gap-x-2 gap-y-1">
        <Link className="link text-soft" href={`/workshop/${d.definition.key}/route#step-${step.id}`}>
          Step {number}
        </Link>
        <StepName step={step} />
        <span className="text-soft">of its rules</span>
        <HitsChip step={step} />
        <span className="text-soft">· where none holds</span>
        <NoneChip step={step} />
      </div>
      <ProblemLines problems={above} />
      <TableGrid step={step} scope={scope} sample={rules} gap={gap} problems={problems} />
      <Comes step={step} rules={rules} />
    </section>
  );
}

function HitsChip({ step }: { step: Apply }) {
  const d = useDraft();
  const set = (patch: { [K in keyof DecisionTable]?: DecisionTable[K] | null }) =>
    d.edit({ op: "step.set", id: step.id, patch });
  return (
    <Chip text={hitsSaid(step)} label="Which rules count" width={380}>
      {() => (
        <div className="grid gap-2 text-sm">
          <Select
            aria-label="Which rules count"
            value={step.hits}
            onPick={(v) => set({ hits: v as HitPolicy, ...(v === "collect" ? {} : { gathers: null }) })}
            options={Object.entries(HITS).map(([value, label]) => ({ value, label }))}
          />
          {step.hits === "collect" && (
            <Select
              aria-label="What they come to together"
              value={step.gathers ?? ""}
              onPick={(v) => set({ gathers: v === "" ? null : (v as Gathered) })}
              options={[
                { value: "", label: "a list of all of them" },
                ...Object.entries(GATHERED).map(([value, label]) => ({ value, label })),
              ]}
            />
          )}
          <p className="text-soft">{EXPLAINED[step.hits]}</p>
        </div>
      )}
    </Chip>
  );
}

const EXPLAINED: Readonly<Record<HitPolicy, string>> = {
  unique:
    "Whichever rule holds is gone by. Where two could hold at once that is told here, and a request stops.",
  any: "Several rules may hold as long as they come to the same.",
  first: "Rules are tried from the top, and the first that holds is gone by.",
  priority: "Of the rules that hold the one counts whose output stands first among the output’s values.",
  collect: "Every rule that holds counts: as a list, or their sum, least, greatest or number.",
  "rule order": "Every rule that holds counts, as a list in the order of the rules.",
  "output order": "Every rule that holds counts, as a list in the order of the output’s values.",
};

/** What comes of it where no rule holds. */
function NoneChip({ step }: { step: Apply }) {
  const d = useDraft();
  const now = step.otherwise ? "otherwise" : (step.none ?? "stops");
  const said = {
    otherwise: "it is as in the last row",
    empty: "it comes to nothing",
    stops: "the request stops",
  };
  const pick = (v: string) => {
    const patch = {
      otherwise: v === "otherwise" ? (step.otherwise ?? []) : null,
      none: v === "empty" ? "empty" : null,
    };
    d.edit({ op: "step.set", id: step.id, patch });
  };
  return (
    <Chip text={said[now]} label="Where no rule holds" width={340}>
      {() => (
        <div className="grid gap-2 text-sm">
          <Select
            aria-label="Where no rule holds"
            value={now}
            onPick={pick}
            options={Object.entries(said).map(([value, label]) => ({ value, label }))}
          />
          <p className="text-soft">
            A request that stops is shown to its owners on Progress. What comes to nothing is empty to the
            steps that read it. A list is empty where no rule holds, and how many is none.
          </p>
        </div>
      )}
    </Chip>
  );
}

/** What the table comes to for the sample, in a sentence. */
function Comes({ step, rules }: { step: Apply; rules: SampleRules | null }) {
  const sample = useDraft((d) => d.sample);
  return (
    <p role="status" className="mt-3 max-w-prose">
      {sample && rules ? (
        <>
          <span className="text-soft">“{sample.name}”: </span>
          {comesTo(step, rules)}
        </>
      ) : (
        <span className="text-soft">Keep a sample to see which rules it comes to.</span>
      )}
    </p>
  );
}

function comesTo(step: Apply, { result }: SampleRules): string {
  if (result === null) return "it stops here, because something that is read cannot be worked out.";
  if ("missing" in result) return `it stops here, because ${step.inputs[result.missing]!.formula} is empty.`;
  if ("failure" in result) {
    const { code, data } = result.failure;
    const why = WHY[code] as (d: never) => string;
    return `it stops here: ${why(data as never)}`;
  }
  const { rules, value } = result;
  const by = rules.length === 0 ? "no rule holds" : `rule${rules.length > 1 ? "s" : ""} ${rules.join(", ")}`;
  return `${by} → ${valueSaid(value)}`;
}

type Failure = Extract<NonNullable<SampleRules["result"]>, { failure: unknown }>["failure"];
const WHY: { readonly [C in Failure["code"]]: (d: Extract<Failure, { code: C }>["data"]) => string } = {
  "several-rules": (d) => `rules ${d.first} and ${d.second} both hold.`,
  "rules-differ": (d) => `rules ${d.first} and ${d.second} come to different things for “${d.output}”.`,
  "no-rule": () => "no rule holds.",
  "no-rank": (d) => `“${d.output}” of rule ${d.rule} is none of its values.`,
  "no-number": (d) => `“${d.output}” of rule ${d.rule} is no number.`,
};

function valueSaid(v: Value): string {
  if (isList(v)) return v.length === 0 ? "an empty list" : v.map(valueSaid).join(" and then ");
  if (!isContext(v)) return v === null ? "nothing" : saidValue(v);
  return [...(v as ReadonlyMap<string, Value>)].map(([name, x]) => `${name}: ${saidValue(x)}`).join(", ");
}
