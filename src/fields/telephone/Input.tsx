import { classes } from "@/ui";
import { inputLook } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input: (p) => (
    <input
      {...inputLook(p)}
      type="tel"
      autoComplete="off"
      className={classes(inputLook(p).className, !p.compact && "max-w-64")}
      value={typeof p.value === "string" ? p.value : ""}
      onChange={(e) => p.onChange(e.target.value)}
      onBlur={(e) => e.target.value !== e.target.value.trim() && p.onChange(e.target.value.trim())}
    />
  ),
  shown: (v) => v,
  // Whom it reaches is dialled without what stands between the figures, and without an extension.
  href: (v) => `tel:${v.replace(/\s*(?:x|ext\.?)\s*\d+$/i, "").replace(/[^+\d]/g, "")}`,
  figures: false,
  grouped: false,
};
