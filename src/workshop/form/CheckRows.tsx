"use client";
import { useMemo } from "react";
import {
  findField,
  flatFields,
  isGroup,
  labelOf,
  overRecordsScope,
  type Check,
  type Field,
} from "@/core/form";
import { YESNO, type Scope } from "@/core/expression";
import { KINDS } from "@/kinds";
import { Button, Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { FormulaCell, TextCell } from "../parts";

interface Props {
  field: Field;
  scope: Scope;
  onSet(checks: Check[] | null): void;
}

/** What a field, a section or a page is checked by: what must hold, what is said else, where, and whether that can be passed. */
export function CheckRows({ field, scope, onSet }: Props) {
  const checks = field.checks ?? [];
  const set = (i: number, patch: Partial<Check>) =>
    onSet(checks.map((c, k) => (k === i ? { ...c, ...patch } : c)));
  return (
    <div>
      {checks.map((c, i) => (
        <div key={i} role="group" aria-label={`Check ${i + 1} of ${field.name}`} className="mb-2.5">
          <OverRecords called={`Check ${i + 1} of ${field.name}`} check={c} onPick={(over) => set(i, over)} />
          <div className="mb-1 grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-center gap-2">
            <CheckFormula
              field={field}
              called={`Check ${i + 1} of ${field.name}`}
              check={c}
              scope={scope}
              onCommit={(must) => {
                set(i, { must });
                return true;
              }}
            />
            <TextCell
              className="input"
              aria-label={`Check ${i + 1} of ${field.name}: otherwise say`}
              value={c.say}
              onCommit={(say) => set(i, { say })}
            />
            <Button
              small
              look="quiet"
              onClick={() => onSet(checks.length > 1 ? checks.filter((_, k) => k !== i) : null)}
            >
              Remove
            </Button>
          </div>
          <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pl-2 text-sm">
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="size-4"
                checked={c.passable === true}
                onChange={(e) => set(i, { passable: e.target.checked || undefined })}
              />
              may be passed by saying why
            </label>
            <ToldAt field={field} check={c} onPick={(about) => set(i, { about })} />
          </div>
        </div>
      ))}
      <Button
        small
        onClick={() => onSet([...checks, { must: "true", say: `${labelOf(field)} is not right.` }])}
      >
        Add a check
      </Button>
    </div>
  );
}

type Over = "form" | "none" | "some";

/** Whether a check is of the form alone, or of what stands in a register. */
function OverRecords({
  called,
  check: { records },
  onPick,
}: {
  called: string;
  check: Check;
  onPick(over: Pick<Check, "records">): void;
}) {
  const registers = useDraft((d) => d.office.registers);
  const first = Object.keys(registers)[0];
  return (
    <div className="mb-1 flex flex-wrap items-center gap-2 text-sm">
      <span className="w-64">
        <Select
          aria-label={`${called}: of what`}
          value={records?.there ?? "form"}
          onPick={(over) => {
            const there = over as Over;
            if (there === "form") onPick({ records: undefined });
            else if (first !== undefined)
              onPick({ records: { register: records?.register ?? first, there } });
          }}
          options={[
            { value: "form", label: "This must hold of the form" },
            ...(first === undefined
              ? []
              : [
                  { value: "none", label: "This must hold of no record of" },
                  { value: "some", label: "This must hold of a record of" },
                ]),
          ]}
        />
      </span>
      {records && (
        <span className="w-48">
          <Select
            aria-label={`${called}: in which register`}
            value={records.register}
            onPick={(register) => onPick({ records: { ...records, register } })}
            options={Object.values(registers).map((r) => ({ value: r.key, label: r.name }))}
          />
        </span>
      )}
    </div>
  );
}

/** The formula of a check; over records it reads their columns first, and comes to nothing for the sample alone. */
function CheckFormula({
  field,
  called,
  check: { must, records },
  scope,
  onCommit,
}: {
  field: Field;
  called: string;
  check: Check;
  scope: Scope;
  onCommit(must: string): boolean;
}) {
  const d = useDraft();
  const { registers } = d.office;
  const register = records?.register;
  const { fields } = d.definition;
  const lines = findField(fields, field.id)?.parents.find((p) => p.kind === "lines");
  const over = useMemo(
    () =>
      register === undefined
        ? scope
        : { ...scope, ...overRecordsScope(register, fields, lines, { registers, kinds: KINDS }) },
    [scope, register, registers, fields, lines],
  );
  return (
    <FormulaCell
      label={`${called}: must hold`}
      value={must}
      scope={over}
      wanted={YESNO}
      names={records ? null : (d.turn?.names(null) ?? null)}
      onCommit={onCommit}
    />
  );
}

/** The fields at which a check is told: its own, unless others are picked. */
function ToldAt({
  field,
  check,
  onPick,
}: {
  field: Field;
  check: Check;
  onPick(about: string[] | undefined): void;
}) {
  const fields = useDraft((d) => d.definition.fields);
  const about = check.about ?? [];
  const lines = findField(fields, field.id)?.parents.find((p) => p.kind === "lines");
  const all = [...(lines?.fields ?? []), ...flatFields(fields)].filter((f) => !isGroup(f));
  const nameOf = (id: string) => all.find((f) => f.id === id)?.name ?? "something that is gone";
  return (
    <span className="flex flex-wrap items-center gap-x-2 gap-y-1">
      <span className="text-soft">told at</span>
      {about.length === 0 && <span>{isGroup(field) ? "the heading" : "the field itself"}</span>}
      {about.map((id) => (
        <button
          key={id}
          type="button"
          className="min-h-6 underline"
          title={`Do not tell it at ${nameOf(id)}`}
          onClick={() => {
            const left = about.filter((x) => x !== id);
            onPick(left.length > 0 ? left : undefined);
          }}
        >
          {nameOf(id)} <span aria-hidden>×</span>
          <span className="sr-only">: take it out</span>
        </button>
      ))}
      <span className="w-40">
        <Select
          aria-label={`Where else it is told, check of ${field.name}`}
          value=""
          empty="another field…"
          onPick={(id) => id && onPick([...about, id])}
          options={all
            .filter((f) => !about.includes(f.id) && (about.length > 0 || f.id !== field.id))
            .map((f) => ({ value: f.id, label: f.name }))}
        />
      </span>
    </span>
  );
}
