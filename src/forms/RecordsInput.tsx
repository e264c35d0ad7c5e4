"use client";
import { X } from "lucide-react";
import { mostRecords, type Field, type StoredRecord } from "@/core/form";
import { classes } from "@/ui";
import { AddSeveral } from "./AddSeveral";
import type { InputContext } from "./inputContext";
import { offeredIn } from "./offered";
import { offeredBy } from "./offeredBy";
import { Picker, type Option } from "./Picker";

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
  const room = mostRecords(field) - ids.length;
  const others = (all: Listed[]) => all.filter((o) => !ids.includes(o.id));
  const asked = offeredBy(context, field, id) ?? ((s: string) => context.lookUp(register, s));
  const offered = offeredIn(context, field, (o): Listed => ({ id: o, title: p.title(o) }));
  const unseen =
    shape?.columns.length === 0 ? `You may not see ${shape.name}, so none can be chosen here.` : null;
  return (
    <div className="min-w-0">
      {ids.length > 0 && (
        <ul aria-label={`Chosen: ${label}`} className={classes("grid", !compact && "mb-1")}>
          {ids.map((x) => (
            <li key={x} className="flex min-h-8 items-center gap-x-2">
              <span className="min-w-0 break-words">{p.title(x)}</span>
              <button
                type="button"
                className="grid min-h-6 min-w-6 shrink-0 place-items-center rounded text-faint hover:text-brick max-sm:size-11"
                aria-label={`Take out ${p.title(x)}`}
                onClick={() => {
                  p.onChange(ids.filter((y) => y !== x));
                  document.getElementById(id)?.focus();
                }}
              >
                <X size={14} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className={classes("flex items-center gap-x-2 gap-y-1", !compact && "max-w-140 flex-wrap")}>
        <div className="min-w-40 flex-1">
          <Picker
            id={id}
            label={label}
            value={null}
            shown=""
            placeholder={ids.length > 0 ? "Choose another…" : "Choose…"}
            invalid={p.invalid}
            {...(compact ? { compact } : {})}
            {...(p.describedBy ? { describedBy: p.describedBy } : {})}
            {...(room <= 0 ? { none: `There is room for ${mostRecords(field)}; take one out first.` } : {})}
            {...(unseen ? { none: unseen } : {})}
            options={async (s): Promise<Listed[] | { none: string }> => {
              if (room <= 0) return [];
              const all = offered ? offered.options(s) : await asked(s);
              return Array.isArray(all) ? others(all) : all;
            }}
            onPick={(o) => {
              if (o?.record) context.learn(register, o.record);
              if (o) p.onChange([...ids, o.id]);
            }}
          />
        </div>
        {!compact && !offered && !unseen && (
          <AddSeveral
            column={field}
            there={new Set(ids)}
            saysThere="chosen already"
            thing={["record", "records"]}
            room={room}
            context={context}
            onAdd={(more) => p.onChange([...ids, ...more.filter((x) => !ids.includes(x))])}
          />
        )}
      </div>
    </div>
  );
}
