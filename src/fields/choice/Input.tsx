import { optionText } from "@/core/form";
import { Select } from "@/ui";
import { inputLook, MANY_CHOICES, PickText } from "@/forms/parts";
import type { InputProps, FieldView } from "../input";

const offered = (p: InputProps) => p.context.offers[p.field.id] ?? p.field.options ?? [];

export const view: FieldView = {
  Input: (p) =>
    p.field.among || offered(p).length >= MANY_CHOICES ? (
      <PickText {...p} />
    ) : (
      <Select
        {...inputLook(p)}
        look={p.compact ? "cell" : "input"}
        className={p.compact ? "" : "max-w-80"}
        value={typeof p.value === "string" ? p.value : ""}
        onPick={(value) => p.onChange(value || null)}
        empty={p.compact ? "" : "Choose…"}
        options={offered(p).map((value) => ({ value, label: optionText(p.field, value) }))}
      />
    ),
  shown: (v, f) => optionText(f, v),
  figures: false,
  grouped: false,
};
