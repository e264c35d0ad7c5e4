"use client";
import { useMemo } from "react";
import { ANY, type Scope } from "@/core/expression";
import { fieldType, flatFields, type Field, type RegisterShape } from "@/core/form";
import { KINDS } from "@/kinds";
import { Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "./Chip";
import { FormulaCell } from "./FormulaCell";

interface Value {
  field: string;
  value: string;
}
interface Props {
  shape: RegisterShape;
  scope: Scope;
  /** Whether the record itself can be kept: it is still there. */
  keeps: boolean;
  into: string | undefined;
  values: Value[];
  onInto(field: string): void;
  onValues(values: Value[]): void;
}
const row = "grid grid-cols-[8.5rem_minmax(0,1fr)] items-center gap-x-2";

/** What a record that starts a request fills in of its form: the record itself, and values over its columns. */
export function FillsChip({ shape, scope, keeps, into, values, onInto, onValues }: Props) {
  const registers = useDraft((d) => d.office.registers);
  const fields = useDraft((d) => d.definition.fields);
  const around = useMemo(() => ({ registers, kinds: KINDS }), [registers]);
  const own = flatFields(fields).filter((f) => f.kind !== "lines" && !f.worked);
  const links = own.filter((f) => f.kind === "look-up" && f.register === shape.key);
  return (
    <Chip text={fillsText(into, values, own)} label="What it fills in" empty={false} width={600}>
      {() => (
        <div className="grid gap-1.5 text-sm">
          {keeps && (
            <label className={row}>
              <span className="text-soft">The {shape.one} in</span>
              <Select
                value={into ?? ""}
                empty={links.length > 0 ? "no field" : `no field looks in ${shape.name}`}
                onPick={onInto}
                options={links.map((f) => ({ value: f.id, label: f.name }))}
              />
            </label>
          )}
          {values.map((v, i) => {
            const f = own.find((x) => x.id === v.field);
            return (
              <div key={v.field} className="grid grid-cols-[8.5rem_minmax(0,1fr)_auto] items-center gap-x-2">
                <span className="truncate text-soft">{f?.name ?? "a field that is gone"}</span>
                <FormulaCell
                  label={`What ${f?.name ?? "the field"} begins with`}
                  placeholder={`over its columns, e.g. ${shape.columns[0]?.name ?? "Name"}`}
                  value={v.value}
                  scope={scope}
                  wanted={f ? fieldType(f, around) : ANY}
                  onCommit={(value) => onValues(values.map((x, n) => (n === i ? { ...x, value } : x)))}
                />
                <button
                  type="button"
                  className="text-sm text-soft underline"
                  aria-label={`remove ${f?.name ?? "this field"}`}
                  onClick={() => onValues(values.filter((_, n) => n !== i))}
                >
                  remove
                </button>
              </div>
            );
          })}
          <Select
            className="!w-60"
            aria-label="Fill in a field"
            value=""
            empty="fill in a field"
            onPick={(field) => field && onValues([...values, { field, value: "" }])}
            options={own
              .filter((f) => f.id !== into && !values.some((v) => v.field === f.id))
              .map((f) => ({ value: f.id, label: f.name }))}
          />
        </div>
      )}
    </Chip>
  );
}

function fillsText(into: string | undefined, values: readonly Value[], fields: readonly Field[]): string {
  const name = (id: string) => fields.find((f) => f.id === id)?.name ?? "a field that is gone";
  const filled = [...(into ? [into] : []), ...values.map((v) => v.field)].map(name);
  return filled.length > 0 ? `fills in ${filled.join(", ")}` : "fills in nothing";
}
