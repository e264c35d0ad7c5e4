import { classes } from "@/ui";
import { inputLook } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input: (p) => (
    <input
      {...inputLook(p)}
      type="time"
      className={classes(inputLook(p).className, !p.compact && "max-w-36")}
      value={typeof p.value === "string" ? p.value : ""}
      onChange={(e) => p.onChange(e.target.value)}
    />
  ),
  shown: (v) => v,
  figures: false,
  grouped: false,
};
