import { byLine, joinedByLine, recordTitle, type FactsData, type Field } from "@/core/form";
import { RecordsInput } from "@/forms/parts";
import type { FieldView } from "../input";

function title(id: string, f: Field, facts: FactsData): string {
  const shape = facts.registers[f.register ?? ""];
  const record = facts.records[f.register ?? ""]?.[id];
  return shape && record ? recordTitle(shape, record) : "a record that is not there any more";
}

export const view: FieldView = {
  Input: ({ field, id, label, value, context, invalid, compact, describedBy, onChange }) => (
    <RecordsInput
      field={field}
      id={id}
      label={label}
      ids={typeof value === "string" ? byLine(value) : []}
      title={(x) => title(x, field, context.facts)}
      context={context}
      invalid={invalid}
      compact={compact}
      onChange={(ids) => onChange(joinedByLine(ids))}
      {...(describedBy ? { describedBy } : {})}
    />
  ),
  shown: (v, f, facts) =>
    byLine(v)
      .map((id) => title(id, f, facts))
      .join(", "),
  figures: false,
  grouped: false,
};
