"use client";
import { findField, flatFields, isGroup, labelOf, type Check, type Field } from "@/core/form";
import { YESNO, type Scope } from "@/core/expression";
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
  const d = useDraft();
  const checks = field.checks ?? [];
  const set = (i: number, patch: Partial<Check>) =>
    onSet(checks.map((c, k) => (k === i ? { ...c, ...patch } : c)));
  return (
    <div>
      {checks.map((c, i) => (
        <div key={i} role="group" aria-label={`Check ${i + 1} of ${field.name}`} className="mb-2.5">
          <div className="mb-1 grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-center gap-2">
            <FormulaCell
              label={`Check ${i + 1} of ${field.name}: must hold`}
              value={c.must}
              scope={scope}
              wanted={YESNO}
              names={d.turn?.names(null) ?? null}
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
