"use client";
import { KINDS } from "@/kinds";
import { PenLine } from "lucide-react";
import { useMemo } from "react";
import { ANY, YESNO, type Scope } from "@/core/expression";
import { columnScope, fieldType, flatFields, recordScope } from "@/core/form";
import { Chip, FormulaCell, StepName, useDraft, useNamesHere } from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";
import { Select } from "@/ui";
import type { Write } from "./shape";

const OPS: Record<Write["op"], string> = {
  add: "add a record to",
  change: "change a record of",
  remove: "remove a record of",
};

function writeText(step: Write, registerName: string, lines: string | undefined): string {
  const each = step.each ? `for each of ${lines ?? "lines that are gone"}, ` : "";
  const what = step.op === "add" ? "" : `: ${step.record || "which?"}`;
  const must = step.must ? `, if ${step.must}` : "";
  return `${each}${OPS[step.op]} ${registerName || "no register yet"}${what}${must}`;
}

/** What a Write step writes: register, record, columns, and the condition that must hold. */
function WriteChip({ step, scope }: SentenceProps<"write">) {
  const d = useDraft();
  const shape = d.office.registers[step.register];
  const put = (patch: Partial<Write>, gone?: keyof Write) =>
    d.edit({ op: "step.set", id: step.id, patch: { ...patch, ...(gone ? { [gone]: null } : {}) } });
  const lines = flatFields(d.definition.fields).filter((f) => f.kind === "lines");
  const own = useMemo(() => {
    const l = step.each ? lines.find((f) => f.id === step.each) : undefined;
    return l ? { ...scope, ...columnScope(l, { registers: d.office.registers, kinds: KINDS }) } : scope;
    // The lines follow from the definition.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [scope, step.each, d.definition.fields, d.office.registers]);
  const here = useNamesHere();
  const names = step.each ? null : here;
  const columns: Scope = useMemo(
    () => (shape ? recordScope(shape, { registers: d.office.registers, kinds: KINDS }) : {}),
    [shape, d.office.registers],
  );
  const lookUps = flatFields(d.definition.fields).filter(
    (f) => f.kind === "look-up" && f.register === step.register,
  );
  const row = "grid grid-cols-[7.5rem_minmax(0,1fr)] items-center gap-x-2";
  return (
    <Chip
      text={writeText(step, shape?.name ?? step.register, lines.find((l) => l.id === step.each)?.name)}
      label="What is written"
      empty={!shape}
      width={560}
    >
      {() => (
        <div className="grid gap-1.5 text-sm">
          <label className={row}>
            <span className="text-soft">Do</span>
            <Select
              value={step.op}
              onPick={(value) => put({ op: value as Write["op"] }, value === "add" ? "record" : "into")}
              options={Object.entries(OPS).map(([op, w]) => ({ value: op, label: w }))}
            />
          </label>
          <label className={row}>
            <span className="text-soft">Register</span>
            <Select
              value={step.register}
              onPick={(value) => put({ register: value, values: [] }, "into")}
              empty="Choose…"
              options={Object.values(d.office.registers).map((r) => ({ value: r.key, label: r.name }))}
            />
          </label>
          {lines.length > 0 && (
            <label className={row}>
              <span className="text-soft">For each of</span>
              <Select
                value={step.each ?? ""}
                onPick={(value) => (value ? put({ each: value }) : put({}, "each"))}
                empty="once only"
                options={lines.map((l) => ({ value: l.id, label: l.name }))}
              />
            </label>
          )}
          {step.op !== "add" && (
            <div className={row}>
              <span className="text-soft">Which record</span>
              <FormulaCell
                label="Which record"
                placeholder="Store"
                value={step.record ?? ""}
                scope={own}
                wanted={ANY}
                names={names}
                onCommit={(t) => (t ? put({ record: t }) : put({}, "record"))}
              />
            </div>
          )}
          {shape && step.op !== "remove" && (
            <fieldset className="border-t border-line pt-1.5">
              <legend className="text-soft">Columns and values</legend>
              {shape.columns.map((c) => {
                const v = step.values.find((x) => x.column === c.id);
                return (
                  <div key={c.id} className={row}>
                    <span className={v ? "" : "text-soft"}>
                      {c.name}
                      {c.needed && step.op === "add" ? " (needed)" : ""}
                    </span>
                    <FormulaCell
                      label={`${c.name} becomes`}
                      placeholder="not written"
                      value={v?.value ?? ""}
                      scope={own}
                      wanted={fieldType(c, { registers: d.office.registers, kinds: KINDS })}
                      names={names}
                      onCommit={(t) =>
                        put({
                          values: [
                            ...step.values.filter((x) => x.column !== c.id),
                            ...(t ? [{ column: c.id, value: t }] : []),
                          ],
                        })
                      }
                    />
                  </div>
                );
              })}
            </fieldset>
          )}
          {shape && step.op !== "add" && (
            <>
              <div className={row}>
                <span className="text-soft">Must hold</span>
                <FormulaCell
                  label="Condition that must hold for the record"
                  placeholder={`over its columns, e.g. ${shape.columns.find((c) => c.kind === "choice")?.name ?? "Status"} = "…"`}
                  value={step.must ?? ""}
                  scope={columns}
                  wanted={YESNO}
                  onCommit={(t) => (t ? put({ must: t }) : put({}, "must"))}
                />
              </div>
              {step.must && (
                <label className={row}>
                  <span className="text-soft">If it does not</span>
                  <Select
                    value={step.otherwise ?? "stop"}
                    onPick={(value) => put({ otherwise: value as "stop" | "leave" })}
                    options={[
                      { value: "stop", label: "stop here and tell the owner" },
                      { value: "leave", label: "leave that record alone and go on" },
                    ]}
                  />
                </label>
              )}
            </>
          )}
          <label className={row}>
            <span className="text-soft">Starts</span>
            <Select
              value={step.quietly ? "nothing" : ""}
              onPick={(v) => (v ? put({ quietly: true }) : put({}, "quietly"))}
              options={[
                { value: "", label: "whatever such a change starts" },
                { value: "nothing", label: "nothing: it is written quietly" },
              ]}
            />
          </label>
          {step.op === "add" && !step.each && lookUps.length > 0 && (
            <label className={row}>
              <span className="text-soft">Keep it in</span>
              <Select
                value={step.into ?? ""}
                onPick={(value) => (value ? put({ into: value }) : put({}, "into"))}
                empty="no field"
                options={lookUps.map((f) => ({ value: f.id, label: f.name }))}
              />
            </label>
          )}
        </div>
      )}
    </Chip>
  );
}

function Sentence(p: SentenceProps<"write">) {
  return (
    <>
      <StepName step={p.step} />
      <WriteChip {...p} />
    </>
  );
}

export const view: StepView<"write"> = { icon: PenLine, Sentence };
