import { recordTitle, type FactsData, type Field, type StoredRecord } from "@/core/form";
import { offeredBy, offeredIn, Picker, type Option } from "@/forms/parts";
import type { FieldView } from "../input";

/** What a step offers is known already; what is looked up comes with its record. */
type Listed = Option & { record?: StoredRecord };

function shown(v: string, f: Field, facts: FactsData): string {
  const shape = facts.registers[f.register ?? ""];
  const record = facts.records[f.register ?? ""]?.[v];
  return shape && record ? recordTitle(shape, record) : v;
}

export const view: FieldView = {
  Input({ field, id, label, value, context, invalid, compact, describedBy, onChange }) {
    const register = field.register ?? "";
    const shape = context.facts.registers[register];
    return (
      <Picker
        id={id}
        label={label}
        value={typeof value === "string" && value !== "" ? value : null}
        shown={typeof value === "string" && value !== "" ? shown(value, field, context.facts) : ""}
        invalid={invalid}
        {...(compact ? { compact } : {})}
        {...(describedBy ? { describedBy } : {})}
        {...(shape?.columns.length === 0
          ? { none: `You may not see ${shape.name}, so none can be chosen here.` }
          : {})}
        options={offeredBy(context, field, id) ?? ((s): Promise<Listed[]> => context.lookUp(register, s))}
        onPick={(o) => {
          if (o?.record) context.learn(register, o.record);
          onChange(o?.id ?? null);
        }}
        {...offeredIn(context, field, (o): Listed => ({ id: o, title: shown(o, field, context.facts) }))}
      />
    );
  },
  shown,
  figures: false,
  grouped: false,
};
