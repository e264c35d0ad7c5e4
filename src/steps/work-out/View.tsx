"use client";
import { Sigma } from "lucide-react";
import type { ReactNode } from "react";
import { ANY, type Scope } from "@/core/expression";
import { fieldType, flatFields, type Field } from "@/core/form";
import type { StepOf } from "@/core/route";
import { KINDS } from "@/kinds";
import { Select } from "@/ui";
import { Chip, FormulaCell, newId, StepName, TextCell, useDraft, useNamesHere } from "@/workshop/parts";
import type { SentenceProps, StepView } from "../view";
import { RowsDeedEditor } from "./Editor";
import { blankDeed, DEEDS, deedText } from "./deedWords";
import type { RowsDeed } from "./shape";

type WorkOut = StepOf<"work out">;

const REMOVE = "justify-self-start text-sm underline";

function Part({ says, children }: { says: string; children: ReactNode }) {
  return (
    <fieldset className="grid gap-1.5 border-t border-line pt-1.5 first:border-0 first:pt-0">
      <legend className="text-soft">{says}</legend>
      {children}
    </fieldset>
  );
}

function Fields({ step, scope, fields }: { step: WorkOut; scope: Scope; fields: readonly Field[] }) {
  const d = useDraft();
  const names = useNamesHere();
  const put = (set: WorkOut["set"]) => d.edit({ op: "step.set", id: step.id, patch: { set } });
  return (
    <Part says="Fields of the form">
      {step.set.map((s, i) => {
        const field = fields.find((f) => f.id === s.field);
        return (
          <div key={i} className="grid grid-cols-[10rem_1fr_auto] items-center gap-1.5">
            <Select
              aria-label={`Value ${i + 1}: field`}
              value={s.field}
              onPick={(value) => put(step.set.map((x, k) => (k === i ? { ...x, field: value } : x)))}
              options={fields.map((f) => ({ value: f.id, label: f.name }))}
            />
            <FormulaCell
              label={`Value ${i + 1}`}
              value={s.value}
              scope={scope}
              wanted={field ? fieldType(field, { registers: d.office.registers, kinds: KINDS }) : ANY}
              names={names}
              onCommit={(value) => put(step.set.map((x, k) => (k === i ? { ...x, value } : x)))}
            />
            <button
              type="button"
              className="text-sm underline"
              onClick={() => put(step.set.filter((_, k) => k !== i))}
            >
              remove
            </button>
          </div>
        );
      })}
      <button
        type="button"
        className={REMOVE}
        disabled={fields.length === 0}
        onClick={() => put([...step.set, { field: fields[0]!.id, value: "null" }])}
      >
        Set another value
      </button>
    </Part>
  );
}

function Rows({ step, scope, lines }: { step: WorkOut; scope: Scope; lines: readonly Field[] }) {
  const d = useDraft();
  const deeds = step.rows ?? [];
  const put = (rows: RowsDeed[]) =>
    d.edit({ op: "step.set", id: step.id, patch: { rows: rows.length > 0 ? rows : null } });
  const add = (what: RowsDeed["do"]) => {
    const id = newId("rows", (x) => deeds.some((r) => r.id === x));
    put([...deeds, blankDeed(what, id, lines[0]!)]);
  };
  return (
    <Part says="Line items, one after the other">
      {deeds.map((r, i) => (
        <RowsDeedEditor
          key={r.id}
          deed={r}
          number={i + 1}
          scope={scope}
          lines={lines}
          onChange={(x) => put(deeds.map((y, k) => (k === i ? x : y)))}
          onRemove={() => put(deeds.filter((_, k) => k !== i))}
          {...(i > 0
            ? { onUp: () => put([...deeds.slice(0, i - 1), r, deeds[i - 1]!, ...deeds.slice(i + 1)]) }
            : {})}
        />
      ))}
      <Select
        className="!w-64"
        aria-label="Do something with line items"
        value=""
        empty="do something with rows…"
        onPick={(what) => add(what as RowsDeed["do"])}
        options={Object.entries(DEEDS).map(([value, label]) => ({ value, label }))}
      />
    </Part>
  );
}

function Own({ step, scope }: { step: WorkOut; scope: Scope }) {
  const d = useDraft();
  const names = useNamesHere();
  const own = step.own ?? [];
  const put = (next: typeof own) =>
    d.edit({ op: "step.set", id: step.id, patch: { own: next.length > 0 ? next : null } });
  const change = (i: number, patch: Partial<(typeof own)[number]>) =>
    put(own.map((x, k) => (k === i ? { ...x, ...patch } : x)));
  return (
    <Part
      says={`Values that stand on no form, read by the name of the step: ${step.name}.${own[0]?.name ?? "Value"}`}
    >
      {own.map((o, i) => (
        <div key={i} className="grid grid-cols-[10rem_1fr_auto] items-center gap-1.5">
          <TextCell
            className="input"
            aria-label={`Own value ${i + 1}: name`}
            value={o.name}
            onCommit={(t) => (t.trim() ? void change(i, { name: t.trim() }) : false)}
          />
          <FormulaCell
            label={`Own value ${i + 1}`}
            value={o.value}
            scope={scope}
            wanted={ANY}
            names={names}
            onCommit={(value) => change(i, { value })}
          />
          <button
            type="button"
            className="text-sm underline"
            onClick={() => put(own.filter((_, k) => k !== i))}
          >
            remove
          </button>
        </div>
      ))}
      <button
        type="button"
        className={REMOVE}
        onClick={() => put([...own, { name: freeName(own.map((o) => o.name)), value: "null" }])}
      >
        Keep a value
      </button>
    </Part>
  );
}

function freeName(taken: readonly string[]): string {
  for (let n = 1; ; n++) {
    const name = n === 1 ? "Value" : `Value ${n}`;
    if (!taken.includes(name)) return name;
  }
}

function Sentence({ step, scope }: SentenceProps<"work out">) {
  const d = useDraft();
  const all = flatFields(d.definition.fields);
  const fields = all.filter((f) => f.kind !== "lines");
  const lines = all.filter((f) => f.kind === "lines");
  const name = (id: string) => fields.find((f) => f.id === id)?.name ?? "?";
  const said = [
    ...step.set.map((s) => `${name(s.field)} = ${s.value || "?"}`),
    ...(step.rows ?? []).map((r) => deedText(r, lines)),
    ...(step.own ?? []).map((o) => `${step.name}.${o.name} = ${o.value || "?"}`),
  ];
  return (
    <>
      <StepName step={step} />
      <Chip text={said.join("; ") || "nothing yet"} label="Values" empty={said.length === 0} width={600}>
        {() => (
          <div className="grid gap-3 text-sm">
            <Fields step={step} scope={scope} fields={fields} />
            {lines.length > 0 && <Rows step={step} scope={scope} lines={lines} />}
            <Own step={step} scope={scope} />
          </div>
        )}
      </Chip>
    </>
  );
}

export const view: StepView<"work out"> = { icon: Sigma, Sentence };
