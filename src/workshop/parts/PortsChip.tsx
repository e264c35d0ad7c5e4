"use client";
import type { Scope } from "@/core/expression";
import type { Binding, Port } from "@/core/kinds";
import { takenType } from "@/core/route";
import { KINDS } from "@/kinds";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "./Chip";
import { FormulaCell } from "./FormulaCell";
import { useNamesHere } from "./StepHere";

/** What is handed over: one line for each value that is taken, its name, an arrow to it, the formula. */
export function PortsChip({
  of,
  scope,
  put,
}: {
  of: Binding;
  scope: Scope;
  put(values: Binding["values"]): void;
}) {
  const d = useDraft();
  const names = useNamesHere();
  const given = (p: Port) => of.values.find((v) => v.port === p.id)?.value ?? "";
  const commit = (port: string, value: string) => {
    const others = of.values.filter((v) => v.port !== port);
    // In the order in which they are taken.
    const values = [...others, ...(value.trim() ? [{ port, value }] : [])];
    const at = (id: string) => of.takes.findIndex((p) => p.id === id);
    put(values.sort((a, b) => at(a.port) - at(b.port)));
  };
  const lost = of.values.filter((v) => !of.takes.some((p) => p.id === v.port));
  const said = of.takes.flatMap((p) => (given(p).trim() ? [`${p.name}: ${shortened(given(p))}`] : []));
  if (of.takes.length === 0 && lost.length === 0) return null;
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
            {of.takes.map((p) => (
              <div key={p.id} className="grid grid-cols-[11rem_1rem_minmax(0,1fr)] items-center gap-x-2">
                <span className="truncate" title={p.name}>
                  {p.name}
                  <span className="text-soft">
                    , {p.columns ? `line items (${p.columns.map((c) => c.name).join(", ")})` : p.kind}
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
                  wanted={takenType(p, { registers: d.office.registers, kinds: KINDS })}
                  names={names}
                  onCommit={(value) => commit(p.id, value)}
                />
              </div>
            ))}
            {lost.map((v) => (
              <p key={v.port} className="text-brick">
                “{v.value}” goes nowhere any more.{" "}
                <button type="button" className="underline" onClick={() => commit(v.port, "")}>
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
