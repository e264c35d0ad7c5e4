import { recordTitle, type FactsData, type Field, type StoredRecord } from "@/core/form";
import { matches, MOST_SHOWN, NOTHING_OFFERED, Picker } from "@/forms/parts";
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
        {...(context.offers[field.id]?.length === 0 ? { none: NOTHING_OFFERED } : {})}
        options={async (s) => {
          const offered = context.offers[field.id];
          if (offered) {
            const all = offered.map((id) => ({ id, title: shown(id, field, context.facts) }));
            return all.filter((o) => matches(s, o.title)).slice(0, MOST_SHOWN);
          }
          const found = await context.lookUp(register, s);
          for (const r of found) records.set(r.id, r.record);
          return found.map((r) => ({ id: r.id, title: r.title }));
        }}
        onPick={(o) => {
          const record = o ? records.get(o.id) : undefined;
          if (record) context.learn(register, record);
          onChange(o?.id ?? null);
        }}
      />
    );
  },
  shown,
  figures: false,
  grouped: false,
};
