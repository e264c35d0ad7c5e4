"use client";
import { recordTitle, type FactsData, type Field, type Stored, type StoredRecord } from "@/core/form";
import { classes, dateText, moneyText, numberText } from "@/ui";
import { FileInput } from "./FileInput";
import { FileLink } from "./FileLink";
import type { InputContext } from "./inputContext";
import { Picker, type Option } from "./Picker";

/** A stored value for reading: text, or a link where it is a file. */
export function ShownValue({
  field,
  value,
  facts,
}: {
  field: Field;
  value: Stored | undefined;
  facts: FactsData;
}) {
  const file = field.kind === "file" && typeof value === "string" ? facts.files?.[value] : undefined;
  const text = file ? "" : shownValue(field, value, facts);
  return file ? <FileLink file={file} /> : text ? <>{text}</> : <span className="text-faint">–</span>;
}

/** A stored value as text for reading. */
export function shownValue(f: Field, v: Stored | undefined, facts: FactsData): string {
  if (v === null || v === undefined || v === "" || Array.isArray(v)) return "";
  if (typeof v === "boolean") return v ? "Yes" : "No";
  switch (f.kind) {
    case "money":
      return moneyText(v);
    case "number":
      return numberText(v);
    case "date":
      return dateText(v);
    case "person":
      return facts.people[v]?.name ?? v;
    case "file":
      return facts.files?.[v]?.name ?? "a file that is not there any more";
    case "look-up": {
      const shape = facts.registers[f.register ?? ""];
      const record = facts.records[f.register ?? ""]?.[v];
      return shape && record ? recordTitle(shape, record) : v;
    }
    default:
      return v;
  }
}

interface Props {
  field: Field;
  id: string;
  value: Stored | undefined;
  onChange(v: string | boolean | null): void;
  context: InputContext;
  invalid: boolean;
  describedBy?: string;
  /** Inside a table of lines: no frame until pointed at. */
  compact?: boolean;
  label: string;
}

/** The control for one field by its kind. */
export function FieldInput({
  field,
  id,
  value,
  onChange,
  context,
  invalid,
  describedBy,
  compact,
  label,
}: Props) {
  const text = typeof value === "string" ? value : "";
  const look = compact ? "cell" : "input";
  const common = {
    id,
    "aria-invalid": invalid || undefined,
    "aria-describedby": describedBy,
    ...(compact ? { "aria-label": label } : {}),
  };
  switch (field.kind) {
    case "long text":
      return (
        <textarea
          {...common}
          rows={compact ? 1 : 3}
          className={classes(look, "resize-y")}
          value={text}
          onChange={(e) => onChange(e.target.value)}
        />
      );
    case "number":
    case "money":
      return (
        <input
          {...common}
          inputMode="decimal"
          autoComplete="off"
          className={classes(look, compact ? "text-right" : "max-w-48")}
          value={text}
          onChange={(e) => onChange(e.target.value)}
        />
      );
    case "date":
      return (
        <input
          {...common}
          type="date"
          className={classes(look, !compact && "max-w-48")}
          value={text}
          onChange={(e) => onChange(e.target.value)}
        />
      );
    case "choice":
      return (
        <select
          {...common}
          className={classes(look, !compact && "max-w-80")}
          value={text}
          onChange={(e) => onChange(e.target.value || null)}
        >
          <option value="">{compact ? "" : "Choose…"}</option>
          {(field.options ?? []).map((o) => (
            <option key={o}>{o}</option>
          ))}
        </select>
      );
    case "yes or no":
      return (
        <div
          role="radiogroup"
          aria-labelledby={compact ? undefined : `${id}-label`}
          aria-label={compact ? label : undefined}
          aria-describedby={describedBy}
          className="flex min-h-[34px] items-center gap-4"
        >
          {([true, false] as const).map((v) => (
            <label key={String(v)} className="flex items-center gap-1.5">
              <input
                type="radio"
                name={id}
                id={v ? id : `${id}-no`}
                checked={value === v}
                onChange={() => onChange(v)}
                className="size-4 accent-[var(--moss)]"
              />
              {v ? "Yes" : "No"}
            </label>
          ))}
        </div>
      );
    case "person":
      return (
        <Picker
          id={id}
          label={label}
          value={text || null}
          shown={shownValue(field, value, context.facts)}
          invalid={invalid}
          compact={compact}
          {...(describedBy ? { describedBy } : {})}
          options={(s) => people(context.facts, s)}
          onPick={(o) => onChange(o?.id ?? null)}
        />
      );
    case "file":
      return (
        <FileInput
          field={field}
          id={id}
          label={label}
          value={text || null}
          context={context}
          invalid={invalid}
          compact={compact}
          onChange={onChange}
          {...(describedBy ? { describedBy } : {})}
        />
      );
    case "look-up":
      return (
        <LookUpInput
          field={field}
          id={id}
          label={label}
          value={text || null}
          context={context}
          invalid={invalid}
          compact={compact}
          onChange={onChange}
          {...(describedBy ? { describedBy } : {})}
        />
      );
    default:
      return (
        <input
          {...common}
          autoComplete="off"
          className={look}
          value={text}
          onChange={(e) => onChange(e.target.value)}
        />
      );
  }
}

function people(facts: FactsData, search: string): Option[] {
  const s = search.trim().toLowerCase();
  return Object.values(facts.people)
    .filter((p) => !p.service)
    .filter(
      (p) =>
        !s ||
        p.name.toLowerCase().includes(s) ||
        p.jobTitle.toLowerCase().includes(s) ||
        p.department.toLowerCase().includes(s),
    )
    .slice(0, 30)
    .map((p) => ({ id: p.id, title: p.name, hint: p.jobTitle }));
}

function LookUpInput({
  field,
  id,
  label,
  value,
  context,
  invalid,
  compact,
  onChange,
  describedBy,
}: {
  field: Field;
  id: string;
  label: string;
  value: string | null;
  context: InputContext;
  invalid: boolean;
  compact?: boolean | undefined;
  onChange(v: string | null): void;
  describedBy?: string;
}) {
  const register = field.register ?? "";
  const records = new Map<string, StoredRecord>();
  return (
    <Picker
      id={id}
      label={label}
      value={value}
      shown={shownValue(field, value, context.facts)}
      invalid={invalid}
      {...(compact ? { compact } : {})}
      {...(describedBy ? { describedBy } : {})}
      options={async (s) => {
        const found = await context.lookUp(register, s);
        for (const r of found) records.set(r.id, r.record);
        return found.map((r) => ({ id: r.id, title: r.title }));
      }}
      onPick={(o) => {
        const record = o ? records.get(o.id) : undefined;
        if (record) context.learn(register, record);
        onChange(o?.id ?? null);
      }}
    />
  );
}
