import { FileInput } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input: (p) => (
    <FileInput
      field={p.field}
      id={p.id}
      label={p.label}
      value={typeof p.value === "string" && p.value !== "" ? p.value : null}
      context={p.context}
      invalid={p.invalid}
      compact={p.compact}
      onChange={p.onChange}
      {...(p.describedBy ? { describedBy: p.describedBy } : {})}
    />
  ),
  shown: (v, _, facts) => facts.files?.[v]?.name ?? "a file that is not there any more",
  files: (v) => [v],
  href: (v) => `/api/files/${v}`,
  figures: false,
  grouped: false,
};
