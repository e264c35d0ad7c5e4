import { classes, moneyText } from "@/ui";
import { inputLook } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input: (p) => (
    <input
      {...inputLook(p)}
      inputMode="decimal"
      autoComplete="off"
      className={classes(inputLook(p).className, p.compact ? "text-right" : "max-w-48")}
      value={typeof p.value === "string" ? p.value : ""}
      onChange={(e) => p.onChange(e.target.value)}
    />
  ),
  shown: (v) => moneyText(v),
  figures: true,
  grouped: false,
};
