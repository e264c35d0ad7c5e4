import { classes, momentText } from "@/ui";
import { inputLook } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input: (p) => (
    <input
      {...inputLook(p)}
      type="datetime-local"
      className={classes(inputLook(p).className, !p.compact && "max-w-60")}
      value={typeof p.value === "string" ? p.value : ""}
      onChange={(e) => p.onChange(e.target.value)}
    />
  ),
  shown: (v) => momentText(v),
  figures: false,
  grouped: false,
};
