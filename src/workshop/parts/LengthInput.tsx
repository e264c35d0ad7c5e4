"use client";
import type { Length, LengthUnit } from "@/core/calendar";
import { Select } from "@/ui";
import { TextCell } from "./TextCell";

export const LENGTH_UNITS: LengthUnit[] = ["working days", "working hours", "days", "hours", "minutes"];

/** An amount and a unit: "2 working days". */
export function LengthInput({
  value,
  onChange,
  label,
}: {
  value: Length;
  onChange(l: Length): void;
  label: string;
}) {
  return (
    <span className="inline-flex gap-1">
      <TextCell
        className="input !w-16 text-right"
        inputMode="decimal"
        aria-label={`${label}: amount`}
        value={String(value.amount)}
        onCommit={(t) => {
          const amount = Number(t.replace(",", "."));
          if (!(amount >= 0 && amount <= 10_000)) return false;
          onChange({ ...value, amount });
        }}
      />
      <Select
        aria-label={`${label}: unit`}
        className="!w-36"
        value={value.unit}
        onPick={(unit) => onChange({ ...value, unit: unit as LengthUnit })}
        options={LENGTH_UNITS}
      />
    </span>
  );
}
