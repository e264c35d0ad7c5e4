"use client";
import { mostRecords, type Field, type StoredRecord } from "@/core/form";
import { AddSeveral } from "./AddSeveral";
import type { InputContext } from "./inputContext";
import { offeredIn } from "./offered";
import { offeredBy } from "./offeredBy";
import type { Option } from "./Picker";
import { SeveralPicked } from "./SeveralPicked";

/** What a step offers is known already; what is looked up comes with its record. */
type Listed = Option & { record?: StoredRecord };

interface Props {
  field: Field;
  id: string;
  label: string;
  /** Ids of those that are there, in their order. */
  ids: readonly string[];
  title(id: string): string;
  context: InputContext;
  invalid: boolean;
  compact: boolean | undefined;
  describedBy?: string;
  onChange(ids: readonly string[]): void;
}

/** Several records: a list of those that are there, one more picked by name, many ticked at once. */
export function RecordsInput(p: Props) {
  const { field, id, label, ids, context, compact } = p;
  const register = field.register ?? "";
  const shape = context.facts.registers[register];
  const asked = offeredBy(context, field, id) ?? ((s: string) => context.lookUp(register, s));
  const offered = offeredIn(context, field, (o): Listed => ({ id: o, title: p.title(o) }));
  const unseen =
    shape?.columns.length === 0 ? `You may not see ${shape.name}, so none can be chosen here.` : null;
  const most = mostRecords(field);
  return (
    <SeveralPicked<Listed>
      id={id}
      label={label}
      ids={ids}
      title={(x) => p.title(x)}
      most={most}
      none={unseen}
      options={(s) => (offered ? offered.options(s) : asked(s))}
      invalid={p.invalid}
      compact={compact}
      describedBy={p.describedBy}
      onPick={(o) => {
        if (o.record) context.learn(register, o.record);
        p.onChange([...ids, o.id]);
      }}
      onChange={(next) => p.onChange(next)}
    >
      {!compact && !offered && !unseen && (
        <AddSeveral
          column={field}
          there={new Set(ids)}
          saysThere="chosen already"
          thing={["record", "records"]}
          room={most - ids.length}
          context={context}
          onAdd={(more) => p.onChange([...ids, ...more.filter((x) => !ids.includes(x))])}
        />
      )}
    </SeveralPicked>
  );
}
