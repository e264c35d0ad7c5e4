"use client";
import type { Tone } from "@/core/route";

/** What an answer or a result means for who asked. */
export function ToneSelect({ value, onChange }: { value: Tone; onChange(t: Tone): void }) {
  return (
    <select
      className="input"
      aria-label="What it means"
      value={value}
      onChange={(e) => onChange(e.target.value as Tone)}
    >
      <option value="agree">good for the requester</option>
      <option value="refuse">a refusal</option>
      <option value="plain">neither</option>
    </select>
  );
}
