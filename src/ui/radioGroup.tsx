"use client";
import { RadioGroup as Radix } from "radix-ui";
import { useId, type ReactNode } from "react";

/** One of a few, all in sight; arrow keys go between them. */
export function RadioGroup({
  label,
  value,
  options,
  onPick,
  across = false,
}: {
  label: string;
  value: string | null;
  options: readonly { id: string; label: ReactNode; help?: ReactNode }[];
  onPick(id: string): void;
  /** Beside one another instead of below. */
  across?: boolean;
}) {
  const id = useId();
  return (
    <div>
      <p id={`${id}-label`} className="mb-1">
        {label}
      </p>
      <Radix.Root
        aria-labelledby={`${id}-label`}
        value={value ?? ""}
        onValueChange={onPick}
        className={across ? "flex flex-wrap gap-x-5 gap-y-1" : "grid gap-1"}
      >
        {options.map((o) => (
          <div key={o.id} className="flex items-start gap-2">
            <Radix.Item
              id={`${id}-${o.id}`}
              value={o.id}
              className="mt-[3px] grid size-4.5 shrink-0 place-items-center rounded-full border border-line-strong bg-sheet data-[state=checked]:border-moss"
            >
              <Radix.Indicator className="size-2.5 rounded-full bg-moss" />
            </Radix.Item>
            <label htmlFor={`${id}-${o.id}`} className="max-sm:min-h-11">
              {o.label}
              {o.help && <span className="block text-sm text-soft">{o.help}</span>}
            </label>
          </div>
        ))}
      </Radix.Root>
    </div>
  );
}
