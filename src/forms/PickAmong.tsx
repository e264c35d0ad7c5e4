import { byLine, joinedByLine, MOST_RECORDS, type Field } from "@/core/form";
import type { InputContext } from "./inputContext";
import { offeredIn } from "./offered";
import { offeredBy } from "./offeredBy";
import { Picker, type NoneToPick, type Option } from "./Picker";
import { SeveralPicked } from "./SeveralPicked";

interface Props {
  field: Field;
  id: string;
  label: string;
  value: string | boolean | null;
  context: InputContext;
  invalid: boolean;
  compact?: boolean | undefined;
  describedBy?: string | undefined;
  onChange(v: string | null): void;
}

/** Said where no form is filled in over which the server could be asked. */
const NOWHERE: NoneToPick = { none: "What can be chosen is known where the form is filled in." };

/** How what stands in a column is picked: by a step's own offer, else asked of the server. */
function pickable({ field, id, context }: Props) {
  const asked = offeredBy(context, field, id);
  const offered = offeredIn(context, field, (o): Option => ({ id: o, title: o }));
  const register = context.facts.registers[field.among?.register ?? ""];
  const column = register?.columns.some((c) => c.id === field.among?.column) ?? true;
  return {
    options: (search: string): Promise<Option[] | NoneToPick> | Option[] | NoneToPick =>
      offered ? offered.options(search) : (asked?.(search) ?? NOWHERE),
    none:
      register && !column
        ? `You may not see that column of ${register.name}, so none can be chosen here.`
        : null,
  };
}

/** One of the texts that stand in a column of a register, found by typing a part of it. */
export function PickAmong(p: Props) {
  const { options, none } = pickable(p);
  const text = typeof p.value === "string" && p.value !== "" ? p.value : null;
  return (
    <Picker<Option>
      id={p.id}
      label={p.label}
      value={text}
      shown={text ?? ""}
      invalid={p.invalid}
      {...(p.compact ? { compact: p.compact } : {})}
      {...(p.describedBy ? { describedBy: p.describedBy } : {})}
      {...(none === null ? {} : { none })}
      options={async (s) => options(s)}
      onPick={(o) => p.onChange(o?.id ?? null)}
    />
  );
}

/** Several of them. */
export function PickSeveralAmong(p: Props) {
  const { options, none } = pickable(p);
  const texts = typeof p.value === "string" ? byLine(p.value) : [];
  return (
    <SeveralPicked<Option>
      id={p.id}
      label={p.label}
      ids={texts}
      title={(t) => t}
      most={MOST_RECORDS}
      none={none}
      options={async (s) => options(s)}
      invalid={p.invalid}
      compact={p.compact}
      describedBy={p.describedBy}
      onPick={(o) => p.onChange(joinedByLine([...texts, o.id]))}
      onChange={(next) => p.onChange(joinedByLine(next))}
    />
  );
}
