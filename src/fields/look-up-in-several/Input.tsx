import {
  pointedAtBy,
  pointerTo,
  recordTitle,
  type FactsData,
  type Field,
  type StoredRecord,
} from "@/core/form";
import { offeredIn, Picker, type Option } from "@/forms/parts";
import type { FieldView } from "../input";

/** Of each register so many are listed, so that one does not hide the others. */
const OF_EACH = 8;

/** What a step offers is known already; what is looked up comes with its record. */
type Listed = Option & { found?: { register: string; record: StoredRecord } };

function shown(v: string, f: Field, facts: FactsData): string {
  const to = pointedAtBy(f, v);
  const shape = to ? facts.registers[to.register] : undefined;
  const record = to ? facts.records[to.register]?.[to.id] : undefined;
  return shape && record ? recordTitle(shape, record) : v;
}

export const view: FieldView = {
  Input({ field, id, label, value, context, invalid, compact, describedBy, onChange }) {
    // Of a register whoever fills it in may not see, nothing can be chosen.
    const open = (field.registers ?? []).flatMap((key) => {
      const shape = context.facts.registers[key];
      return shape && shape.columns.length > 0 ? [shape] : [];
    });
    const known = (field.registers ?? []).some((key) => context.facts.registers[key]);
    return (
      <Picker
        id={id}
        label={label}
        value={typeof value === "string" && value !== "" ? value : null}
        shown={typeof value === "string" && value !== "" ? shown(value, field, context.facts) : ""}
        invalid={invalid}
        {...(compact ? { compact } : {})}
        {...(describedBy ? { describedBy } : {})}
        {...(known && open.length === 0
          ? { none: "You may see none of the registers it looks in, so none can be chosen here." }
          : {})}
        options={async (s): Promise<Listed[]> => {
          const found = await Promise.all(
            open.map(async (shape) => {
              const of = await context.lookUp(shape.key, s);
              return of.slice(0, OF_EACH).map(({ id: record, title, record: found }) => ({
                id: pointerTo({ register: shape.key, id: record }),
                title,
                hint: shape.name,
                found: { register: shape.key, record: found },
              }));
            }),
          );
          return found.flat();
        }}
        onPick={(o) => {
          if (o?.found) context.learn(o.found.register, o.found.record);
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
