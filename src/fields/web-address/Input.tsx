import { inputLook } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input: (p) => (
    <input
      {...inputLook(p)}
      type="url"
      autoComplete="off"
      value={typeof p.value === "string" ? p.value : ""}
      onChange={(e) => p.onChange(e.target.value.trim())}
    />
  ),
  shown: (v) => v,
  // A value from before it was of this kind may be anything.
  href: (v) => (/^https?:\/\//i.test(v) ? v : null),
  figures: false,
  grouped: false,
};
