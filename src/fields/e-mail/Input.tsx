import { inputLook } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input: (p) => (
    <input
      {...inputLook(p)}
      type="email"
      autoComplete="off"
      value={typeof p.value === "string" ? p.value : ""}
      onChange={(e) => p.onChange(e.target.value.trim())}
    />
  ),
  shown: (v) => v,
  // What stands in front of the @ must not be read as something to be put into the mail.
  href: (v) => `mailto:${encodeURIComponent(v).replace("%40", "@")}`,
  figures: false,
  grouped: false,
};
