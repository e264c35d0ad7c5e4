import type { FieldView } from "../input";

export const view: FieldView = {
  Input: ({ id, compact, label, describedBy, value, onChange }) => (
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
  ),
  shown: (v) => v,
  figures: false,
  grouped: true,
};
