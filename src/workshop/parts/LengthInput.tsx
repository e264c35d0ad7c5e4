"use client";
import type { Length, LengthUnit } from "@/core/calendar";
import { TextCell } from "./TextCell";

const UNITS: LengthUnit[] = ["working days", "working hours", "days", "hours", "minutes"];

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
      <select
        aria-label={`${label}: unit`}
        className="input !w-36"
        value={value.unit}
        onChange={(e) => onChange({ ...value, unit: e.target.value as LengthUnit })}
      >
        {UNITS.map((u) => (
          <option key={u}>{u}</option>
        ))}
      </select>
    </span>
  );
}
