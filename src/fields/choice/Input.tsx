import { optionText } from "@/core/form";
import { Select } from "@/ui";
import { inputLook } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input: (p) => (
    <Select
      {...inputLook(p)}
      look={p.compact ? "cell" : "input"}
      className={p.compact ? "" : "max-w-80"}
      value={typeof p.value === "string" ? p.value : ""}
      onPick={(value) => p.onChange(value || null)}
      empty={p.compact ? "" : "Choose…"}
      options={(p.context.offers[p.field.id] ?? p.field.options ?? []).map((value) => ({
        value,
        label: optionText(p.field, value),
      }))}
    />
  ),
  shown: (v, f) => optionText(f, v),
  figures: false,
  grouped: false,
};
