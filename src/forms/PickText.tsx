import { byLine, joinedByLine, MOST_RECORDS, optionText, type Field } from "@/core/form";
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

/** From so many on choices are found by typing instead of read through. */
export const MANY_CHOICES = 25;

/** Said where no form is filled in over which the server could be asked. */
const NOWHERE: NoneToPick = { none: "What can be chosen is known where the form is filled in." };

/** How a text is picked: by a step's own offer, else of those that are written, or that the server is asked for. */
function pickable({ field, id, context }: Props) {
  const asked = offeredBy(context, field, id);
  const written = field.among ? {} : { [field.id]: field.options ?? [] };
  const offers = { ...written, ...context.offers };
  const offered = offeredIn({ offers }, field, (o): Option => ({ id: o, title: optionText(field, o) }));
  const register = context.facts.registers[field.among?.register ?? ""];
  const column = register?.columns.some((c) => c.id === field.among?.column) ?? true;
  const unseen =
    register && !column
      ? `You may not see that column of ${register.name}, so none can be chosen here.`
      : null;
  return {
    options: (search: string): Promise<Option[] | NoneToPick> | Option[] | NoneToPick =>
      offered ? offered.options(search) : (asked?.(search) ?? NOWHERE),
    none: unseen ?? offered?.none ?? null,
  };
}

/** One of many texts, written on the sheet or standing in a column of a register, found by typing a part of it. */
export function PickText(p: Props) {
  const { options, none } = pickable(p);
  const text = typeof p.value === "string" && p.value !== "" ? p.value : null;
  return (
    <Picker<Option>
      id={p.id}
      label={p.label}
      value={text}
      shown={text === null ? "" : optionText(p.field, text)}
      invalid={p.invalid}
      {...(p.compact ? { compact: p.compact } : {})}
      {...(p.describedBy ? { describedBy: p.describedBy } : {})}
      {...(none === null ? {} : { none })}
      options={async (s) => options(s)}
      onPick={(o) => p.onChange(o?.id ?? null)}
    />
  );
}

/** Several of them; of those that are written in their order. */
export function PickTexts(p: Props) {
  const { options, none } = pickable(p);
  const { among, options: written = [] } = p.field;
  const put = (next: readonly string[]) => {
    const known = written.filter((o) => next.includes(o));
    p.onChange(joinedByLine(among ? next : [...known, ...next.filter((t) => !written.includes(t))]));
  };
  const texts = typeof p.value === "string" ? byLine(p.value) : [];
  return (
    <SeveralPicked<Option>
      id={p.id}
      label={p.label}
      ids={texts}
      title={(t) => optionText(p.field, t)}
      most={among ? MOST_RECORDS : written.length}
      none={none}
      options={async (s) => options(s)}
      invalid={p.invalid}
      compact={p.compact}
      describedBy={p.describedBy}
      onPick={(o) => put([...texts, o.id])}
      onChange={put}
    />
  );
}
