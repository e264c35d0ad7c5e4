import { choicesText, optionText } from "@/core/form";
import { MANY_CHOICES, PickTexts } from "@/forms/parts";
import type { FieldView, InputProps } from "../input";

export const view: FieldView = {
  Input: (p) =>
    p.field.among || (p.field.options ?? []).length >= MANY_CHOICES ? (
      <PickTexts {...p} />
    ) : (
      <Ticked {...p} />
    ),
  shown: (v, f) => choicesText(f, v),
  figures: false,
  grouped: true,
};

function Ticked({ field, id, label, compact, describedBy, invalid, value, onChange }: InputProps) {
  const chosen = typeof value === "string" ? value.split("\n").filter(Boolean) : [];
  const options = field.options ?? [];
  // What is offered no more is shown, so that it can be taken out.
  const all = [...options, ...chosen.filter((c) => !options.includes(c))];
  const put = (next: string[]) => onChange(all.filter((o) => next.includes(o)).join("\n") || null);
  return (
    <div
      role="group"
      aria-labelledby={compact ? undefined : `${id}-label`}
      aria-label={compact ? label : undefined}
      aria-describedby={describedBy}
      className="flex min-h-[34px] flex-wrap items-center gap-x-4 gap-y-1"
    >
      {all.map((o, i) => (
        <label key={o} className="flex min-h-6 items-center gap-1.5">
          <input
            type="checkbox"
            id={i === 0 ? id : `${id}-${i}`}
            aria-invalid={invalid || undefined}
            checked={chosen.includes(o)}
            onChange={(e) => put(e.target.checked ? [...chosen, o] : chosen.filter((c) => c !== o))}
            className="size-4 accent-[var(--moss)]"
          />
          {optionText(field, o)}
        </label>
      ))}
    </div>
  );
}
