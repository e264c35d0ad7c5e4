import { recordTitle, type FactsData, type Field, type StoredRecord } from "@/core/form";
import { offeredIn, Picker } from "@/forms/parts";
import type { FieldView } from "../input";

function shown(v: string, f: Field, facts: FactsData): string {
  const shape = facts.registers[f.register ?? ""];
  const record = facts.records[f.register ?? ""]?.[v];
  return shape && record ? recordTitle(shape, record) : v;
}

export const view: FieldView = {
  Input({ field, id, label, value, context, invalid, compact, describedBy, onChange }) {
    const records = new Map<string, StoredRecord>();
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
        options={async (s) => {
          const found = await context.lookUp(register, s);
          for (const r of found) records.set(r.id, r.record);
          return found.map((r) => ({ id: r.id, title: r.title }));
        }}
        onPick={(o) => {
          const record = o ? records.get(o.id) : undefined;
          if (record) context.learn(register, record);
          onChange(o?.id ?? null);
        }}
        {...offeredIn(context, field, (o) => ({ id: o, title: shown(o, field, context.facts) }))}
      />
    );
  },
  shown,
  figures: false,
  grouped: false,
};
