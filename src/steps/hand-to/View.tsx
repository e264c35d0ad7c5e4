"use client";
import { KINDS } from "@/kinds";
import { Spline } from "lucide-react";
import { fieldType } from "@/core/form";
import type { Port } from "@/core/kinds";
import type { StepOf } from "@/core/route";
import { Select } from "@/ui";
import { Chip, FormulaCell, StepName, useDraft, useNamesHere } from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";

type HandTo = StepOf<"hand to">;

/** Which procedure, and whether it stays on the version that is live now. */
function ProcedureChip({ step }: { step: HandTo }) {
  const d = useDraft();
  const { procedures } = d.office;
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

/** One line for each value the procedure takes: its name, an arrow to it, the formula. */
function ValuesChip({ step, scope }: SentenceProps<"hand to">) {
  const d = useDraft();
  const names = useNamesHere();
  const given = (p: Port) => step.values.find((v) => v.port === p.id)?.value ?? "";
  const put = (port: string, value: string) => {
    const others = step.values.filter((v) => v.port !== port);
    // In the order in which the procedure takes them.
    const values = [...others, ...(value.trim() ? [{ port, value }] : [])];
    const at = (id: string) => step.takes.findIndex((p) => p.id === id);
    d.edit({
      op: "step.set",
      id: step.id,
      patch: { values: values.sort((a, b) => at(a.port) - at(b.port)) },
    });
  };
  const lost = step.values.filter((v) => !step.takes.some((p) => p.id === v.port));
  const said = step.takes.flatMap((p) => (given(p).trim() ? [`${p.name}: ${shortened(given(p))}`] : []));
  if (step.takes.length === 0 && lost.length === 0) return null;
  return (
    <>
      {" with "}
      <Chip
        text={said.join("; ") || "nothing yet"}
        label="What is handed over"
        empty={said.length === 0}
        width={560}
      >
        {() => (
          <div className="grid gap-1.5 text-sm">
            {step.takes.map((p) => (
              <div key={p.id} className="grid grid-cols-[11rem_1rem_minmax(0,1fr)] items-center gap-x-2">
                <span className="truncate" title={p.name}>
                  {p.name}
                  <span className="text-soft">
                    , {p.kind}
                    {p.needed ? ", needed" : ""}
                  </span>
                </span>
                <span aria-hidden className="text-soft">
                  ←
                </span>
                <FormulaCell
                  label={`${p.name} is given`}
                  placeholder={p.needed ? "" : "nothing"}
                  value={given(p)}
                  scope={scope}
                  wanted={fieldType(p, { registers: d.office.registers, kinds: KINDS })}
                  names={names}
                  onCommit={(value) => put(p.id, value)}
                />
              </div>
            ))}
            {lost.map((v) => (
              <p key={v.port} className="text-brick">
                “{v.value}” goes nowhere any more.{" "}
                <button type="button" className="underline" onClick={() => put(v.port, "")}>
                  Take it away
                </button>
              </p>
            ))}
          </div>
        )}
      </Chip>
    </>
  );
}

/** Of a formula so much that it can be told from others. */
const MOST_LETTERS = 48;
const shortened = (formula: string): string =>
  formula.length > MOST_LETTERS ? `${formula.slice(0, MOST_LETTERS - 1)}…` : formula;

/** What can be read afterwards, as formulas write it. */
function readable({ name, gives }: HandTo): string {
  const all = ["result", ...gives.map((p) => p.name)].map((n) => `${name}.${n}`);
  return all.length > 3 ? `${all.slice(0, 3).join(", ")} and ${all.length - 3} more` : all.join(", ");
}

function Sentence({ step, scope }: SentenceProps<"hand to">) {
  return (
    <>
      <StepName step={step} />
      through <ProcedureChip step={step} />
      <ValuesChip step={step} scope={scope} />
      {step.procedure && (
        <span className="block text-sm text-soft">afterwards there is {readable(step)}</span>
      )}
    </>
  );
}

export const view: StepView<"hand to"> = { icon: Spline, Sentence };
