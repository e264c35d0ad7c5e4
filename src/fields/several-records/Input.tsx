import { recordTitle, type FactsData, type Field } from "@/core/form";
import { RecordsInput } from "@/forms/parts";
import type { FieldView } from "../input";

/** As they are kept: a line each. */
const texts = (v: string): string[] => v.split("\n").filter(Boolean);

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
      ids={typeof value === "string" ? texts(value) : []}
      title={(x) => title(x, field, context.facts)}
      context={context}
      invalid={invalid}
      compact={compact}
      onChange={(ids) => onChange(ids.join("\n") || null)}
      {...(describedBy ? { describedBy } : {})}
    />
  ),
  shown: (v, f, facts) =>
    texts(v)
      .map((id) => title(id, f, facts))
      .join(", "),
  figures: false,
  grouped: false,
};
