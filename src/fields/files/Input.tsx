import { byLine, joinedByLine } from "@/core/form";
import { FilesInput } from "@/forms/parts";
import type { FieldView } from "../input";

export const view: FieldView = {
  Input: ({ field, id, label, value, context, invalid, compact, onChange, describedBy }) => (
    <FilesInput
      field={field}
      id={id}
      label={label}
      ids={typeof value === "string" ? byLine(value) : []}
      context={context}
      invalid={invalid}
      compact={compact}
      onChange={(ids) => onChange(joinedByLine(ids))}
      {...(describedBy ? { describedBy } : {})}
    />
  ),
  files: byLine,
  shown: (v, _, facts) =>
    byLine(v)
      .map((id) => facts.files?.[id]?.name ?? "a file that is not there any more")
      .join(", "),
  figures: false,
  grouped: false,
};
