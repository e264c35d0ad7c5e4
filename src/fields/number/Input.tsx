import { readNumber } from "@/core/form";
import { classes, numberText } from "@/ui";
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
      // However it is written, it is kept in one way; what can be read in two is asked about.
      onBlur={(e) => {
        const read = readNumber(e.target.value);
        if (read !== null && read !== e.target.value) p.onChange(read);
      }}
    />
  ),
  shown: (v) => numberText(v),
  figures: true,
  grouped: false,
};
