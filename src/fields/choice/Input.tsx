import { classes } from "@/ui";
import { inputLook } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input: (p) => (
    <select
      {...inputLook(p)}
      className={classes(inputLook(p).className, !p.compact && "max-w-80")}
      value={typeof p.value === "string" ? p.value : ""}
      onChange={(e) => p.onChange(e.target.value || null)}
    >
      <option value="">{p.compact ? "" : "Choose…"}</option>
      {(p.field.options ?? []).map((o) => (
        <option key={o}>{o}</option>
      ))}
    </select>
  ),
  shown: (v) => v,
  figures: false,
  grouped: false,
};
