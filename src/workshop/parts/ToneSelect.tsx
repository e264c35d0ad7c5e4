"use client";
import { Select } from "@/ui";
import type { Tone } from "@/core/route";

/** What an answer or a result means for who asked. */
export function ToneSelect({ value, onChange }: { value: Tone; onChange(t: Tone): void }) {
  return (
    <Select
      aria-label="What it means"
      value={value}
      onPick={(value) => onChange(value as Tone)}
      options={[
        { value: "agree", label: "good for the requester" },
        { value: "refuse", label: "a refusal" },
        { value: "plain", label: "neither" },
      ]}
    />
  );
}
