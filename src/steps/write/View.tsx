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
  put: "add or change a record of",
};
/** What a step no longer has once it does this. */
const LEFT = {
  add: { record: null, key: null, own: null, clears: null, must: null, otherwise: null },
  change: { into: null, key: null, clears: null },
  remove: { into: null, key: null, own: null, keeps: null },
  put: { record: null, into: null, own: null, clears: null },
} satisfies Record<Write["op"], object>;
/** Whether it is told which records are meant, as they are there already. */
const named = (op: Write["op"]): boolean => op === "change" || op === "remove";

function writeText(step: Write, registerName: string, lines: string | undefined): string {
  const each = step.each ? `for each of ${lines ?? "lines that are gone"}, ` : "";
  const what = named(step.op) ? `: ${step.record || "which?"}` : "";
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
              onPick={(value) =>
                d.edit({
                  op: "step.set",
                  id: step.id,
                  patch: { op: value as Write["op"], ...LEFT[value as Write["op"]] },
                })
              }
              options={Object.entries(OPS).map(([op, w]) => ({ value: op, label: w }))}
            />
          </label>
          <label className={row}>
            <span className="text-soft">Register</span>
            <Select
              value={step.register}
              onPick={(value) =>
                d.edit({
                  op: "step.set",
                  id: step.id,
                  patch: { register: value, values: [], into: null, key: null },
                })
              }
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
          {named(step.op) && (
            <div className={row}>
              <span className="text-soft">Which records</span>
              <FormulaCell
                label="Which records"
                placeholder="Store, or a list such as what a Find found"
                value={step.record ?? ""}
                scope={own}
                wanted={ANY}
                names={names}
                onCommit={(t) => (t ? put({ record: t }) : put({}, "record"))}
              />
            </div>
          )}
          {shape && step.op === "put" && (
            <label className={row}>
              <span className="text-soft">Found again by</span>
              <Select
                value={step.key ?? ""}
                onPick={(value) => (value ? put({ key: value }) : put({}, "key"))}
                empty="Choose…"
                options={shape.columns
                  .filter((c) => !c.worked && c.kind !== "yes or no")
                  .map((c) => ({ value: c.id, label: c.name }))}
              />
            </label>
          )}
          {shape && step.op === "change" && !step.each && (
            <label className={row}>
              <span className="text-soft">Names mean</span>
              <Select
                value={step.own ? "own" : ""}
                onPick={(v) => (v ? put({ own: true }) : put({}, "own"))}
                options={[
                  { value: "", label: "what the request has" },
                  {
                    value: "own",
                    label: `first the columns of each ${shape.one}, then what the request has`,
                  },
                ]}
              />
            </label>
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
                      {c.needed && !named(step.op) ? " (needed)" : ""}
                    </span>
                    <FormulaCell
                      label={`${c.name} becomes`}
                      placeholder="not written"
                      value={v?.value ?? ""}
                      scope={step.own ? { ...own, ...columns } : own}
                      wanted={fieldType(c, { registers: d.office.registers, kinds: KINDS })}
                      names={step.own ? null : names}
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
          {shape && step.op === "remove" && (
            <label className={row}>
              <span className="text-soft">What points at it</span>
              <Select
                value={step.clears ? "clears" : ""}
                onPick={(v) => (v ? put({ clears: true }) : put({}, "clears"))}
                options={[
                  { value: "", label: "keeps it there: the step stops and tells the owner" },
                  { value: "clears", label: "loses its link" },
                ]}
              />
            </label>
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
          {step.op !== "remove" && (
            <label className={row}>
              <span className="text-soft">Afterwards</span>
              <Select
                value={step.keeps ? "keeps" : ""}
                onPick={(v) => (v ? put({ keeps: true }) : put({}, "keeps"))}
                options={[
                  { value: "", label: "it is not read by name" },
                  { value: "keeps", label: `“${step.name}” is what was written` },
                ]}
              />
            </label>
          )}
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
