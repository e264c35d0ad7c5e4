import { classes } from "@/ui";
import { inputLook } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input: (p) => (
    <textarea
      {...inputLook(p)}
      rows={p.compact ? 1 : 3}
      className={classes(inputLook(p).className, "resize-y")}
      value={typeof p.value === "string" ? p.value : ""}
      onChange={(e) => p.onChange(e.target.value)}
    />
  ),
  shown: (v) => v,
  figures: false,
  grouped: false,
};
