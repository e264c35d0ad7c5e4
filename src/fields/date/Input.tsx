import { classes, dateText } from "@/ui";
import { inputLook } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input: (p) => (
    <input
      {...inputLook(p)}
      type="date"
      className={classes(inputLook(p).className, !p.compact && "max-w-48")}
      value={typeof p.value === "string" ? p.value : ""}
      onChange={(e) => p.onChange(e.target.value)}
    />
  ),
  shown: (v) => dateText(v),
  figures: false,
  grouped: false,
};
