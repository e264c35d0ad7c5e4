"use client";
import { useMemo } from "react";
import type { RegisterShape } from "@/core/form";
import { BEFORE, ruleScope } from "@/core/records";
import { KINDS } from "@/kinds";
import { Select } from "@/ui";
import { Chip, FillsChip, HoldsRow, RegisterRow, startRow, useDraft, without } from "@/workshop/parts";
import type { StartEditorProps } from "../editor";
import type { RecordStart } from "./shape";

const ON: { value: RecordStart["on"]; label: string }[] = [
  { value: "added or changed", label: "is added or changed" },
  { value: "added", label: "is added" },
  { value: "changed", label: "is changed" },
  { value: "removed", label: "is removed" },
];

/** The start as it reads at rest. */
function startText(s: RecordStart, shape: RegisterShape | undefined): string {
  const did = ON.find((o) => o.value === s.on)!.label;
  const which = s.when ? ` ${s.each ? "and" : "and newly"} ${s.when}` : "";
  return `${shape ? `a record of ${shape.name}` : "a record of no register yet"} ${did}${which}`;
}

/** Which records start it, when, and what their values fill in. */
export function Editor({ start, onChange }: StartEditorProps<"record">) {
  const registers = useDraft((d) => d.office.registers);
  const shape = registers[start.register];
  const around = useMemo(() => ({ registers, kinds: KINDS }), [registers]);
  const scope = useMemo(() => (shape ? ruleScope(shape, around) : {}), [shape, around]);
  const put = (patch: Partial<RecordStart>) => onChange({ ...start, ...patch });
  const columns = start.columns ?? [];
  return (
    <span className="flex flex-wrap items-baseline gap-x-1.5 gap-y-0.5">
      When
      <Chip text={startText(start, shape)} label="Which records start it" empty={!shape} width={600}>
        {() => (
          <div className="grid gap-1.5 text-sm">
            <RegisterRow
              says="A record of"
              register={start.register}
              onPick={(register) =>
                onChange({ ...without(without(start, "columns"), "into"), register, values: [] })
              }
            />
            <label className={startRow}>
              <span className="text-soft">starts it when it</span>
              <Select value={start.on} onPick={(on) => put({ on: on as RecordStart["on"] })} options={ON} />
            </label>
            <HoldsRow
              says="and"
              placeholder={`always; or over its columns, and ${BEFORE} for what it was`}
              when={start.when}
              scope={scope}
              onCommit={(t) => onChange({ ...without(start, "when"), ...(t ? { when: t } : {}) })}
            />
            <label className={startRow}>
              <span className="text-soft">Where it holds</span>
              <Select
                value={start.each ? "each" : "newly"}
                onPick={(v) =>
                  onChange({ ...without(start, "each"), ...(v === "each" ? { each: true } : {}) })
                }
                options={[
                  { value: "newly", label: "now, and did not before" },
                  { value: "each", label: "each time something is written" },
                ]}
              />
            </label>
            {shape && start.on !== "removed" && start.on !== "added" && (
              <Columns
                shape={shape}
                chosen={columns}
                onChange={(next) =>
                  onChange({ ...without(start, "columns"), ...(next.length > 0 ? { columns: next } : {}) })
                }
              />
            )}
          </div>
        )}
      </Chip>
      {shape && (
        <FillsChip
          shape={shape}
          scope={scope}
          keeps={start.on !== "removed"}
          into={start.into}
          values={start.values}
          onInto={(into) => onChange({ ...without(start, "into"), ...(into ? { into } : {}) })}
          onValues={(values) => put({ values })}
        />
      )}
    </span>
  );
}

function Columns(p: { shape: RegisterShape; chosen: readonly string[]; onChange(ids: string[]): void }) {
  const { shape, chosen } = p;
  const left = shape.columns.filter((c) => !chosen.includes(c.id));
  return (
    <div className={startRow}>
      <span className="text-soft">Only where changed</span>
      <span className="flex flex-wrap items-center gap-2">
        {chosen.map((id) => {
          const name = shape.columns.find((c) => c.id === id)?.name ?? id;
          return (
            <span
              key={id}
              className="inline-flex items-center gap-1 rounded border border-line px-1.5 py-0.5"
            >
              {name}
              <button
                type="button"
                className="text-soft underline"
                aria-label={`remove ${name}`}
                onClick={() => p.onChange(chosen.filter((x) => x !== id))}
              >
                remove
              </button>
            </span>
          );
        })}
        <Select
          className="!w-48"
          aria-label="Only where a column changed"
          value=""
          empty={chosen.length > 0 ? "or a column" : "any column"}
          onPick={(id) => id && p.onChange([...chosen, id])}
          options={left.map((c) => ({ value: c.id, label: c.name }))}
        />
      </span>
    </div>
  );
}
