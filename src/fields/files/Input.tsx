import { FilesInput } from "@/forms/parts";
import type { FieldView } from "../input";

/** As they are kept: a line each. */
const texts = (v: string): string[] => v.split("\n").filter(Boolean);

export const view: FieldView = {
  Input: ({ field, id, label, value, context, invalid, compact, onChange, describedBy }) => (
    <FilesInput
      field={field}
      id={id}
      label={label}
      ids={typeof value === "string" ? texts(value) : []}
      context={context}
      invalid={invalid}
      compact={compact}
      onChange={(ids) => onChange(ids.join("\n") || null)}
      {...(describedBy ? { describedBy } : {})}
    />
  ),
  files: texts,
  shown: (v, _, facts) =>
    texts(v)
      .map((id) => facts.files?.[id]?.name ?? "a file that is not there any more")
      .join(", "),
  figures: false,
  grouped: false,
};
