"use client";
import type { Limit } from "@/core/route";
import { limitStillInWords } from "@/core/words";
import { Select } from "@/ui";

/** While what a limit stands still. */
export function LimitStill({ limit, onChange }: { limit: Limit; onChange(l: Limit): void }) {
  const { still, ...rest } = limit;
  return (
    <label className="flex flex-wrap items-center gap-1.5">
      It stands still
      <Select
        aria-label="It stands still"
        className="!w-auto max-w-full min-w-0"
        value={still ?? ""}
        empty="never"
        options={STILL.map((value) => ({ value, label: limitStillInWords[value] }))}
        onPick={(value) => {
          const chosen = STILL.find((x) => x === value);
          onChange(chosen ? { ...rest, still: chosen } : rest);
        }}
      />
    </label>
  );
}

const STILL = ["asker", "anybody"] as const;
